"""What people write of apertures, times, speeds and stops, read: f/8, 1/125, 1m30, ISO 400, 12 1/3, -⅔.

Names of the camera's own series come first; what lies between marked values is refused with the nearest ones.
"""

import math
import re
from functools import cache

from dimgrey.core.errors import OutOfRange, Unreadable
from dimgrey.core.measure.stops import (
    APERTURES,
    EV_MAX,
    EV_MIN,
    INCREMENT_WORDS,
    SPEEDS,
    TIMES,
    Marked,
    _time_words,
    aperture_stops,
    speed_stops,
    time_stops,
)

_VULGAR = {"⅓": 1 / 3, "⅔": 2 / 3, "½": 0.5, "¼": 0.25, "¾": 0.75}
_MINUS = str.maketrans({"−": "-", "–": "-", "⁄": "/", ",": ".", "″": '"', "”": '"', "“": '"', "\u00a0": " "})


def _clean(text):
    return str(text).translate(_MINUS).strip()


def _search_order(increment):
    """The camera's own series first; another series' names (f/1.7, 1/45) still mean what they mean there."""
    return [increment, *(other for other in INCREMENT_WORDS if other != increment)]


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
    if ANY_TIME_FROM_S < seconds <= LONGEST_S and "/" not in name:
        return typed_time(seconds)
    raise _unmarked("shutter", seconds, TIMES[increment], time_stops(seconds), "{}", _short(text), _time_words)


ANY_TIME_FROM_S, LONGEST_S = 1.0, 36000.0
"""Above one second a time is counted by hand or timer: any can be given, marked or not. Ten hours is a night."""


def typed_time(seconds):
    """A time above one second that is on no scale, as a Marked of its own name. seconds: rounded to a tenth below ten, else to one."""
    rounded = round(seconds, 1) if seconds < 10 else float(round(seconds))
    minutes, rest = divmod(rounded, 60)
    name = f"{rounded:g}" if rounded < 90 else f"{minutes:.0f}m{rest:02.0f}" if rest else f"{minutes:.0f}m"
    return Marked(name, time_stops(rounded), rounded)


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
