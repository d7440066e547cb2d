"""Fall and print: the grey that a viewer will see of a tone, as a zone, and the way back.

A tone falls on film or sensor; what the whole chain shows of it (development, slide or sensor curve, setup) is a lightness, and
its print is the zone whose grey that is. One curve, that of a print from film, names greys for every medium. Plain numbers, no
arrays: it also runs where NumPy does not. Source: HANDBOOK 8 and 16.
"""

from bisect import bisect_right
from dataclasses import dataclass
from functools import lru_cache

from dimgrey.core.camera.setups import toned_stops
from dimgrey.core.planning.development import developed_zone, undeveloped_zone
from dimgrey.core.planning.zones import MIDDLE, ZONE_MAX, ZONE_MIN

PRINT_CURVE = ((-5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5), (3, 8, 16, 26, 38, 50, 63, 76, 87, 95, 99))
FILE_CURVE = ((-6, -5, -4, -3, -2, -1, 0, 1, 2, 2.7, 3.3), (1, 3, 8, 16, 26, 38, 50, 66, 84, 95, 100))
"""Stops from middle grey against L*: a print on paper from film, and a camera's own file."""
SENSOR_WHITE, WHITE_RAMP = 3.3, 0.3
"""Stops from middle grey at which a sensor clips, and over how many the file runs up to white before."""
STEPS_BACK = 44
"""Halvings on the way back: far finer than a thousandth of a zone."""
WIDEST_FALL = 30.0


def curve_for(medium_kind):
    """The display curve of a medium: the print for film and slide, the camera's file for digital."""
    return PRINT_CURVE if medium_kind in ("film", "slide") else FILE_CURVE


@lru_cache(maxsize=8)
def _slopes(curve):
    """Slope of a curve at each of its points, so that a cubic through them nowhere falls (Fritsch & Carlson 1980)."""
    x, y = curve
    h = [b - a for a, b in zip(x, x[1:], strict=False)]
    d = [(b - a) / step for a, b, step in zip(y, y[1:], h, strict=False)]
    inner = []
    for k in range(1, len(d)):
        w1, w2 = 2 * h[k] + h[k - 1], h[k] + 2 * h[k - 1]
        inner.append((w1 + w2) / (w1 / d[k - 1] + w2 / d[k]) if d[k - 1] * d[k] > 0 else 0.0)
    return (_end(h[0], h[1], d[0], d[1]), *inner, _end(h[-1], h[-2], d[-1], d[-2]))


def _end(h0, h1, d0, d1):
    """Slope at an end from three points, held so that the curve does not turn."""
    slope = ((2 * h0 + h1) * d0 - h0 * d1) / (h0 + h1)
    if slope * d0 <= 0:
        return 0.0
    return 3 * d0 if d0 * d1 <= 0 and abs(slope) > 3 * abs(d0) else slope


@lru_cache(maxsize=64)
def falls_of(printing, per_zone):
    """Falls of the prints from 0 to X, so many steps to a zone; kept, because every page of a scene asks again.

    printing: Printing. per_zone: steps. Returns a tuple of ``10 * per_zone + 1`` falls.
    """
    return tuple(printing.fall_for(k / per_zone) for k in range(10 * per_zone + 1))


def shown_lightness(stops, curve=PRINT_CURVE):
    """L* at which a tone is shown, 0..100; beyond the curve's ends their L* stays. stops: from middle grey, a number.

    The same curve as `picture.display.lightness`, which a test holds it to.
    """
    return cubic_at(curve, stops)


def cubic_at(curve, at):
    """Value of the monotone cubic through points, Fritsch & Carlson 1980; beyond its ends it stays. curve: (xs, ys), xs rising, at least three.
    at: a number."""
    x, y = curve
    at = min(max(at, x[0]), x[-1])
    k = min(bisect_right(x, at), len(x) - 1) - 1
    h, slopes = x[k + 1] - x[k], _slopes(curve)
    t = (at - x[k]) / h
    a, b = slopes[k] * h, slopes[k + 1] * h
    return y[k] * (1 + 2 * t) * (1 - t) ** 2 + a * t * (1 - t) ** 2 + y[k + 1] * t**2 * (3 - 2 * t) + b * t**2 * (t - 1)


@lru_cache(maxsize=4096)
def print_of_lightness(l_star):
    """Print of a lightness: the zone whose grey it is. L* below 3 and above 99 are `beyond` the paper.

    >>> print_of_lightness(50.0).zone, print_of_lightness(100.0).zone, print_of_lightness(100.0).beyond
    (5.0, 10.0, 1)
    """
    black, white = PRINT_CURVE[1][0], PRINT_CURVE[1][-1]
    if l_star <= black or l_star >= white:
        beyond = -1 if l_star < black else 1 if l_star > white else 0
        return Print(ZONE_MIN if l_star <= black else ZONE_MAX, beyond)
    stops = _solved(lambda s: shown_lightness(s), l_star, PRINT_CURVE[0][0], PRINT_CURVE[0][-1])
    return Print(round(MIDDLE + stops, 9), 0)


def _solved(rising, wanted, low, high):
    """Where a rising function of one number reaches `wanted`, between low and high."""
    for _ in range(STEPS_BACK):
        middle = (low + high) / 2
        low, high = (middle, high) if rising(middle) < wanted else (low, middle)
    return (low + high) / 2


@dataclass(frozen=True)
class Print:
    """A grey as a zone, 0..10. beyond: -1 blacker than the paper's black, +1 whiter than its white, else 0."""

    zone: float
    beyond: int = 0


def _on_paper(zone):
    """Print of a zone on film after development, which is the zone itself as far as the paper goes."""
    return Print(min(max(zone, ZONE_MIN), ZONE_MAX), (zone > ZONE_MAX) - (zone < ZONE_MIN))


@dataclass(frozen=True)
class Printing:
    """How falls become prints. kind: of the medium. step: of the film's development. tone: contrast, highlights, shadows
    of a setup. lift: stops that are given back in the print, of what was held back on purpose."""

    kind: str = "film"
    step: int = 0
    tone: tuple = (0.0, 0.0, 0.0)
    lift: float = 0.0

    def lightness(self, fall):
        """L* at which a tone that falls there is shown. fall: a zone, not limited to 0..10."""
        stops = developed_zone(fall + self.lift, self.step) - MIDDLE
        shown = shown_lightness(toned_stops(stops, self.tone), curve_for(self.kind))
        if not any(self.tone):
            return shown
        ramp = (stops - SENSOR_WHITE + WHITE_RAMP) / WHITE_RAMP * 100
        return max(shown, min(max(ramp, 0.0), 100.0))

    def print(self, fall):
        """Print of a fall."""
        if curve_for(self.kind) is PRINT_CURVE and not any(self.tone):
            return _on_paper(developed_zone(fall + self.lift, self.step))
        return print_of_lightness(self.lightness(fall))

    def fall_for(self, zone):
        """The fall whose print is `zone`, 0..10: the way back through curve, setup and development.

        A setup may jump over a zone near the sensor's white; the fall is then the edge of the jump.
        """
        if curve_for(self.kind) is PRINT_CURVE and not any(self.tone):
            return undeveloped_zone(zone, self.step) - self.lift
        wanted = shown_lightness(zone - MIDDLE)
        low = MIDDLE - WIDEST_FALL
        high = MIDDLE + WIDEST_FALL
        # At the ends of the paper many falls print alike: the one nearest to the middle is meant.
        if zone >= ZONE_MAX:
            return _solved(self.lightness, wanted - 1e-9, low, high)
        return _solved(lambda fall: self.lightness(fall) - 1e-9, wanted, low, high)
