"""Writing the files of a picture: whole, flushed, and nothing left of what could not be."""

import shutil

import numpy as np
from PIL import Image

from dimgrey.core.picture.display import colour_picture
from dimgrey.pictures.ondisk import settle, write_whole
from dimgrey.pictures.store import COLOUR, WORKING, PictureGone
from dimgrey.pictures.upload import copied

NOT_KEPT = "picture-not-kept"
"""Code of what the disk refused, not the picture's fault."""


def keep_files(folder, original, original_suffix, linear, colour=None):
    """Write the files of one picture. original: bytes or a path. linear: (h, w, 3) float16. colour: an 8-bit Image for looking, or
    None to make it."""
    keep_original(folder, original, original_suffix)
    try:
        keep_beside_original(folder, linear, colour)
    except PictureGone:
        shutil.rmtree(folder, ignore_errors=True)
        raise


def keep_original(folder, original, suffix):
    """Write the file of a picture into a folder of its own, on the disk when this returns. original: bytes or a path."""

    def write():
        folder.mkdir(parents=True, exist_ok=False)
        copied(original, folder / f"original{suffix}")

    _settled(folder, write)


def keep_beside_original(folder, linear, colour=None):
    """Write the working copy and the colour view of a picture whose original lies there. Parameters: as of `keep_files`."""

    def write():
        write_whole(folder / WORKING, lambda file: np.save(file, np.ascontiguousarray(np.moveaxis(linear, -1, 0))))
        shown = (colour or Image.fromarray(colour_picture(linear))).convert("RGB")
        write_whole(folder / COLOUR, lambda file: shown.save(file, "JPEG", quality=88))

    _settled(folder, write, is_new=False)


def move(folder, to):
    """Move the folder of a picture, on the disk when this returns. Raises PictureGone."""

    def moved():
        folder.rename(to)

    _settled(to, moved)


def keep_images(folder, images, is_new=True):
    """Write small views of one picture as JPEG. images: file name -> Image. is_new: the folder is."""

    def write():
        folder.mkdir(parents=True, exist_ok=not is_new)
        for name, image in images.items():
            write_whole(folder / name, lambda file, image=image: image.save(file, "JPEG", quality=85))

    _settled(folder, write, is_new)


def _settled(folder, write, is_new=True):
    """Write files and flush them. Raises PictureGone for those that could not be written; a new folder goes again then."""
    try:
        write()
        settle(folder)
    except OSError as failed:
        if is_new:
            shutil.rmtree(folder, ignore_errors=True)
        raise PictureGone(
            f"The picture could not be kept ({failed.strerror or failed}). Free some disk space and try again.",
            parameter="picture",
            code=NOT_KEPT,
        ) from failed
