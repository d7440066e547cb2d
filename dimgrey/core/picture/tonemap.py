"""A chain, an exposure and a medium as one map from scene light to zones and lightness, for measuring pictures."""

from dataclasses import dataclass
from functools import cache, lru_cache
from typing import NamedTuple

import numpy as np

from dimgrey.core.colour.chain import DARKEST_GREY, Chain
from dimgrey.core.colour.greys import grey_of
from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.picture.display import lightness, lightness_through
from dimgrey.core.planning.development import developed_zone
from dimgrey.core.planning.prints import PRINT_CURVE, curve_for
from dimgrey.core.planning.zones import MIDDLE

MEASURED_SIDE = 400
"""Long side in pixels of the copy that is measured: fine enough for shares, pulls and contours of a whole picture."""


class Seen(NamedTuple):
    """Light of pixels or areas: linear sRGB, shape (..., 3); how much of each is sky, 0..1, shape (...), or None for no sky."""

    linear: np.ndarray
    sky: np.ndarray | None = None


@dataclass(frozen=True)
class ToneMap:
    """chain: from colour to grey. stops: exposure, added to ``slope * log2(G / 0.18)``. kind: of the medium.

    development: step of the film's development. tone: contrast, highlights, shadows of a setup. Everything that the grey view's address carries but the picture.
    """

    chain: Chain
    stops: float = 0.0
    slope: float = 1.0
    kind: str = "film"
    development: int = 0
    tone: tuple = (0.0, 0.0, 0.0)

    def grey(self, linear, sky=None):
        """Grey that the medium sees. linear: shape (..., 3). sky: as in Seen. Returns shape (...)."""
        return grey_of(self.chain, linear, sky)

    def zones(self, linear, sky=None):
        """Print of each pixel as a zone; what is blacker or whiter than paper goes on below 0 and above 10.

        linear: shape (..., 3). sky: as in Seen. Returns shape (...).
        """
        return self.zones_of(self.grey(linear, sky))

    def zones_of(self, grey):
        """Zones as `zones` gives them, of what `grey` gave; the chain is the dearest part, and stays while the rest changes."""
        held = self._held(grey)
        if curve_for(self.kind) is PRINT_CURVE and not any(self.tone):
            return held + MIDDLE  # film's own zones are those of the print
        return np.interp(held, *_zone_table(self.kind, tuple(self.tone)))

    def _held_stops(self, linear, sky):
        return self._held(self.grey(linear, sky))

    def _held(self, grey):
        grey = np.maximum(grey, DARKEST_GREY)
        return developed_zone(np.log2(grey / MIDDLE_GREY) * self.slope + self.stops + MIDDLE, self.development) - MIDDLE

    def lightness(self, linear, sky=None):
        """L* at which each pixel is shown, 0..100. Shape as `zones`."""
        return lightness_through(self._held_stops(linear, sky), self.tone, curve_for(self.kind))


@cache
def _print_table():
    grid = np.linspace(PRINT_CURVE[0][0], PRINT_CURVE[0][-1], 2561)
    return lightness(grid, PRINT_CURVE), grid + MIDDLE


@lru_cache(maxsize=32)
def _zone_table(kind, tone):
    """(stops, zones) of a medium through a setup, 128 steps a stop: one look-up a pixel instead of two curves."""
    stops = np.arange(-12, 8, 1 / 128)
    return stops, zones_of_lightness(lightness_through(stops, tone, curve_for(kind)))


def zones_of_lightness(l_star):
    """Print of lightnesses as zones, any shape: the zone whose grey each is, on below 0 and above 10 a zone for each L*."""
    shown, zones = _print_table()
    l_star = np.asarray(l_star, float)
    beyond = np.minimum(l_star - shown[0], 0) + np.maximum(l_star - shown[-1], 0)
    return np.interp(l_star, shown, zones) + beyond


def reduced(planes, side=MEASURED_SIDE):
    """A small copy of a picture by averaging light over whole blocks, shape (h, w, planes), float32.

    planes: linear sRGB, shape (3, H, W), or any number of planes. side: longest side of the copy, pixels. Averaging is done on light, as a lens that is out of
    focus would.
    """
    _, height, width = planes.shape
    block = max(1, -(-max(height, width) // side))
    h, w = height // block * block, width // block * block
    if h == 0 or w == 0:  # thinner than a block: keep every pixel of that side
        tall, wide = (1, block) if h == 0 else (block, 1)
        h, w = height // tall * tall, width // wide * wide
        small = (
            planes[:, :h, :w].reshape(len(planes), h // tall, tall, w // wide, wide).mean(axis=(2, 4), dtype=np.float32)
        )
    else:
        small = (
            planes[:, :h, :w]
            .reshape(len(planes), h // block, block, w // block, block)
            .mean(axis=(2, 4), dtype=np.float32)
        )
    return np.ascontiguousarray(np.moveaxis(small, 0, -1), dtype=np.float32)
