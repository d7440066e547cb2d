"""A result as pages show it: the rail with three marks for each tone, the findings in words, the map of the difference."""

from dataclasses import dataclass

from dimgrey.core.measure.stops import format_stops, shown_twelfths
from dimgrey.core.picture.difference import difference_map
from dimgrey.core.picture.tonemap import zones_of_lightness
from dimgrey.core.planning.planwords import APART
from dimgrey.core.planning.spans import format_span
from dimgrey.core.planning.zones import format_tone, format_zone
from dimgrey.core.results.resultkinds import KINDS
from dimgrey.core.results.sentences import AS_PLANNED
from dimgrey.scenes.drawings import map_path
from dimgrey.scenes.rail import bands, place_percent

MAP_WIDTH = 1000.0
MOST_SHORT = 3
"""Findings that a list tells."""
SMALL = 4
"""The map is drawn from every so many pixels: its lines are smoothed anyway."""


@dataclass(frozen=True)
class ToneMarks:
    """One tone on the rail: places in percent. wished: (left, width) or None. words: of its planned and actual print."""

    name: str
    planned: float
    actual: float
    wished: tuple | None
    planned_words: str
    actual_words: str
    wished_words: str
    off: str
    alone: bool
    free: bool

    @property
    def spoken(self):
        """The row in words, for those who do not see it."""
        wished = f"wished {self.wished_words}, " if self.wished_words else ""
        return f"{wished}planned {self.planned_words}, actual {self.actual_words}"


def rail_rows(found, labels):
    """ToneMarks of each tone of what was found, the darkest first. labels: of the person."""
    rows = []
    for tone in sorted(found.tones if found else (), key=lambda each: each.planned):
        span = tone.wished
        left = place_percent(span[0]) if span else None
        at_end = {1: "≥", -1: "≤"}.get(tone.end, "")
        rows.append(
            ToneMarks(
                name=tone.name,
                planned=round(place_percent(tone.planned), 2),
                actual=round(place_percent(tone.actual), 2),
                wished=(round(left, 2), round(place_percent(span[1]) - left, 2)) if span else None,
                planned_words=format_tone(tone.planned, labels),
                actual_words=at_end + format_tone(tone.actual, labels),
                wished_words=f"{format_tone(span[0], labels)} to {format_tone(span[1], labels)}" if span else "",
                off=_off_words(tone),
                alone=any(part.kind == "tone" and part.tone == tone.name for part in found.parts),
                free=tone.free,
            )
        )
    return rows


def _off_words(tone):
    """The difference of a tone's prints as they are shown; "" where it lies at an end of what the file holds and may well be as planned, or
    further off."""
    if tone.end:
        return ""
    return format_stops((shown_twelfths(tone.actual) - shown_twelfths(tone.planned)) / 12, signed=True)


def findings(found):
    """(what, next) of each part of a miss; one (“As planned.”, "") when there is none; () when nothing was measured."""
    if not found:
        return ()
    return tuple((said.what, said.next) for said in found.said) or ((AS_PLANNED, _wished_otherwise(found)),)


def _wished_otherwise(found):
    """Wished spans that the plan itself missed, in a sentence: as planned is not yet as wanted."""
    missed = [
        f"{tone.name} was wished {format_span(tone.wished)} and planned on {format_zone(tone.planned)}"
        for tone in found.tones
        if tone.wished and max(tone.wished[0] - tone.planned, tone.planned - tone.wished[1]) > APART
    ]
    return f"But not as wanted: {'; '.join(missed)}." if missed else ""


def why(result):
    """How what was found of a result was reached, as the page tells it."""
    found, match = result.found, result.laid
    if not found or match is None:
        return None
    how = "in the plan's own frame"
    if match.agreeing > 3:
        how = f"over the plan by {match.agreeing} features"
    elif match.agreeing == 3:
        how = "over the plan by three points"
    turned = "".join([", mirrored" if match.is_mirrored else "", ", as a negative" if match.is_negative else ""])
    signed = lambda value, digits: f"{value:+.{digits}f}".replace("-", "− ").replace("+", "+ ")
    return {
        "a": signed(found.a, 2),
        "b": signed(found.b, 3),
        "spread": f"{found.spread:.2f}",
        "laid": f"The result lies {how}{turned}.",
    }


def short(result):
    """A result in a few words, for lists."""
    if not result.found:
        return "not compared" if result.refused else ""
    said = [each.short for each in result.found.said]
    more = f" and {len(said) - MOST_SHORT} more" if len(said) > MOST_SHORT else ""
    return ", ".join(said[:MOST_SHORT]) + more if said else AS_PLANNED.rstrip(".").lower()


def kind_words(result):
    """What kind of file it is, as told or found."""
    kind = KINDS.get(result.found.kind if result.found else result.kind)
    return kind.words if kind else "not told"


def difference_drawing(planned, shown, inside):
    """The map of the difference, as the template draws it: {"width", "height", "lines", "heavy", "labels"}.

    planned: comparing.Planned. shown, inside: of comparing.over_plan.
    """
    step = (slice(None, None, SMALL), slice(None, None, SMALL))
    made = difference_map(zones_of_lightness(planned.lightness[step]), zones_of_lightness(shown[step]), inside[step])
    height = MAP_WIDTH * planned.size[1] / planned.size[0]
    lighter = [line for line in made.lines if line.border > 0]
    darker = [line for line in made.lines if line.border < 0]
    labels = [_label(round(each.x * MAP_WIDTH), round(each.y * height), each) for each in made.labels]
    path = lambda lines: map_path(lines, MAP_WIDTH, height)
    return {
        "width": MAP_WIDTH,
        "height": round(height, 1),
        "lighter": path(lighter),
        "darker": path(darker),
        "labels": labels,
    }


def _label(x, y, label):
    return {"x": x, "y": y, "turn": f"rotate({label.turn_deg:.0f} {x} {y})", "text": label.numeral}


def ramp(labels):
    """The zones in their greys, for the head of the rail."""
    return bands(labels)
