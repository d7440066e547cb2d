"""A document's light plan put to work: its lamps under the sky of the hour, what every place gets, the light before the subject."""

import math
from dataclasses import replace
from functools import cached_property

import numpy as np

from dimgrey.core.document import lightplan
from dimgrey.core.lamps.lamp import WINDOW
from dimgrey.core.lamps.lampexposure import flash_f_number, incident_ev100
from dimgrey.core.lamps.lampmetering import light_before
from dimgrey.core.lamps.places import default_view, lit_places, sides
from dimgrey.core.lamps.subjects import SITTER
from dimgrey.core.measure.exposure import illuminance_lux
from dimgrey.core.sky.cardlight import card_light


class LitPlan:
    """What pages, card and acts ask of a light plan; nothing is computed that is not asked for.

    document: one with a light plan. plan: the scene's Plan, or None. sky_lux: on a window that follows the sky, None where it is not known.
    """

    def __init__(self, document, plan=None, sky_lux=None):
        self.document, self.plan = document, plan
        self.lighting = document.lighting
        self.lamps = tuple(_under_sky(lamp, sky_lux) for lamp in lightplan.lamps_of(self.lighting))
        self.surfaces = lightplan.surfaces_of(self.lighting)
        self.camera = lightplan.camera_of(document, plan)
        # A still life is taken from nearer than a sitter.
        framed = {"away_m": self.lighting.camera_m} if self.lighting.subject == SITTER else {}
        self.view = default_view(self.lighting.subject, self.lighting.ground_m, **framed)

    @cached_property
    def places(self):
        """places.Lit of each place."""
        return self._lit({part: surface.reflectance for part, surface in self.surfaces.items()})

    def _lit(self, shares):
        return lit_places(self.view, self.lamps, shares, self.camera, self.lighting.ambient_lux)

    @property
    def place_names(self):
        return {each.place.name for each in self.places}

    @property
    def incident_evs(self):
        """place -> EV100 of an incident reading there: what the lamps do to a surface, whatever that is made of."""
        time = self.camera.exposure_time_s
        return {each.place.name: incident_ev100(each.light, time) for each in self._lit({})}

    @property
    def sides(self):
        return sides(self.places)

    @cached_property
    def light_before(self):
        """exposure.Light before the subject, as a dome that looks at the camera weighs it."""
        return light_before(self.lamps, self.view.middle, self.lighting.ambient_lux)

    @property
    def together(self):
        """(EV100, f-number or None) of the light before the subject."""
        light, time = self.light_before, self.camera.exposure_time_s
        return incident_ev100(light, time), flash_f_number(light, time, self.camera.iso) if light.flash_lux_s else None


def sky_lux_at(altitude_deg):
    """Lux that the open sky throws on a window, an open-shade card there; None at night and where the sun's altitude is not known."""
    if altitude_deg is None:
        return None
    ev = float(card_light(np.array([altitude_deg])).shade[0])
    return illuminance_lux(ev) if math.isfinite(ev) else None


def _under_sky(lamp, lux):
    """A window that follows the sky with the strength that it has then; another lamp as it is."""
    return replace(lamp, strength=lux) if lux and lamp.kind == WINDOW and lamp.follows_sky else lamp
