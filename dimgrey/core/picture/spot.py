"""The light under the meter's spot, or in an area, of a scene-linear picture.

Pictures are proportional to light, shape (height, width, 3) as R, G, B with the sRGB primaries.
"""

import math

import numpy as np

from dimgrey.core.colour.encoding import luminance
from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.metering import SHARES_FROM, SHARES_PER_STOP, SHARES_TO, SpotReading

FLOOR = 2.0**-24
"""The least linear value that is told from black, the smallest half-float; darker light is below any meter."""


def read_spot(linear, column, row, radius_px, clip=None):
    """Average the light in a disc of a scene-linear picture.

    linear: shape (height, width, 3), linear sRGB. column, row: the pixel at the centre, counted from 0.
    radius_px: at least the centre pixel is read. clip: linear value at which the picture ends, or None.
    Returns SpotReading. Raises OutOfRange for a centre outside the picture.
    """
    height, width = linear.shape[:2]
    if not (0 <= column < width and 0 <= row < height):
        raise OutOfRange("The spot lies outside the picture.", parameter="at", code="spot-outside")
    reach = max(radius_px, 0.0) + 1e-6
    top, bottom = max(0, math.ceil(row - reach)), min(height, math.floor(row + reach) + 1)
    left, right = max(0, math.ceil(column - reach)), min(width, math.floor(column + reach) + 1)
    rows, columns = np.ogrid[top:bottom, left:right]
    inside = (columns - column) ** 2 + (rows - row) ** 2 <= reach**2
    return _reading_of(linear[top:bottom, left:right][inside], clip)


def read_area(linear, inside, clip=None):
    """Average the light of an area of a scene-linear picture, as `read_spot` does a disc.

    linear: shape (height, width, 3), linear sRGB. inside: booleans, shape (height, width). clip: as in read_spot.
    Returns SpotReading. Raises OutOfRange for an area without a pixel.
    """
    if not inside.any():
        raise OutOfRange("The area is smaller than a pixel of the picture.", parameter="area", code="area-empty")
    return _reading_of(linear[inside], clip)


def _reading_of(colours, clip):
    """SpotReading of the colours of some pixels, shape (n, 3)."""
    colours = colours.astype(np.float64)
    y = np.maximum(luminance(colours), FLOOR)
    low, high = np.percentile(y, (10, 90))
    clipped = float(np.mean(colours.max(axis=1) >= clip)) if clip else 0.0
    return SpotReading(
        mean_stops=math.log2(y.mean() / MIDDLE_GREY),
        low_stops=math.log2(low / MIDDLE_GREY),
        high_stops=math.log2(high / MIDDLE_GREY),
        colour=tuple(float(c) for c in colours.mean(axis=0)),
        clipped=clipped,
        shares=_shares(np.log2(y / MIDDLE_GREY)),
    )


def _shares(stops):
    """Share of each half stop."""
    count = round((SHARES_TO - SHARES_FROM) * SHARES_PER_STOP)
    bins = np.clip(((stops - SHARES_FROM) * SHARES_PER_STOP).astype(int), 0, count - 1)
    return tuple((np.bincount(bins, minlength=count) / stops.size).round(4).tolist())
