"""A meter reading as people write it: an EV, or a shutter time with an aperture and perhaps a speed."""

import re

from dimgrey.core.errors import Unreadable
from dimgrey.core.exposure import ev100
from dimgrey.core.stops import parse_aperture, parse_ev, parse_speed, parse_time, require_ev

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
        "shutter": t.name if "/" in t.name or "m" in t.name else f"{t.name}s",
        "aperture": f"f/{f.name}",
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
