"""A light plan put to work: its lamps, what they give at the subject and at every place, and the picture of it."""

import hashlib
import math
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.colour.greys import grey_of
from dimgrey.core.document.litplan import LitPlan, sky_lux_at
from dimgrey.core.lamps import adviser
from dimgrey.core.lamps.illuminance import illuminance, intensities
from dimgrey.core.lamps.lampexposure import Light, flash_f_number, incident_ev100, pause_s
from dimgrey.core.lamps.lampmetering import FLAT_TO_CAMERA
from dimgrey.core.lamps.rendering import rendered
from dimgrey.core.lamps.shadows import fall_off_stops, hardness
from dimgrey.core.lamps.subjects import CLOTHES, PART, SITTER, SKIN
from dimgrey.core.measure.exposure import K_REFLECTED
from dimgrey.core.planning.prints import Printing
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.results.samples import lightness_of_falls
from dimgrey.outings.sky_over_scene import planned_sun_altitude

BOLD_STOPS = 2.0
DEEP_M = 0.12
"""Depth of a head, over which fall-off is told."""
DARKEST = 1e-9


@dataclass(frozen=True)
class Measured:
    """One lamp as an incident meter at the subject finds it. number: from 1. f_number: with a flash, None without. share_stops: against the strongest.
    edge_mm: of the nose's shadow. hard: a word. deep_stops: lost over the head. pause_s: of a flash, None of another."""

    number: int
    lamp: object
    distance_m: float
    lux: float
    ev100: float
    f_number: float | None
    share_stops: float
    edge_mm: float
    hard: str
    deep_stops: float
    ground_stops: float
    pause_s: float | None


class LitScene(LitPlan):
    """A scene's light plan with its pictures. situation: of a scene that has one; nothing is computed that is not asked for."""

    def __init__(self, situation, lighting=None):
        self.situation = situation
        document = situation.document.with_(lighting=lighting) if lighting else situation.document
        altitude = planned_sun_altitude(situation.scene.outing, situation.document)
        super().__init__(document, situation.plan, sky_lux_at(altitude))

    @property
    def version(self):
        """A word for what the picture of it depends on: another whenever that changes, the same after an undo."""
        plan = self.situation.plan
        shown = (
            (plan.chain.through, plan.chain.weights, plan.printing)
            if plan
            else (self.document.medium, self.document.light)
        )
        said = (
            self.view,
            self.lamps,
            sorted(self.surfaces.items()),
            self.camera,
            self.lighting.ambient_lux,
            self.lighting.is_bold,
            shown,
        )
        return hashlib.sha256(repr(said).encode()).hexdigest()[:12]

    @cached_property
    def measured(self):
        """Measured of each lamp."""
        middle, given = self.view.middle, intensities(self.lamps, self.view.middle)
        time = self.camera.exposure_time_s
        light = []
        for lamp, (burning, flashed) in zip(self.lamps, given, strict=True):
            share = float(illuminance(lamp, middle, [middle], [self._facing(lamp)], intensity=1.0)[0])
            light.append(Light(burning * share, flashed * share))
        most = max((each.lux_seconds(time) for each in light), default=0.0)
        return tuple(
            self._measured(k, lamp, each, most) for k, (lamp, each) in enumerate(zip(self.lamps, light, strict=True), 1)
        )

    def _facing(self, lamp):
        """A meter held at the subject looks at the camera; at a lamp from behind it looks at the lamp."""
        to = np.subtract(lamp.at, self.view.middle)
        return FLAT_TO_CAMERA if to[1] < 0 else tuple(to / np.linalg.norm(to))

    def _measured(self, number, lamp, light, most):
        middle, time = self.view.middle, self.camera.exposure_time_s
        distance = lamp.distance_m(middle)
        lux_s = light.lux_seconds(time)
        edge, hard = hardness(lamp, middle)
        return Measured(
            number=number,
            lamp=lamp,
            distance_m=distance,
            lux=light.lasting_lux,
            ev100=incident_ev100(light, time),
            f_number=flash_f_number(light, time, self.camera.iso) if light.flash_lux_s else None,
            share_stops=math.log2(lux_s / most) if lux_s and most else -math.inf,
            edge_mm=edge * 1000,
            hard=hard,
            deep_stops=fall_off_stops(distance, DEEP_M),
            ground_stops=fall_off_stops(distance, self.lighting.ground_m),
            pause_s=pause_s(lamp, self.lighting.recycle_s) if lamp.is_flash else None,
        )

    @cached_property
    def advice(self):
        """(Choice of each ground, Choice of each cloth, sentence on pattern), () for a still life. By the wish for the ground."""
        if self.lighting.subject != SITTER:
            return ()
        by_name = {each.place.name: each for each in self.places}
        side = "right" if by_name["cheek right"].zone >= by_name["cheek left"].zone else "left"
        words = adviser.pattern_words(by_name[f"shoulder {side}"].zone, by_name[f"cheek {side}"].zone)
        return (
            adviser.grounds(self.places, self.lighting.ground_wish),
            adviser.clothes(self.places, PART),
            words,
        )

    @property
    def filters(self):
        """adviser.ThroughFilter of each filter for skin and clothes; () for a still life."""
        if self.lighting.subject != SITTER:
            return ()
        return adviser.through_filters(self.surfaces[SKIN], self.surfaces[CLOTHES])

    def luminance(self, view=None):
        """Luminance of the lit subject, cd/m2 over the exposure, shape (h, w, 3)."""
        colours = tuple(sorted((part, surface.colour) for part, surface in self.surfaces.items()))
        pattern = BOLD_STOPS if self.lighting.is_bold else 0.0
        given = (
            view or self.view,
            self.lamps,
            colours,
            self.camera.exposure_time_s,
            self.lighting.ambient_lux,
            pattern,
        )
        return _luminance(*given)

    def grey(self, view=None):
        """The subject in the greys that the scene's medium would print, 8 bits, shape (h, w)."""
        light = self.luminance(view)
        brief = self.situation.brief
        seen = grey_of(brief.medium.chain(brief.light, brief.coloured), light)
        falls = MIDDLE + np.log2(np.maximum(seen, DARKEST) * 100 / K_REFLECTED) - self.camera.setting_ev100
        plan = self.situation.plan
        printing = plan.printing if plan else Printing(self.document.medium.kind)
        return grey8_of_lightness(lightness_of_falls(falls, printing))


@lru_cache(maxsize=6)
def _luminance(view, lamps, colours, exposure_time_s, ambient_lux, pattern):
    made = rendered(view, lamps, dict(colours), exposure_time_s, ambient_lux, pattern)
    made.setflags(write=False)
    return made
