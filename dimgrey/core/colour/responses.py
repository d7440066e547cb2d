"""How films and sensors weigh the wavelengths: the response classes by name. Their curves are made in curves.py."""

DEFAULT_RESPONSE = "general panchromatic"
RESPONSES = {
    "general panchromatic": ((395, 8, 640, 6), (0.35, 420, 40), (0.25, 600, 30), (-0.30, 505, 22)),
    "extended red": ((395, 8, 700, 10), (0.30, 420, 40), (0.35, 670, 30), (-0.30, 505, 22)),
    "orthochromatic": ((395, 8, 582, 6), (0.30, 430, 40), (0.40, 550, 18), (-0.30, 500, 20)),
    "blue-sensitive": ((395, 8, 500, 9),),
    "monochrome sensor": ((412, 8, 672, 9), (0.65, 530, 65)),
    "eye": None,
}
"""By name: the edges between which it sees, nm with their widths, then bumps of height, centre and width, nm. The eye has its table."""
OF_MEDIA = tuple(name for name in RESPONSES if name != "eye")
"""Those that films and sensors have."""
RED_BLIND = frozenset({"orthochromatic", "blue-sensitive"})
