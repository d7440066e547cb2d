"""Crop the picture: by its shape, or by its four edges when it was dragged."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Number, OneOf, YesNo, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.model import GUIDES, CropPart
from dimgrey.core.picture.crop import RATIOS, largest_crop, require_crop

WHOLE, FREE = "whole", "free"
FREE_BOX = (0.1, 0.1, 0.9, 0.9)
WHOLE_BOX = (0.0, 0.0, 1.0, 1.0)
EDGE = Number(-1, 2)
"""Of a crop as it is sent; `require_crop` says what a picture has."""


@dataclass(frozen=True, kw_only=True)
class Keys:
    ratio: str = needed(OneOf({WHOLE: "whole picture", **{ratio: ratio for ratio in RATIOS}, FREE: FREE}), "Shape")
    upright: bool = given(YesNo(), False, "upright")
    guides: str | None = given(OneOf(GUIDES), None, "Guide lines")
    left: float | None = given(EDGE)
    top: float | None = given(EDGE)
    right: float | None = given(EDGE)
    bottom: float | None = given(EDGE)


def _edit(document, said, case):
    facts = case.require_picture("This scene has no picture to crop.")
    return document.with_(crop=_crop(document.crop, said, facts.width / facts.height))


def _crop(before, said, picture_ratio):
    """The CropPart for a picture of a ratio (width over height), or None for the whole. Raises OutOfRange."""
    if said.ratio == WHOLE:
        return None
    edges = (said.left, said.top, said.right, said.bottom)
    if None not in edges:
        found = require_crop(*edges)
    elif said.ratio == FREE:
        found = require_crop(*(before.box if before else FREE_BOX))
    else:
        left, top, right, bottom = before.box if before else WHOLE_BOX
        centre = ((left + right) / 2, (top + bottom) / 2)
        found = largest_crop(said.ratio, picture_ratio, said.upright, centre)
    guides = said.guides or (before.guides if before else GUIDES[0])
    return CropPart((found.left, found.top, found.right, found.bottom), said.ratio, said.upright, guides)


VERB = Verb("crop", "Crop the picture", _edit, Keys)
