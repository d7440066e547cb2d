"""Illuminance that lamps give at places: inverse square and cosine, and the whole face of a lamp where it is large against its distance.

``E = I cos(theta) / d**2`` for a point; a face of intensity I along its axis gives ``E = sum(I / n cos(theta) cos(theta_s) / d**2)``
over n places on it. Source: HANDBOOK 20; CIE S 017 for the terms.
"""

import math

import numpy as np

from dimgrey.core.lamps.lamp import REFLECTOR

POINT_BELOW = 0.3
"""Size over distance up to which a face is taken as a point: 0.03 stop off there, 0.3 stop at 1."""
FINE = 12
"""Places along each side of a face."""
FLAG_FROM_M, FLAG_OVER_M = 0.3, 0.25
"""A flag lets light pass to this far behind the subject, and none after so much more."""
Z = np.array([0.0, 0.0, 1.0])


def axes_of(lamp, aim):
    """(forward, across, up) of a lamp's face, unit vectors. aim: (x, y, z) that it points to."""
    forward = np.subtract(aim, lamp.at).astype(float)
    forward /= np.linalg.norm(forward)
    across = np.cross(forward, Z)
    across = np.array([1.0, 0.0, 0.0]) if np.linalg.norm(across) < 1e-9 else across / np.linalg.norm(across)
    return forward, across, np.cross(across, forward)


def face_places(lamp, aim, count):
    """(places, shares) of points on a lamp's face. aim: what the lamp points to. count: along each side. Returns shapes (n, 3) and (n,), shares summing to 1.

    A rectangle by Gauss's rule on both sides, a disc by Gauss's rule over its area and evenly around.
    """
    if not lamp.area_m2:
        return np.array([lamp.at]), np.ones(1)
    _, across, up = axes_of(lamp, aim)
    nodes, weights = np.polynomial.legendre.leggauss(count)
    if lamp.is_round:
        radii = lamp.width_m / 2 * np.sqrt((nodes + 1) / 2)
        turns = (np.arange(2 * count) + 0.5) * np.pi / count
        u, v = np.outer(radii, np.cos(turns)).ravel(), np.outer(radii, np.sin(turns)).ravel()
        shares = np.repeat(weights / 2 / len(turns), len(turns))
    else:
        u, v = (each.ravel() for each in np.meshgrid(nodes * lamp.width_m / 2, nodes * lamp.face_m / 2))
        shares = np.outer(weights, weights).ravel() / 4
    return np.asarray(lamp.at) + u[:, None] * across + v[:, None] * up, shares


def is_point(lamp, place):
    """Whether a lamp counts as a point from a place."""
    return not lamp.area_m2 or lamp.size_m / lamp.distance_m(place) <= POINT_BELOW


def given_by(lamp, aim, source, share, intensity, places, normals):
    """Illuminance that one place of a lamp's face gives, in lux (lux seconds of a flash), shape (n,).

    aim: what the lamp points to. source: (x, y, z). share: of the whole face. intensity: along the axis, candela. places, normals: shape (n, 3).
    """
    forward = axes_of(lamp, aim)[0]
    towards = np.asarray(source, places.dtype) - places
    squared = np.maximum((towards**2).sum(axis=1), 1e-6)
    distance = np.sqrt(squared)
    falling = np.maximum((towards * normals).sum(axis=1) / distance, 0.0)
    leaving = np.clip(-(towards @ forward.astype(places.dtype)) / distance, -1.0, 1.0)
    spread = np.maximum(leaving, 0.0) if lamp.area_m2 else 1.0
    return intensity * share * falling * spread * _through_grid(lamp, leaving) * past_flag(lamp, places) / squared


def _through_grid(lamp, leaving):
    """Share that a grid lets through at an angle: its cells cover ``tan(angle) / tan(limit)`` of each other."""
    if not lamp.grid_deg:
        return 1.0
    angle = np.tan(np.arccos(np.clip(leaving, 1e-3, 1.0)))
    return np.where(leaving > 0, np.clip(1 - angle / math.tan(math.radians(lamp.grid_deg)), 0.0, 1.0), 0.0)


def past_flag(lamp, places):
    """Share that a flag leaves of a lamp's light, by how far behind the subject a place lies; 1 without a flag. places: shape (n, 3)."""
    if not lamp.is_flagged:
        return 1.0
    return np.clip(1 - (places[:, 1] - FLAG_FROM_M) / FLAG_OVER_M, 0.0, 1.0)


def illuminance(lamp, aim, places, normals, intensity=None):
    """Illuminance that a lamp gives on surfaces with nothing in between, in lux (lux seconds of a flash), shape (n,).

    aim: (x, y, z) that it points to. places, normals: shape (n, 3), unit normals. intensity: candela along its axis, None for the lamp's own.
    """
    places, normals = np.atleast_2d(np.asarray(places, float)), np.atleast_2d(np.asarray(normals, float))
    given = lamp.intensity if intensity is None else intensity
    sources, shares = (
        (np.array([lamp.at]), np.ones(1))
        if all(is_point(lamp, place) for place in places[:: max(len(places) // 64, 1)])
        else face_places(lamp, aim, FINE)
    )
    total = np.zeros(len(places))
    for source, share in zip(sources, shares, strict=True):
        total += given_by(lamp, aim, source, share, given, places, normals)
    return total


def intensities(lamps, aim):
    """Intensity of each lamp along its axis, those of reflectors from what the others throw on their middle, ``I = E rho A / pi``.

    lamps: Lamp of each. aim: (x, y, z) that all point to. Returns a tuple of candela, of candela seconds for what a flash gives, (lasting, flash) of each.
    """
    own = [(0.0, lamp.intensity) if lamp.is_flash else (lamp.intensity, 0.0) for lamp in lamps]
    made = []
    for lamp, (lasting, flash) in zip(lamps, own, strict=True):
        if lamp.kind == REFLECTOR and lamp.is_on:
            face = np.asarray(axes_of(lamp, aim)[0])
            for other, given in zip(lamps, own, strict=True):
                if other.kind == REFLECTOR or not other.is_on:
                    continue
                # What lies before the reflector lights its face, what lies behind it nothing.
                on_face = float(illuminance(other, aim, [lamp.at], [face], intensity=1.0)[0])
                back = on_face * lamp.strength * lamp.area_m2 / math.pi * 2.0**lamp.stops
                lasting, flash = lasting + back * given[0], flash + back * given[1]
        made.append((lasting, flash) if lamp.is_on else (0.0, 0.0))
    return tuple(made)
