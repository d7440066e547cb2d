"""TIFF: deep ones read exactly, raw files among them handed on, the rest left to Pillow."""

import io

import numpy as np

from dimgrey.core.measure.shotdata import ShotData, exposure_of
from dimgrey.pictures.decoded import Decoded, check_size, display_referred, sane, shrink
from dimgrey.pictures.kinds import PictureError
from dimgrey.pictures.pillowfiles import linear_of_array, read_with_pillow
from dimgrey.pictures.rawfiles import read_raw


def read_tiff(data):
    import tifffile

    try:
        with tifffile.TiffFile(io.BytesIO(data)) as file:
            page = file.pages[0]
            if _is_raw(page):
                return read_raw(data, _tiff_exif(page))
            check_size(page.imagewidth, page.imagelength)
            if page.bitspersample == 1 and page.samplesperpixel == 1:
                raise PictureError(
                    "The picture has only black and white pixels, so there are no tones to meter.", "picture-bilevel"
                )
            if page.bitspersample in (16, 32) and page.photometric in (0, 1, 2):
                return _read_deep_tiff(file, page, data)
    except PictureError:
        raise
    except Exception:  # a damaged TIFF fails anywhere in its chain of offsets
        raise PictureError("The TIFF file is cut off or damaged.", "picture-truncated") from None
    return read_with_pillow(data)


def _is_raw(page):
    """Whether a TIFF's first page belongs to a camera's raw file: a DNG, a sensor mosaic, or a preview before one."""
    tags = page.tags
    return 50706 in tags or page.photometric in (32803, 34892) or (330 in tags and 271 in tags and page.is_reduced)


def _tiff_exif(page):
    tag = page.tags.get(34665)
    if tag is None or not isinstance(tag.value, dict):
        return ShotData()
    numbers = {"ExposureTime": 0x829A, "FNumber": 0x829D, "ISOSpeedRatings": 0x8827, "PhotographicSensitivity": 0x8827,
               "DateTimeOriginal": 0x9003, "FocalLength": 0x920A, "FocalLengthIn35mmFilm": 0xA405}  # fmt: skip
    return exposure_of({numbers[name]: value for name, value in tag.value.items() if name in numbers})


def _read_deep_tiff(file, page, data):
    warnings = []
    if len(file.pages) > 1:
        warnings.append("The file holds several pictures; the first is used.")
    try:
        pixels = page.asarray()
    except ValueError:  # a compression the decoder lacks; Pillow knows more of them, at 8 bits for colour
        picture = read_with_pillow(data)
        return picture.with_warning("The file's compression could only be read at 8 bits.")
    floating = pixels.dtype.kind == "f"
    pixels = pixels.astype(np.float32) if floating else pixels.astype(np.float32) / np.iinfo(pixels.dtype).max
    if pixels.ndim == 2:
        pixels = pixels[..., None]
    elif page.planarconfig == 2:
        pixels = np.moveaxis(pixels, 0, -1)
    if page.photometric == 0:
        pixels = 1 - pixels
    pixels = pixels[..., : 3 if pixels.shape[-1] >= 3 else 1]
    icc = page.tags[34675].value if 34675 in page.tags else None
    if floating:
        linear, name = np.repeat(pixels, 3, axis=-1) if pixels.shape[-1] == 1 else pixels, "linear light"
    else:
        linear, name = linear_of_array(pixels, icc, warnings)
    turn = page.tags[274].value if 274 in page.tags else 1
    linear = _turned(shrink(linear), int(turn))
    width, height = page.imagewidth, page.imagelength
    if int(turn) in (5, 6, 7, 8):
        width, height = height, width
    exposure = _tiff_exif(page)
    if floating:
        return Decoded(
            "TIFF",
            width,
            height,
            sane(linear, warnings),
            name,
            exposure,
            exposure.ev100,
            True,
            False,
            None,
            tuple(warnings),
        )
    return display_referred("TIFF", width, height, linear, name, exposure, warnings)


def _turned(linear, orientation):
    """A picture set upright by its EXIF orientation, 1..8."""
    flips = {2: (0, True), 3: (2, False), 4: (2, True), 5: (3, True), 6: (3, False), 7: (1, True), 8: (1, False)}
    quarter, mirror = flips.get(orientation, (0, False))
    if mirror:
        linear = linear[:, ::-1] if orientation in (2, 4) else linear
    turned = np.rot90(linear, quarter) if quarter else linear
    if mirror and orientation in (5, 7):
        turned = turned[:, ::-1]
    return np.ascontiguousarray(turned)
