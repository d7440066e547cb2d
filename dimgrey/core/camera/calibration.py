"""What a camera really does: its curve, headroom and footroom from a card series, its channel mix from a chart.

A card series is one grey card in one light, exposed from -5 to +4 stops. Source: HANDBOOK 10; ISO 14524 (opto-electronic
conversion) in spirit, read from sRGB values.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.errors import CoreError

FIRST, LAST = -5, 4
CLIPPED_L = 99.0
TEXTURE_SLOPE = 2.0
"""L* per stop under which texture is no longer dependable."""
LEAST_FRAMES = 6


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
    if len(frames) < LEAST_FRAMES:
        raise CoreError(
            f"A card series needs at least {LEAST_FRAMES} frames (got {len(frames)}).",
            parameter="series",
            code="series-short",
        )
    gaps = np.diff(stops)
    if gaps.max() > 1.5:
        k = int(gaps.argmax())
        raise CoreError(
            f"A frame is missing between {stops[k]:+g} and {stops[k + 1]:+g} stops.",
            parameter="series",
            code="series-gap",
        )
    if np.all(light >= CLIPPED_L) or np.all(light <= 1):
        raise CoreError(
            "The whole series is blank: expose the middle frame as metered.", parameter="series", code="series-clipped"
        )
    falls = np.diff(light)
    if falls.min() < -1.5:
        k = int(falls.argmin())
        raise CoreError(
            f"The frame at {stops[k + 1]:+g} stops is darker than the one before it: another card, light or order came in.",
            parameter="series",
            code="series-not-rising",
        )
    smooth = np.maximum.accumulate(light)
    middle = float(np.interp(50.0, smooth, stops))
    relative = stops - middle
    clip = smooth >= CLIPPED_L
    headroom = _clipping(relative, smooth) if clip.any() else float(relative[-1])
    slopes = np.diff(smooth) / np.diff(relative)
    centres = (relative[:-1] + relative[1:]) / 2
    low = centres[(slopes < TEXTURE_SLOPE) & (centres < 0)]
    footroom = float(-low.max()) if len(low) else float(-relative[0])
    if len(relative) > 4:
        inner = (smooth > 2) & (smooth < CLIPPED_L)
        cubic = (
            np.polyval(np.polyfit(relative[inner], smooth[inner], min(5, max(inner.sum() - 2, 1))), relative[inner])
            if inner.sum() > 3
            else smooth[inner]
        )
        residual = float(np.sqrt(np.mean((cubic - smooth[inner]) ** 2))) if inner.any() else 0.0
    return Curve(tuple(relative.tolist()), tuple(smooth.tolist()), headroom, footroom, residual, middle)


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
