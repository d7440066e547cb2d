"""Reading one tone: what the spot on a picture of the light said, and several readings of the same tone.

The light itself is averaged in picture/spot.py.
"""

import math
from dataclasses import dataclass
from itertools import combinations
from statistics import median

from dimgrey.core.errors import OutOfRange

MIXED_SPREAD_STOPS = 2.0
CLIPPED_SHARE = 0.02
"""Share of a spot that may be blank in the picture before its reading is called clipped."""
DISAGREEMENT_STOPS = 1.0
SHARES_FROM, SHARES_TO, SHARES_PER_STOP = -8.0, 8.0, 2


@dataclass(frozen=True)
class SpotReading:
    """Light under the spot. Stops are ``log2(Y / 0.18)``: relative to what the picture calls middle grey.

    mean_stops: of the mean light, the reading. low_stops, high_stops: 10th and 90th percentile.
    colour: mean linear sRGB. mixed: the spread exceeds 2 stops, so that no single tone was read.
    clipped: the share of the spot, 0..1, at or above the picture's clipping value (0 when it has none).
    shares: how much of the spot lies in each half stop from SHARES_FROM to SHARES_TO, 0..1; what lies beyond is at the ends.
    """

    mean_stops: float
    low_stops: float
    high_stops: float
    colour: tuple
    clipped: float = 0.0
    shares: tuple = ()

    @property
    def spread_stops(self):
        return self.high_stops - self.low_stops

    @property
    def mixed(self):
        return self.spread_stops > MIXED_SPREAD_STOPS

    @property
    def is_clipped(self):
        return self.clipped > CLIPPED_SHARE


def hfov_deg(focal_35mm):
    """Horizontal field of view of a focal length in 35 mm terms, ``2 atan(18 / f)`` on a 36 mm wide frame; degrees."""
    return math.degrees(2 * math.atan(18 / focal_35mm))


def picture_hfov_deg(focal_35mm, width, height):
    """Horizontal field of view of a picture of width by height; upright, the frame's 36 mm run along its height. Degrees."""
    long_side = hfov_deg(focal_35mm)
    if width >= height:
        return long_side
    return math.degrees(2 * math.atan(math.tan(math.radians(long_side / 2)) * width / height))


def spot_radius_px(width_px, hfov, spot_deg):
    """Radius of the meter's spot in a rectilinear picture, ``r = W / 2 * tan(spot / 2) / tan(hfov / 2)``; pixels.

    >>> round(spot_radius_px(1500, 61.93, 1.0), 2)
    10.91
    """
    return width_px / 2 * math.tan(math.radians(spot_deg / 2)) / math.tan(math.radians(hfov / 2))


def pixel_at(fraction, pixels):
    """Pixel that a fraction 0..1 of so many pixels of width or height falls in. Raises OutOfRange beyond the edges."""
    if not 0 <= fraction <= 1:
        raise OutOfRange(
            f"A place in the picture is given as fractions from 0 to 1 (got {fraction:g}).",
            parameter="at",
            code="spot-outside",
        )
    return min(math.floor(fraction * pixels + 1e-6), pixels - 1)


@dataclass(frozen=True)
class ToneReading:
    """Several readings of one tone as one: mean EV100, spread in stops, how many, and whether they disagree."""

    ev100: float
    spread_stops: float
    count: int

    @property
    def disagree(self):
        return self.spread_stops > DISAGREEMENT_STOPS


def combined(evs):
    """Mean in EV and spread of the readings of one tone. evs: at least one EV100."""
    evs = [float(ev) for ev in evs]
    return ToneReading(sum(evs) / len(evs), max(evs) - min(evs), len(evs))


def compensation_stops(zone):
    """What to dial so that a spot on a tone renders it on `zone`: ``zone - 5`` stops (white paper on VII: +2)."""
    return zone - 5.0


@dataclass(frozen=True)
class LightScale:
    """How stops in a picture become EV100: ``EV = offset + slope * stops``; residuals per reading, in stops."""

    offset: float
    slope: float
    residuals: tuple

    @property
    def worst_residual(self):
        return max((abs(r) for r in self.residuals), default=0.0)


SLOPE_RANGE = (0.5, 3.0)


def fit_light_scale(stops, evs, known_offset=None):
    """Fit a picture's light to readings typed at its pins.

    stops: ``log2(Y / 0.18)`` at each pin. evs: EV100 read there with a meter. One pair fixes the offset; two or more
    that differ by at least half a stop give offset and slope, the slope as the median of all pairwise slopes (Theil
    1950, Sen 1968: one wrong reading in four does not bend it), held within 0.5..3; the offset is the median too.
    known_offset: the scale from EXIF, used when there is no reading. Returns LightScale, or None when nothing is known.
    """
    pairs = [(float(x), float(ev)) for x, ev in zip(stops, evs, strict=True)]
    if not pairs:
        return None if known_offset is None else LightScale(float(known_offset), 1.0, ())
    slopes = [(b - a) / (y - x) for (x, a), (y, b) in combinations(pairs, 2) if abs(y - x) >= 0.5]
    slope = min(max(median(slopes), SLOPE_RANGE[0]), SLOPE_RANGE[1]) if slopes else 1.0
    offset = median(ev - slope * x for x, ev in pairs)
    return LightScale(offset, slope, tuple(ev - (offset + slope * x) for x, ev in pairs))
