"""Marked and exact values of aperture, time and speed.

Marked stops are names, not numbers: f/11 is 2**(7/2) = 11.314, 1/125 s is 2**-7 s, 30 s is 32 s and ISO 125 is
100 * 2**(1/3). Everything inside Dimgrey is exact; only what is shown or dialled is marked.
Source of the series: ISO 2720:1974, ISO 12232:2019 (speed), and the engraving customs of lenses and shutters.
"""

import bisect
import math
from dataclasses import dataclass

INCREMENTS = {"full": 1, "half": 2, "third": 3}
INCREMENT_WORDS = {"third": "thirds", "half": "halves", "full": "whole stops"}
"""The finest first."""

EV_MIN, EV_MAX = -6.0, 20.0

_F_FULL = "0.7 1 1.4 2 2.8 4 5.6 8 11 16 22 32 45 64 90"
_F_HALF = "0.7 0.8 1 1.2 1.4 1.7 2 2.4 2.8 3.3 4 4.8 5.6 6.7 8 9.5 11 13 16 19 22 27 32 38 45 54 64 76 90"
_F_THIRD = (
    "0.7 0.8 0.9 1 1.1 1.2 1.4 1.6 1.8 2 2.2 2.5 2.8 3.2 3.5 4 4.5 5 5.6 6.3 7.1 8 9 10 11 13 14 16 18 20 22 25 29 32 "
    "36 40 45 51 57 64 72 80 90"
)
_T_FULL = (
    "1/16000 1/8000 1/4000 1/2000 1/1000 1/500 1/250 1/125 1/60 1/30 1/15 1/8 1/4 1/2 1 2 4 8 15 30 "
    "1m 2m 4m 8m 16m 32m 64m"
)
_T_HALF = (
    "1/16000 1/12000 1/8000 1/6000 1/4000 1/3000 1/2000 1/1500 1/1000 1/750 1/500 1/350 1/250 1/180 1/125 1/90 1/60 "
    "1/45 1/30 1/20 1/15 1/10 1/8 1/6 1/4 1/3 1/2 0.7 1 1.5 2 3 4 6 8 10 15 20 30 45 1m 1m30 2m 3m 4m 6m 8m 11m 16m "
    "23m 32m 45m 64m"
)
_T_THIRD = (
    "1/16000 1/12800 1/10000 1/8000 1/6400 1/5000 1/4000 1/3200 1/2500 1/2000 1/1600 1/1250 1/1000 1/800 1/640 1/500 "
    "1/400 1/320 1/250 1/200 1/160 1/125 1/100 1/80 1/60 1/50 1/40 1/30 1/25 1/20 1/15 1/13 1/10 1/8 1/6 1/5 1/4 0.3 "
    "0.4 0.5 0.6 0.8 1 1.3 1.6 2 2.5 3.2 4 5 6 8 10 13 15 20 25 30 40 50 1m 1m20 1m40 2m 2m40 3m20 4m 5m20 6m40 8m "
    "10m40 13m20 16m 21m20 26m40 32m 42m40 53m20 64m"
)
_S_FULL = "6 12 25 50 100 200 400 800 1600 3200 6400 12800 25600 51200 102400"
_S_HALF = (
    "6 9 12 18 25 35 50 70 100 140 200 280 400 560 800 1100 1600 2200 3200 4500 6400 9000 12800 18000 25600 36000 "
    "51200 72000 102400"
)
_S_THIRD = (
    "6 8 10 12 16 20 25 32 40 50 64 80 100 125 160 200 250 320 400 500 640 800 1000 1250 1600 2000 2500 3200 4000 "
    "5000 6400 8000 10000 12800 16000 20000 25600 32000 40000 51200 64000 80000 102400"
)


@dataclass(frozen=True)
class Marked:
    """One engraved value: its `name` without unit, its place on the scale in `stops`, and its `exact` value."""

    name: str
    stops: float
    exact: float


def _series(text, first_stop, divisions, exact):
    return tuple(
        Marked(name, first_stop + k / divisions, exact(first_stop + k / divisions))
        for k, name in enumerate(text.split())
    )


def _aperture(stops):
    return 2 ** (stops / 2)


def _time(stops):
    return 2.0**stops


def _speed(stops):
    return 100 * 2.0**stops


APERTURES = {
    name: _series(text, -1, INCREMENTS[name], _aperture)
    for name, text in (("full", _F_FULL), ("half", _F_HALF), ("third", _F_THIRD))
}
TIMES = {
    name: _series(text, -14, INCREMENTS[name], _time)
    for name, text in (("full", _T_FULL), ("half", _T_HALF), ("third", _T_THIRD))
}
SPEEDS = {
    name: _series(text, -4, INCREMENTS[name], _speed)
    for name, text in (("full", _S_FULL), ("half", _S_HALF), ("third", _S_THIRD))
}


def nearest(series, stops):
    """The marked value of `series` closest to a place on its scale, in stops. Ties go to the smaller value."""
    places = [marked.stops for marked in series]
    at = bisect.bisect_left(places, stops)
    around = series[max(0, at - 1) : at + 1] or series[-1:]
    return min(around, key=lambda marked: abs(marked.stops - stops))


def aperture_stops(f_number):
    """Place of an f-number on the aperture scale, ``2 log2(N)`` stops; 0 at f/1."""
    return 2 * math.log2(f_number)


def time_stops(exposure_time_s):
    """Place of a time on the shutter scale, ``log2(t)`` stops; 0 at 1 s."""
    return math.log2(exposure_time_s)


def speed_stops(iso):
    """Place of a speed on the ISO scale, ``log2(S / 100)`` stops; 0 at ISO 100."""
    return math.log2(iso / 100)


def marked_speed(iso, increment="third"):
    """The marked ISO speed nearest to an exact one."""
    return nearest(SPEEDS[increment], speed_stops(iso))


# --- showing ---------------------------------------------------------------------------------------------------------

_FRACTIONS = {0: "", 4: "⅓", 6: "½", 8: "⅔"}
"""Twelfths of a stop, and how they are written."""
_TWELFTHS = ((2, 0), (5, 4), (7, 6), (10, 8))
"""Up to so many twelfths a rest is shown as so many: the nearest of whole, third and half. What lies between goes up."""


def shown_twelfths(stops, divisions=None):
    """Stops as they are shown, in twelfths: the nearest of whole, ⅓, ½ and ⅔, ties up. A number is rounded here and nowhere else.

    stops: finite number. divisions: 1, 2 or 3 for a camera's own steps, None for what is measured or kept. Source: HANDBOOK 23.

    >>> [shown_twelfths(s) for s in (6.5, 6.41, 1 / 6, -1 / 6, 0.9)]
    [78, 76, 4, 0, 12]
    """
    if divisions is not None:
        return math.floor(stops * divisions + 0.5 + 1e-9) * 12 // divisions
    whole = math.floor(stops + 1e-9)
    rest = (stops - whole) * 12 + 1e-6
    return whole * 12 + next((shown for limit, shown in _TWELFTHS if rest < limit), 12)


def format_stops(stops, divisions=None, signed=False):
    """Stops or EV in words: 12.33 -> "12⅓", 6.5 -> "6½", -0.67 -> "−⅔", 0 -> "0".

    stops: finite number. divisions: as of `shown_twelfths`. signed: put "+" before a gain.
    """
    parts = shown_twelfths(stops, divisions)
    whole, rest = divmod(abs(parts), 12)
    fraction = _FRACTIONS[rest]
    if parts == 0:
        return "0"
    text = f"{whole}{fraction}" if whole else fraction
    return ("−" if parts < 0 else "+" if signed else "") + text


def counted_stops(stops, divisions=None, signed=False):
    """Stops with their unit: "⅔ stop", "1 stop", "2⅓ stops". divisions, signed: as of `format_stops`."""
    return with_unit(format_stops(stops, divisions, signed))


def with_unit(text):
    """A written number of stops with its unit: one of them and parts of one are "stop".

    >>> with_unit("1"), with_unit("−⅔"), with_unit("1.5"), with_unit("0")
    ('1 stop', '−⅔ stop', '1.5 stops', '0 stops')
    """
    return f"{text} stop" if text.lstrip("+-−") in ("1", "⅓", "½", "⅔") else f"{text} stops"


def format_aperture(marked):
    """A marked aperture as it is engraved: f/8."""
    return f"f/{marked.name}"


def format_time(marked):
    """A marked time as people read it: "1/125", "0.5 s", "4 s", "1 min 20 s"."""
    return _time_words(marked.name)


def written_aperture(marked):
    """An aperture as scene files write it: "f/8"."""
    return f"f/{marked.name}"


def written_time(marked):
    """A time as scene files write it, so that it reads back as the same: "1/125", "2s", "1m30"."""
    return marked.name if "/" in marked.name or "m" in marked.name else f"{marked.name}s"


def _time_words(name):
    if "/" in name:
        return name
    minutes, _, seconds = name.partition("m")
    if "m" in name:
        return f"{minutes} min {seconds} s" if seconds else f"{minutes} min"
    return f"{name} s"


def format_seconds(seconds):
    """An exact time rounded for reading: 5.24 -> "5.2 s", 174 -> "2 min 54 s", 0.004 -> "1/256 s"."""
    if seconds < 0.3:
        return f"1/{1 / seconds:.0f} s"
    if seconds < 9.95:
        return f"{seconds:.1f} s"
    whole = round(seconds)
    if whole < 90:
        return f"{whole} s"
    if whole < 3600:
        minutes, rest = divmod(whole, 60)
        return f"{minutes} min {rest} s" if rest else f"{minutes} min"
    hours, rest = divmod(round(whole / 60), 60)
    return f"{hours} h {rest} min" if rest else f"{hours} h"
