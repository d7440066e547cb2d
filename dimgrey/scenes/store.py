"""Picture files on disk: a folder each with the original, the working copy and the colour view.

The working copy of the last few scenes stays in memory as float32 planes, because every view is made from it.
"""

import shutil
import threading
from collections import OrderedDict
from pathlib import Path

import numpy as np
from PIL import Image

from dimgrey.core.errors import CoreError
from dimgrey.core.picture.display import colour_picture, grey_picture, toned

WORKING, COLOUR = "working.npy", "colour.jpg"
KEPT_IN_MEMORY, KEPT_CHAINS = 5, 3
_lock = threading.Lock()
_loaded = OrderedDict()
_indices = OrderedDict()


class PictureGone(CoreError):
    """The picture's files are missing or unreadable; the scene itself is whole."""


def keep_files(folder, original, original_suffix, linear, colour=None):
    """Write the files of one picture. linear: (h, w, 3) float16. colour: an 8-bit Image for looking, or None to make it."""
    folder.mkdir(parents=True, exist_ok=False)
    try:
        (folder / f"original{original_suffix}").write_bytes(original)
        np.save(folder / WORKING, np.ascontiguousarray(np.moveaxis(linear, -1, 0)))
        shown = colour or Image.fromarray(colour_picture(linear))
        shown.convert("RGB").save(folder / COLOUR, "JPEG", quality=88)
    except OSError as failed:
        shutil.rmtree(folder, ignore_errors=True)
        raise PictureGone(
            f"The picture could not be kept ({failed.strerror or failed}). Free some disk space and try again.",
            parameter="picture",
            code="picture-not-kept",
        ) from failed


def drop_files(folder):
    shutil.rmtree(folder, ignore_errors=True)
    with _lock:
        _loaded.pop(str(folder), None)
        for key in [key for key in _indices if key[0] == str(folder)]:
            del _indices[key]


def planes(folder: Path):
    """Linear sRGB of a picture's working copy, shape (3, h, w), float32, read-only. Raises PictureGone."""
    key = str(folder)
    with _lock:
        if key in _loaded:
            _loaded.move_to_end(key)
            return _loaded[key]
    try:
        array = np.load(folder / WORKING, allow_pickle=False).astype(np.float32)
    except (OSError, ValueError, EOFError) as failed:
        raise PictureGone(
            "The picture's file is missing or damaged. The readings and the plan are whole; upload the picture again.",
            parameter="picture",
            code="picture-gone",
        ) from failed
    array.setflags(write=False)
    with _lock:
        _loaded[key] = array
        while len(_loaded) > KEPT_IN_MEMORY:
            _loaded.popitem(last=False)
    return array


def grey(folder, weights, table):
    """8-bit grey of a picture, shape (h, w); only the table is applied again while the chain stays the same."""
    key = (str(folder), tuple(weights))
    with _lock:
        index = _indices.get(key)
    if index is not None:
        return toned(index, table)
    linear = planes(folder)
    pixels, index = grey_picture(linear.reshape(3, -1), weights, table)
    shape = linear.shape[1:]
    with _lock:
        _indices[key] = index.reshape(shape)
        while len(_indices) > KEPT_CHAINS:
            _indices.popitem(last=False)
    return pixels.reshape(shape)
