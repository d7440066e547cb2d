"""What reading a picture file gives, and what all decoders share: the limit of pixels, shrinking, sound numbers."""

import math
from dataclasses import dataclass, field, replace
from functools import cache

import numpy as np
from PIL import Image

from dimgrey.core.colour.encoding import srgb_of_linear
from dimgrey.core.measure.shotdata import ShotData
from dimgrey.pictures.filekinds import PictureError

MAX_PIXELS = 220_000_000
NARROWEST = 40
"""Of a picture's sides the long one is at most so many times the short one: no lens and no stitching makes more."""
MOST_VALUE = 60000.0
"""What a half-float working copy holds, with room for rounding."""

Image.MAX_IMAGE_PIXELS = None  # our own limit below says what to do instead of warning


@dataclass(frozen=True)
class Decoded:
    """One picture file as it was read.

    kind: "JPEG", "PNG", ... width, height: of the original, after orientation. linear: working copy, shape (h, w, 3),
    float16, linear sRGB, with at most 1600 pixels on the long side. profile: name of the embedded colour profile. middle_grey_ev100: EV100 of linear 0.18, None
    when unknown. scene_linear: proportional to light (raw, OpenEXR). absolute: has a scale in cd/m2.
    clip: linear value at which the file ends, None when it has no end. shown: the working copy as it looks, 8-bit sRGB,
    shape (h, w, 3), when the file was made for looking at.
    """

    kind: str
    width: int
    height: int
    linear: np.ndarray
    profile: str = ""
    shot: ShotData = field(default_factory=ShotData)
    middle_grey_ev100: float | None = None
    scene_linear: bool = False
    absolute: bool = False
    clip: float | None = 1.0
    warnings: tuple = ()
    shown: np.ndarray | None = None

    def as_json(self):
        """What `manage.py picture` prints."""
        shot = self.shot
        return {
            "kind": self.kind,
            "width": self.width,
            "height": self.height,
            "colour_profile": self.profile or None,
            "exposure": {
                "seconds": shot.time_s,
                "f_number": shot.f_number,
                "iso": shot.iso,
                "focal_mm": shot.focal_mm,
                "focal_35mm": shot.focal_35mm,
                "taken_at": shot.taken_at,
            },
            "middle_grey_ev100": None if self.middle_grey_ev100 is None else round(self.middle_grey_ev100, 4),
            "scene_linear": self.scene_linear,
            "absolute_scale": self.absolute,
            "warnings": list(self.warnings),
        }

    def with_warning(self, sentence):
        """A copy with one more warning."""
        return replace(self, warnings=(*self.warnings, sentence))


def check_size(width, height):
    """Raise PictureError for a picture without pixels, or with more than MAX_PIXELS."""
    if width < 1 or height < 1:
        raise PictureError("The picture has no pixels.", "picture-empty")
    if width * height > MAX_PIXELS:
        raise PictureError(
            f"The picture has {width * height / 1e6:.0f} megapixels; at most {MAX_PIXELS / 1e6:.0f} are read. "
            "Save a smaller copy.",
            "picture-too-large",
        )
    if max(width, height) > NARROWEST * min(width, height):
        raise PictureError(
            f"The picture is {width} by {height} pixels, which no camera makes. Cut a part of it out.",
            "picture-too-narrow",
        )


_TURNS = {2: (0, True), 3: (2, False), 4: (2, True), 5: (3, True), 6: (3, False), 7: (1, True), 8: (1, False)}
"""EXIF orientation -> (quarter turns, mirrored first)."""


def turned(pixels, orientation):
    """Pixels set upright by their EXIF orientation, 1..8; shape (h, w, c)."""
    quarters, mirrored = _TURNS.get(orientation, (0, False))
    pixels = pixels[:, ::-1] if mirrored and orientation in (2, 4) else pixels
    pixels = np.rot90(pixels, quarters) if quarters else pixels
    return np.ascontiguousarray(pixels[:, ::-1] if mirrored and orientation in (5, 7) else pixels)


def turned_size(size, orientation):
    """(width, height) after `turned`."""
    return tuple(size[::-1]) if orientation in (5, 6, 7, 8) else tuple(size)


def warn_of_pixels(wrong, warnings):
    """Say in `warnings` how many pixels held no number, if any did."""
    if wrong:
        warnings.append(f"{wrong} pixels held no number and were set to black.")


def half(linear):
    """Half-float copy; light beyond what one holds is cut off. Those that know better make it fit: see `fitted`."""
    return np.clip(np.asarray(linear, np.float32), -MOST_VALUE, MOST_VALUE).astype(np.float16)


def fitted(linear):
    """(linear light within what half-floats hold, stops by which it was darkened). linear: float32, shape (h, w, 3)."""
    most = float(np.abs(linear).max(initial=0))
    stops = max(math.ceil(math.log2(most / MOST_VALUE)), 0) if most > MOST_VALUE else 0
    return (linear / np.float32(2.0**stops) if stops else linear), stops


@cache
def _as_seen():
    """sRGB value of every half-float, 0..255; uint8, shape (65536,)."""
    light = np.arange(65536, dtype=np.uint16).view(np.float16).astype(np.float32)
    light = np.nan_to_num(np.clip(light, 0, 1), nan=0.0)
    return np.round(srgb_of_linear(light) * 255).astype(np.uint8)


def display_referred(kind, width, height, linear, profile, exif, warnings, end=1.0):
    """Decoded of a file made for looking at. exif: ShotData. end: linear light at which the file ends, 1 for white."""
    working = half(linear)
    return Decoded(
        kind=kind,
        width=width,
        height=height,
        linear=working,
        profile=profile,
        shot=exif,
        middle_grey_ev100=exif.ev100,
        clip=0.98 * end,
        warnings=(*warnings, *exif.warnings),
        shown=_as_seen()[working.view(np.uint16)],
    )
