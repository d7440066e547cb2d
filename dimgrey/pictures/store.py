"""Picture files on disk: a folder each with the original, the working copy and the colour view.

The light of the last few scenes stays in memory, because every grey view is made from it.
"""

import hashlib
import io
import shutil
import tempfile
import threading
from collections import OrderedDict
from contextlib import contextmanager
from dataclasses import fields
from pathlib import Path
from zipfile import BadZipFile

import numpy as np
from PIL import Image

from dimgrey.core.colour.chromaticity import light_and_places
from dimgrey.core.colour.greys import fine_gains, grey_of
from dimgrey.core.errors import CoreError
from dimgrey.core.picture import lightmap
from dimgrey.core.picture.display import FIRST, LAST, grey_picture, toned
from dimgrey.core.picture.overhead import Overhead
from dimgrey.core.picture.tonemap import Seen, reduced
from dimgrey.core.picture.twins import Areas, areas_of
from dimgrey.pictures.derived import keep_beside, keep_newest, kept_array
from dimgrey.pictures.fitting import fitted, size_within
from dimgrey.pictures.ondisk import write_whole
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.sandbox import WHOLE, decoded_apart

WORKING, COLOUR, GREY = "working.npy", "colour.jpg", "grey.jpg"
KEPT_IN_MEMORY, KEPT_CHAINS, KEPT_SMALL, KEPT_COUNTS = 5, 4, 24, 400
KEPT_SKIES = 3
"""Skies of one picture that lie beside it: found, none, drawn."""
MADE = 1
"""Grows when what is kept beside a picture, its small copy and its sky, is made in another way."""
_lock = threading.Lock()
_loaded = OrderedDict()
_indices = OrderedDict()
_small, _areas = OrderedDict(), OrderedDict()
_skies, _seen, _counts, _greys = OrderedDict(), OrderedDict(), OrderedDict(), OrderedDict()


class PictureGone(CoreError):
    """The picture's files are missing or unreadable; the scene itself is whole."""


def size_of(folder):
    """Bytes of a picture's files that are kept for good; small views and light maps can be made again."""
    made = ("small-", "light-", "sky-", "reduced-", "areas-")
    return sum(file.stat().st_size for file in folder.iterdir() if not file.name.startswith(made))


def drop_files(folder):
    shutil.rmtree(folder, ignore_errors=True)
    with _lock:
        for shelf in (_loaded, _small, _areas):
            shelf.pop(str(folder), None)
        for shelf in (_indices, _skies, _seen, _counts, _greys):
            for key in [key for key in shelf if key[0] == str(folder)]:
                del shelf[key]


def linear_of(folder: Path):
    """Linear sRGB of a picture's working copy, shape (3, h, w), float16, read-only and on disk. Raises PictureGone.

    One that is missing or damaged, or that an early version kept in another form, is made again from the original.
    """
    try:
        return _working(folder)
    except (OSError, ValueError, EOFError):
        _remade(folder)
    return _working(folder)


def _working(folder):
    found = np.load(folder / WORKING, mmap_mode="r", allow_pickle=False)
    if found.ndim != 3 or found.shape[0] != 3 or found.dtype.kind != "f":
        raise ValueError("not a working copy")
    return found


def _remade(folder):
    """Make the working copy from the original. Raises PictureGone where there is none that can be read."""
    original = next(iter(sorted(folder.glob("original*"))), None)
    try:
        if original is None:
            raise FileNotFoundError(folder)
        planes = np.moveaxis(read_picture(original).linear, -1, 0)
        write_whole(folder / WORKING, lambda file: np.save(file, np.ascontiguousarray(planes)))
    except (OSError, CoreError) as failed:
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


def light(folder: Path):
    """(luminance, fine places of chromaticity) of a picture, which every grey view is made from: shape (h, w) each, kept."""

    def make():
        made = light_and_places(linear_of(folder))
        for array in made:
            array.setflags(write=False)
        return made

    return _kept(_loaded, str(folder), KEPT_IN_MEMORY, make)


def sky(folder: Path, overhead):
    """Share of each pixel that is sky, uint8, shape (h, w), kept in memory; None where there is none at all."""

    def make():
        share = _kept_sky(folder, overhead)
        return share if share.any() else None

    return _kept(_skies, (str(folder), overhead.outline), KEPT_IN_MEMORY, make)


SKY_SHARE = 0.5
"""Of a pixel, from which on it is sky."""


def sky_covers(folder, outline, x, y):
    """Whether the sky of a picture covers a place. outline: as Overhead has it. x, y: fractions. False where the picture is gone."""
    try:
        share = sky(folder, Overhead(outline))
    except PictureGone:
        return False
    if share is None:
        return False
    height, width = share.shape
    return bool(share[min(int(y * height), height - 1), min(int(x * width), width - 1)] > SKY_SHARE * 255)


def _kept_sky(folder, overhead):
    """The share of sky, kept as a file: finding it takes a fifth of a second."""
    name = f"sky-{MADE}-{hashlib.sha256(repr(overhead.outline).encode()).hexdigest()[:24]}.npy"
    share = kept_array(folder / name, lambda: overhead.share(linear_of(folder), small(folder)))
    keep_newest(folder, "sky-*.npy", KEPT_SKIES)
    return share


def small(folder: Path):
    """A small copy of a picture for measuring, shape (h, w, 3), float32, kept in memory."""

    def make():
        kept = kept_array(folder / f"reduced-{MADE}.npy", lambda: reduced(linear_of(folder)))
        return kept.astype(np.float32, copy=False)

    return _kept(_small, str(folder), KEPT_SMALL, make)


def seen(folder: Path, overhead):
    """The small copy as a view's Seen: what a polarizer takes is taken, how much is sky is told. Kept in memory."""

    def make():
        share = sky(folder, overhead)
        if share is not None:
            share = reduced(share[None])[..., 0]
        return _under(overhead, small(folder), share)

    return _kept(_seen, (str(folder), overhead), KEPT_SMALL, make)


def small_grey(folder: Path, chain, overhead):
    """What a chain makes of `seen`, shape (h, w), kept in memory: exposure and curve change over it. Read-only."""

    def make():
        grey = grey_of(chain, *seen(folder, overhead))
        grey.setflags(write=False)
        return grey

    return _kept(_greys, (str(folder), chain, overhead), KEPT_CHAINS, make)


def seen_whole(folder: Path, overhead):
    """Seen of the whole working copy, for files that are written once; float32, shape (h, w, 3) and (h, w)."""
    return _under(overhead, np.moveaxis(linear_of(folder), 0, -1).astype(np.float32), sky(folder, overhead))


@contextmanager
def original_light(folder):
    """Linear sRGB of the original at its full size, shape (h, w, 3), float16, on disk while it is used. Raises PictureGone, PictureError."""
    original = next(iter(sorted(folder.glob("original*"))), None)
    if original is None:
        raise PictureGone(
            "The original is missing. Upload the picture again.", parameter="picture", code="picture-gone"
        )
    with tempfile.TemporaryDirectory(prefix="dimgrey-") as room:
        path = Path(room) / "whole.npy"
        decoded_apart(original, limits=WHOLE, whole=path)
        yield np.load(path, mmap_mode="r", allow_pickle=False)


def _under(overhead, linear, share):
    """Seen of light under an Overhead. share: how much is sky, 0..255, or None."""
    share = None if share is None else share / np.float32(255)
    if overhead.darkens:
        linear = linear * overhead.left(share, *linear.shape[:2])[..., None]
    return Seen(linear, share)


def light_map(folder: Path, side):
    """Bytes of the light map for pictures up to a side, made when it is first asked for and kept as a file.

    side: one of lightmap.SIDES. Raises PictureGone.
    """
    kept = folder / f"light-{lightmap.VERSION}-{side}.bin"
    try:
        return kept.read_bytes()
    except OSError:
        data = lightmap.packed(fitted(linear_of(folder), side))
    keep_beside(kept, data)
    return data


def sky_map(folder: Path, overhead, side):
    """Bytes of the share of sky at the size of `light_map`; of an empty plane where there is none."""
    share = sky(folder, overhead)
    if share is None:
        return lightmap.packed_share(np.zeros((1, 1), np.uint8))
    height, width = share.shape
    if max(height, width) > side:
        share = np.asarray(Image.fromarray(share).resize(size_within(width, height, side), Image.BOX))
    return lightmap.packed_share(share)


def light_counts(folder, chain, overhead, crop):
    """How many pixels of the small copy have each light index, FIRST to LAST of core.picture.display, as a chain sees them; kept."""

    def make():
        linear, share = seen(folder, overhead)
        grey = grey_of(chain, crop.of(linear), None if share is None else crop.of(share)).astype(np.float32)
        index = (np.maximum(grey, 0).view(np.uint32) >> 16).ravel().astype(int)
        return np.bincount(np.clip(index, FIRST, LAST - 1) - FIRST, minlength=LAST - FIRST).astype(np.int32)

    return _kept(_counts, (str(folder), chain, overhead, crop), KEPT_COUNTS, make)


def areas(folder: Path):
    """The picture's areas of one colour each, kept in memory and as a file, because finding them takes a fifth of a second."""
    return _kept(_areas, str(folder), KEPT_SMALL, lambda: _kept_areas(folder))


def _kept_areas(folder):
    kept, names = folder / f"areas-{MADE}.npz", [field.name for field in fields(Areas)]
    try:
        with np.load(kept, allow_pickle=False) as told:
            return Areas(*(told[name] for name in names))
    except (OSError, ValueError, EOFError, KeyError, BadZipFile):
        made = areas_of(small(folder))
    written = io.BytesIO()
    np.savez(written, **{name: getattr(made, name) for name in names})
    keep_beside(kept, written.getvalue())
    return made


def grey(folder, chain, table, overhead):
    """8-bit grey of a picture, shape (h, w); only the table is applied again while chain and sky stay the same."""
    key = (str(folder), chain, overhead)
    with _lock:
        index = _indices.get(key)
    if index is not None:
        return toned(index, table)
    luminance, places = light(folder)
    share = None if chain.through is None and overhead.polarizer is None else sky(folder, overhead)
    if overhead.darkens:
        luminance = luminance * overhead.left(None if share is None else share / np.float32(255), *luminance.shape)
    above = None if share is None or chain.through is None else (share.ravel(), fine_gains(chain, sky=True))
    pixels, index = grey_picture(luminance.ravel(), places.ravel(), fine_gains(chain), table, above)
    with _lock:
        _indices[key] = index.reshape(luminance.shape)
        while len(_indices) > KEPT_CHAINS:
            _indices.popitem(last=False)
    return pixels.reshape(luminance.shape)


def prepare(folder):
    """Make what the first page of a picture asks for: its light maps, its sky and its areas."""
    for side in lightmap.SIDES:
        light_map(folder, side)
    sky(folder, Overhead())
    areas(folder)


def view_bytes(folder, name):
    """Bytes of a view that was kept as a file. name: COLOUR or GREY. Raises PictureGone."""
    try:
        return (folder / name).read_bytes()
    except OSError as failed:
        raise PictureGone(
            "The picture's file is missing. Upload it again.", parameter="picture", code="picture-gone"
        ) from failed
