"""TIFF: read exactly and strip by strip, raw files among them handed on, the rest left to Pillow."""

from dataclasses import replace

import numpy as np

from dimgrey.core.measure.shotdata import ShotData, exposure_of, place_of
from dimgrey.pictures.decoded import (
    Decoded,
    check_size,
    display_referred,
    fitted,
    half,
    turned,
    turned_size,
    warn_of_pixels,
)
from dimgrey.pictures.filekinds import PictureError
from dimgrey.pictures.pillowfiles import read_with_pillow
from dimgrey.pictures.profiles import Space, space_of
from dimgrey.pictures.rawfiles import read_raw
from dimgrey.pictures.shrinking import ROWS, Shrinker, looked_up

BILEVEL = "The picture has only black and white pixels, so there are no tones to meter."
MOST_AT_ONCE = 700_000_000
"""Bytes of one strip or tile, or of planes that lie one after another. Programs write strips far smaller."""
READ_AT_ONCE = 16_000_000


def read_tiff(path):
    """Decoded of a TIFF. path: where it lies. Raises PictureError."""
    import tifffile

    try:
        with tifffile.TiffFile(path) as file:
            first = file.pages[0]
            if _is_raw(first):
                return read_raw(path, _exif_of(first))
            page = _largest(file, first)
            check_size(page.imagewidth, page.imagelength)
            if page.bitspersample == 1 and page.samplesperpixel == 1:
                raise PictureError(BILEVEL, "picture-bilevel")
            if page.bitspersample in (8, 16, 32) and page.photometric in (0, 1, 2) and _is_plain(page):
                return _read_exactly(file, page, first, path)
    except (PictureError, MemoryError):
        raise
    except Exception:  # a damaged TIFF fails anywhere in its chain of offsets
        raise PictureError("The TIFF file is cut off or damaged.", "picture-truncated") from None
    return read_with_pillow(path)


def _is_raw(page):
    """Whether a TIFF's first page belongs to a camera's raw file: a DNG, a sensor mosaic, or a preview before one."""
    tags = page.tags
    return 50706 in tags or page.photometric in (32803, 34892) or (330 in tags and 271 in tags and page.is_reduced)


def _largest(file, first):
    """The page with the picture: the first, unless it says of itself that it is a small copy."""
    if not first.is_reduced:
        return first
    below = [page for page in (first.pages or ()) if hasattr(page, "imagewidth")]
    return max([*file.pages, *below], key=lambda page: page.imagewidth * page.imagelength)


def _is_plain(page):
    """Whether the rows can be taken as they come: no colour table, no chopped colours, no film roll of depths."""
    whole = page.bitspersample != 32 or page.dtype.kind == "f"
    return whole and page.imagedepth == 1 and page.compression != 7 and len(page.dataoffsets) > 0


def _exif_of(page):
    tag, gps = page.tags.get(34665), page.tags.get(34853)
    place = _place_in(gps.value) if gps is not None and isinstance(gps.value, dict) else None
    if tag is None or not isinstance(tag.value, dict):
        return ShotData(place=place)
    numbers = {"ExposureTime": 0x829A, "FNumber": 0x829D, "ISOSpeedRatings": 0x8827, "PhotographicSensitivity": 0x8827,
               "DateTimeOriginal": 0x9003, "FocalLength": 0x920A, "FocalLengthIn35mmFilm": 0xA405, "Flash": 0x9209}  # fmt: skip
    said = exposure_of({numbers[name]: value for name, value in tag.value.items() if name in numbers})
    return replace(said, place=place)


def _place_in(gps):
    """Latitude and longitude of a GPS block by names, whose ratios lie one after another; None for one that tells no place."""
    numbers = {"GPSLatitudeRef": 1, "GPSLatitude": 2, "GPSLongitudeRef": 3, "GPSLongitude": 4}
    told = {numbers[name]: value for name, value in gps.items() if name in numbers}
    for number in (2, 4):
        flat = told.get(number)
        if isinstance(flat, tuple) and len(flat) == 6:
            told[number] = tuple(zip(flat[::2], flat[1::2], strict=True))
    return place_of(told)


def _read_exactly(file, page, first, path):
    warnings = []
    if len(file.pages) > 1:
        warnings.append("The file holds several pictures; the largest is used." if page is not first else
                        "The file holds several pictures; the first is used.")  # fmt: skip
    channels = 3 if page.samplesperpixel >= 3 else 1
    floating = page.dtype.kind == "f"
    icc = page.tags[34675].value if 34675 in page.tags else None
    space = Space() if floating else space_of(icc, channels, warnings)
    if space.profile is None:
        picture = read_with_pillow(path)  # its library applies profiles of tables, at eight bits
        return picture if page.bitspersample == 8 else picture.with_warning("Its colours could only be read at 8 bits.")
    try:
        small, wrong = _shrunk(page, channels, None if floating else space)
    except PictureError:
        raise
    except (ValueError, ImportError):  # a compression the decoder lacks; Pillow knows more of them
        picture = read_with_pillow(path)
        return picture if page.bitspersample == 8 else picture.with_warning("Its depth could only be read at 8 bits.")
    if floating:
        space = Space(name="linear light")
    warn_of_pixels(wrong, warnings)
    turn = int(page.tags[274].value) if 274 in page.tags else 1
    linear = turned(space.to_srgb(small), turn)
    size, exposure = turned_size((page.imagewidth, page.imagelength), turn), _exif_of(page)
    if not floating:
        return display_referred("TIFF", *size, linear, space.name, exposure, warnings)
    linear, stops = fitted(linear)
    middle = None if exposure.ev100 is None else exposure.ev100 + stops
    told = (*warnings, *exposure.warnings)
    return Decoded("TIFF", *size, half(linear), space.name, exposure, middle, True, False, None, told)


def _shrunk(page, channels, space):
    """(small linear picture, pixels without a number). space: of whole numbers; None where they are light."""
    levels = 2**page.bitspersample
    tables = None if space is None else space.tables(levels, channels)
    if tables and page.photometric == 0:  # white is 0
        tables = [table[::-1].copy() for table in tables]
    made = Shrinker(page.imagewidth, page.imagelength, channels)
    for rows in (band[top : top + ROWS] for band in _bands(page, channels) for top in range(0, len(band), ROWS)):
        rows = rows.astype(np.float32) if tables is None else looked_up(rows, tables)
        if tables is None and page.photometric == 0:
            rows = 1 - rows
        made.add(rows, exact=tables is not None)
    return made.picture(), made.wrong


def _bands(page, channels):
    """The picture from the top, as many rows at a time as its strips or tiles hold; shape (n, width, channels)."""
    width, height = page.imagewidth, page.imagelength
    if page.is_memmappable and page.planarconfig == 1:  # as it lies on the disk
        yield page.asarray(out="memmap").reshape(height, width, -1)[..., :channels]
        return
    if page.planarconfig == 2 and page.samplesperpixel > 1:  # planes one after another: they meet in memory
        _require_room(width * height * page.samplesperpixel * page.dtype.itemsize)
        pixels = np.moveaxis(page.asarray(), 0, -1)
        yield pixels[..., :channels]
        return
    across, down = page.tilewidth or width, min(page.tilelength or page.rowsperstrip, height)
    _require_room(across * down * page.samplesperpixel * page.dtype.itemsize)
    band, top = None, 0
    for piece, index, shape in page.segments(maxworkers=1, buffersize=READ_AT_ONCE):
        y, x = index[-3], index[-2]
        if band is None or y != top:
            if band is not None:
                yield band
            band, top = np.zeros((min(down, height - y), width, channels), page.dtype), y
        if piece is not None:
            part = piece[0, : shape[-3], : shape[-2], :channels][: len(band), : width - x]
            if part.shape == band.shape:
                band = part
                continue
            band[: part.shape[0], x : x + part.shape[1]] = part
    if band is not None:
        yield band


def _require_room(size):
    if size > MOST_AT_ONCE:
        raise PictureError(
            f"The TIFF is written in one piece of {size / 1e6:.0f} MB. Save it in strips or tiles, or smaller.",
            "picture-too-large",
        )
