"""What a camera really does: its curve, headroom and footroom from a card series, its channel mix from a chart.

A card series is one grey card in one light, exposed from -5 to +4 stops. Source: HANDBOOK 10; ISO 14524 (opto-electronic
conversion) in spirit, read from sRGB values.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.encoding import lightness_of_luminance, luminance
from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.declare import Shaped, by_name, exactly, key, number, several, text
from dimgrey.core.shapes.plain import plain_part, read_part

FIRST, LAST = -5, 4
CLIPPED_L = 99.0
TEXTURE_SLOPE = 2.0
"""L* per stop under which texture is no longer dependable."""
LEAST_FRAMES = 6
LEAST_RANGE_STOPS, LEAST_RISE_L = 1.0, 2.0
"""What a series must span in exposure, and in the lightness that comes of it."""
MOST_GAP_STOPS = 1.5
MOST_FALL_L = 1.5
BLACK_L = 1.0


@dataclass(frozen=True)
class CardFrame:
    """One frame of a series: its offset from the metered exposure in stops, and the card's L* in the file."""

    stops: float
    lightness: float


@dataclass(frozen=True)
class Curve:
    """A measured curve. stops, lightness: rising. headroom, footroom: stops from middle grey. residual: L*, how far
    single frames lie from a smooth curve. middle_stops: offset at which the card really reaches L* 50."""

    stops: tuple
    lightness: tuple
    headroom: float
    footroom: float
    residual: float
    middle_stops: float


def curve_from_series(series):
    """Curve of a card series, in any order.

    series: CardFrame each. Raises CoreError for too few frames, a gap of more than 1.5 stops, a series that is clipped
    throughout or does not rise (another card or light came in between).
    """
    frames = sorted(series, key=lambda frame: frame.stops)
    stops = np.array([frame.stops for frame in frames], float)
    light = np.array([frame.lightness for frame in frames], float)
    _require_whole(stops, light)
    # Two frames at one exposure say one thing: their mean.
    stops, which = np.unique(stops.round(3), return_inverse=True)
    light = np.bincount(which, light) / np.bincount(which)
    # Noise may let one frame fall a little; a curve that falls cannot be read backwards.
    smooth = np.maximum.accumulate(light)
    middle = float(np.interp(50.0, smooth, stops))
    relative = stops - middle
    # Without a white frame the series says only that there is room at least this far.
    headroom = _clipping(relative, smooth) if (smooth >= CLIPPED_L).any() else float(relative[-1])
    return Curve(
        tuple(relative.tolist()),
        tuple(smooth.tolist()),
        headroom,
        _footroom(relative, smooth),
        _residual(relative, smooth),
        middle,
    )


def _require_whole(stops, light):
    """Raise CoreError for a series that is short, has a gap, is blank throughout, or does not rise."""

    def refuse(sentence, code):
        raise CoreError(sentence, parameter="series", code=code)

    if len(stops) < LEAST_FRAMES:
        refuse(f"A card series needs at least {LEAST_FRAMES} frames (got {len(stops)}).", "series-short")
    if np.ptp(stops) < LEAST_RANGE_STOPS:
        refuse(
            f"The frames are all at one exposure ({stops[0]:+.2g} stops): change the time from frame to frame.",
            "series-one",
        )
    if len(np.unique(stops.round(3))) < LEAST_FRAMES:
        refuse(f"A card series needs at least {LEAST_FRAMES} exposures that differ.", "series-short")
    gaps, rises = np.diff(stops), np.diff(light)
    if gaps.max() > MOST_GAP_STOPS:
        k = int(gaps.argmax())
        refuse(f"A frame is missing between {stops[k]:+g} and {stops[k + 1]:+g} stops.", "series-gap")
    if np.all(light >= CLIPPED_L) or np.all(light <= BLACK_L):
        refuse("The whole series is blank: expose the middle frame as metered.", "series-clipped")
    if np.ptp(light) < LEAST_RISE_L:
        refuse(
            "The frames are all alike: the same picture came several times, or the camera set the exposure.",
            "series-alike",
        )
    if rises.min() < -MOST_FALL_L:
        k = int(rises.argmin())
        refuse(
            f"The frame at {stops[k + 1]:+g} stops is darker than the one before it: another card, light or order came in.",
            "series-not-rising",
        )


def _footroom(relative, smooth):
    """Stops below the middle at which the curve loses its slope, and with it texture."""
    slopes = np.diff(smooth) / np.diff(relative)
    centres = (relative[:-1] + relative[1:]) / 2
    low = centres[(slopes < TEXTURE_SLOPE) & (centres < 0)]
    return float(-low.max()) if len(low) else float(-relative[0])


def _residual(relative, smooth):
    """Root mean square of the curve's distance from a smooth one between its ends, L*."""
    inner = (smooth > 2) & (smooth < CLIPPED_L)
    if inner.sum() <= 3:
        return 0.0
    # A polynomial of low degree follows any real curve and none of the noise between its frames.
    fitted = np.polyval(np.polyfit(relative[inner], smooth[inner], min(5, inner.sum() - 2)), relative[inner])
    return float(np.sqrt(np.mean((fitted - smooth[inner]) ** 2)))


def _clipping(relative, smooth):
    """Stops at which the curve reaches white: straight on from the last two frames before it, since frames a stop apart
    hide where between them it happens; never past the first white frame."""
    first = int(np.argmax(smooth >= CLIPPED_L))
    if first < 2:
        return float(relative[first])
    slope = (smooth[first - 1] - smooth[first - 2]) / (relative[first - 1] - relative[first - 2])
    return float(min(relative[first - 1] + (CLIPPED_L - smooth[first - 1]) / max(slope, 1e-3), relative[first]))


def lightness_of(curve, stops):
    """L* that a measured curve gives, stops from middle grey; its ends stay beyond them."""
    return np.interp(np.asarray(stops, float), curve.stops, curve.lightness)


@dataclass(frozen=True)
class Mix:
    """A channel mix from a chart: three numbers that sum to 1, and the residual in stops."""

    weights: tuple
    residual_stops: float


def mix_from_chart(colours, greys):
    """The mix that makes given greys of known colours.

    colours: linear sRGB of the patches, shape (n, 3). greys: linear grey of the same patches in the file, shape (n,), on
    the same scale. Least squares with the sum held at 1. Raises CoreError for too few or too grey patches.
    """
    c, g = np.asarray(colours, float), np.asarray(greys, float)
    if len(c) < 6 or len(c) != len(g):
        raise CoreError(
            f"A chart needs at least 6 patches with their greys (got {len(c)} and {len(g)}).",
            parameter="chart",
            code="chart-short",
        )
    # w3 = 1 - w1 - w2 leaves two unknowns, so that neutrals stay; each patch counts by its relative error.
    weight = 1 / np.maximum(g, 1e-4)
    a = np.stack([c[:, 0] - c[:, 2], c[:, 1] - c[:, 2]], axis=1) * weight[:, None]
    if np.linalg.matrix_rank(a, tol=1e-3) < 2:
        raise CoreError("The patches are all grey; a mix shows on colours only.", parameter="chart", code="chart-grey")
    b = (g - c[:, 2]) * weight
    (r, green), *_ = np.linalg.lstsq(a, b, rcond=None)
    weights = np.array([r, green, 1 - r - green])
    off = np.log2(np.maximum(c @ weights, 1e-6)) - np.log2(np.maximum(g, 1e-6))
    return Mix(tuple(round(float(w), 4) for w in weights), float(np.sqrt(np.mean(off**2))))


# --- what was measured, and how pictures of cards and charts are read ---------------------------------------------------------

ACROSS, DOWN = 6, 4
"""Patches of a chart that fills the frame."""


DAY = text(40)
MOST_POINTS = 100


@dataclass(frozen=True)
class Measured(Shaped):
    """What a camera's (or a film-and-scanner's) series and chart gave, as it is kept.

    day, mix_day: ISO dates, "" before. stops, lightness: the curve. mixes: filter name -> three weights.
    """

    day: str = key(DAY, "")
    stops: tuple = key(several(number(), most=MOST_POINTS), ())
    lightness: tuple = key(several(number(), most=MOST_POINTS), ())
    headroom: float = key(number(), 0.0)
    footroom: float = key(number(), 0.0)
    residual: float = key(number(), 0.0)
    middle_stops: float = key(number(), 0.0)
    mixes: dict = by_name(exactly(3, number()))
    mix_residuals: dict = by_name(number())
    mix_day: str = key(DAY, "")

    def contradictions(self):
        if len(self.stops) != len(self.lightness):
            yield f"lightness: must have as many numbers as stops (got {len(self.lightness)} for {len(self.stops)})."

    @property
    def curve(self):
        """(stops, L*), or None before a series."""
        return (self.stops, self.lightness) if self.stops else None


def measured_of(values):
    """Measured of plain values that were kept."""
    return read_part(Measured, values)


def measured_values(measured):
    """Plain values of a Measured, to keep."""
    return plain_part(measured)


def card_lightness(linear):
    """L* of a card that fills the middle of a picture, averaged in light, 0..100.

    linear: linear sRGB as the file shows it, shape (h, w, 3).
    """
    height, width = linear.shape[:2]
    middle = np.asarray(linear, np.float32)[height * 3 // 8 : height * 5 // 8 + 1, width * 3 // 8 : width * 5 // 8 + 1]
    l_star = float(lightness_of_luminance(luminance(middle.reshape(-1, 3).mean(axis=0))))
    return min(max(l_star, 0.0), 100.0)


def chart_patches(linear):
    """Mean linear light of a chart's patches, row by row, shape (24, 3); the chart fills the frame, 6 across and 4 down."""
    linear = np.asarray(linear, np.float32)
    height, width = linear.shape[:2]
    found = []
    for row in range(DOWN):
        for column in range(ACROSS):
            y, x = int((row + 0.5) / DOWN * height), int((column + 0.5) / ACROSS * width)
            ry, rx = max(height // DOWN // 5, 1), max(width // ACROSS // 5, 1)
            found.append(linear[max(y - ry, 0) : y + ry, max(x - rx, 0) : x + rx].reshape(-1, 3).mean(axis=0))
    return np.array(found)
