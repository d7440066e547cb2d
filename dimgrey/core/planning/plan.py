"""The plan: from readings and intentions to an exposure. Computed here and nowhere else.

One way through: tones that were read -> filter chain and tone shifts -> placing -> setting -> exposure -> cautions.
"""

import math
from dataclasses import dataclass, field, replace
from functools import cached_property

from dimgrey.core.camera.setups import toned_stops
from dimgrey.core.cautions.exposure import cautions_of
from dimgrey.core.colour.chain import Chain, glass_chain, tone_shift_stops
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.measure import exposure as ex
from dimgrey.core.measure.brackets import Bracket, frames
from dimgrey.core.measure.longexposure import corrected_seconds
from dimgrey.core.measure.metering import combined
from dimgrey.core.measure.optics import bellows_stops
from dimgrey.core.measure.stops import Marked, format_aperture, format_time, marked_speed
from dimgrey.core.planning.development import developed_zone, development_step, format_development, reach_of, row_for
from dimgrey.core.planning.media import Medium, texture
from dimgrey.core.planning.placing import Placement, place
from dimgrey.core.planning.zones import zone_of

ROLES = ("shadow", "highlight", "subject", "background", "sky", "skin", "other")
DEFAULT_F_NUMBER = 8.0


@dataclass(frozen=True)
class Tone:
    """A key tone. evs: EV100 of each reading, empty before the first. colour: linear sRGB, or None for a neutral.

    needs_texture: whether the range counts it; a tone that may go to black or white does not.
    mixed: the widest 10-90 % spread in stops seen under a spot, 0 when unknown. clipped: only a blank part of a picture
    says how bright it is, so it is brighter than that.
    """

    name: str
    role: str = "other"
    evs: tuple = ()
    colour: tuple | None = None
    needs_texture: bool = True
    mixed: float = 0.0
    clipped: bool = False

    @cached_property
    def reading(self):
        return combined(self.evs) if self.evs else None

    @property
    def ev100(self):
        return self.reading.ev100


@dataclass(frozen=True)
class Glass:
    """A filter in front of the lens. factor: printed on it, wins over the computed one. stops: of a grey filter.

    points: its own spectrum as filters.own_spectrum gives it, None for one known by name.
    """

    name: str
    factor: float | None = None
    stops: float | None = None
    points: tuple | None = None

    @property
    def is_coloured(self):
        return self.points is not None or self.name in COLOURED

    @property
    def spectrum(self):
        """What `transmittance` knows it by."""
        return self.points or self.name


@dataclass(frozen=True)
class Wish:
    """How the photographer wants to place: school, and tone and zone where they are chosen. hold: before, after.

    under_stops: exposure held back on purpose. white: "textured" or "pure". shadows: "full" or "empty".
    """

    school: str = "shadow"
    tone: str | None = None
    zone: float | None = None
    hold: str = "before filter"
    under_stops: float = 0.0
    white: str = "textured"
    shadows: str = "full"


@dataclass(frozen=True)
class Scene:
    """Everything a plan is computed from; see docs/scene-file.md for the open format that carries it."""

    title: str = ""
    increment: str = "third"
    light: str = "D55"
    medium: Medium = field(default_factory=Medium)
    tones: tuple = ()
    wish: Wish | None = None
    filters: tuple = ()
    magnification: float = 0.0
    through_filter: bool = False
    aperture: Marked | None = None
    shutter: Marked | None = None
    limits: ex.Limits = field(default_factory=ex.Limits)
    crop: tuple | None = None
    bracket: Bracket | None = None
    light_note: str = ""


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

    scene: Scene
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
    cautions: tuple = ()

    @cached_property
    def bracket_frames(self):
        """Frames of the scene's bracket, () without one."""
        if self.scene.bracket is None:
            return ()
        zones = [(tone.name, tone.zone_held) for tone in self.tones if tone.needs_texture]
        return frames(
            self.scene.bracket, self.shutter_seconds, zones, self.scene.medium.dependable, self.scene.increment
        )

    @property
    def dial_stops(self):
        """Compensation to dial in an automatic mode with the spot on the placed tone, or None without one."""
        placed = self.placed
        return None if placed is None else placed.ev100 - self.setting_ev100

    @property
    def speed(self):
        return marked_speed(self.scene.medium.iso)

    @property
    def placed(self):
        return next((tone for tone in self.tones if tone.name == self.placement.tone), None)

    @cached_property
    def combinations(self):
        return ex.combinations(self.exposure_ev100, self.scene.medium.iso, self.scene.increment, self.scene.limits)


def plan(scene):
    """The plan of a scene.

    scene: Scene with at least one tone read and a way to place it. Returns Plan.
    Raises NotPlaced when nothing decides the exposure yet, OutOfRange for a zone outside 0..10.
    Source: HANDBOOK of the field: placing ``EV(setting) = EV(tone) + 5 - zone``, fall ``5 + EV - EV(setting)``,
    exposure ``EV(setting) - filter stops - bellows stops``.
    """
    coloured = coloured_glass(scene)
    chain = scene.medium.chain(scene.light, coloured)
    meter = glass_chain("eye", scene.light, coloured if scene.through_filter else ())
    graduated = graduated_stops(scene)
    held = {tone.name: graduated if tone.role == "sky" else 0.0 for tone in scene.tones}
    shifts = {tone.name: _shift(tone, chain, meter) - held[tone.name] for tone in scene.tones}
    read = tuple(tone for tone in scene.tones if tone.evs)
    wish = scene.wish or Wish()
    after = (lambda tone: shifts[tone.name]) if wish.hold == "after filter" else None
    placement = place(wish.school, read, scene.medium, wish.tone, wish.zone, after, wish.white, wish.shadows)
    if wish.under_stops:
        placement = replace(placement, setting_ev100=placement.setting_ev100 + wish.under_stops)
    cost = filter_cost(scene, coloured)
    bellows = bellows_stops(scene.magnification)
    step = development_for(scene.medium, read, shifts)
    low, high = reach_of(scene.medium.developments)
    reached = step is not None and low <= step <= high
    applied = step if reached else 0
    row = row_for(scene.medium.developments, applied)
    exposure_ev = placement.setting_ev100 - cost.stops - bellows - row.stops
    aperture, shutter, seconds = _camera_setting(scene, exposure_ev)
    tones = tuple(_fallen(tone, placement.setting_ev100, shifts[tone.name], scene.medium, applied) for tone in read)
    result = Plan(
        scene=scene,
        placement=placement,
        chain=chain,
        filter_cost=cost,
        bellows=bellows,
        setting_ev100=placement.setting_ev100,
        exposure_ev100=exposure_ev,
        aperture=aperture,
        shutter=shutter,
        shutter_seconds=seconds,
        corrected_seconds=corrected_seconds(seconds, scene.medium.reciprocity if scene.medium.is_film else None),
        rounding_stops=shutter.stops - aperture.stops + exposure_ev + math.log2(scene.medium.iso / 100),
        tones=tones,
        range_stops=range_stops(read, held),
        development=format_development(step) if reached else None,
        development_step=step,
        hold_difference_stops=_hold_difference(wish, placement, shifts),
        development_stops=row.stops,
        development_minutes=row.minutes if reached else None,
        graduated_stops=graduated,
    )
    return _with_cautions(result)


def coloured_glass(scene):
    """The coloured filters in front of the lens, in order, as the chain wants them."""
    return tuple(glass.spectrum for glass in scene.filters if glass.is_coloured)


def filter_cost(scene, coloured):
    """Stops that the stack of filters takes; the printed factor of a coloured filter wins over the computed one."""
    computed = math.log2(scene.medium.glass_factor(scene.light, coloured)) if coloured else 0.0
    printed = None
    coloured_stops = 0.0
    if any(glass.factor for glass in scene.filters if glass.is_coloured):
        printed = 0.0
        for glass in scene.filters:
            if glass.is_coloured:
                factor = glass.factor or scene.medium.glass_factor(scene.light, (glass.spectrum,))
                printed += math.log2(factor)
        coloured_stops = printed
    else:
        coloured_stops = computed
    if scene.through_filter:
        return FilterCost(0.0, 0.0, computed, printed)
    grey = sum(_grey_stops(glass) for glass in scene.filters if glass.name in ("nd", "polarizer"))
    return FilterCost(coloured_stops + grey, coloured_stops, computed, printed)


def _grey_stops(glass):
    return glass.stops if glass.stops is not None else math.log2(glass.factor)


def graduated_stops(scene):
    """Stops that graduated filters hold back over the sky."""
    return sum(glass.stops or math.log2(glass.factor or 2) for glass in scene.filters if glass.name == "graduated")


def range_stops(read, held=None):
    """Brightest minus darkest tone that needs texture, in stops; None with fewer than two.

    held: stops that a graduated filter holds back, by tone.
    """
    held = held or {}
    evs = [tone.ev100 - held.get(tone.name, 0.0) for tone in read if tone.needs_texture]
    return max(evs) - min(evs) if len(evs) > 1 else None


def _shift(tone, chain, meter):
    return 0.0 if tone.colour is None else tone_shift_stops(chain, tone.colour, meter)


def development_for(medium, read, shifts):
    """Development step for film from the spread as the film sees it, after the filter; None without two tones."""
    seen = [tone.ev100 + shifts[tone.name] for tone in read if tone.needs_texture]
    if medium.kind != "film" or len(seen) < 2:
        return None
    return development_step(medium.dependable[1] - medium.dependable[0], max(seen) - min(seen))


def _camera_setting(scene, exposure_ev):
    """Marked aperture and shutter, and the exact time; the side that was chosen leads, the aperture when both were."""
    iso = scene.medium.iso
    if scene.shutter and not scene.aperture:
        aperture = ex.marked_aperture(ex.f_number_for(exposure_ev, scene.shutter.exact, iso), scene.increment)
        return aperture, scene.shutter, scene.shutter.exact
    aperture = scene.aperture or ex.marked_aperture(
        min(max(DEFAULT_F_NUMBER, scene.limits.f_min), scene.limits.f_max), scene.increment
    )
    seconds = ex.exposure_time_s(exposure_ev, aperture.exact, iso)
    return aperture, scene.shutter or ex.marked_time(seconds, scene.increment), seconds


def _fallen(tone, setting_ev100, shift, medium, step):
    zone = zone_of(tone.ev100, setting_ev100)
    after = zone + shift
    held = developed_zone(after, step)
    printed = 5 + float(toned_stops(held - 5, medium.tone))
    return PlannedTone(
        tone.name,
        tone.role,
        tone.ev100,
        zone,
        shift,
        after,
        held,
        printed,
        texture(held, medium),
        tone.needs_texture,
    )


def _hold_difference(wish, placement, shifts):
    """What holding the zone after the filter instead of before would change in the setting, in stops."""
    if placement.tone is None:
        return 0.0
    return shifts[placement.tone] if wish.hold == "before filter" else -shifts[placement.tone]


def _with_cautions(result):
    values = {name: getattr(result, name) for name in result.__dataclass_fields__}
    return Plan(**{**values, "cautions": cautions_of(result)})


def plan_as_json(result):
    """The plan in the open format "dimgrey-plan" version 1; exact stops, marked values as text."""
    placed = result.placement
    return {
        "format": "dimgrey-plan",
        "version": 1,
        "title": result.scene.title,
        "iso": int(result.speed.name),
        "placing": {"school": placed.school, "tone": placed.tone, "zone": _tidy(placed.zone)},
        "setting_ev100": _tidy(result.setting_ev100),
        "exposure_ev100": _tidy(result.exposure_ev100),
        "filter_stops": _tidy(result.filter_cost.stops),
        "bellows_stops": _tidy(result.bellows),
        "chain_weights": [_tidy(w) for w in result.chain.weights],
        "chain_terms": [_tidy(a) for a in result.chain.terms],
        "aperture": format_aperture(result.aperture),
        "shutter": format_time(result.shutter),
        "shutter_seconds": _tidy(result.shutter_seconds),
        "corrected_seconds": _tidy(result.corrected_seconds),
        "rounding_stops": _tidy(result.rounding_stops),
        "dial_stops": None if result.dial_stops is None else _tidy(result.dial_stops),
        "tones": [
            {
                "name": tone.name,
                "role": tone.role,
                "ev100": _tidy(tone.ev100),
                "zone": _tidy(tone.zone),
                "zone_after_filter": _tidy(tone.zone_after_filter),
                "zone_printed": _tidy(tone.zone_printed),
                "texture": tone.texture,
            }
            for tone in result.tones
        ],
        "range_stops": None if result.range_stops is None else _tidy(result.range_stops),
        "development": result.development,
        "development_minutes": result.development_minutes,
        "bracket": [
            {
                "offset_stops": _tidy(f.offset_stops),
                "shutter": format_time(f.shutter),
                "seconds": _tidy(f.seconds),
                "holds": list(f.holds),
            }
            for f in result.bracket_frames
        ],
        "crop": list(result.scene.crop) if result.scene.crop else None,
        "combinations": [
            {
                "aperture": format_aperture(pair.aperture),
                "shutter": format_time(pair.shutter),
                "seconds": _tidy(pair.seconds),
                "rounding_stops": _tidy(pair.rounding_stops),
            }
            for pair in result.combinations
        ],
        "cautions": [{"code": c.code, "tone": c.tone, "text": c.text} for c in result.cautions],
    }


def _tidy(value):
    """Six significant decimals: enough for 1e-6 stop, without the noise of binary fractions."""
    return round(float(value), 6) + 0.0
