"""The greys of a printed sky, as the picture would show them."""

from functools import lru_cache

import numpy as np

from dimgrey.core.colour.encoding import srgb_of_lightness
from dimgrey.core.planning.prints import shown_lightness
from dimgrey.core.planning.zones import MIDDLE

FALLS = np.arange(-15.0, 25.01, 0.125)
"""Falls at which the greys of a medium are tabulated: finer than its curve bends."""


def sky_greys(printed, stops):
    """8-bit greys of skies, shape as given. printed: SkyPrint. stops: beside sunlit middle grey."""
    printing = printed.result.printing if printed.result else None
    return np.interp(printed.fall(stops), FALLS, _greys_at_falls(printing)).round().astype(np.uint8)


@lru_cache(maxsize=32)
def _greys_at_falls(printing):
    lightness = printing.lightness if printing else lambda fall: shown_lightness(fall - MIDDLE)
    return 255 * srgb_of_lightness(np.array([lightness(float(fall)) for fall in FALLS]))
