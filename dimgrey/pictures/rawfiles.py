"""A camera's raw files, through the raw decoder."""

import numpy as np

from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.measure.shotdata import EXPOSURE_TIME, F_NUMBER, FOCAL, ISO, TAKEN, ShotData, exposure_of
from dimgrey.pictures import shrinking
from dimgrey.pictures.decoded import Decoded, check_size, half
from dimgrey.pictures.filekinds import ACCEPTED, PictureError
from dimgrey.pictures.shrinking import shrunk

RAW_HEADROOM_STOPS = 3.3
"""A raw file's white lies this far above middle grey unless the camera's own figure is known (HANDBOOK 5)."""


NO_YEAR = 1970
"""What the decoder gives where the file tells no time."""


def read_raw(path, exposure=None):
    """A camera's raw file through the raw decoder: white-balanced as shot, linear, never its embedded preview.

    path: where it lies. exposure: ShotData that was found in it already, or None.
    """
    import rawpy

    try:
        with rawpy.imread(str(path)) as raw:
            check_size(raw.sizes.width, raw.sizes.height)
            half_size = min(raw.sizes.width, raw.sizes.height) > 2 * shrinking.LONG_SIDE
            turned = raw.sizes.flip in (5, 6)
            width, height = raw.sizes.width, raw.sizes.height
            if exposure is None or exposure.ev100 is None:
                exposure = _exposure_of(raw)
            pixels = raw.postprocess(
                gamma=(1, 1), no_auto_bright=True, output_bps=16, use_camera_wb=True, half_size=half_size,
                output_color=rawpy.ColorSpace.sRGB, highlight_mode=rawpy.HighlightMode.Clip,
            )  # fmt: skip
    except (PictureError, MemoryError):
        raise
    except Exception:  # the decoder has its own tree of exceptions, and damaged files raise others
        raise PictureError(
            f"The file is not a picture that can be read, or a raw file that the decoder does not know. Use {ACCEPTED}; "
            "most raw files can be saved as DNG or as 16-bit TIFF.",
            "picture-unreadable",
        ) from None
    if turned:
        width, height = height, width
    white = MIDDLE_GREY * 2**RAW_HEADROOM_STOPS
    exposure = exposure or ShotData()
    linear, _ = shrunk(pixels, [np.linspace(0, white, 65536, dtype=np.float32)])
    return Decoded(
        kind="raw",
        width=width,
        height=height,
        linear=half(linear),
        profile="camera raw, linear light",
        shot=exposure,
        middle_grey_ev100=exposure.ev100,
        scene_linear=True,
        clip=0.98 * white,
        warnings=exposure.warnings,
    )


def _exposure_of(raw):
    """ShotData as the raw decoder found it, for raw files that keep it in a form of their own; what is 0 is not known."""
    said = raw.other
    numbers = {
        EXPOSURE_TIME: said.shutter_speed,
        F_NUMBER: said.aperture,
        ISO: said.iso_speed,
        FOCAL: said.focal_length,
    }
    tags = {tag: value for tag, value in numbers.items() if value}
    if said.timestamp.year > NO_YEAR:
        tags[TAKEN] = said.timestamp.strftime("%Y:%m:%d %H:%M:%S")
    return exposure_of(tags)
