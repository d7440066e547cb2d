"""The plan: from readings and intentions to an exposure. Computed here and nowhere else.

One way through: tones that were read -> filter chain and tone shifts -> placing -> setting -> exposure. What it warns of
is said by core.cautions.
"""

import math
from dataclasses import dataclass, field, replace
from functools import cached_property

from dimgrey.core.colour.chain import Chain
from dimgrey.core.errors import NotPlaced
from dimgrey.core.measure import exposure as ex
from dimgrey.core.measure.brackets import frames
from dimgrey.core.measure.longexposure import corrected_seconds
from dimgrey.core.measure.notation import ANY_TIME_FROM_S, typed_time
from dimgrey.core.measure.optics import bellows_stops
from dimgrey.core.measure.stops import Marked, format_stops, marked_speed
from dimgrey.core.planning.brief import Brief
from dimgrey.core.planning.development import (
    developed_zone,
)
from dimgrey.core.planning.media import texture
from dimgrey.core.planning.placing import AFTER, BEFORE, IN_THE_PRINT, Hold, Placement, place, usual_hold
from dimgrey.core.planning.prints import Print, Printing
from dimgrey.core.planning.scenerange import (
    development_for,
    is_settled,
    light_of,
    range_stops,
    shift_errors,
    tone_shifts,
)
from dimgrey.core.planning.zones import ZONE_MAX, ZONE_MIN, zone_of

DEFAULT_F_NUMBER = 8.0
RECIPROCITY_SHOWS = 1.05
"""A correction of less than a twentieth is less than anybody counts."""


@dataclass(frozen=True)
class PlannedTone:
    """Where a tone falls and how it prints.

    zone: its light on the setting, before the filter. fall: its place on film or sensor, after the filter. held: the fall as
    the medium's limits see it, moved by the film's development as they are. print: the grey a viewer will see of it.
    texture: what the medium keeps of it there. error_stops: how far its shift may be off. settled: it was read through the glass.
    held_back_stops, polarized_stops: what a graduated filter and a polarizer take from it alone.
    """

    name: str
    role: str
    ev100: float
    zone: float
    shift_stops: float
    fall: float
    held: float
    print: Print
    texture: str
    needs_texture: bool
    error_stops: float = 0.0
    settled: bool = False
    held_back_stops: float = 0.0
    polarized_stops: float = 0.0

    @property
    def printed(self):
        """Its print as a zone, 0..10."""
        return self.print.zone


@dataclass(frozen=True)
class FilterCost:
    """Light the filters take. computed_stops is of the coloured glass alone; printed_stops what the user's rim says."""

    stops: float
    coloured_stops: float
    computed_stops: float
    printed_stops: float | None


@dataclass(frozen=True)
class Plan:
    """The result. Stops are exact; `aperture` and `shutter` are marked, `shutter_seconds` is before marking.

    development_step: of the film's development, whether automatic or held; asked_step: what this scene alone asks for.
    """

    brief: Brief
    placement: Placement
    chain: Chain
    filter_cost: FilterCost
    bellows: float
    setting_ev100: float
    exposure_ev100: float
    aperture: Marked
    shutter: Marked
    shutter_seconds: float
    corrected_seconds: float
    rounding_stops: float
    tones: tuple
    range_stops: float | None
    development: str | None
    development_step: int | None
    hold_difference_stops: float
    development_stops: float = 0.0
    development_minutes: float | None = None
    graduated_stops: float = 0.0
    asked_step: int | None = None
    printing: Printing = field(default_factory=Printing)

    @cached_property
    def bracket_frames(self):
        """Frames of the bracket, () without one."""
        if self.brief.bracket is None:
            return ()
        zones = [(tone.name, tone.held) for tone in self.tones if tone.needs_texture]
        medium = self.brief.medium
        given = lambda seconds: corrected_seconds(seconds, medium.reciprocity if medium.is_film else None)
        return frames(self.brief.bracket, self.shutter_seconds, zones, medium.dependable, self.brief.increment, given)

    @property
    def dial_stops(self):
        """Compensation to dial in an automatic mode with the spot on the placed tone; None without one, and where the light
        itself was measured, whose reading is set and not dialled."""
        placed = self.placed
        if placed is None or self.placement.school == "incident":
            return None
        return placed.ev100 - self.setting_ev100 + self.development_stops

    def kept_zone(self, tone):
        """The zone at which placing a PlannedTone would change nothing, in the terms of the plan's hold."""
        under = self.brief.choice.under_stops
        if self.placement.hold == IN_THE_PRINT:
            return replace(self.printing, lift=0.0).print(tone.fall + under).zone
        return tone.zone + under + (tone.shift_stops if self.placement.hold == AFTER else 0.0)

    @property
    def given(self):
        """The time to give, Marked: what the timer runs and the log takes. Where film loses speed it is the corrected one."""
        if (
            self.corrected_seconds <= self.shutter_seconds * RECIPROCITY_SHOWS
            or self.corrected_seconds <= ANY_TIME_FROM_S
        ):
            return self.shutter
        return typed_time(self.corrected_seconds)

    @property
    def speed(self):
        return marked_speed(self.brief.medium.iso)

    @property
    def placed(self):
        return next((tone for tone in self.tones if tone.name == self.placement.tone), None)

    @cached_property
    def combinations(self):
        return ex.combinations(self.exposure_ev100, self.brief.medium.iso, self.brief.increment, self.brief.limits)


def plan(brief):
    """The plan of a scene.

    brief: Brief with at least one tone read and a way to place it. Returns Plan.
    Raises NotPlaced when nothing decides the exposure yet, OutOfRange for a zone outside 0..10.
    Source: HANDBOOK 4: placing ``EV(setting) = EV(tone) + 5 - zone``, fall ``5 + EV - EV(setting)``,
    exposure ``EV(setting) - filter stops - bellows stops``.
    """
    medium, chain = brief.medium, brief.medium.chain(brief.light, brief.coloured)
    read, shifts, development = _before_placing(brief)
    errors = shift_errors(brief, chain)
    cost, bellows = filter_cost(brief), bellows_stops(brief.magnification)
    printing = printing_of(brief, development)
    placement = _placed(brief, read, shifts, development.row.step)
    exposure_ev = placement.setting_ev100 - cost.stops - bellows - development.row.stops
    aperture, shutter, seconds = _camera_setting(brief, exposure_ev)
    return Plan(
        brief=brief,
        placement=placement,
        chain=chain,
        filter_cost=cost,
        bellows=bellows,
        setting_ev100=placement.setting_ev100,
        exposure_ev100=exposure_ev,
        aperture=aperture,
        shutter=shutter,
        shutter_seconds=seconds,
        corrected_seconds=corrected_seconds(seconds, medium.reciprocity if medium.is_film else None),
        rounding_stops=shutter.stops - aperture.stops + exposure_ev + math.log2(medium.iso / 100),
        tones=tuple(
            _fallen(brief, tone, placement.setting_ev100, shifts[tone.name], errors[tone.name], printing)
            for tone in read
        ),
        range_stops=range_stops(brief, read, shifts),
        development=development.words,
        development_step=development.wanted,
        hold_difference_stops=_hold_difference(placement, shifts),
        development_stops=development.row.stops,
        development_minutes=development.row.minutes if development.reached else None,
        graduated_stops=brief.graduated_stops,
        asked_step=development.asked,
        printing=printing,
    )


def _before_placing(brief):
    """(tones that are read, name -> stops by filter and medium, DevelopmentChoice): what a brief says before a tone is placed."""
    shifts = tone_shifts(brief, brief.medium.chain(brief.light, brief.coloured))
    read = tuple(tone for tone in brief.tones if tone.evs)
    return read, shifts, development_for(brief, read, shifts)


def printing_of(brief, development):
    """Printing of a brief with a DevelopmentChoice."""
    medium, choice = brief.medium, brief.choice
    return Printing(medium.kind, development.row.step, medium.tone, choice.under_stops if choice.lifted else 0.0)


def _hold_name(brief, step):
    """The hold that was chosen, or the usual one of the chosen school."""
    return brief.choice.hold or usual_hold(brief.choice.school, brief.medium, step)


def hold_of(brief):
    """What a zone means in a Brief that need not be placed: one of placing.HOLDS."""
    return _hold_name(brief, _before_placing(brief)[2].row.step)


def film_step(brief):
    """k of N+k that a brief's film is developed by, None where its table does not reach or nothing asks."""
    found = _before_placing(brief)[2]
    return found.row.step if found.reached else None


def school_of_placed(brief):
    """The school that a brief's placing is, as Placement has it; the chosen one while nothing can be placed."""
    read, shifts, development = _before_placing(brief)
    try:
        return _placed(brief, read, shifts, development.row.step).school
    except NotPlaced:
        return brief.choice.school


def _hold(brief, shifts, step):
    """What a placed zone means in a brief. shifts: name -> stops. step: of the film's development."""
    medium, name = brief.medium, _hold_name(brief, step)
    light = lambda tone: light_of(brief, tone)
    filtered = lambda tone: light(tone) + shifts[tone.name]
    if name == BEFORE:
        return Hold(name, light)
    if name == AFTER:
        return Hold(name, filtered)
    # The print is aimed at as if nothing were held back; what is held back on purpose comes on top, lifted later or not.
    printing = Printing(medium.kind, step, medium.tone)
    limit = Printing(medium.kind, 0, medium.tone)  # a film's limits move with its development
    on_film = lambda tone: filtered(tone) - medium.push_stops
    return Hold(name, on_film, printing.fall_for, lambda zone: limit.print(zone).zone)


def _placed(brief, read, shifts, step):
    """Placement of a brief, with what is held back on purpose counted in."""
    choice = brief.choice
    if choice.by_default and len(read) == 1:
        # Placed by itself, one tone would look like a finished exposure.
        raise NotPlaced(
            f"One tone is read so far: {read[0].name}, EV {format_stops(read[0].ev100)}. Place it on its zone, or read the "
            "brightest and the darkest that need texture as well.",
            parameter="placing",
            code="one-tone",
        )
    hold = _hold(brief, shifts, step)
    placement = place(choice.school, read, brief.medium, hold, choice.tone, choice.zone, choice.white, choice.shadows)
    return replace(placement, setting_ev100=placement.setting_ev100 + choice.under_stops)


def zone_for_print(brief, name, printed):
    """The zone to place a tone on, in the terms of the plan's hold, so that it prints on `printed`; held within 0..10.

    name: of a read Tone. printed: a zone.
    """
    _, shifts, development = _before_placing(brief)
    medium, choice, step = brief.medium, brief.choice, development.row.step
    hold = _hold_name(brief, step)
    kept_back = 0.0 if choice.lifted else choice.under_stops
    fall = Printing(medium.kind, step, medium.tone).fall_for(printed) + kept_back
    if hold == IN_THE_PRINT:
        zone = Printing(medium.kind, step, medium.tone).print(fall).zone
    else:
        zone = fall + medium.push_stops - (shifts[name] if hold == BEFORE else 0.0)
    return min(max(zone, ZONE_MIN), ZONE_MAX)


def filter_cost(brief):
    """FilterCost of the stack; the printed factor of a coloured filter wins over the computed one."""
    medium, coloured = brief.medium, [glass for glass in brief.filters if glass.is_coloured]
    computed = math.log2(medium.glass_factor(brief.light, brief.coloured)) if coloured else 0.0
    printed = None
    if any(glass.factor for glass in coloured):
        factors = (glass.factor or medium.glass_factor(brief.light, (glass.spectrum,)) for glass in coloured)
        printed = sum(math.log2(factor) for factor in factors)
    if brief.through_filter:
        return FilterCost(0.0, 0.0, computed, printed)
    coloured_stops = computed if printed is None else printed
    grey = sum(glass.grey_stops for glass in brief.filters if not (glass.is_coloured or glass.is_over_sky))
    return FilterCost(coloured_stops + grey, coloured_stops, computed, printed)


def _camera_setting(brief, exposure_ev):
    """Marked aperture and shutter, and the exact time; the side that was chosen leads, the aperture when both were."""
    iso, increment, limits = brief.medium.iso, brief.increment, brief.limits
    if brief.shutter and not brief.aperture:
        aperture = ex.marked_aperture(ex.f_number_for(exposure_ev, brief.shutter.exact, iso), increment)
        return aperture, brief.shutter, brief.shutter.exact
    usual = min(max(DEFAULT_F_NUMBER, limits.f_min), limits.f_max)
    aperture = brief.aperture or ex.marked_aperture(usual, increment)
    seconds = ex.exposure_time_s(exposure_ev, aperture.exact, iso)
    return aperture, brief.shutter or ex.marked_time(seconds, increment), seconds


def _fallen(brief, tone, setting_ev100, shift, error, printing):
    """PlannedTone of a Tone. shift: stops, by filter and medium. error: how far that may be off, stops."""
    medium, zone = brief.medium, zone_of(light_of(brief, tone), setting_ev100)
    # Film that is rated over its speed gets less than its meter says.
    fall = zone + shift - medium.push_stops
    held = developed_zone(fall, printing.step)
    return PlannedTone(
        name=tone.name,
        role=tone.role,
        ev100=tone.ev100,
        zone=zone,
        shift_stops=shift,
        fall=fall,
        held=held,
        print=printing.print(fall),
        texture=texture(held, medium),
        needs_texture=tone.needs_texture,
        error_stops=error,
        settled=is_settled(brief, tone),
        held_back_stops=brief.held_back_stops(tone),
        polarized_stops=tone.polarized_stops,
    )


def _hold_difference(placement, shifts):
    """What holding the zone after the filter instead of before would change in the setting, in stops."""
    if placement.tone is None or placement.hold == IN_THE_PRINT:
        return 0.0
    return shifts[placement.tone] if placement.hold == BEFORE else -shifts[placement.tone]
