"""A camera's raw files, through the raw decoder."""

import io

import numpy as np

from dimgrey.core.colour.light import MIDDLE_GREY
from dimgrey.core.measure.shotdata import ShotData
from dimgrey.pictures.decoded import LONG_SIDE, Decoded, check_size, sane, shrink
from dimgrey.pictures.kinds import ACCEPTED, PictureError

RAW_HEADROOM_STOPS = 3.3
"""A raw file's white lies this far above middle grey unless the camera's own figure is known (HANDBOOK 5)."""


def read_raw(data, exposure=None):
    """A camera's raw file through the raw decoder: white-balanced as shot, linear, never its embedded preview."""
    import rawpy

    try:
        with rawpy.imread(io.BytesIO(data)) as raw:
            check_size(raw.sizes.width, raw.sizes.height)
            half = min(raw.sizes.width, raw.sizes.height) > 2 * LONG_SIDE
            turned = raw.sizes.flip in (5, 6)
            width, height = raw.sizes.width, raw.sizes.height
            pixels = raw.postprocess(
                gamma=(1, 1), no_auto_bright=True, output_bps=16, use_camera_wb=True, half_size=half,
                output_color=rawpy.ColorSpace.sRGB, highlight_mode=rawpy.HighlightMode.Clip,
            )  # fmt: skip
    except PictureError:
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
    warnings = list(exposure.warnings)
    return Decoded(
        kind="raw",
        width=width,
        height=height,
        linear=sane(shrink(pixels.astype(np.float32) / 65535 * white), warnings),
        profile="camera raw, linear light",
        shot=exposure,
        middle_grey_ev100=exposure.ev100,
        scene_linear=True,
        clip=0.98 * white,
        warnings=tuple(warnings),
    )
