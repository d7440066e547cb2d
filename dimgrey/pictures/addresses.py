"""The address of a grey view: what it is rendered with, written so that the same view always has the same address."""

from dataclasses import dataclass
from functools import lru_cache

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
    rest = _written((rendering.stops, rendering.slope, *rendering.tone))
    ends = f"{KINDS.index(rendering.kind)}_{rendering.development}_{LOOKS.index(rendering.look)}"
    return f"{_written(rendering.terms)}_{rest}_{ends}"


@lru_cache(maxsize=256)
def _written(numbers):
    return "_".join(str(round(number * 10000)) for number in numbers)


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


def addresses_through(folder, rendering, chains):
    """name -> address of the same view through another chain. chains: (name, Chain) each."""
    rest = key_of(rendering).split("_", len(rendering.terms))[-1]
    return {name: f"/pictures/{folder}/grey-{_written(chain.terms)}_{rest}.jpg" for name, chain in chains}


def addresses_squeezed(folder, rendering):
    """look -> address of the same view squeezed, without the plain grey."""
    rest = key_of(rendering).rpartition("_")[0]
    return {look: f"/pictures/{folder}/grey-{rest}_{k}.jpg" for k, look in enumerate(LOOKS) if k}


def colour_address(folder):
    """Address of a picture's colour view."""
    return f"/pictures/{folder}/colour.jpg"
