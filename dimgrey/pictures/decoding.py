"""Decoding one picture file, by the decoder of its kind. Runs in a process of its own, which `apart` starts."""

from dimgrey.pictures.exrfiles import read_exr
from dimgrey.pictures.filekinds import EXTENSIONS, kind_of
from dimgrey.pictures.pillowfiles import read_with_pillow
from dimgrey.pictures.rawfiles import read_raw
from dimgrey.pictures.tifffiles import read_tiff

HEAD = 64
_DECODERS = {"OpenEXR": read_exr, "raw": read_raw, "TIFF": read_tiff}


def decoded(path, filename=""):
    """Decoded of the file at a path. filename: as it was called where it came from. Raises PictureError."""
    with path.open("rb") as file:
        kind = kind_of(file.read(HEAD))
    picture = _DECODERS.get(kind, read_with_pillow)(path)
    extension = filename.rpartition(".")[2].lower() if "." in filename else ""
    expected = EXTENSIONS.get(picture.kind)
    if extension and expected and extension not in expected:
        return picture.with_warning(
            f"The file is named .{extension} but holds {picture.kind}; it was read as {picture.kind}."
        )
    return picture
