"""Named places of a lit subject: where they lie, what they are made of, and the light and the zone that each gets.

A place is where a ray from straight ahead meets the subject, so it lies on its surface whatever that is.
"""

from dataclasses import dataclass, replace
from functools import lru_cache

import numpy as np

from dimgrey.core.lamps.lampexposure import Light, tone_ev100, zone
from dimgrey.core.lamps.rendering import View, lights, seen
from dimgrey.core.lamps.subjects import LOWER_M, SITTER, TABLE

OFFSETS = {
    SITTER: {
        "forehead": (0.0, 0.068), "cheek right": (0.043, -0.024), "cheek left": (-0.043, -0.024), "hair": (0.0, 0.128),
        "hair right": (0.078, 0.055), "hair left": (-0.078, 0.055), "shoulder right": (0.19, -0.29), "shoulder left": (-0.19, -0.29),
        "ground right": (0.24, 0.08), "ground left": (-0.24, 0.08),
    },
    TABLE: {
        "cup right": (0.098, 0.015), "cup left": (0.045, 0.015), "shell": (-0.075, -0.005), "cloth": (-0.02, -0.075), "top": (-0.2, -0.12),
        "ground right": (0.14, 0.15), "ground left": (-0.14, 0.15),
    },
}  # fmt: skip
"""Metres right of and above the subject's middle, as the camera sees it."""
SIDE = 400
LIT_STOPS = 0.5
"""A side of the face is unlit that gets so much less than the other."""


@dataclass(frozen=True)
class Place:
    """One named place. part: what it is made of. at: (x, y, z) metres. normal: unit. in_picture: (x, y), fractions from the upper left."""

    name: str
    part: str
    at: tuple
    normal: tuple
    in_picture: tuple


@dataclass(frozen=True)
class Lit:
    """A place in its light. light: exposure.Light. ev100: what a spot meter reads. zone: its fall at the camera's setting. reflectance: of its surface."""

    place: Place
    light: Light
    ev100: float
    zone: float
    reflectance: float


@lru_cache(maxsize=16)
def places(view):
    """Place of each name, as a View sees them. view: View."""
    size = view.seen_m / view.height
    fine = replace(view, width=round(view.width), height=view.height)
    found = seen(fine)
    made = []
    for name, (right, up) in OFFSETS[view.subject].items():
        x = view.width / 2 + right / size
        y = view.height / 2 - (up + LOWER_M[view.subject]) / size
        if not (0 <= x < view.width and 0 <= y < view.height):
            continue
        k = int(y) * view.width + int(x)
        if found.part[k] >= 0:
            part = found.parts[found.part[k]]
            at, normal = tuple(found.places[k].tolist()), tuple(found.normals[k].tolist())
            made.append(Place(name, part, at, normal, (x / view.width, y / view.height)))
    return tuple(made)


def lit_places(view, lamps, surfaces, camera, ambient_lux=0.0):
    """Lit of each Place.

    view: View. lamps: Lamp of each. surfaces: part -> reflectance. camera: exposure.Camera. ambient_lux: of the room.
    """
    known = places(view)
    where = np.array([place.at for place in known]), np.array([place.normal for place in known])
    lasting, flash = lights(view, lamps, *where, ambient_lux=ambient_lux, count=6)
    made = []
    for place, burning, flashed in zip(known, lasting, flash, strict=True):
        light, share = Light(float(burning), float(flashed)), surfaces.get(place.part, 0.18)
        ev = tone_ev100(light, share, camera.exposure_time_s)
        made.append(Lit(place, light, ev, zone(light, share, camera), share))
    return tuple(made)


def sides(found):
    """("right" or "left": the lit side of the face or the cup, stops between its sides), "" where both have the same light. found: Lit of each place."""
    by_name = {each.place.name: each for each in found}
    body = "cheek" if "cheek right" in by_name else "cup"
    right, left = by_name.get(f"{body} right"), by_name.get(f"{body} left")
    if right is None or left is None:
        return "", 0.0
    apart = right.ev100 - left.ev100
    return ("right" if apart > 0 else "left", abs(apart)) if abs(apart) >= LIT_STOPS else ("", abs(apart))


def default_view(subject, ground_m=1.5, **more):
    """View of a subject as it is usually framed."""
    if subject == SITTER:
        return View(SITTER, ground_m=ground_m, **more)
    usual = {"away_m": 1.2, "height_m": 1.15, "seen_m": 0.36, "width": 450, "height": 360}
    return View(TABLE, ground_m=ground_m, **{**usual, **more})
