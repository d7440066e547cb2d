"""What a medium sees of a scene before anything is placed: shifts by filter and medium, range, and the development it asks for."""

from dataclasses import dataclass

from dimgrey.core.colour.chain import LUMINANCE, error_stops, glass_chain, tone_shift_stops
from dimgrey.core.planning.development import (
    FIRST_MOVED,
    Development,
    contraction_for,
    developed_zone,
    expansion_for,
    format_development,
    reach_of,
    row_for,
)
from dimgrey.core.sky.daylight import mentions

SOFT_STOPS = 0.25
"""Expected error of a shift from which a print has a soft edge, and a reading through the glass is asked for."""


def tone_shifts(brief, chain):
    """name -> stops by which the chain moves each tone from the metered zone: what it sees against what the meter saw.

    chain: the Chain from colour to grey that is looked through.
    """
    return {tone.name: _shift(brief, tone, chain) for tone in brief.tones}


def _shift(brief, tone, chain):
    """Stops of one tone. A reading through the glass governs: it has seen what the table can only expect."""
    meter = meter_of(brief, tone)
    rest = 0.0 if tone.colour is None else tone_shift_stops(chain, tone.colour, meter, sky=tone.is_sky)
    if not is_settled(brief, tone):
        return rest
    seen = tone.through_ev100 + meter.stops  # as bright as without glass, for a neutral
    return seen - light_of(brief, tone) + rest


def is_settled(brief, tone):
    """Whether a Tone was read through the coloured glass on the lens, which this medium sees as a meter does."""
    return bool(tone.through_evs and brief.coloured and tone.evs) and not brief.medium.mixes_channels


def meter_of(brief, tone):
    """Chain of what read a Tone: the eye's, through the glass where it was read so, or the picture itself."""
    if is_settled(brief, tone) or (brief.through_filter and not tone.of_picture):
        return glass_chain("eye", brief.light, brief.coloured)
    return LUMINANCE if tone.of_picture else glass_chain("eye", brief.light)


def shift_errors(brief, chain):
    """name -> how far the shift of each tone may be off, stops."""
    return {
        tone.name: 0.0
        if tone.colour is None
        else error_stops(chain, tone.colour, meter_of(brief, tone), sky=tone.is_sky)
        for tone in brief.tones
    }


def light_of(brief, tone):
    """EV100 of a read Tone as it reaches the coloured glass: a graduated filter and a polarizer hold the sky back, and a polarizer
    reflections, before anything else."""
    return tone.ev100 - brief.held_back_stops(tone) - tone.polarized_stops


@dataclass(frozen=True)
class DevelopmentChoice:
    """wanted: the step in question, None without one: the roll's where it is held, else what the spread asks for. row: what is
    used, N where the table does not reach. asked: what the spread asks for, held or not."""

    wanted: int | None
    row: Development
    reached: bool
    asked: int | None = None

    @property
    def words(self):
        """ "N-1", or None beyond the table or without a development."""
        return format_development(self.wanted) if self.reached else None


def range_stops(brief, read, shifts):
    """Brightest minus darkest tone that needs texture, in stops, as the medium sees it after the filters; None with fewer than
    two. docs/decisions/006.

    read: Tone each. shifts: name -> stops, as `tone_shifts` gives them.
    """
    seen = [light_of(brief, tone) + shifts[tone.name] for tone in read if tone.needs_texture]
    return max(seen) - min(seen) if len(seen) > 1 else None


def development_for(brief, read, shifts):
    """DevelopmentChoice of a film: the one it is given, else the contraction that shadow-first asks for; N for all other media.

    Longer development is never taken by itself, but for sheets that are developed one by one. read: Tone each. shifts: name -> stops, as
    `tone_shifts` gives them.
    """
    medium, spread = brief.medium, range_stops(brief, read, shifts)
    if medium.kind != "film":
        return DevelopmentChoice(None, row_for((), 0), False)
    asked = None
    if spread is not None:
        asked = contraction_for(spread) if brief.choice.school == "shadow" else 0
        if medium.by_sheet and not asked and may_expand(brief):
            asked = _held_from_white(expansion_for(spread), _reach_above_texture(brief, read, shifts))
    if medium.developed is not None:
        return DevelopmentChoice(medium.developed, row_for(medium.developments, medium.developed), True, asked)
    if asked is None:
        return DevelopmentChoice(None, row_for(medium.developments, 0), False)
    low, high = reach_of(medium.developments)
    reached = low <= asked <= high
    return DevelopmentChoice(asked, row_for(medium.developments, asked if reached else 0), reached, asked)


NEVER_EXPANDED = ("soft", "low-key", "high-key")
EXPANDED = ("full scale", "graphic")
"""Scales that never want longer development, and those that may ask for it."""
FOG_WORDS = ("fog", "foggy", "mist", "misty")
"""Where flatness is what is photographed."""
WHITEST_PRINT = 8.0


def may_expand(brief):
    """Whether longer development may be thought of: never for fog, a silhouette, or a scale that wants to be short or one-sided."""
    if brief.choice.school == "silhouette" or brief.scale in NEVER_EXPANDED:
        return False
    return not mentions(f"{brief.light_note} {brief.title} {brief.intent}".lower(), FOG_WORDS)


def _held_from_white(step, reach):
    """A longer development as far as the brightest tone of all, so many stops over the darkest texture, stays off white."""
    while step > 0 and developed_zone(FIRST_MOVED + reach, step) > WHITEST_PRINT:
        step -= 1
    return step


def _reach_above_texture(brief, read, shifts):
    """Stops from the darkest tone that needs texture to the brightest tone of all."""
    seen = {tone.name: light_of(brief, tone) + shifts[tone.name] for tone in read}
    return max(seen.values()) - min(seen[tone.name] for tone in read if tone.needs_texture)
