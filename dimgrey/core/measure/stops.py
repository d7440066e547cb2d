"""Marked and exact values of aperture, time and speed.

Marked stops are names, not numbers: f/11 is 2**(7/2) = 11.314, 1/125 s is 2**-7 s, 30 s is 32 s and ISO 125 is
100 * 2**(1/3). Everything inside Dimgrey is exact; only what is shown or dialled is marked.
Source of the series: ISO 2720:1974, ISO 12232:2019 (speed), and the engraving customs of lenses and shutters.
"""

import bisect
import math
import re
from dataclasses import dataclass
from functools import cache

from dimgrey.core.errors import OutOfRange, Unreadable

INCREMENTS = {"full": 1, "half": 2, "third": 3}

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

_THIRDS = {0: "", 1: "⅓", 2: "⅔"}
_HALVES = {0: "", 1: "½"}


def format_stops(stops, divisions=3, signed=False):
    """Stops or EV in words of thirds or halves: 12.33 -> "12⅓", -0.67 -> "−⅔", 0 -> "0".

    stops: finite number. divisions: 1, 2 or 3 parts of a stop to round to. signed: put "+" before a gain.
    """
    parts = round(abs(stops) * divisions)
    whole, rest = divmod(parts, divisions)
    fraction = (_HALVES if divisions == 2 else _THIRDS)[rest] if rest else ""
    text = f"{whole}{fraction}" if whole or not fraction else fraction
    if parts == 0:
        return "0"
    return ("−" if stops < 0 else "+" if signed else "") + text


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


# --- reading what people write ---------------------------------------------------------------------------------------

_VULGAR = {"⅓": 1 / 3, "⅔": 2 / 3, "½": 0.5, "¼": 0.25, "¾": 0.75}
_MINUS = str.maketrans({"−": "-", "–": "-", "⁄": "/", ",": ".", "″": '"', "”": '"', "“": '"', "\u00a0": " "})


def _clean(text):
    return str(text).translate(_MINUS).strip()


def _search_order(increment):
    """The camera's own series first; another series' names (f/1.7, 1/45) still mean what they mean there."""
    return [increment, *(other for other in ("third", "half", "full") if other != increment)]


@cache
def _names(kind, increment):
    table = {"aperture": APERTURES, "time": TIMES, "speed": SPEEDS}[kind][increment]
    return {marked.name: marked for marked in table}


def _find(kind, name, increment):
    for order in _search_order(increment):
        marked = _names(kind, order).get(name)
        if marked:
            return marked
    return None


def _plain_number(text):
    """'8.0' -> '8', '0.50' -> '0.5'; '' when the text is not a plain decimal number."""
    if not re.fullmatch(r"\d{1,12}(\.\d{1,6})?|\.\d{1,6}", text):
        return ""
    return f"{float(text):.6f}".rstrip("0").rstrip(".")


def parse_aperture(text, increment="third"):
    """The marked aperture that was written: "f/8", "f8", "F 8", "8".

    increment: "full", "half" or "third", the camera's own. Returns Marked.
    Raises Unreadable or OutOfRange with the nearest marked values.
    """
    cleaned = _clean(text)
    match = re.fullmatch(r"(?:[fF]\s*/?\s*)?(-?)\s*([\d.]+)", cleaned)
    number = _plain_number(match.group(2)) if match else ""
    if not number:
        raise Unreadable(
            f"“{_short(text)}” is not an aperture. Write f/8, f8 or 8.",
            parameter="aperture",
            code="aperture-unreadable",
        )
    value = float(number)
    if value <= 0 or match.group(1):
        raise OutOfRange(
            f"An f-number must be more than 0 (got {_short(text)}). Write f/8 or 8.",
            parameter="aperture",
            code="not-positive",
        )
    marked = _find("aperture", number, increment)
    if marked:
        return marked
    raise _unmarked("aperture", value, APERTURES[increment], aperture_stops(value), "f/{}", f"f/{number}")


def parse_time(text, increment="third"):
    """The marked shutter time that was written: "1/125", "125", '0.5"', "2s", "2 s", "1m30", "4 min".

    A bare whole number from 2 up is a fraction of a second, as cameras show it: "125" is 1/125 s. Write "2s" for
    two seconds. Returns Marked; raises Unreadable or OutOfRange with the nearest marked values.
    """
    name, seconds = _time_name(text)
    if not name:
        raise Unreadable(
            f'“{_short(text)}” is not a shutter time. Write 1/125, 0.5", 2s or 1m30.',
            parameter="shutter",
            code="shutter-unreadable",
        )
    if seconds <= 0:
        raise OutOfRange(
            f"Exposure time must be more than 0 s (got {_short(text)}). For 1/125 s write 1/125.",
            parameter="shutter",
            code="not-positive",
        )
    marked = _find("time", name, increment) or _equal_time(seconds, increment)
    if marked:
        return marked
    raise _unmarked("shutter", seconds, TIMES[increment], time_stops(seconds), "{}", _short(text), _time_words)


def _time_name(text):
    cleaned = _clean(text).lower().removesuffix(".")
    if re.fullmatch(r"-\s*[\d./]{1,12}\s*(s|sec|m|min|\")?", cleaned):
        return "negative", -1.0
    fraction = re.fullmatch(r"1\s*/\s*(\d{1,9})\s*(?:s|sec|\")?", cleaned)
    if fraction:
        denominator = int(fraction.group(1))
        return f"1/{denominator}", 1 / denominator if denominator else 0.0
    minutes = re.fullmatch(r"(\d{1,4})\s*(?:m|min|')\s*(?:(\d{1,2})\s*(?:s|sec|\")?)?", cleaned)
    if minutes:
        whole, rest = int(minutes.group(1)), int(minutes.group(2) or 0)
        return f"{whole}m{rest:02d}" if rest else f"{whole}m", whole * 60.0 + rest
    seconds = re.fullmatch(r"([\d.]{1,12})\s*(s|sec|\")", cleaned)
    if seconds:
        number = _plain_number(seconds.group(1))
        return number, float(number) if number else 0.0
    number = _plain_number(cleaned)
    if not number:
        return "", 0.0
    if "." not in number and int(number) >= 2:
        return f"1/{number}", 1 / int(number)
    return number, float(number)


def _equal_time(seconds, increment):
    """A marked time whose nominal value is the same number of seconds: 60 s is 1 min, 0.5 s is 1/2."""
    for order in _search_order(increment):
        for marked in TIMES[order]:
            if math.isclose(_nominal_seconds(marked.name), seconds, rel_tol=1e-6):
                return marked
    return None


def _nominal_seconds(name):
    if "/" in name:
        return 1 / int(name.partition("/")[2])
    minutes, m, rest = name.partition("m")
    return int(minutes) * 60 + int(rest or 0) if m else float(name)


def parse_speed(text, increment="third"):
    """The marked ISO speed that was written: "ISO 400", "400". Returns Marked."""
    cleaned = re.sub(r"^iso\s*", "", _clean(text).lower())
    number = _plain_number(cleaned.removeprefix("-"))
    if not number:
        raise Unreadable(
            f"“{_short(text)}” is not an ISO speed. Write 400 or ISO 400.", parameter="iso", code="iso-unreadable"
        )
    value = float(number)
    if value <= 0 or cleaned.startswith("-"):
        raise OutOfRange(
            f"ISO speed must be more than 0 (got {_short(text)}). Write 400.", parameter="iso", code="not-positive"
        )
    marked = _find("speed", number, increment)
    if marked:
        return marked
    raise _unmarked("iso", value, SPEEDS[increment], speed_stops(value), "ISO {}", f"ISO {number}")


def _unmarked(parameter, value, series, stops, pattern, written, words=str):
    """The refusal for a number that is on no scale, with the one or two marked values beside it."""
    if not math.isfinite(stops) or not series[0].stops - 0.5 <= stops <= series[-1].stops + 0.5:
        low, high = (pattern.format(words(series[k].name)) for k in (0, -1))
        return OutOfRange(
            f"{written} is outside the scale, which runs from {low} to {high}.", parameter=parameter, code="off-scale"
        )
    by_distance = sorted(series, key=lambda marked: abs(marked.stops - stops))[:2]
    names = " or ".join(pattern.format(words(m.name)) for m in sorted(by_distance, key=lambda m: m.stops))
    return OutOfRange(f"{written} is not a marked value. Nearest: {names}.", parameter=parameter, code="not-marked")


def parse_stops(text, parameter="stops"):
    """A number of stops or EV as people write it: "12.3", "12 1/3", "12⅓", "−⅔", "EV 12,3", "+1".

    Returns a float. Raises Unreadable.
    """
    cleaned = re.sub(r"^ev\s*", "", _clean(text), flags=re.IGNORECASE)
    match = re.fullmatch(
        r"([+-]?)\s*(?:(\d{1,12}(?:\.\d{1,6})?|\.\d{1,6})?\s*(?:([⅓⅔½¼¾])|(?:(?<=\s)|(?<![\d.]))(\d)\s*/\s*(\d))?)\s*(?:ev)?",
        cleaned,
        flags=re.IGNORECASE,
    )
    if not match or not any(match.group(k) for k in (2, 3, 4)):
        raise Unreadable(
            f"“{_short(text)}” is not a number of stops. Write 12.3, 12 1/3 or 12⅓.",
            parameter=parameter,
            code="stops-unreadable",
        )
    sign, whole, vulgar, top, bottom = match.groups()
    if bottom == "0":
        raise Unreadable(
            f"“{_short(text)}” divides by zero. Write 12 1/3 for twelve and a third.",
            parameter=parameter,
            code="stops-unreadable",
        )
    fraction = _VULGAR[vulgar] if vulgar else int(top) / int(bottom) if top else 0.0
    value = float(whole or 0) + fraction
    return -value if sign == "-" else value


def parse_ev(text):
    """An EV100 reading, -6 to 20. Raises Unreadable or OutOfRange."""
    return require_ev(parse_stops(text, parameter="ev100"))


def require_ev(value):
    """`value` if it is a plausible EV100 (HANDBOOK 2: nothing outside -6..20 is a reading of a scene)."""
    if not EV_MIN <= value <= EV_MAX:
        shown = format(value, ".6g").replace("-", "−")
        raise OutOfRange(
            f"EV {shown} is outside what a meter reads in a scene (−6 to 20). Sunlit ground is about 15, a lamplit room 6.",
            parameter="ev100",
            code="ev-out-of-range",
        )
    return float(value)


def _short(text, limit=24):
    cleaned = " ".join(str(text).split())
    return cleaned if len(cleaned) <= limit else cleaned[: limit - 1] + "…"
