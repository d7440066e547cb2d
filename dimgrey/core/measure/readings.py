"""A meter reading as people write it: an EV, or a shutter time with an aperture and perhaps a speed."""

import re
from datetime import UTC, datetime

from dimgrey.core.errors import OutOfRange, Unreadable
from dimgrey.core.measure.exposure import ev100
from dimgrey.core.measure.notation import parse_aperture, parse_ev, parse_speed, parse_time, require_ev
from dimgrey.core.measure.stops import written_aperture, written_time

_APERTURE = re.compile(r"(?<![a-z])f\s*/?\s*-?[\d.,]+", re.IGNORECASE)
_SPEED = re.compile(r"(?:iso|@)\s*-?[\d.,]+", re.IGNORECASE)


def parse_reading(text, iso="100", increment="third"):
    """A reading in the scene file's own form: {"ev100": 13.33} or {"shutter": .., "aperture": .., "iso": ..}.

    text: "13⅓", "EV 12.3", "1/125 f/8", "f8 2s ISO 400". iso: marked speed meant when none is written.
    Raises Unreadable or OutOfRange with the way out.
    """
    written = str(text).strip()
    if not written:
        raise Unreadable("Type a reading: an EV such as 12⅓, or 1/125 f/8.", parameter="reading", code="reading-empty")
    aperture = _APERTURE.search(written)
    if not aperture:
        return {"ev100": _as_ev(written)}
    speed = _SPEED.search(written)
    rest = written.replace(aperture.group(), " ").replace(speed.group() if speed else "\0", " ")
    rest = rest.replace(" at ", " ").strip(" ,;@")
    if not rest:
        raise Unreadable(
            f"“{written[:24]}” has an aperture but no time. Write 1/125 f/8.",
            parameter="reading",
            code="reading-incomplete",
        )
    f = parse_aperture(aperture.group(), increment)
    t = parse_time(rest, increment)
    s = parse_speed(speed.group().lstrip("@") if speed else iso, increment)
    require_ev(ev100(f.exact, t.exact, s.exact))
    return {
        "shutter": written_time(t),
        "aperture": written_aperture(f),
        "iso": s.name,
    }


def _as_ev(written):
    if re.fullmatch(r"\s*1\s*/\s*\d\d+\s*(s|sec)?\s*", written):
        raise Unreadable(
            f"“{written}” is a time without an aperture. Write {written.strip()} f/8, or an EV.",
            parameter="reading",
            code="reading-incomplete",
        )
    return round(parse_ev(written), 4)


FOOT_M = 0.3048
LENGTHS_M = {"m": 1.0, "cm": 0.01, "mm": 0.001, "km": 1000.0, "ft": FOOT_M}


class Length(float):
    """Metres, and the unit that was typed: "m", "ft", or "" for none."""

    unit = ""


def parse_distance(text, unit="m"):
    """Length from "2.5", "2.5 m", "80 cm", "8 ft" or "infinity". unit: of a bare number. Raises Unreadable or OutOfRange.

    >>> parse_distance("80 cm")
    0.8
    """
    word = text.strip().lower().replace(",", ".")
    if word in ("infinity", "inf", "∞", "far"):
        return Length("inf")
    match = re.fullmatch(r"(\d+(?:\.\d+)?)\s*(m|cm|mm|km|ft)?", word)
    if not match:
        raise Unreadable(
            f"“{text.strip()}” is not a distance. Write 2.5 m, 80 cm or infinity.",
            parameter="distance",
            code="distance",
        )
    metres = Length(float(match[1]) * LENGTHS_M[match[2] or unit])
    metres.unit = "ft" if match[2] == "ft" else "m" if match[2] else ""
    if not 0.01 <= metres <= 100_000:
        raise OutOfRange(f"A distance is 1 cm to 100 km (got {text.strip()}).", parameter="distance", code="distance")
    return metres


KINDS = ("spot", "incident", "whole frame", "grey card", "estimate", "picture")
"""Kinds of readings, as the scene file names them; people type the first four."""
TYPED_KINDS = KINDS[:4]
STALE_MINUTES, STALE_LOW_SUN_MINUTES = 10, 3
"""How long a typed reading is taken as fresh: outdoors, and within an hour of sunrise or sunset. Defaults."""
OLD_HOURS = 12


def reading_age(taken_at, now, low_sun=False):
    """(age in words, whether it is stale) of a reading; ("", False) for one of this minute or without a time.

    taken_at: ISO 8601, taken as UTC without a zone. now: aware datetime. low_sun: the light changes by the minute.
    Readings of another day are dated and no longer called stale.
    """
    try:
        taken = datetime.fromisoformat(taken_at)
    except ValueError:
        return "", False
    minutes = (now - (taken if taken.tzinfo else taken.replace(tzinfo=UTC))).total_seconds() / 60
    if minutes < 1:
        return "", False
    if minutes > OLD_HOURS * 60:
        return f"{taken:%d %b}", False
    limit = STALE_LOW_SUN_MINUTES if low_sun else STALE_MINUTES
    return f"{minutes:.0f} min ago" if minutes < 90 else f"{minutes / 60:.0f} h ago", minutes > limit
