"""A mix of one's own for a raw file: one smooth closed curve over hue that lightens or darkens, bent by the tones themselves.

Between its points the curve is the one that bends least: a sum of bumps ``exp((cos d - 1) / WIDTH**2)`` around the hue circle, one
at each point, so chosen that it passes through them. It acts on a colour as far as the colour is saturated: on neutrals not at all.
Source: HANDBOOK 18.
"""

import math
from functools import lru_cache

import numpy as np

from dimgrey.core.errors import CoreError

MOST_STOPS = 2.0
"""How far the curve goes up or down."""
MOST_POINTS = 8
WIDTH = math.radians(32)
"""Reach of one point around the hue circle: a third of the way from red to yellow is lifted with red."""
PALE = 0.12
"""Share of the curve below which a colour is too pale to be moved by it."""
ONE_HUE_DEG = 20.0
"""Two tones nearer than this in hue cannot be pulled apart by a curve that prints without seams."""
HUE_NAMES = ((0, "red"), (60, "yellow"), (120, "green"), (180, "cyan"), (240, "blue"), (300, "magenta"))


def hue_deg(linear):
    """Hue of colours in degrees: red 0, yellow 60, green 120, blue 240. linear: shape (..., 3). Shape (...)."""
    r, g, b = np.moveaxis(np.maximum(np.asarray(linear, float), 0), -1, 0)
    return np.degrees(np.arctan2(math.sqrt(3) / 2 * (g - b), r - (g + b) / 2)) % 360


def hue_name(hue):
    """The name of a hue in degrees, with its number where it lies between two: "red", "yellow-green"."""
    at = hue % 360 / 60
    near, off = round(at) % 6, at - round(at)
    if abs(off) < 0.25:
        return HUE_NAMES[near][1]
    other = (near + (1 if off > 0 else -1)) % 6
    return f"{HUE_NAMES[near][1]}-{HUE_NAMES[other][1]}"


def hold_of(linear):
    """How far the curve acts on colours, 0 for a neutral to 1 for a pure one: ``(1 - min / max)**2``. Shape (...)."""
    c = np.maximum(np.asarray(linear, float), 0)
    return (1 - c.min(axis=-1) / np.maximum(c.max(axis=-1), 1e-9)) ** 2


@lru_cache(maxsize=64)
def _bumps(points):
    hues, stops = (np.array(column, float) for column in zip(*points, strict=True))
    # A thousandth on the diagonal keeps two points of nearly one hue from tearing the curve.
    return hues, np.linalg.solve(_near(hues, hues) + 1e-3 * np.eye(len(hues)), stops)


def _near(a, b):
    return np.exp((np.cos(np.radians(a[:, None] - b[None])) - 1) / WIDTH**2)


def curve_at(points, hues):
    """Stops of the curve at hues, held within 2. points: (hue in degrees, stops) each. hues: shape (n,). Returns shape (n,)."""
    hues = np.atleast_1d(np.asarray(hues, float))
    if not points:
        return np.zeros(len(hues))
    known, weights = _bumps(tuple(points))
    return np.clip(_near(hues, known) @ weights, -MOST_STOPS, MOST_STOPS)


def moved_stops(points, linear):
    """Stops that the curve lightens colours by, below 0 darkens.

    points: as in `curve_at`. linear: shape (..., 3). Returns shape (...).
    """
    linear = np.asarray(linear, float)
    hues = hue_deg(linear)
    return curve_at(points, hues.ravel()).reshape(hues.shape) * hold_of(linear)


def highest_stops(points):
    """The most that the curve lightens any hue."""
    return float(max(curve_at(points, np.arange(0, 360, 5.0)).max(), 0.0)) if points else 0.0


def bent(colours, name, stops, hold=True, points=()):
    """The points of the curve that bends least and moves one tone by so many stops.

    colours: tone name -> linear sRGB. name: the tone that is pulled. stops: by how much it is to be lighter than the plain mix,
    below 0 darker. hold: the others stay where the present curve has them; else they follow. points: of the present curve.
    Raises CoreError where a curve cannot do it, with the reason.
    """
    if not math.isfinite(stops) or abs(stops) > MOST_STOPS:
        raise CoreError(f"A mix lightens or darkens by up to {MOST_STOPS:g} stops.", parameter="stops", code="mix-far")
    here, share = float(hue_deg(colours[name])), float(hold_of(colours[name]))
    if share < PALE:
        raise CoreError(
            f"{_start(name)} has hardly a colour: a curve over hue moves nothing there. Use light, or burn and hold back.",
            parameter="tone",
            code="mix-pale",
        )
    made = [(round(here, 1), round(min(max(stops / share, -MOST_STOPS), MOST_STOPS), 3))]
    if hold:
        for other, colour in colours.items():
            if other == name or float(hold_of(colour)) < PALE:
                continue
            there = float(hue_deg(colour))
            kept = float(curve_at(points, [there])[0])
            apart = abs((there - here + 180) % 360 - 180)
            if apart < ONE_HUE_DEG and abs(kept - made[0][1]) > 0.1:
                raise CoreError(
                    f"{_start(name)} and {other} have one hue ({apart:.0f}° apart): no curve pulls them apart. Let the others "
                    "follow, or part them by light.",
                    parameter="tone",
                    code="mix-one-hue",
                )
            if apart >= ONE_HUE_DEG and all(abs((there - hue + 180) % 360 - 180) > 8 for hue, _ in made):
                made.append((round(there, 1), round(kept, 3)))
    made = tuple(made[:MOST_POINTS])
    reached = float(curve_at(made, [here])[0]) * share
    if abs(reached - stops) > 0.1:
        raise CoreError(
            f"{_start(name)} moves by {reached:+.1f} stops at most: it is too pale, or others beside it hold.".replace(
                "-", "−"
            ),
            parameter="stops",
            code="mix-short",
        )
    return made


def require_points(points):
    """Points of a curve as a scene file has them: hues 0 to 360, stops within 2, each hue once. Raises CoreError."""
    made = tuple((float(hue), float(stops)) for hue, stops in points)
    if any(not 0 <= hue <= 360 or abs(stops) > MOST_STOPS for hue, stops in made):
        raise CoreError(
            f"A mix has hues of 0 to 360 degrees and up to {MOST_STOPS:g} stops.", parameter="own_mix", code="mix-range"
        )
    if len({round(hue) for hue, _ in made}) < len(made):
        raise CoreError("A mix has one point for each hue.", parameter="own_mix", code="mix-hues")
    return made


def _start(name):
    return name[:1].upper() + name[1:]
