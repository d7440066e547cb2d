"""The finishing plan as an open document, "dimgrey-finish" version 1: end points, one curve through the key tones, areas, edge, crop.

Plain values, read strictly; what a plan would cost is said, not forbidden. Source: HANDBOOK 19.
"""

import math
from dataclasses import asdict, dataclass, field, replace
from functools import lru_cache

from dimgrey.core.document.jsontext import loads
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.between import straight_between
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.picture.outline import require_outline
from dimgrey.core.planning.prints import PRINT_CURVE, cubic_at, print_of_lightness, shown_lightness
from dimgrey.core.planning.zones import MIDDLE, ZONE_MAX, ZONE_MIN

FORMAT, VERSION = "dimgrey-finish", 1
END_SHARES = (0.005, 0.995)
"""Shares of the picture at which its black and white point are proposed."""
MOST_STOPS, UNNOTICED_STOPS = 2.0, 0.5
MOST_AREAS, MOST_POINTS, FEATHER = 24, 200, 0.04
LEAST_SLOPE, MOST_SLOPE, DOUBTED_SLOPE = 0.35, 1.5, 2.0
"""Slopes of the curve that a print bears."""
NOISY_ZONES = tuple(k / 2 for k in range(2, 14))
"""Zones in which a steep curve shows noise and breaks smooth tones; above them paper is white enough to hide it."""
SOFT_EDGE = 0.02
TONES = ("neutral", "cold", "warm")
LEAST_APART = 0.15
"""Key tones that lie so close in zones cannot be led to different places by a curve."""


@dataclass(frozen=True)
class Area:
    """A part that is held back or burned in. outline: corners (x, y), fractions. stops: + lighter (dodge), - darker (burn). feather: width of
    its soft edge, of the picture's width. tone: key tone that it belongs to, "" for one drawn by hand. why: in words."""

    name: str
    outline: tuple
    stops: float = 0.0
    feather: float = FEATHER
    tone: str = ""
    why: str = ""


@dataclass(frozen=True)
class Finish:
    """A finishing plan. black, white: L* that become the paper's black and white. curve: (zone as it came out, zone wished) of each key tone.
    edge_stops: burn of the edges, 0 or less; edge_width: of the picture's width. crop: left, top, right, bottom. grain: 0..1."""

    black: float = 0.0
    white: float = 100.0
    curve: tuple = ()
    areas: tuple = ()
    edge_stops: float = 0.0
    edge_width: float = 0.12
    crop: tuple = (0.0, 0.0, 1.0, 1.0)
    grain: float = 0.0
    tone: str = "neutral"
    title: str = ""
    log: tuple = field(default_factory=tuple)


@dataclass(frozen=True)
class Doubt:
    """Something in a plan that will be seen, and what it costs. about: name of an area, "curve" or "edge"."""

    about: str
    text: str


def proposed_finish(tones, black, white, title=""):
    """Finish from what came out to what was wished.

    tones: dictionaries with name, actual (zone), wished ((low, high) or None), at ((x, y) in the result or None). black, white: L* at
    END_SHARES. title: of the plan. The curve takes what it can without turning; what is left becomes areas of at most half a stop.
    """
    bare = Finish(round(black, 1), round(white, 1), title=title)
    wished = [(tone["actual"], _nearest(tone["actual"], tone["wished"]), tone) for tone in tones]
    curve = _bearable(bare, [(actual, wish) for actual, wish, tone in wished if tone["wished"]])
    made, areas = replace(bare, curve=curve), []
    for actual, wish, tone in wished:
        left = wish - led_zone(made, actual) if tone["wished"] else 0.0
        if abs(left) > 1 / 6 and tone.get("at"):
            stops = round(max(min(left, UNNOTICED_STOPS), -UNNOTICED_STOPS), 2)
            why = f"towards {tone['name']} as wished"
            areas.append(Area(tone["name"], square_about(*tone["at"]), stops, FEATHER, tone["name"], why))
    return replace(made, areas=tuple(areas))


def _nearest(actual, span):
    return actual if span is None else min(max(actual, span[0]), span[1])


def square_about(x, y, half=0.06):
    """Corners of a square about a place (x, y), held within the picture. half: of its width."""
    left, right = max(x - half, 0.0), min(x + half, 1.0)
    top, bottom = max(y - half * 1.5, 0.0), min(y + half * 1.5, 1.0)
    return tuple((round(a, 4), round(b, 4)) for a, b in ((left, top), (right, top), (right, bottom), (left, bottom)))


def _bearable(bare, points):
    """Points of a curve that rises everywhere with slopes a print bears: those that ask too much are moved as far as can be.

    bare: Finish with its end points, which stretch what the curve begins with.
    """
    made = []
    for actual, wish in sorted(points):
        if made and actual - made[-1][0] < LEAST_APART:
            # Two alike tones cannot be parted by a curve: it leads the first of them half-way, and areas do the rest.
            before = made.pop()
            actual, wish = before[0], (before[1] + wish) / 2
        if made:
            run = stretched_zone(bare, actual) - stretched_zone(bare, made[-1][0])
            wish = min(max(wish, made[-1][1] + LEAST_SLOPE * run), made[-1][1] + MOST_SLOPE * run)
        made.append((round(actual, 3), round(min(max(wish, ZONE_MIN), ZONE_MAX), 3)))
    return tuple(made)


def stretched_zone(finish, zone):
    """Zone of a print after the end points of a Finish: its black and white become the paper's. zone: 0..10, as it came out."""
    black, white = PRINT_CURVE[1][0], PRINT_CURVE[1][-1]
    share = (shown_lightness(zone - MIDDLE) - finish.black) / (finish.white - finish.black)
    return print_of_lightness(black + min(max(share, 0.0), 1.0) * (white - black)).zone


def led_zone(finish, zone):
    """Zone to which end points and curve of a Finish lead a zone; a key tone of the curve goes exactly to its wish. zone: 0..10, as it came out."""
    return curve_at(stretched_curve(finish), stretched_zone(finish, min(max(zone, ZONE_MIN), ZONE_MAX)))


@lru_cache(maxsize=32)
def stretched_curve(finish):
    """Points of the curve after the end points; those that they push together are left out."""
    made = []
    for x, y in finish.curve:
        at = stretched_zone(finish, x)
        if not made or at > made[-1][0] + 1e-3:
            made.append((at, y))
    return tuple(made)


def curve_at(curve, zone):
    """Zone to which a curve leads a zone: a monotone cubic through its points; beyond the outermost the difference fades to none at 0 and X.

    curve: (zone, zone) rising in both, () for none. Source: Fritsch & Carlson 1980.

    >>> curve_at(((3.0, 4.0),), 3.0), curve_at((), 6.2), curve_at(((3.0, 4.0),), 0.0)
    (4.0, 6.2, 0.0)
    """
    if not curve:
        return float(zone)
    x, y = _with_ends(curve)
    return cubic_at((x, y), zone) if len(x) > 2 else straight_between(min(max(zone, x[0]), x[-1]), x, y)


def _with_ends(curve):
    points = [(x, y) for x, y in curve if ZONE_MIN < x < ZONE_MAX]
    ends = [(ZONE_MIN, next((y for x, y in curve if x <= ZONE_MIN), ZONE_MIN))]
    ends.append((ZONE_MAX, next((y for x, y in curve if x >= ZONE_MAX), ZONE_MAX)))
    rising = [ends[0], *points, ends[1]]
    return tuple(x for x, _ in rising), tuple(y for _, y in rising)


def doubts(finish):
    """Doubt of each part of a plan that will be noticed, with what it costs."""
    found = []
    for area in finish.areas:
        size = abs(area.stops)
        if size > UNNOTICED_STOPS:
            cost = f"noise there rises {2**size:.1f} times" if area.stops > 0 else "its greys close up"
            halo = (
                f"; with so hard an edge a halo shows (make it {SOFT_EDGE * 100:.0f} % and softer)"
                if area.feather < SOFT_EDGE
                else ""
            )
            text = f"{format_stops(size)} stop on {area.name} is noticed: {cost}{halo}. Up to half a stop is not."
            found.append(Doubt(area.name, text))
    found += [Doubt("curve", text) for text in _curve_doubts(finish)]
    if -finish.edge_stops > UNNOTICED_STOPS:
        found.append(
            Doubt(
                "edge",
                f"Edges burned by {format_stops(-finish.edge_stops)} stop look burned; a quarter to a half is felt and not seen.",
            )
        )
    return tuple(found)


def _curve_doubts(finish):
    steepest, at = max(((led_zone(finish, z + 0.5) - led_zone(finish, z)) * 2, z) for z in NOISY_ZONES)
    if finish.curve and steepest > DOUBTED_SLOPE * _stretch(finish):
        yield f"The curve is {steepest:.1f} times as steep near zone {at:g}: noise rises as much, and smooth tones may break into steps."
    range_l = finish.white - finish.black
    if range_l < 60:
        yield f"Black and white point lie {range_l:.0f} L* apart: stretching them so far shows noise {100 / range_l:.1f} times."


def _stretch(finish):
    """By how much the end points alone make the greys steeper."""
    return max((PRINT_CURVE[1][-1] - PRINT_CURVE[1][0]) / (finish.white - finish.black), 1.0)


def require_finish(data):
    """Finish of an open document or of what a page sent. Raises CoreError that names the key and what to do."""
    if not isinstance(data, dict):
        raise CoreError("A finishing plan is an object with keys.", parameter="finish", code="finish")
    if data.get("format", FORMAT) != FORMAT or data.get("version", VERSION) != VERSION:
        raise CoreError(f"This is no {FORMAT} of version {VERSION}.", parameter="format", code="finish-format")
    unknown = set(data) - set(Finish.__dataclass_fields__) - {"format", "version"}
    if unknown:
        raise CoreError(
            f"Unknown key “{sorted(unknown)[0][:40]}” in the finishing plan.", parameter="finish", code="finish-key"
        )
    number = lambda name, low, high, usual: _number(data.get(name, usual), name, low, high)
    black, white = number("black", 0, 60, 0.0), number("white", 40, 100, 100.0)
    if white - black < 20:
        raise CoreError("White must lie at least 20 L* above black.", parameter="white", code="finish-ends")
    tone = data.get("tone", "neutral")
    if tone not in TONES:
        raise CoreError(f"The tone is one of {', '.join(TONES)}.", parameter="tone", code="finish-tone")
    return Finish(
        black,
        white,
        _curve(data.get("curve", ())),
        _areas(data.get("areas", ())),
        number("edge_stops", -MOST_STOPS, 0, 0.0),
        number("edge_width", 0.01, 0.5, 0.12),
        _crop(data.get("crop", (0, 0, 1, 1))),
        number("grain", 0, 1, 0.0),
        tone,
        _text(data.get("title", ""), "title", 120),
        tuple(_text(line, "log", 200) for line in _list(data.get("log", ()), "log", 200)),
    )


def _number(value, name, low, high):
    if (
        isinstance(value, bool)
        or not isinstance(value, int | float)
        or not math.isfinite(value)
        or not low <= value <= high
    ):
        raise CoreError(
            f"{name}: a number from {low:g} to {high:g} (got {value!r:.20}).", parameter=name, code="finish-number"
        )
    return float(value)


def _text(value, name, most):
    if not isinstance(value, str) or len(value) > most:
        raise CoreError(f"{name}: text of at most {most} characters.", parameter=name, code="finish-text")
    return value


def _list(value, name, most):
    if not isinstance(value, list | tuple) or len(value) > most:
        raise CoreError(f"{name}: a list of at most {most}.", parameter=name, code="finish-list")
    return value


def _curve(points):
    made = []
    for point in _list(points, "curve", 24):
        if len(_list(point, "curve", 2)) != 2:
            raise CoreError("A point of the curve is two zones.", parameter="curve", code="finish-curve")
        made.append(tuple(_number(each, "curve", ZONE_MIN, ZONE_MAX) for each in point))
    made.sort()
    for (a, b), (c, d) in zip(made, made[1:], strict=False):
        if c - a < 1e-6 or d <= b:
            raise CoreError(
                "The curve must rise: a lighter tone cannot be led below a darker one. Use an area for it.",
                parameter="curve",
                code="finish-curve",
            )
    return tuple(made)


def _areas(rows):
    made = []
    for row in _list(rows, "areas", MOST_AREAS):
        if not isinstance(row, dict) or set(row) - set(Area.__dataclass_fields__):
            raise CoreError(
                "An area has name, outline, stops, feather, tone and why.", parameter="areas", code="finish-area"
            )
        made.append(
            Area(
                _text(row.get("name", ""), "name", 60) or f"area {len(made) + 1}",
                _outline(row.get("outline", ())),
                _number(row.get("stops", 0.0), "stops", -MOST_STOPS, MOST_STOPS),
                _number(row.get("feather", FEATHER), "feather", 0, 0.5),
                _text(row.get("tone", ""), "tone", 60),
                _text(row.get("why", ""), "why", 200),
            )
        )
    return tuple(made)


def _outline(corners):
    rows = [_list(corner, "outline", 2) for corner in _list(corners, "outline", MOST_POINTS)]
    if any(len(row) != 2 for row in rows):
        raise CoreError("A corner of an outline is two fractions.", parameter="outline", code="finish-outline")
    return require_outline([[_number(each, "outline", -1, 2) for each in row] for row in rows])


def _crop(box):
    box = _list(box, "crop", 4)
    left, top, right, bottom = (_number(each, "crop", 0, 1) for each in (box if len(box) == 4 else (0, 0, 0, 0)))
    if right - left < 0.05 or bottom - top < 0.05:
        raise CoreError("The crop leaves nothing of the picture.", parameter="crop", code="finish-crop")
    return left, top, right, bottom


def finish_file(finish):
    """The open document of a Finish, as a dictionary."""
    return {"format": FORMAT, "version": VERSION, **asdict(finish)}


def load_finish(text):
    """Finish of a file's text. Raises CoreError."""
    return require_finish(loads(text))


def with_area(finish, area):
    """The Finish with one more Area. Raises CoreError where there are too many."""
    return require_finish({**finish_file(finish), "areas": [*finish_file(finish)["areas"], asdict(area)]})


def without_area(finish, number):
    """The Finish without its area of that number, from 1."""
    return replace(finish, areas=tuple(area for k, area in enumerate(finish.areas, 1) if k != number))
