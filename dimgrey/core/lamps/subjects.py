"""The stand-in subjects by name, and where their middles are: what lamps and camera point to."""

SITTER, TABLE = "sitter", "table"
SKIN, HAIR, CLOTHES = "skin", "hair", "clothes"
"""Parts of a sitter."""
HEAD_M, TOP_M = 1.25, 0.75
"""Height of a seated head's middle, and of the table's top."""
MIDDLES = {SITTER: (0.0, 0.0, HEAD_M), TABLE: (0.0, 0.0, TOP_M + 0.05)}
"""What lamps point to."""
LOWER_M = {SITTER: 0.09, TABLE: 0.0}
"""How far below that the camera points, so that shoulders have their room."""
PART, BLEND, BRIGHT_EDGE = "part", "blend", "bright edge"
GROUND_WISHES = (PART, BLEND, BRIGHT_EDGE)
"""What the ground is to do with hair and shoulder."""
