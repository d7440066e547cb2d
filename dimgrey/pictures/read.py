"""Reading a picture file into linear light: kind by content, orientation, profile, exposure data, scale.

What comes out is at most 1600 pixels on the long side, linear sRGB, 16-bit floats: the working copy that every view
and reading is made from. The original is never touched.
"""

from dimgrey.pictures.exrfiles import read_exr
from dimgrey.pictures.kinds import EXTENSIONS, MAX_BYTES, PictureError, kind_of
from dimgrey.pictures.pillowfiles import read_with_pillow
from dimgrey.pictures.rawfiles import read_raw
from dimgrey.pictures.tifffiles import read_tiff


def read_picture(data, filename=""):
    """Decoded from the bytes of a file. filename: only to notice a misleading extension.

    Raises PictureError with what to do instead.
    """
    if len(data) > MAX_BYTES:
        raise PictureError(
            f"The file has {len(data) / 1e6:.0f} MB; at most {MAX_BYTES / 1e6:.0f} MB are read.", "picture-too-large"
        )
    kind = kind_of(data)
    if kind == "TIFF":
        picture = read_tiff(data)
    else:
        picture = {"OpenEXR": read_exr, "raw": read_raw}.get(kind, read_with_pillow)(data)
    extension = filename.rpartition(".")[2].lower() if "." in filename else ""
    expected = EXTENSIONS.get(picture.kind)
    if extension and expected and extension not in expected:
        return picture.with_warning(
            f"The file is named .{extension} but holds {picture.kind}; it was read as {picture.kind}."
        )
    return picture
