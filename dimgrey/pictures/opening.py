"""Reading a picture file into linear light: kind by content, orientation, profile, exposure data, scale.

What comes out is at most 1600 pixels on the long side, linear sRGB, 16-bit floats: the working copy that every view
and reading is made from. The original is never touched. Files are read in a process of their own: see `apart`.
"""

from dimgrey.pictures.filekinds import MAX_BYTES, PictureError
from dimgrey.pictures.sandbox import decoded_apart
from dimgrey.pictures.upload import lying, size_of


def read_picture(source, filename=""):
    """Decoded of a file. source: its bytes, or the path where it lies. filename: only to notice a misleading extension.

    Raises PictureError with what to do instead.
    """
    require_size(source)
    with lying(source) as path:
        return decoded_apart(path, filename)


def require_size(source):
    """Bytes of a source. Raises PictureError for more than are read."""
    size = size_of(source)
    if size > MAX_BYTES:
        raise PictureError(
            f"The file has {size / 1e6:.0f} MB; at most {MAX_BYTES / 1e6:.0f} MB are read.", "picture-too-large"
        )
    return size
