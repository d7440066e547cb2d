"""A picture as a survey map of its tones: lines at the borders of zones, areas where tones are lost.

Zone n runs from n - 1/2 to n + 1/2, so its borders lie at half zones; a line carries the numeral of the zone above it.
Lines are found by marching squares with linear interpolation on a slightly blurred zone map.
"""

import math
from dataclasses import dataclass, replace

import numpy as np

from dimgrey.core.planning.zones import ZONES

SMOOTHING_PX = 2.0
SHORTEST = 0.05
"""Lines shorter than this fraction of the picture's width are left out of the map."""
FEWEST_POINTS = 4
LABEL_FROM = 0.22


@dataclass(frozen=True)
class Line:
    """One contour: `border` in zones (2.5, 3.5 ...), `points` as fractions of width and height, shape (n, 2); length: of it all."""

    border: float
    points: np.ndarray
    closed: bool
    length: float
    numeral: str = ""


def _numeral(border):
    """Numeral of the zone on the lighter side of a border."""
    return ZONES[min(max(math.ceil(border), 0), 10)].numeral


@dataclass(frozen=True)
class Label:
    """Where a numeral stands on a line: fractions, and the slope of the line there in degrees, -90..90."""

    x: float
    y: float
    turn_deg: float
    numeral: str


@dataclass(frozen=True)
class ToneMapDrawing:
    """lines, labels, and the lost areas as lists of closed rings of fractions."""

    lines: tuple
    labels: tuple
    lost_shadows: tuple
    lost_highlights: tuple


def smoothed(zones, pixels=SMOOTHING_PX):
    """The zone map, blurred by a Gaussian of that many pixels; no blur for 0. Shape kept."""
    if not pixels or min(zones.shape) < 2:
        return np.asarray(zones, float)
    from scipy.ndimage import gaussian_filter

    return gaussian_filter(np.asarray(zones, float), pixels, mode="nearest")


BORDERS = tuple(np.arange(0.5, 10).tolist())


def contours(zones, outer=(0.0, 10.0), smoothing_px=SMOOTHING_PX, shortest=SHORTEST, borders=BORDERS, words=_numeral):
    """The map of a picture.

    zones: zone of each pixel, shape (h, w). outer: zones of the medium below and above which tones are lost. shortest: line that is drawn,
    pixels. borders: values at which lines are drawn. words: what stands on a line, of its value.
    Returns ToneMapDrawing. A picture of one tone, or thinner than two pixels, has no lines.
    """
    from contourpy import FillType, LineType, contour_generator

    field = smoothed(zones, smoothing_px)
    height, width = field.shape
    if min(field.shape) < 2:
        return ToneMapDrawing((), (), (), ())
    x, y = (np.arange(width) + 0.5) / width, (np.arange(height) + 0.5) / height
    made = contour_generator(x, y, field, line_type=LineType.ChunkCombinedOffset, fill_type=FillType.OuterOffset)
    low, high = float(field.min()), float(field.max())
    lines = [
        replace(line, numeral=words(border))
        for border in borders
        if low < border < high
        for line in _lines(made, float(border), shortest)
    ]
    return ToneMapDrawing(
        tuple(lines),
        tuple(_labels(lines)),
        _rings(made, low - 1, outer[0]) if low < outer[0] else (),
        _rings(made, outer[1], high + 1) if high > outer[1] else (),
    )


def _lines(made, border, shortest):
    """Line of each contour at a border that is long enough; all lengths are summed at once."""
    (points,), (offsets,) = made.lines(border)
    if points is None:
        return
    offsets = offsets.astype(int)
    steps = np.zeros(len(points))
    steps[1:] = np.hypot(*(points[1:] - points[:-1]).T)
    steps[offsets[:-1]] = 0  # from the end of one line to the start of the next
    lengths = np.add.reduceat(steps, offsets[:-1])
    for k in np.flatnonzero((lengths >= shortest) & (np.diff(offsets) >= FEWEST_POINTS)):
        part = points[offsets[k] : offsets[k + 1]]
        yield Line(border, part, bool((part[0] == part[-1]).all()), float(lengths[k]))


def _rings(made, lower, upper):
    """Closed rings of the areas between two levels, holes as rings of their own (drawn even-odd)."""
    found = []
    for points, offsets in zip(*made.filled(lower, upper), strict=True):
        found += [points[a:b] for a, b in zip(offsets[:-1], offsets[1:], strict=True)]
    return tuple(found)


def _labels(lines):
    """A numeral in the middle of each long line, not two in one place."""
    placed = []
    for line in sorted(lines, key=lambda each: -each.length):
        if line.length < LABEL_FROM:
            break
        k = len(line.points) // 2
        x, y = line.points[k]
        if any(math.hypot(x - other.x, y - other.y) < 0.05 for other in placed):
            continue
        before, after = line.points[max(k - 3, 0)], line.points[min(k + 3, len(line.points) - 1)]
        turn = math.degrees(math.atan2(after[1] - before[1], after[0] - before[0]))
        placed.append(Label(float(x), float(y), (turn + 90) % 180 - 90, line.numeral))
    return placed
