"""OpenEXR: scene-linear light, with a scale in cd/m2 where the file says one."""

import tempfile

import numpy as np

from dimgrey.core.colour.light import MIDDLE_GREY
from dimgrey.core.measure.exposure import ev100_of_luminance
from dimgrey.pictures.decoded import Decoded, check_size, sane, shrink
from dimgrey.pictures.kinds import PictureError


def read_exr(data):
    import OpenEXR

    warnings = []
    with tempfile.NamedTemporaryFile(suffix=".exr") as file:
        file.write(data)
        file.flush()
        try:
            with OpenEXR.File(file.name, header_only=True) as opened:
                header = dict(opened.header())
                low, high = header["dataWindow"]
            check_size(int(high[0] - low[0]) + 1, int(high[1] - low[1]) + 1)
            with OpenEXR.File(file.name) as opened:
                channels = {name: channel.pixels for name, channel in opened.channels().items()}
        except PictureError:
            raise
        except Exception:  # the library raises bare exceptions of several kinds for damaged files
            raise PictureError("The OpenEXR file is cut off or damaged.", "picture-truncated") from None
    linear = _exr_pixels(channels)
    height, width = linear.shape[:2]
    white = _white_luminance(header, warnings)
    middle = ev100_of_luminance(white * MIDDLE_GREY) if white else None
    return Decoded(
        kind="OpenEXR",
        width=width,
        height=height,
        linear=sane(shrink(linear), warnings),
        profile="linear light, sRGB primaries",
        middle_grey_ev100=middle,
        scene_linear=True,
        absolute=white is not None,
        clip=None,
        warnings=tuple(warnings),
    )


def _exr_pixels(channels):
    for name in ("RGB", "RGBA"):
        if name in channels:
            return channels[name][..., :3].astype(np.float32)
    if {"R", "G", "B"} <= set(channels):
        return np.stack([channels[name] for name in "RGB"], axis=-1).astype(np.float32)
    if "Y" in channels:
        return np.repeat(channels["Y"].astype(np.float32)[..., None], 3, axis=-1)
    raise PictureError(
        f"The OpenEXR file has no R, G, B channels (it has {', '.join(sorted(channels))}).", "picture-no-colour"
    )


def _white_luminance(header, warnings):
    """cd/m2 of the value 1.0 from the standard attribute, or None."""
    value = header.get("whiteLuminance")
    if value is None:
        warnings.append("The file has no whiteLuminance: its light has no scale until a reading is typed.")
        return None
    value = float(value)
    if not 1e-6 < value < 1e9:
        warnings.append(
            f"The file's whiteLuminance ({value:g}) cannot be; its light has no scale until a reading is typed."
        )
        return None
    return value
