"""The address of a grey view: what it is rendered with, written so that the same view always has the same address."""

from dataclasses import dataclass

from dimgrey.core.errors import Unreadable
from dimgrey.core.media import KINDS

KEY = r"[0-9a-f]{8}(?:_-?\d{1,7}){5}_[0-3]_-?[0-4]"
"""Picture, three weights, exposure and slope in ten-thousandths, medium, development."""


@dataclass(frozen=True)
class Rendering:
    """What a grey view is made with. picture: first eight digits of its folder; stops, slope: see core.picture.display."""

    picture: str
    weights: tuple
    stops: float
    slope: float
    kind: str
    development: int


def key_of(rendering):
    """The part of an address that carries a Rendering, exact to 1e-4."""
    numbers = (*rendering.weights, rendering.stops, rendering.slope)
    parts = [str(round(number * 10000)) for number in numbers]
    return "_".join([rendering.picture, *parts, str(KINDS.index(rendering.kind)), str(rendering.development)])


def rendering_of(key):
    """The Rendering of a key that matches KEY. Raises Unreadable for another."""
    try:
        picture, *numbers, kind, development = key.split("_")
        r, g, b, stops, slope = (int(number) / 10000 for number in numbers)
        return Rendering(picture, (r, g, b), stops, slope, KINDS[int(kind)], int(development))
    except (ValueError, IndexError):
        raise Unreadable("This is not the address of a view.", code="view-key") from None
