"""How films and sensors weigh the wavelengths: the response classes by name. Their curves are in curves.py."""

DEFAULT_RESPONSE = "general panchromatic"
RESPONSES = (
    "general panchromatic",
    "extended red",
    "orthochromatic",
    "blue-sensitive",
    "monochrome sensor",
    "eye",
)
OF_MEDIA = tuple(name for name in RESPONSES if name != "eye")
"""Those that films and sensors have."""
RED_BLIND = frozenset({"orthochromatic", "blue-sensitive"})
