"""The finishing plan as an open document, "dimgrey-finish" version 1: end points, one curve through the key tones, areas, edge, crop.

Plain values, read strictly; what a plan would cost is said, not forbidden. Source: HANDBOOK 19.
"""

from dataclasses import dataclass, replace
from functools import lru_cache

from dimgrey.core.document.jsontext import loads
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.interpolation import straight_between
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.picture.outline import require_outline
from dimgrey.core.planning.prints import PRINT_CURVE, cubic_at, print_of_lightness, shown_lightness
from dimgrey.core.planning.zones import MIDDLE, ZONE_MAX, ZONE_MIN
from dimgrey.core.shapes.declare import Shaped, exactly, key, many, number, one_of, several, text
from dimgrey.core.shapes.format import Format
from dimgrey.core.shapes.plain import whole_part

END_SHARES = (0.005, 0.995)
"""Shares of the picture at which its black and white point are proposed."""
MOST_STOPS, UNNOTICED_STOPS = 2.0, 0.5
MOST_AREAS, MOST_POINTS, MOST_CURVE, MOST_LOG, FEATHER = 24, 200, 24, 200, 0.04
LEAST_CROP, LEAST_RANGE = 0.05, 20
"""Least side of a crop, and least L* between black and white."""
LEAST_SLOPE, MOST_SLOPE, DOUBTED_SLOPE = 0.35, 1.5, 2.0
"""Slopes of the curve that a print bears."""
NOISY_ZONES = tuple(k / 2 for k in range(2, 14))
"""Zones in which a steep curve shows noise and breaks smooth tones; above them paper is white enough to hide it."""
SOFT_EDGE = 0.02
TONES = ("neutral", "cold", "warm")
LEAST_APART = 0.15
"""Key tones that lie so close in zones cannot be led to different places by a curve."""


FRACTION = number(0, 1)


def _rising(points):
    """Points of a curve in their order. Raises CoreError for a curve that does not rise."""
    made = sorted(tuple(float(each) for each in point) for point in points)
    for (a, b), (c, d) in zip(made, made[1:], strict=False):
        if c - a < 1e-6 or d <= b:
            raise CoreError("must rise: a lighter tone cannot be led below a darker one. Use an area for it.")
    return tuple(made)


def _box(box):
    left, top, right, bottom = box
    if right - left < LEAST_CROP or bottom - top < LEAST_CROP:
        raise CoreError("leaves nothing of the picture.")
    return tuple(float(each) for each in box)


@dataclass(frozen=True)
class Area(Shaped):
    """A part that is held back or burned in. outline: corners (x, y), fractions. stops: + lighter (dodge), - darker (burn). feather: width of
    its soft edge, of the picture's width. tone: key tone that it belongs to, "" for one drawn by hand. why: in words."""

    name: str = key(text(60), "")
    outline: tuple = key(several(exactly(2, number(-1, 2)), most=MOST_POINTS), (), always=True, reads=require_outline)
    stops: float = key(number(-MOST_STOPS, MOST_STOPS), 0.0, reads=float)
    feather: float = key(number(0, 0.5), FEATHER, reads=float)
    tone: str = key(text(60), "")
    why: str = key(text(200), "")


@dataclass(frozen=True)
class Finish(Shaped):
    """A finishing plan. black, white: L* that become the paper's black and white. curve: (zone as it came out, zone wished) of each key tone.
    edge_stops: burn of the edges, 0 or less; edge_width: of the picture's width. crop: left, top, right, bottom. grain: 0..1."""

    black: float = key(number(0, 60), 0.0, reads=float)
    white: float = key(number(40, 100), 100.0, reads=float)
    curve: tuple = key(several(exactly(2, number(ZONE_MIN, ZONE_MAX)), most=MOST_CURVE), (), reads=_rising)
    areas: tuple = many(Area, MOST_AREAS)
    edge_stops: float = key(number(-MOST_STOPS, 0), 0.0, reads=float)
    edge_width: float = key(number(0.01, 0.5), 0.12, reads=float)
    crop: tuple = key(exactly(4, FRACTION), (0.0, 0.0, 1.0, 1.0), reads=_box)
    grain: float = key(FRACTION, 0.0, reads=float)
    tone: str = key(one_of(*TONES), TONES[0])
    title: str = key(text(120), "")
    log: tuple = key(several(text(200), most=MOST_LOG), ())

    def contradictions(self):
        if self.white - self.black < LEAST_RANGE:
            yield f"white: must lie at least {LEAST_RANGE} L* above black."


FINISH = Format("finish", Finish, 1, begun=20)


@dataclass(frozen=True)
class ToneInPicture:
    """A key tone as it came out. actual: its print. wished: (low, high) zones, or None. at: (x, y) in the result, or None. end: 1 lost
    in white, -1 in black, 0 neither."""

    name: str
    actual: float
    wished: tuple | None = None
    at: tuple | None = None
    end: int = 0


@dataclass(frozen=True)
class Doubt:
    """Something in a plan that will be seen, and what it costs. about: name of an area, "curve" or "edge"."""

    about: str
    text: str


def proposed_finish(tones, black, white, title=""):
    """Finish from what came out to what was wished.

    tones: ToneInPicture of each. black, white: L* at
    END_SHARES. title: of the plan. The curve takes what it can without turning; what is left becomes areas of at most half a stop.
    """
    bare = Finish(round(black, 1), round(white, 1), title=title)
    wished = [(tone.actual, _nearest(tone.actual, tone.wished), tone) for tone in tones]
    curve = _bearable(bare, [(actual, wish) for actual, wish, tone in wished if tone.wished])
    made, areas = replace(bare, curve=curve), []
    for actual, wish, tone in wished:
        left = wish - led_zone(made, actual) if tone.wished else 0.0
        if abs(left) > 1 / 6 and tone.at:
            stops = round(max(min(left, UNNOTICED_STOPS), -UNNOTICED_STOPS), 2)
            why = f"towards {tone.name} as wished"
            areas.append(Area(tone.name, square_about(*tone.at), stops, FEATHER, tone.name, why))
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
    """Finish of an open document or of what a page sent. Raises DocumentError that names each key and what to do."""
    said = {"format": FINISH.format, "version": FINISH.version, **data} if isinstance(data, dict) else data
    FINISH.check(said)
    made = FINISH.read(said)
    named = (replace(area, name=area.name or f"area {k}") for k, area in enumerate(made.areas, 1))
    return replace(made, areas=tuple(named))


def finish_file(finish):
    """The open document of a Finish, as a dictionary."""
    return {**FINISH.write(Finish()), **whole_part(finish)}


def load_finish(text):
    """Finish of a file's text. Raises CoreError."""
    return require_finish(loads(text))


def with_area(finish, area):
    """The Finish with one more Area. Raises CoreError where there are too many."""
    areas = [whole_part(each) for each in (*finish.areas, area)]
    return require_finish({**finish_file(finish), "areas": areas})


def without_area(finish, number):
    """The Finish without its area of that number, from 1."""
    return replace(finish, areas=tuple(area for k, area in enumerate(finish.areas, 1) if k != number))
