"""From tones to lamps: powers, and where these do not reach distances, that put places on the zones that are wished.

Light is linear in the powers, zones are its logarithm: bounded least squares over the stops of each lamp. Source: HANDBOOK 20.
"""

import math
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import least_squares

from dimgrey.core.lamps.illuminance import intensities
from dimgrey.core.lamps.lamp import HIGHEST_M, MOST_M, REFLECTOR, WINDOW
from dimgrey.core.lamps.lampexposure import Light, zone
from dimgrey.core.lamps.places import places
from dimgrey.core.lamps.rendering import shaded
from dimgrey.core.planning.zones import format_tone

MET = 1 / 6
"""Zones within which a wish is met."""
HOLD = 0.01
"""How much a lamp that no wish asks about holds its place, against a zone of a wish."""
FARTHEST = 4.0
"""By how much a lamp may be moved nearer or away."""
NEAREST_M = 0.7
"""No lamp is sent nearer to the subject: it would stand in the picture, or in somebody's face."""
DISTANCE_HOLD = 3.0
"""How much rather a power changes than a distance."""
MUCH_BETTER = 0.7
"""A lamp is moved only for a gain of so much in what is off."""
STEP = 0.02
"""Step at which distances are tried: rays make their light uneven below."""


@dataclass(frozen=True)
class Wish:
    """What a place shall be. place: its name. zone: its fall; or over: another place's name, than which it is to be `zone` zones lighter."""

    place: str
    zone: float
    over: str = ""

    @property
    def words(self):
        if self.over:
            return f"{self.place} {self.zone:+g} over {self.over}"
        return f"{self.place} on {format_tone(self.zone)}"


@dataclass(frozen=True)
class Answered:
    """What became of a wish. got: the zone, or the zones over the other place, that is reached. is_met: within MET."""

    wish: Wish
    got: float
    is_met: bool


@dataclass(frozen=True)
class Solution:
    """lamps: Lamp of each as they should stand. answers: Answered of each wish. moved: names of lamps whose distance had to change."""

    lamps: tuple
    answers: tuple
    moved: tuple

    @property
    def unmet(self):
        return tuple(each for each in self.answers if not each.is_met)


def _zones(found, shares, lamps, view, surfaces, camera, ambient_lux):
    given = intensities(lamps, view.middle)
    made = {}
    for k, place in enumerate(found):
        lasting = ambient_lux + sum(burning * share[k] for (burning, _), share in zip(given, shares, strict=True))
        flash = sum(flashed * share[k] for (_, flashed), share in zip(given, shares, strict=True))
        made[place.name] = zone(Light(lasting, flash), surfaces.get(place.part, 0.18), camera)
    return made


def _off(wishes, zones):
    return np.array([(zones[wish.place] - (zones[wish.over] if wish.over else 0.0)) - wish.zone for wish in wishes])


def solved(view, lamps, surfaces, camera, wishes, ambient_lux=0.0):
    """Solution for some wishes: the least change of powers that meets them, then of distances; what cannot be met comes as near as it can.

    view: View. lamps: Lamp of each. surfaces: part -> reflectance. camera: exposure.Camera. wishes: Wish of each, of places that the view has.
    ambient_lux: of the room.
    """
    found = places(view)
    where = np.array([place.at for place in found]), np.array([place.normal for place in found])
    free = tuple(k for k, lamp in enumerate(lamps) if lamp.is_on and lamp.kind not in (WINDOW, REFLECTOR))
    shares_of = lambda held: [shaded(view, lamp, 1.0, *where) for lamp in held]
    off_of = lambda held, shares: _off(wishes, _zones(found, shares, held, view, surfaces, camera, ambient_lux))
    lamps = tuple(lamps)
    if not free or not wishes:
        return Solution(lamps, _answers(wishes, off_of(lamps, shares_of(lamps))), ())
    shares = shares_of(lamps)
    made = _best(lamps, free, lambda held: off_of(held, shares), None)
    off, moved = off_of(made, shares), ()
    if np.abs(off).max() > MET:
        further = _best(made, free, lambda held: off_of(held, shares_of(held)), view)
        off_there = off_of(further, shares_of(further))
        if (off_there**2).sum() < (off**2).sum() * MUCH_BETTER:
            off, made = off_there, further
            moved = tuple(
                lamp.name for lamp, before in zip(made, lamps, strict=True) if abs(lamp.away_m - before.away_m) > 0.02
            )
    return Solution(made, _answers(wishes, off), moved)


def _best(lamps, free, off_of, view):
    """The lamps at which wishes are least off. free: indices of those that may change. off_of: lamps -> zones off. view: None holds distances."""
    start = np.array([lamps[k].stops for k in free])
    low, high = (np.array([getattr(lamps[k], end) for k in free], float) for end in ("least_stops", "most_stops"))
    if view is not None:
        reach = np.array([_reach(lamps[k], view) for k in free])
        start, low, high = np.append(start, 0 * start), np.append(low, reach[:, 0]), np.append(high, reach[:, 1])
    weights = np.full(len(start), HOLD)
    weights[len(free) :] *= DISTANCE_HOLD

    def with_values(values):
        made = list(lamps)
        for j, k in enumerate(free):
            made[k] = replace(made[k], stops=float(np.clip(values[j], low[j], high[j])))
            if view is not None:
                made[k] = _stepped(made[k], 2.0 ** float(values[len(free) + j]), view)
        return tuple(made)

    def off(values):
        return np.concatenate([off_of(with_values(values)), weights * (values - start)])

    tried = []
    for begin in (start, np.append((low + high)[: len(free)] / 2, start[len(free) :])):
        inside = np.clip(begin, low + 1e-6, high - 1e-6)
        tried.append(least_squares(off, inside, bounds=(low, high + 1e-9), diff_step=STEP if view else None))
    return with_values(min(tried, key=lambda each: each.cost).x)


def _reach(lamp, view):
    """How far a lamp may be moved along its line, log2 of the distance: nearer and away."""
    distance = lamp.distance_m(view.middle)
    nearest = max(NEAREST_M, lamp.size_m / 2 * 1.1)
    return (
        min(math.log2(max(nearest / distance, 1 / FARTHEST)), -1e-3),
        max(math.log2(min(MOST_M / distance, FARTHEST)), 1e-3),
    )


def _stepped(lamp, factor, view):
    """A lamp moved along its line to the subject, its distance times a factor; never below the floor."""
    rise = (lamp.height_m - view.middle[2]) * factor
    return replace(lamp, away_m=lamp.away_m * factor, height_m=min(max(view.middle[2] + rise, 0.1), HIGHEST_M))


def _answers(wishes, off):
    return tuple(
        Answered(wish, wish.zone + float(value), bool(abs(value) <= MET))
        for wish, value in zip(wishes, off, strict=True)
    )
