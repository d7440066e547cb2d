"""Exposure value, luminance and the settings that give one exposure."""

import math
from dataclasses import dataclass

from dimgrey.core.errors import require_positive
from dimgrey.core.measure.stops import APERTURES, TIMES, Marked, aperture_stops, nearest, time_stops

K_REFLECTED = 12.5
"""Calibration constant of reflected-light meters, cd/m2 s ISO (ISO 2720:1974, clause 7; some makers use 14)."""

C_FLAT, C_DOME = 250.0, 330.0
"""Calibration constants of incident-light meters, lux s ISO: flat receptor and dome (ISO 2720:1974, clause 7)."""


def exposure_value(f_number, exposure_time_s):
    """Exposure value of a camera setting, ``EV = log2(N**2 / t)``.

    f_number: above 0. exposure_time_s: seconds, above 0. Returns stops; 0 at f/1 and 1 s.
    Raises OutOfRange, naming the parameter, for zero, negative or not finite.
    Source: ISO 2720:1974, annex.

    >>> exposure_value(16, 1 / 128)
    15.0
    """
    n = require_positive(f_number, "f_number", "Write f/8.")
    t = require_positive(exposure_time_s, "exposure_time_s", "For 1/125 s write 1/125.")
    return math.log2(n * n / t)


def ev100(f_number, exposure_time_s, iso):
    """Exposure value referred to ISO 100, ``EV100 = log2(N**2 / t) - log2(S / 100)``.

    iso: arithmetic speed above 0 (ISO 12232:2019). Returns stops.

    >>> ev100(8, 1 / 64, 400)
    10.0
    """
    return exposure_value(f_number, exposure_time_s) - math.log2(require_positive(iso, "iso", "Write 100.") / 100)


def luminance_cd_m2(ev, k=K_REFLECTED):
    """Luminance that a reflected meter calls EV100, ``L = K / 100 * 2**EV100``; EV 15 is 4096 cd/m2 at K = 12.5.

    Source: ISO 2720:1974, clause 7.
    """
    return k / 100 * 2.0**ev


def ev100_of_luminance(luminance, k=K_REFLECTED):
    """EV100 of a luminance in cd/m2 with a meter constant k, the inverse of `luminance_cd_m2`. Raises OutOfRange at 0 and below."""
    return math.log2(require_positive(luminance, "luminance", "A spot without light has no EV.") * 100 / k)


def illuminance_lux(ev, c=C_FLAT):
    """Illuminance that an incident meter calls EV100, ``E = C / 100 * 2**EV100`` (ISO 2720:1974, clause 7)."""
    return c / 100 * 2.0**ev


def exposure_time_s(setting_ev100, f_number, iso):
    """Time that exposes for EV100 at an aperture and speed, ``t = N**2 * 100 / (S * 2**EV)``; seconds, exact."""
    return f_number**2 * 100 / (iso * 2.0**setting_ev100)


def f_number_for(setting_ev100, time_s, iso):
    """Aperture that exposes for EV100 at a time and speed, ``N = sqrt(t * S / 100 * 2**EV)``; exact."""
    return math.sqrt(time_s * iso / 100 * 2.0**setting_ev100)


@dataclass(frozen=True)
class Limits:
    """What the camera and lens can do: widest and smallest f-number, shortest and longest time in seconds, exact."""

    f_min: float = 2 ** (2 / 2)
    f_max: float = 2 ** (9 / 2)
    time_min_s: float = 2.0**-12
    time_max_s: float = 2.0**5


@dataclass(frozen=True)
class Combination:
    """One aperture with its shutter: both marked, the exact time, and the error of marking in stops (+ is over)."""

    aperture: Marked
    shutter: Marked
    seconds: float
    rounding_stops: float


def combinations(setting_ev100, iso, increment="third", limits=None):
    """Every marked aperture with the marked time that gives the exposure, within the camera's limits.

    setting_ev100: stops. iso: speed. increment: "full", "half", "third". limits: Limits or None for the default.
    Returns a tuple of Combination, widest aperture first; empty when the camera cannot expose for this light.
    """
    limits = limits or Limits()
    slack = 0.5 / 3
    found = []
    for aperture in APERTURES[increment]:
        if not limits.f_min * 0.99 <= aperture.exact <= limits.f_max * 1.01:
            continue
        seconds = exposure_time_s(setting_ev100, aperture.exact, iso)
        stops = time_stops(seconds)
        if time_stops(limits.time_min_s) - slack <= stops <= time_stops(limits.time_max_s) + slack:
            shutter = nearest(TIMES[increment], stops)
            found.append(Combination(aperture, shutter, seconds, shutter.stops - stops))
    return tuple(found)


def marked_aperture(f_number, increment="third"):
    """The marked aperture nearest to an exact f-number."""
    return nearest(APERTURES[increment], aperture_stops(f_number))


def marked_time(seconds, increment="third"):
    """The marked time nearest to an exact time in seconds."""
    return nearest(TIMES[increment], time_stops(seconds))
