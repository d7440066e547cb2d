"""A plan in the few words that sheet, card, field page and lists share, so that they cannot differ."""

from typing import NamedTuple

from dimgrey.core.errors import NotPlaced
from dimgrey.core.measure.stops import counted_stops, format_aperture, format_stops, format_time
from dimgrey.core.planning import explain
from dimgrey.core.planning.placing import AFTER, BEFORE, IN_THE_PRINT
from dimgrey.core.planning.plan import RECIPROCITY_SHOWS, plan
from dimgrey.core.planning.zones import MIDDLE

OF_THE_PHOTOGRAPHERS_CHOICE = ("known tone", "incident", "whole frame")
TIMER_FROM_S = 1.0
"""From here on an exposure is timed by hand."""
FULL = "full texture"
TEXTURE_WORDS = {
    ("full", False): FULL,
    ("full", True): FULL,
    ("faint", False): "hardly any",
    ("faint", True): "delicate",
    ("lost", False): "black",
    ("lost", True): "blank white",
}


APART = 1 / 6
"""Zones between fall and print from which both are told: half of the third that zones are written in."""


def plan_or_wait(brief):
    """(Plan, "") of a Brief, or (None, what to do first)."""
    try:
        return plan(brief), ""
    except NotPlaced as reason:
        if not brief.tones:
            return None, "Sight a tone on the picture, or add one by name, and place it on a zone."
        if not any(tone.evs for tone in brief.tones):
            return None, "Type a meter reading for one tone; the others can follow."
        if brief.choice.school in OF_THE_PHOTOGRAPHERS_CHOICE:
            return None, "Choose the tone to place: drag it to the zone where it shall print."
        return None, str(reason)


class ExposureWords(NamedTuple):
    """The exposure's numbers in words. setting: EV100. dial: compensation with the spot on `tone`. corrected: longer time for
    reciprocity, "" where it makes no difference."""

    shutter: str
    aperture: str
    iso: str
    setting: str
    dial: str
    tone: str | None
    corrected: str


class Pair(NamedTuple):
    """An aperture with its time in words."""

    aperture: str
    shutter: str
    chosen: bool


def exposure_words(result):
    """ExposureWords, () before a plan. result: Plan or None."""
    if result is None:
        return ()
    longer = result.corrected_seconds > result.shutter_seconds * RECIPROCITY_SHOWS
    return ExposureWords(
        shutter=format_time(result.shutter),
        aperture=format_aperture(result.aperture),
        iso=f"ISO {result.speed.name}",
        setting=format_stops(result.setting_ev100),
        dial=explain.dial_words(result),
        tone=result.placement.tone,
        corrected=format_time(result.given) if longer else "",
    )


def pairs_of(result):
    """Pair of every aperture with its time, the chosen one marked. result: Plan or None."""
    if result is None:
        return ()
    return tuple(
        Pair(format_aperture(pair.aperture), format_time(pair.shutter), pair.aperture == result.aperture)
        for pair in result.combinations
    )


def timer_seconds(result):
    """Seconds for the timer: what film needs, from one second on; None for shorter times and before a plan."""
    if result is None:
        return None
    seconds = max(result.corrected_seconds, result.shutter_seconds)
    return seconds if seconds >= TIMER_FROM_S else None


def placed_line(result, words):
    """Which tone stands on which zone; "" before a plan. result: Plan or None. words: Words."""
    if result is None:
        return ""
    placement, placed = result.placement, result.placed
    after = " after the filter" if result.brief.filters else ""  # without one there is nothing to say
    where = {BEFORE: "", AFTER: after, IN_THE_PRINT: " in the print"}[placement.hold]
    line = f"{placement.tone or 'midpoint of the textured tones'} on {words.zone(placement.zone)}{where}"
    # The list and the rail show prints: where the placed tone's is another zone, the headline says both.
    if placed and abs(placed.printed - placement.zone) > APART:
        line += f", prints on {words.printed(placed.print)}"
    return line


def range_line(result):
    """The range and what the development does with it; "" where there is none. result: Plan or None."""
    if result is None or result.range_stops is None:
        return ""
    line = counted_stops(result.range_stops)
    if not result.development:
        return line
    line += f", develop {result.development}"
    if result.development_minutes:
        line += f" for {result.development_minutes:g} min"
    if result.development_stops:
        line += f", exposed {format_stops(result.development_stops, signed=True)}"
    return line


def texture_words(fallen):
    """What is left of a PlannedTone, in words; "" before a plan. fallen: it, or None."""
    return "" if fallen is None else texture_of(fallen.texture, fallen.held > MIDDLE, fallen.needs_texture)


def texture_of(texture, is_light, is_needed):
    """What is left of a tone in words: "full texture", "delicate", "may be black". texture: "full", "faint" or "lost"."""
    words = TEXTURE_WORDS[texture, is_light]
    return words if is_needed or texture != "lost" else f"may be {words.removeprefix('blank ')}"
