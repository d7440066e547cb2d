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
RED_BLIND = frozenset({"orthochromatic", "blue-sensitive"})
