"""A test shot against the plan: at each pin, the tone that the file shows and the tone that was planned."""

from dataclasses import dataclass
from itertools import combinations

import numpy as np

from dimgrey.core.camera.setups import toned_stops
from dimgrey.core.colour.chain import mixed_chain
from dimgrey.core.colour.encoding import grey8_of_lightness, luminance, mean_lightness, srgb_of_linear
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.display import lightness
from dimgrey.core.picture.tonemap import ToneMap
from dimgrey.core.planning.prints import curve_for
from dimgrey.core.planning.zones import MIDDLE

OFF_STOPS = 0.4
"""A shot this close to the plan needs no change."""
SHAPE_TOLERANCE = 0.02


@dataclass(frozen=True)
class ToneResult:
    """One tone: planned and shown zone, and the difference in zones."""

    name: str
    planned: float
    shown: float

    @property
    def off(self):
        return self.shown - self.planned


@dataclass(frozen=True)
class Comparison:
    """All tones, and what to change: exposure in stops (+ more light), and a sentence."""

    tones: tuple
    exposure_stops: float
    contrast: float
    advice: str


def zone_of_lightness(l_star, kind="digital file"):
    """Zone that a lightness in a file stands for, by the curve of its medium. Shape kept."""
    grid = np.linspace(-6, 5, 441)
    shown = lightness(grid, curve_for(kind))
    rising = np.maximum.accumulate(shown + np.arange(len(shown)) * 1e-9)
    return MIDDLE + np.interp(np.asarray(l_star, float), rising, grid)


def planned_zones(result, made=None):
    """name -> zone that the in-camera file should show of each tone: after filter and setup.

    result: a Plan. made: the Setup that the file is made with, None for a plain file; film has none, whatever is left of
    one in its document.
    """
    tone = made.tone if made else (0.0, 0.0, 0.0)
    return {each.name: MIDDLE + toned_stops(each.fall - MIDDLE, tone) for each in result.tones}


def shown_zones(grey, places, matrix=None):
    """name -> zone that a shot shows at each place, as far as it lies in the shot.

    grey: 8-bit greys, shape (h, w). places: name -> (x, y), fractions of the plan's picture. matrix: of
    `affine_from_points`, or None where both have one frame.
    """
    height, width = grey.shape[:2]
    reach = max(2, width // 150)
    shown = {}
    for name, at in places.items():
        x, y = at if matrix is None else moved(matrix, *at)
        if 0 <= x <= 1 and 0 <= y <= 1:
            row, column = min(int(y * height), height - 1), min(int(x * width), width - 1)
            patch = grey[max(row - reach, 0) : row + reach + 1, max(column - reach, 0) : column + reach + 1]
            shown[name] = float(zone_of_lightness(mean_lightness(patch)))
    return shown


def shown_grey(linear, scene_linear):
    """8-bit grey of a picture as its file shows it, shape (h, w). linear: shape (h, w, 3). scene_linear: it is light."""
    light = np.asarray(linear, np.float32)
    if scene_linear:
        return grey8_of_lightness(ToneMap(mixed_chain("none"), kind="digital file").lightness(light))
    encoded = srgb_of_linear(np.maximum(luminance(light), 0))
    return np.round(np.clip(encoded, 0, 1) * 255).astype(np.uint8)


def require_same_frame(planned_size, shot_size, planned_crop=None):
    """Check that a shot has the shape of the plan's picture. Raises CoreError with what to do.

    planned_size, shot_size: (width, height). planned_crop: Crop of the plan, or None.
    """
    (w, h), (x, y) = planned_size, shot_size
    if (w > h) != (x > y) and w != h and x != y:
        raise CoreError(
            "The shot is turned against the plan's picture. Turn it, or match it by three points.",
            parameter="shot",
            code="shot-turned",
        )
    if abs((w / h) / (x / y) - 1) > SHAPE_TOLERANCE:
        raise CoreError(
            f"The shot has the shape {x}×{y}, the plan's picture {w}×{h}: it is cropped or another lens. Match it by three points.",
            parameter="shot",
            code="shot-shape",
        )


def affine_from_points(planned, shot):
    """Map from the plan's picture to the shot from three pairs of points, shape (2, 3).

    planned, shot: three (x, y) each, fractions. Raises CoreError when the three lie on one line.
    """
    p = np.column_stack([np.asarray(planned, float), np.ones(3)])
    if abs(np.linalg.det(p)) < 1e-3:
        raise CoreError(
            "The three points lie on one line. Choose them as a triangle.", parameter="points", code="points-line"
        )
    return np.linalg.solve(p, np.asarray(shot, float)).T


def moved(matrix, x, y):
    """A point of the plan's picture in the shot, fractions. matrix: of affine_from_points, shape (2, 3)."""
    at = matrix @ np.array([x, y, 1.0])
    return float(at[0]), float(at[1])


def compare(planned, shown, free=frozenset()):
    """Comparison of planned and shown zones.

    planned, shown: name -> zone, with at least one name in common. free: names of tones that were allowed to be lost; at
    the ends they say nothing of exposure and contrast, and are listed only.
    """
    names = [name for name in planned if name in shown]
    if not names:
        raise CoreError("No pin lies in the shot.", parameter="shot", code="shot-no-pin")
    tones = tuple(ToneResult(name, planned[name], shown[name]) for name in names)
    counted = tuple(tone for tone in tones if tone.name not in free) or tones
    off = np.array([tone.off for tone in counted])
    middle = float(np.median(off))
    slope = 1.0
    zones = np.array([tone.planned for tone in counted])
    if len(counted) > 2 and np.ptp(zones) > 1.5:
        slope = 1 + _slope(zones, off)
    advice = _advice(counted, middle, slope, off)
    return Comparison(tones, -middle if abs(middle) > OFF_STOPS else 0.0, slope - 1, advice)


def _slope(zones, off):
    """Median slope of all pairs of tones a zone and more apart, weighing alike, so that one outlier does not speak for all."""
    pairs = [(b - a, y - x) for (a, x), (b, y) in combinations(zip(zones, off, strict=True), 2) if abs(b - a) >= 1]
    return float(np.median([rise / run for run, rise in pairs])) if pairs else 0.0


def _advice(tones, middle, slope, off):
    if abs(middle) > OFF_STOPS:
        way = "less" if middle > 0 else "more"
        return f"The shot is {abs(middle):.1f} stops {'lighter' if middle > 0 else 'darker'} than planned: give {abs(middle):.1f} stops {way} light."
    if abs(slope - 1) > 0.15:
        return f"Exposure is right; contrast is {'higher' if slope > 1 else 'lower'} than planned by {abs(slope - 1) * 100:.0f} %: turn it {'down' if slope > 1 else 'up'}."
    worst = max(tones, key=lambda tone: abs(tone.off))
    if abs(worst.off) > 0.7:
        return f"All but {worst.name} are as planned; it is {abs(worst.off):.1f} zones {'lighter' if worst.off > 0 else 'darker'}: look at its filter or its light."
    return f"As planned: no tone is more than {np.abs(off).max():.1f} zones off."
