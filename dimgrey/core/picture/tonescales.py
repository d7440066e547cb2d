"""The scales of tones that a picture may be meant for, by name; what each asks for is in measures.py."""

SCALES = ("full scale", "graphic", "high-key", "low-key", "soft")
