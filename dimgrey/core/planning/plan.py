"""The plan: from readings and intentions to an exposure. Computed here and nowhere else.

One way through: tones that were read -> filter chain and tone shifts -> placing -> setting -> exposure. What it warns of
is said by core.cautions.
"""

import math
from dataclasses import dataclass, replace
from functools import cached_property

from dimgrey.core.camera.setups import toned_stops
from dimgrey.core.colour.chain import Chain, glass_chain, tone_shift_stops
from dimgrey.core.measure import exposure as ex
from dimgrey.core.measure.brackets import frames
from dimgrey.core.measure.longexposure import corrected_seconds
from dimgrey.core.measure.optics import bellows_stops
from dimgrey.core.measure.stops import Marked, marked_speed
from dimgrey.core.planning.brief import Brief
from dimgrey.core.planning.development import (
    Development,
    developed_zone,
    development_step,
    format_development,
    reach_of,
    row_for,
)
from dimgrey.core.planning.media import texture
from dimgrey.core.planning.placing import Placement, place
from dimgrey.core.planning.zones import MIDDLE, zone_of

DEFAULT_F_NUMBER = 8.0


@dataclass(frozen=True)
class PlannedTone:
    """Where a tone falls: on the setting, after filter and medium, where the medium holds it, and as shown.

    zone_held: after the film's development, before a setup's tone curve; the medium's limits are compared with it.
    zone_printed: after both.
    """

    name: str
    role: str
    ev100: float
    zone: float
    shift_stops: float
    zone_after_filter: float
    zone_held: float
    zone_printed: float
    texture: str
    needs_texture: bool


@dataclass(frozen=True)
class FilterCost:
    """Light the filters take. computed_stops is of the coloured glass alone; printed_stops what the user's rim says."""

    stops: float
    coloured_stops: float
    computed_stops: float
    printed_stops: float | None


@dataclass(frozen=True)
class Plan:
    """The result. Stops are exact; `aperture` and `shutter` are marked, `shutter_seconds` is before marking."""

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

    @cached_property
    def bracket_frames(self):
        """Frames of the bracket, () without one."""
        if self.brief.bracket is None:
            return ()
        zones = [(tone.name, tone.zone_held) for tone in self.tones if tone.needs_texture]
        return frames(
            self.brief.bracket, self.shutter_seconds, zones, self.brief.medium.dependable, self.brief.increment
        )

    @property
    def dial_stops(self):
        """Compensation to dial in an automatic mode with the spot on the placed tone, or None without one."""
        placed = self.placed
        return None if placed is None else placed.ev100 - self.setting_ev100

    @property
    def speed(self):
        return marked_speed(self.brief.medium.iso)

    @property
    def placed(self):
        return next((tone for tone in self.tones if tone.name == self.placement.tone), None)

    @cached_property
    def combinations(self):
        return ex.combinations(self.exposure_ev100, self.brief.medium.iso, self.brief.increment, self.brief.limits)


@dataclass(frozen=True)
class DevelopmentChoice:
    """wanted: the step that the spread asks for, None without one. row: what is used, N where the table does not reach."""

    wanted: int | None
    row: Development
    reached: bool

    @property
    def words(self):
        """ "N-1", or None beyond the table or without a development."""
        return format_development(self.wanted) if self.reached else None


def plan(brief):
    """The plan of a scene.

    brief: Brief with at least one tone read and a way to place it. Returns Plan.
    Raises NotPlaced when nothing decides the exposure yet, OutOfRange for a zone outside 0..10.
    Source: HANDBOOK 4: placing ``EV(setting) = EV(tone) + 5 - zone``, fall ``5 + EV - EV(setting)``,
    exposure ``EV(setting) - filter stops - bellows stops``.
    """
    medium, chain, graduated = brief.medium, brief.medium.chain(brief.light, brief.coloured), brief.graduated_stops
    shifts = tone_shifts(brief, chain)
    read = tuple(tone for tone in brief.tones if tone.evs)
    placement = _placed(brief, read, shifts)
    cost, bellows = filter_cost(brief), bellows_stops(brief.magnification)
    development = development_for(medium, read, shifts)
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
            _fallen(tone, placement.setting_ev100, shifts[tone.name], medium, development.row.step) for tone in read
        ),
        range_stops=range_stops(read, graduated),
        development=development.words,
        development_step=development.wanted,
        hold_difference_stops=_hold_difference(brief.choice, placement, shifts),
        development_stops=development.row.stops,
        development_minutes=development.row.minutes if development.reached else None,
        graduated_stops=graduated,
    )


def tone_shifts(brief, chain):
    """name -> stops by which each tone moves from the metered zone: what the chain sees, and what a graduated filter holds.

    chain: the Chain from colour to grey that is looked through.
    """
    meter = glass_chain("eye", brief.light, brief.coloured if brief.through_filter else ())
    held = brief.graduated_stops
    seen = lambda tone: 0.0 if tone.colour is None else tone_shift_stops(chain, tone.colour, meter)
    return {tone.name: seen(tone) - (held if tone.role == "sky" else 0.0) for tone in brief.tones}


def _placed(brief, read, shifts):
    """Placement of a brief, with what is held back on purpose counted in."""
    choice = brief.choice
    after = (lambda tone: shifts[tone.name]) if choice.hold == "after filter" else None
    placement = place(choice.school, read, brief.medium, choice.tone, choice.zone, after, choice.white, choice.shadows)
    return replace(placement, setting_ev100=placement.setting_ev100 + choice.under_stops)


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


def range_stops(read, graduated=0.0):
    """Brightest minus darkest tone that needs texture, in stops; None with fewer than two.

    read: Tone each. graduated: stops that are held back over tones of the role sky.
    """
    evs = [tone.ev100 - (graduated if tone.role == "sky" else 0.0) for tone in read if tone.needs_texture]
    return max(evs) - min(evs) if len(evs) > 1 else None


def development_for(medium, read, shifts):
    """DevelopmentChoice of a film from the spread as it sees it, after the filter; N for all other media.

    read: Tone each. shifts: name -> stops, as `tone_shifts` gives them.
    """
    seen = [tone.ev100 + shifts[tone.name] for tone in read if tone.needs_texture]
    if medium.kind != "film" or len(seen) < 2:
        return DevelopmentChoice(None, row_for(medium.developments, 0), False)
    wanted = development_step(medium.dependable[1] - medium.dependable[0], max(seen) - min(seen))
    low, high = reach_of(medium.developments)
    reached = low <= wanted <= high
    return DevelopmentChoice(wanted, row_for(medium.developments, wanted if reached else 0), reached)


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


def _fallen(tone, setting_ev100, shift, medium, step):
    """PlannedTone of a Tone. shift: stops, by filter and medium. step: of the film's development."""
    zone = zone_of(tone.ev100, setting_ev100)
    held = developed_zone(zone + shift, step)
    return PlannedTone(
        name=tone.name,
        role=tone.role,
        ev100=tone.ev100,
        zone=zone,
        shift_stops=shift,
        zone_after_filter=zone + shift,
        zone_held=held,
        zone_printed=MIDDLE + toned_stops(held - MIDDLE, medium.tone),
        texture=texture(held, medium),
        needs_texture=tone.needs_texture,
    )


def _hold_difference(choice, placement, shifts):
    """What holding the zone after the filter instead of before would change in the setting, in stops."""
    if placement.tone is None:
        return 0.0
    return shifts[placement.tone] if choice.hold == "before filter" else -shifts[placement.tone]
