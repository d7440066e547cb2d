"""The address of a grey view: what it is rendered with, written so that the same view always has the same address."""

from dataclasses import dataclass

from dimgrey.core.errors import Unreadable
from dimgrey.core.picture.display import LOOKS
from dimgrey.core.picture.tonemap import ToneMap
from dimgrey.core.planning.media import KINDS

KEY = r"-?\d{1,7}(?:_-?\d{1,7}){10}_[0-3]_-?[0-4]_[0-4]"
"""Six terms, exposure, slope and a setup's three tone effects in ten-thousandths; medium, development, look."""


@dataclass(frozen=True)
class Rendering:
    """What a grey view is made with. stops, slope: see core.picture.display."""

    terms: tuple
    stops: float
    slope: float
    kind: str
    development: int
    look: str = "grey"
    tone: tuple = (0.0, 0.0, 0.0)

    @property
    def tone_map(self):
        return ToneMap(self.terms, self.stops, self.slope, self.kind, self.development, self.tone)


def key_of(rendering):
    """The part of an address that carries a Rendering, exact to 1e-4."""
    numbers = (*rendering.terms, rendering.stops, rendering.slope, *rendering.tone)
    parts = [str(round(number * 10000)) for number in numbers]
    ends = [KINDS.index(rendering.kind), rendering.development, LOOKS.index(rendering.look)]
    return "_".join([*parts, *map(str, ends)])


def rendering_of(key):
    """The Rendering of a key that matches KEY. Raises Unreadable for another."""
    try:
        *numbers, kind, development, look = key.split("_")
        *terms, stops, slope, contrast, highlights, shadows = (int(number) / 10000 for number in numbers)
        tone = (contrast, highlights, shadows)
        return Rendering(tuple(terms), stops, slope, KINDS[int(kind)], int(development), LOOKS[int(look)], tone)
    except (ValueError, IndexError):
        raise Unreadable("This is not the address of a view.", code="view-key") from None


def grey_address(folder, rendering):
    """Address of a grey view. folder: UUID of the picture. The same view always has the same address."""
    return f"/pictures/{folder}/grey-{key_of(rendering)}.jpg"


def colour_address(folder):
    """Address of a picture's colour view."""
    return f"/pictures/{folder}/colour.jpg"
