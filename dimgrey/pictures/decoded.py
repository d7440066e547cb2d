"""What reading a picture file gives, and what all decoders share: the limit of pixels, shrinking, sound numbers."""

from dataclasses import dataclass, field, replace

import numpy as np
from PIL import Image

from dimgrey.core.measure.shotdata import ShotData
from dimgrey.pictures.kinds import PictureError

LONG_SIDE = 1600
MAX_PIXELS = 150_000_000

Image.MAX_IMAGE_PIXELS = None  # our own limit below says what to do instead of warning


@dataclass(frozen=True)
class Decoded:
    """One picture file as it was read.

    kind: "JPEG", "PNG", ... width, height: of the original, after orientation. linear: working copy, shape (h, w, 3),
    float16, linear sRGB. profile: name of the embedded colour profile. middle_grey_ev100: EV100 of linear 0.18, None
    when unknown. scene_linear: proportional to light (raw, OpenEXR). absolute: has a scale in cd/m2.
    clip: linear value at which the file ends, None when it has no end. shown: the working copy as it looks, in sRGB,
    when the file was made for looking at.
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
    shown: Image.Image | None = None

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


def shrink(linear):
    """A linear picture reduced to at most 1600 pixels on the long side, averaging light; shape (h, w, 3)."""
    height, width = linear.shape[:2]
    scale = LONG_SIDE / max(width, height)
    if scale >= 1:
        return linear
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    planes = [
        np.asarray(
            Image.fromarray(np.ascontiguousarray(linear[..., k], dtype=np.float32)).resize(size, Image.Resampling.BOX)
        )
        for k in range(linear.shape[-1])
    ]
    return np.stack(planes, axis=-1)


def sane(linear, warnings):
    """Half-float copy without NaN and infinity, which are counted in a warning."""
    linear = np.asarray(linear, np.float32)
    wrong = ~np.isfinite(linear)
    if wrong.any():
        warnings.append(f"{int(wrong.any(axis=-1).sum())} pixels held no number and were set to black.")
        linear = np.where(wrong, 0, linear)
    return np.clip(linear, -60000, 60000).astype(np.float16)


def display_referred(kind, width, height, linear, profile, exif, warnings, shown=None):
    """Decoded of a file made for looking at, which ends at white. exif: ShotData."""
    return Decoded(
        kind=kind,
        width=width,
        height=height,
        linear=sane(linear, warnings),
        profile=profile,
        shot=exif,
        middle_grey_ev100=exif.ev100,
        clip=0.98,
        warnings=(*warnings, *exif.warnings),
        shown=shown,
    )
