"""Kinds of files that a picture can be in: told by their first bytes, never by their names."""

from dimgrey.core.errors import CoreError

MAX_BYTES = 400_000_000
NO_ROOM = "picture-no-room"
"""Code of a file that is well, and too much."""


class PictureError(CoreError):
    """A file that cannot become a scene's picture; the sentence says what to do."""

    def __init__(self, message, code):
        super().__init__(message, parameter="picture", code=code)


_MAGIC = (
    ("JPEG", lambda b: b[:3] == b"\xff\xd8\xff"),
    ("PNG", lambda b: b[:8] == b"\x89PNG\r\n\x1a\n"),
    ("WebP", lambda b: b[:4] == b"RIFF" and b[8:12] == b"WEBP"),
    (
        "HEIC",
        lambda b: b[4:8] == b"ftyp" and b[8:12] in (b"heic", b"heix", b"heim", b"heis", b"hevc", b"mif1", b"msf1"),
    ),
    ("AVIF", lambda b: b[4:8] == b"ftyp" and b[8:12] in (b"avif", b"avis")),
    ("OpenEXR", lambda b: b[:4] == b"\x76\x2f\x31\x01"),
    ("TIFF", lambda b: b[:4] in (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+")),
)
_KNOWN_OTHERS = (
    ("GIF", lambda b: b[:4] == b"GIF8"),
    ("PDF", lambda b: b[:4] == b"%PDF"),
    ("BMP", lambda b: b[:2] == b"BM"),
)
EXTENSIONS = {
    "JPEG": ("jpg", "jpeg", "jpe"),
    "PNG": ("png",),
    "WebP": ("webp",),
    "HEIC": ("heic", "heif"),
    "AVIF": ("avif",),
    "OpenEXR": ("exr",),
    "TIFF": ("tif", "tiff"),
}
ACCEPTED = "JPEG, PNG, TIFF, WebP, HEIC, AVIF, OpenEXR, DNG or another raw file"


def kind_of(data):
    """Kind of picture by its first bytes; "raw" for what only the raw decoder may know. Raises PictureError."""
    if not data:
        raise PictureError("The file is empty (0 bytes). Choose the picture again.", "picture-empty")
    for kind, is_kind in _MAGIC:
        if is_kind(data):
            return kind
    for kind, is_kind in _KNOWN_OTHERS:
        if is_kind(data):
            raise PictureError(f"{kind} files are not read. Save the picture as {ACCEPTED}.", "picture-unsupported")
    return "raw"
