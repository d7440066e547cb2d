"""Picture files on disk: a folder each with the original, the working copy and the colour view.

The roots of the light of the last few scenes stay in memory, because every grey view is made from them.
"""

import shutil
import threading
from collections import OrderedDict
from pathlib import Path

import numpy as np
from PIL import Image

from dimgrey.core.errors import CoreError
from dimgrey.core.picture.display import colour_picture, grey_picture, roots_of, toned
from dimgrey.core.picture.tonemap import reduced
from dimgrey.core.picture.twins import areas_of

WORKING, COLOUR, GREY = "working.npy", "colour.jpg", "grey.jpg"
KEPT_IN_MEMORY, KEPT_CHAINS, KEPT_SMALL = 5, 3, 20
_lock = threading.Lock()
_loaded = OrderedDict()
_indices = OrderedDict()
_small, _areas = OrderedDict(), OrderedDict()


class PictureGone(CoreError):
    """The picture's files are missing or unreadable; the scene itself is whole."""


def keep_files(folder, original, original_suffix, linear, colour=None):
    """Write the files of one picture. linear: (h, w, 3) float16. colour: an 8-bit Image for looking, or None to make it."""
    try:
        folder.mkdir(parents=True, exist_ok=False)
        (folder / f"original{original_suffix}").write_bytes(original)
        np.save(folder / WORKING, np.ascontiguousarray(np.moveaxis(linear, -1, 0)))
        shown = colour or Image.fromarray(colour_picture(linear))
        shown.convert("RGB").save(folder / COLOUR, "JPEG", quality=88)
    except OSError as failed:
        raise _not_kept(folder, failed) from failed


def keep_images(folder, images):
    """Write small views of one picture as JPEG. images: file name -> Image."""
    try:
        folder.mkdir(parents=True, exist_ok=False)
        for name, image in images.items():
            image.save(folder / name, "JPEG", quality=85)
    except OSError as failed:
        raise _not_kept(folder, failed) from failed


def _not_kept(folder, failed):
    """PictureGone for files that could not be written; what was written of them is removed."""
    shutil.rmtree(folder, ignore_errors=True)
    return PictureGone(
        f"The picture could not be kept ({failed.strerror or failed}). Free some disk space and try again.",
        parameter="picture",
        code="picture-not-kept",
    )


def drop_files(folder):
    shutil.rmtree(folder, ignore_errors=True)
    with _lock:
        for shelf in (_loaded, _small, _areas):
            shelf.pop(str(folder), None)
        for key in [key for key in _indices if key[0] == str(folder)]:
            del _indices[key]


def linear_of(folder: Path):
    """Linear sRGB of a picture's working copy, shape (3, h, w), float16, read-only and on disk. Raises PictureGone."""
    try:
        return np.load(folder / WORKING, mmap_mode="r", allow_pickle=False)
    except (OSError, ValueError, EOFError) as failed:
        raise PictureGone(
            "The picture's file is missing or damaged. The readings and the plan are whole; upload the picture again.",
            parameter="picture",
            code="picture-gone",
        ) from failed


def _kept(shelf, key, room, make):
    """What a shelf holds for a key, made when missing; the least used goes when there is no room."""
    with _lock:
        if key in shelf:
            shelf.move_to_end(key)
            return shelf[key]
    made = make()
    with _lock:
        shelf[key] = made
        while len(shelf) > room:
            shelf.popitem(last=False)
    return made


def roots(folder: Path):
    """Square roots of a picture's light, which every grey view is made from: shape (3, h, w), float32, kept in memory."""

    def make():
        array = roots_of(linear_of(folder))
        array.setflags(write=False)
        return array

    return _kept(_loaded, str(folder), KEPT_IN_MEMORY, make)


def small(folder: Path):
    """A small copy of a picture for measuring, shape (h, w, 3), float32, kept in memory."""
    return _kept(_small, str(folder), KEPT_SMALL, lambda: reduced(linear_of(folder)))


def areas(folder: Path):
    """The picture's areas of one colour each, kept in memory, because finding them takes a fifth of a second."""
    return _kept(_areas, str(folder), KEPT_SMALL, lambda: areas_of(small(folder)))


def grey(folder, terms, table):
    """8-bit grey of a picture, shape (h, w); only the table is applied again while the chain stays the same."""
    key = (str(folder), tuple(terms))
    with _lock:
        index = _indices.get(key)
    if index is not None:
        return toned(index, table)
    linear = roots(folder)
    pixels, index = grey_picture(linear.reshape(3, -1), terms, table)
    shape = linear.shape[1:]
    with _lock:
        _indices[key] = index.reshape(shape)
        while len(_indices) > KEPT_CHAINS:
            _indices.popitem(last=False)
    return pixels.reshape(shape)


def view_bytes(folder, name):
    """Bytes of a view that was kept as a file. name: COLOUR or GREY. Raises PictureGone."""
    try:
        return (folder / name).read_bytes()
    except OSError as failed:
        raise PictureGone(
            "The picture's file is missing. Upload it again.", parameter="picture", code="picture-gone"
        ) from failed
