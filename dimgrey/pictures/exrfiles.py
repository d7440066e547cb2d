"""OpenEXR: scene-linear light, with a scale in cd/m2 where the file says one."""

import numpy as np

from dimgrey.core.colour.colourspaces import to_srgb
from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.errors import Unreadable
from dimgrey.core.measure.exposure import ev100_of_luminance
from dimgrey.pictures.decoded import Decoded, check_size, fitted, half, warn_of_pixels
from dimgrey.pictures.filekinds import PictureError
from dimgrey.pictures.shrinking import ROWS, Shrinker

MOST_CHANNELS = 32
MOST_BYTES = 800_000_000
"""All channels of a file are unpacked together."""


def read_exr(path):
    """Decoded of an OpenEXR file. path: where it lies. Raises PictureError."""
    import OpenEXR

    warnings = []
    try:
        with OpenEXR.File(str(path), header_only=True) as opened:
            header = dict(opened.header())
            (left, top), (right, bottom) = header["dataWindow"]
        width, height = int(right - left) + 1, int(bottom - top) + 1
        check_size(width, height)
        _require_few(len(header["channels"]), width * height)
        with OpenEXR.File(str(path)) as opened:
            channels = {name: channel.pixels for name, channel in opened.channels().items()}
    except (PictureError, MemoryError):
        raise
    except Exception:  # the library raises bare exceptions of several kinds for damaged files
        raise PictureError("The OpenEXR file is cut off or damaged.", "picture-truncated") from None
    linear, wrong = _shrunk(channels)
    warn_of_pixels(wrong, warnings)
    linear, stops = fitted(linear @ _primaries(header, warnings).T)
    white = _white_luminance(header, warnings)
    middle = ev100_of_luminance(white * MIDDLE_GREY) + stops if white else None
    return Decoded(
        kind="OpenEXR",
        width=width,
        height=height,
        linear=half(linear),
        profile="linear light, sRGB primaries" if "chromaticities" not in header else "linear light, own primaries",
        middle_grey_ev100=middle,
        scene_linear=True,
        absolute=white is not None,
        clip=None,
        warnings=tuple(warnings),
    )


def _require_few(channels, pixels):
    if channels > MOST_CHANNELS or channels * pixels * 4 > MOST_BYTES:
        raise PictureError(
            f"The OpenEXR file has {channels} channels, {channels * pixels * 4 / 1e6:.0f} MB of light. "
            "Save R, G and B alone, or smaller.",
            "picture-too-large",
        )


def _shrunk(channels):
    """(small linear picture, shape (h, w, 3), pixels without a number) of the file's colour channels."""
    found = next((channels[name] for name in ("RGB", "RGBA") if name in channels), None)
    if found is not None:
        rows = lambda a, b: found[a:b, :, :3].astype(np.float32)
    elif {"R", "G", "B"} <= set(channels):
        found = channels["R"]
        rows = lambda a, b: np.stack([channels[name][a:b] for name in "RGB"], axis=-1).astype(np.float32)
    elif "Y" in channels:
        found = channels["Y"]
        rows = lambda a, b: np.repeat(found[a:b].astype(np.float32)[..., None], 3, axis=-1)
    else:
        raise PictureError(
            f"The OpenEXR file has no R, G, B channels (it has {', '.join(sorted(channels)[:8])}).", "picture-no-colour"
        )
    height, width = found.shape[:2]
    made = Shrinker(width, height)
    for top in range(0, height, ROWS):
        made.add(rows(top, min(top + ROWS, height)), exact=False)
    return made.picture(), made.wrong


def _primaries(header, warnings):
    """Matrix from the file's primaries to linear sRGB; float32, shape (3, 3)."""
    said = header.get("chromaticities")
    if said is None:
        return np.eye(3, dtype=np.float32)
    try:
        flat = np.asarray(said, float).ravel()
        if len(flat) != 8:
            raise Unreadable("The file's primaries are not eight numbers.", parameter="profile", code="profile-broken")
        corners = flat.reshape(4, 2)
        return to_srgb(corners[:3], corners[3]).astype(np.float32)
    except (Unreadable, ValueError, TypeError):
        warnings.append("The file's primaries cannot be used; those of sRGB are assumed.")
        return np.eye(3, dtype=np.float32)


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
