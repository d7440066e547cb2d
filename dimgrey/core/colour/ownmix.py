"""A mix of one's own for a raw file: one smooth closed curve over hue that lightens or darkens, bent by the tones themselves.

Between its points the curve is the one that bends least: a sum of bumps ``exp((cos d - 1) / WIDTH**2)`` around the hue circle, one
at each point, so chosen that it passes through them. It acts on a colour as far as the colour is saturated: on neutrals not at all.
For one colour, in plain numbers; greys.py has it for pictures. Source: HANDBOOK 18.
"""

import math
from functools import lru_cache

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


def hue_deg(colour):
    """Hue of a colour in degrees: red 0, yellow 60, green 120, blue 240. colour: linear sRGB, three numbers."""
    # A zero of either sign is one zero: black has one hue.
    r, g, b = (max(float(c), 0.0) + 0.0 for c in colour)
    return math.degrees(math.atan2(math.sqrt(3) / 2 * (g - b), r - (g + b) / 2)) % 360


def hue_name(hue):
    """The name of a hue in degrees, with its number where it lies between two: "red", "yellow-green"."""
    at = hue % 360 / 60
    near, off = round(at) % 6, at - round(at)
    if abs(off) < 0.25:
        return HUE_NAMES[near][1]
    other = (near + (1 if off > 0 else -1)) % 6
    return f"{HUE_NAMES[near][1]}-{HUE_NAMES[other][1]}"


def hold_of(colour):
    """How far the curve acts on a colour, 0 for a neutral to 1 for a pure one: ``(1 - min / max)**2``."""
    held = [max(float(c), 0.0) for c in colour]
    return (1 - min(held) / max(*held, 1e-9)) ** 2


@lru_cache(maxsize=64)
def bumps(points):
    """(hues, weights) of the bumps whose sum passes through points. points: (hue in degrees, stops) each, as a tuple."""
    hues, stops = zip(*points, strict=True)
    # A thousandth on the diagonal keeps two points of nearly one hue from tearing the curve.
    rows = [[_near(a, b) + (1e-3 if j == k else 0.0) for k, b in enumerate(hues)] for j, a in enumerate(hues)]
    return hues, _solved(rows, stops)


def _near(a, b):
    return math.exp((math.cos(math.radians(a - b)) - 1) / WIDTH**2)


def _solved(rows, right):
    """Solution of a few linear equations by elimination; the rows of bumps are positive definite, so no pivot is needed."""
    made = [[*row, value] for row, value in zip(rows, right, strict=True)]
    n = len(made)
    for k in range(n):
        for below in range(k + 1, n):
            share = made[below][k] / made[k][k]
            made[below] = [a - share * b for a, b in zip(made[below], made[k], strict=True)]
    found = [0.0] * n
    for k in reversed(range(n)):
        rest = math.fsum(made[k][j] * found[j] for j in range(k + 1, n))
        found[k] = (made[k][n] - rest) / made[k][k]
    return tuple(found)


def curve_at(points, hue):
    """Stops of the curve at a hue in degrees, held within 2. points: (hue in degrees, stops) each."""
    if not points:
        return 0.0
    stops = math.fsum(weight * _near(hue, there) for there, weight in zip(*bumps(tuple(points)), strict=True))
    return min(max(stops, -MOST_STOPS), MOST_STOPS)


def moved_stops(points, colour):
    """Stops that the curve lightens a colour by, below 0 darkens. points: as in `curve_at`. colour: linear sRGB."""
    return curve_at(points, hue_deg(colour)) * hold_of(colour)


def highest_stops(points):
    """The most that the curve lightens any hue."""
    return max(0.0, *(curve_at(points, hue) for hue in range(0, 360, 5))) if points else 0.0


def bent(colours, name, stops, hold=True, points=()):
    """The points of the curve that bends least and moves one tone by so many stops.

    colours: tone name -> linear sRGB. name: the tone that is pulled. stops: by how much it is to be lighter than the plain mix,
    below 0 darker. hold: the others stay where the present curve has them; else they follow. points: of the present curve.
    Raises CoreError where a curve cannot do it, with the reason.
    """
    if not math.isfinite(stops) or abs(stops) > MOST_STOPS:
        raise CoreError(f"A mix lightens or darkens by up to {MOST_STOPS:g} stops.", parameter="stops", code="mix-far")
    here, share = hue_deg(colours[name]), hold_of(colours[name])
    if share < PALE:
        raise CoreError(
            f"{_start(name)} has hardly a colour: a curve over hue moves nothing there. Use light, or burn and hold back.",
            parameter="tone",
            code="mix-pale",
        )
    made = [(round(here, 1), round(min(max(stops / share, -MOST_STOPS), MOST_STOPS), 3))]
    if hold:
        for other, colour in colours.items():
            if other == name or hold_of(colour) < PALE:
                continue
            there = hue_deg(colour)
            kept = curve_at(points, there)
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
    reached = curve_at(made, here) * share
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
