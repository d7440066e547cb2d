"""The tone rail's geometry: bands, brackets, and flags hung so that none covers another.

Places are percentages of the rail's width; rows are counted from the top. Zone z has its centre at (z + 0.5) / 11.
"""

from dataclasses import dataclass
from functools import lru_cache

from django.template.loader import render_to_string

from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.picture.display import lightness
from dimgrey.core.planning.media import MEDIA
from dimgrey.core.planning.planwords import texture_words
from dimgrey.core.planning.prints import PRINT_CURVE, WIDEST_FALL
from dimgrey.core.planning.scenerange import SOFT_STOPS
from dimgrey.core.planning.zones import MIDDLE, ZONES, format_tone

ASSUMED_WIDTH_PX = 760
COMPACT_WIDTH_PX = 366
LETTER_PX, GAP_PX, COMPACT_FLAG_PX = 6.6, 8, 24
FALL_SHOWS = 1.5
"""Percent of the rail, a sixth of a zone, that fall and print lie apart before both are marked."""


@dataclass(frozen=True)
class Hang:
    """How flags hang below the ground, in pixels: the first row, each further one, and the height of a rail with one row."""

    first: int
    step: int
    alone: int

    def drop(self, row):
        return self.first + self.step * row

    def height(self, rows):
        return self.alone + self.step * (rows - 1)


LONG, SHORT = Hang(14, 22, 132), Hang(6, 19, 124)
"""Flags with names, and letters alone where there is no room for names."""


@dataclass(frozen=True)
class Band:
    zone: int
    label: str
    x: str
    centre: str
    grey: str
    ink: str
    holds: str

    @property
    def halo(self):
        """What keeps white figures readable where the dots of the lost end lie under them."""
        return self.grey if self.ink == "#ffffff" else "none"


@dataclass(frozen=True)
class Flag:
    """One tone on the rail. x: its print, in percent; fall_x: its fall where that stands apart, else ""; soft_x, soft_width: between which its print is sure, "" for a sure one; flips: the flag extends to the left of its plumb line."""

    mark: str
    name: str
    zone_text: str
    x: str
    fall_x: str
    width: int
    box_x: int
    mark_x: int
    name_x: int
    zone_x: int
    drop: int
    row: int
    compact_row: int
    short_drop: int
    placed: bool
    lost: bool
    zone: str
    printed: str
    value_text: str
    guessed: bool
    soft_x: str
    soft_width: str

    @property
    def markup(self):
        """Its own markup, and that of its fall: kept, because most placings come again while a tone is moved in steps."""
        return _markup("scenes/_flag.html", self)

    @property
    def fall_markup(self):
        return _markup("scenes/_fall.html", self) if self.fall_x or self.soft_x else ""

    @property
    def classes(self):
        """`deep` hangs in a row that a phone on its side has no room for."""
        told = (("placed", self.placed), ("lost", self.lost), ("deep", self.compact_row > 1))
        return " ".join(word for word, holds in told if holds)


@lru_cache(maxsize=1024)
def _markup(template, flag):
    return render_to_string(template, {"flag": flag})


@dataclass(frozen=True)
class Ground:
    """What of the rail depends on the medium and the labels only. greys: ((darkest, lightest) print that it gives, those of its outer limits)."""

    bands: tuple
    dependable: tuple
    outer: tuple
    caption: str
    greys: tuple

    @property
    def ramp(self):
        """(place in percent, grey) along the rail, a third of a zone apart: the greys of a print, without steps."""
        return ramp()

    @property
    def ticks(self):
        """(place in percent, whether it is a whole zone) of every third of a zone."""
        return tuple((_percent(place_percent(k / 3)), k % 3 == 0) for k in range(31))

    @property
    def lost_width(self):
        """Width of what lies beyond the outer limit, in percent."""
        return _percent(100 - float(self.outer[1][:-1]))


@dataclass(frozen=True)
class Rail:
    """The rail: its flags, how many rows letters alone hang in, its height with names and with letters, and what it is drawn on."""

    flags: tuple
    height: int
    short_height: int
    compact_rows: int
    base: Ground

    @property
    def ground(self):
        return _ground_markup(self.base)

    @property
    def bands(self):
        return self.base.bands

    @property
    def dependable(self):
        return self.base.dependable


@lru_cache(maxsize=64)
def _ground_markup(base):
    return render_to_string("scenes/_bands.html", {"rail": base})


@lru_cache(maxsize=64)
def ground_of(medium, words):
    """The ground of a medium; the same for every scene on it. Its limits stand where they print."""
    dependable, outer = medium.prints_of(medium.dependable), medium.prints_of(medium.outer)
    ends = lambda zones: tuple(_percent(place_percent(z)) for z in zones)
    reach = medium.prints_of((-WIDEST_FALL, WIDEST_FALL))
    return Ground(
        bands(words.labels),
        ends(dependable),
        ends(outer),
        medium_caption(medium, words),
        (reach, outer),
    )


@lru_cache(maxsize=1)
def ramp():
    """(place in percent, grey) a third of a zone apart: the greys of a print from black to white, without steps."""
    zones = [k / 3 for k in range(31)]
    shown = grey8_of_lightness(lightness([zone - MIDDLE for zone in zones], PRINT_CURVE)).tolist()
    return tuple((_percent((z + 0.5) / 11 * 100), f"#{v:02x}{v:02x}{v:02x}") for z, v in zip(zones, shown, strict=True))


def place_percent(zone):
    """Place of a zone on the rail, held within it."""
    return min(max((zone + 0.5) / 11 * 100, 0.4), 99.6)


def _percent(value):
    return f"{value:.2f}%"


def bands(labels):
    """The zones in their greys, which are those of a print whatever the medium."""
    shown = grey8_of_lightness(lightness([zone.stops for zone in ZONES], PRINT_CURVE))
    return tuple(
        Band(
            zone=k,
            label=zone.numeral if labels == "zones" else format_tone(k, labels),
            x=_percent(k / 11 * 100),
            centre=_percent((k + 0.5) / 11 * 100),
            grey=f"#{value:02x}{value:02x}{value:02x}",
            ink="#ffffff" if value < 118 else "#000000",
            holds=zone.holds,
        )
        for k, (zone, value) in enumerate(zip(ZONES, shown.tolist(), strict=True))
    )


def rail_of(plan, marks, words, short=SHORT):
    """The rail of a plan. marks: tone name -> letter."""
    medium = plan.brief.medium
    guessed = {tone.name for tone in plan.brief.tones if not tone.named}
    items = sorted(plan.tones, key=lambda tone: tone.printed)
    texts = [(tone, _text(tone, words)) for tone in items]
    widths = [
        round(22 + LETTER_PX * (len(tone.name) + (tone.name in guessed) + len(text)) + 26) for tone, text in texts
    ]
    places = [place_percent(tone.printed) for tone in items]
    rows, flips = _rows(places, widths, ASSUMED_WIDTH_PX)
    compact, _ = _rows(places, [COMPACT_FLAG_PX] * len(items), COMPACT_WIDTH_PX, centred=True)
    flags = tuple(
        _flag(tone, text, marks, place, width, hung, flip, plan, words, tone.name in guessed)
        for (tone, text), place, width, hung, flip in zip(
            texts, places, widths, _hung(rows, compact, short), flips, strict=True
        )
    )
    return _rail(flags, max(rows, default=0) + 1, max(compact, default=0) + 1, ground_of(medium, words), short)


def _hung(rows, compact, short):
    """Where each flag hangs, as fields of Flag."""
    for row, compact_row in zip(rows, compact, strict=True):
        yield {
            "drop": LONG.drop(row),
            "row": row,
            "compact_row": compact_row,
            "short_drop": short.drop(compact_row),
        }


def _rail(flags, rows, compact_rows, ground, short):
    return Rail(flags, LONG.height(rows), short.height(compact_rows), compact_rows, ground)


def _text(tone, words):
    """What stands on a flag: the print, and in what a tone ends that lost the texture it needs, as the list says it."""
    return f"{words.printed(tone.print)}{f' {texture_words(tone)}' if is_missed(tone) else ''}"


def is_missed(tone):
    """Whether a tone lost the texture that it needs; one that may go is where it is meant to be."""
    return tone.texture == "lost" and tone.needs_texture


def empty_rail(medium, words, short=SHORT):
    """The rail before anything is placed: bands and what the medium holds."""
    return _rail((), 1, 1, ground_of(medium, words), short)


def medium_caption(medium, words):
    """What a medium holds, as the rail shows it: in prints, and where those stand apart, the falls that they come from."""
    name = MEDIA[medium.kind].called
    low, high = (words.zone(z) for z in medium.prints_of(medium.dependable))
    edge, fall = (words.zone(z) for z in (medium.prints_of(medium.outer)[1], medium.outer[1]))
    end = f"compresses above {edge}" if medium.kind == "film" else f"white from {edge}"
    end += f", a fall on {fall}" if fall != edge else ""
    name += " with this setup" if any(medium.tone) else ""
    falls = " – ".join(words.zone(z) for z in medium.dependable)
    told = "" if falls == f"{low} – {high}" else f" (falls {falls})"
    return f"{name} holds texture {low} – {high}{told}, {end}"


def _flag(tone, text, marks, place, width, hung, flip, plan, words, guessed):
    fall = place_percent(tone.fall)
    box = -width if flip else 0
    is_soft = tone.error_stops > SOFT_STOPS
    by = tone.error_stops
    ends = [place_percent(plan.printing.print(tone.fall + off).zone) for off in (-by, by)] if is_soft else []
    return Flag(
        mark=marks.get(tone.name, ""),
        name=tone.name,
        zone_text=text,
        x=_percent(place),
        fall_x=_percent(fall) if abs(fall - place) > FALL_SHOWS else "",
        width=width,
        box_x=box,
        mark_x=box + 8,
        name_x=box + 24,
        zone_x=box + width - 8,
        **hung,
        placed=tone.name == plan.placement.tone,
        lost=is_missed(tone),
        zone=f"{plan.kept_zone(tone):.4f}",
        printed=f"{tone.printed:.4f}",
        value_text=f"{tone.name}, prints on {words.printed(tone.print)}, falls on {words.zone(tone.fall)}, {texture_words(tone)}"
        + (f", sure to {format_stops(tone.error_stops)} stop" if is_soft else ""),
        guessed=guessed,
        soft_x=_percent(ends[0]) if is_soft else "",
        soft_width=_percent(ends[1] - ends[0]) if is_soft else "",
    )


def _rows(places, widths, rail_px, centred=False):
    """Rows and flips for flags sorted by place, from the right: each takes the first row where its box covers no other
    box and no plumb line, and its own line crosses no box above it."""
    taken, rows, flips = [], [0] * len(places), [False] * len(places)
    for k in reversed(range(len(places))):
        at = places[k] / 100 * rail_px
        flips[k] = not centred and at + widths[k] > rail_px
        left = at - widths[k] / 2 if centred else at - widths[k] if flips[k] else at
        box = (left, left + widths[k] + GAP_PX)
        free = (row for row in range(len(places) + 1) if _is_free(row, at, box, taken, centred))
        rows[k] = next(free, None)
        if rows[k] is None:  # near the edges a line may have to cross a box, but boxes never lie on each other
            rows[k] = next(row for row in range(len(places) + 1) if _is_free(row, at, box, taken, centred=True))
        taken.append((rows[k], at, *box))
    return rows, flips


def _is_free(row, at, box, taken, centred):
    """Whether a flag may hang in a row. taken: (row, line, left, right) of those already hung.

    centred: only boxes count, lines may cross.
    """
    left, right = box
    for other, line, a, b in taken:
        if other == row and left < b and a < right:
            return False
        if not centred and (other < row and a < at < b - GAP_PX or other > row and left < line < right - GAP_PX):
            return False
    return True
