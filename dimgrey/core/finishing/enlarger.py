"""At the enlarger: strips in equal stops, a base time, a grade from the negative's range, and the sequence of one print in seconds.

Printing in stops: ``t = t0 2^stops``. Grades by their paper range, ISO 6846. Plain numbers; the phone can run it.
"""

import math
from dataclasses import dataclass

from dimgrey.core.errors import CoreError, OutOfRange
from dimgrey.core.shapes.declare import YES_NO, Shaped, key, number

GRADIENT = 0.62
"""Mean gradient of a normally developed negative, ISO 6:1993."""
DENSITY_OF_A_STOP = GRADIENT * math.log10(2)
PAPER_RANGES = {"00": 1.80, "0": 1.60, "1": 1.30, "2": 1.10, "3": 0.90, "4": 0.70, "5": 0.50}
"""Log exposure range that a grade prints from black to white: ISO 6846 ranges R 180 to R 50, middles of what papers have. Defaults."""
CONDENSER = 1.3
"""By how much a condenser head makes silver negatives more contrasty than a diffuser (Callier)."""
LEAST_S, MOST_S = 0.5, 600.0
FEWEST_STRIPS, MOST_STRIPS = 3, 12
SHORT_S = 5.0
"""Base times below this leave no hand time for dodging."""


@dataclass(frozen=True)
class EnlargerSetting(Shaped):
    """What is set at the enlarger. base: time of the whole sheet. first, step, count: of a strip. condenser: its head."""

    base: float = key(number(0.5, 600), 12.0)
    first: float = key(number(0.5, 600), 8.0)
    step: float = key(number(0.05, 2), 0.33)
    count: int = key(number(3, 12, "integer"), 5)
    condenser: bool = key(YES_NO, False)


@dataclass(frozen=True)
class StripStep:
    """One step of a test strip. seconds: what this part gets in all. adds: how long the lamp is on for this step."""

    number: int
    stops: float
    seconds: float
    adds: float


@dataclass(frozen=True)
class Step:
    """One exposure of a print. kind: base, dodge or burn. seconds: of light. begins: second of the base at which a dodge begins, else 0."""

    kind: str
    name: str
    seconds: float
    stops: float
    begins: float = 0.0
    why: str = ""


def strip(first_s, step_stops, count):
    """StripStep of each part of a test strip in equal stops, covered one after the other.

    first_s: seconds of the lightest part. step_stops: stops from part to part. count: parts.

    >>> [round(step.seconds, 1) for step in strip(8, 1 / 3, 4)]
    [8.0, 10.1, 12.7, 16.0]
    """
    _require(first_s, LEAST_S, MOST_S, "first time", "s")
    _require(step_stops, 0.05, 2, "step", "stops")
    if not FEWEST_STRIPS <= count <= MOST_STRIPS:
        raise OutOfRange(
            f"A strip has {FEWEST_STRIPS} to {MOST_STRIPS} parts (got {count}).", parameter="count", code="strip-count"
        )
    times = [first_s * 2.0 ** (k * step_stops) for k in range(count)]
    _require(times[-1], LEAST_S, MOST_S, "longest time", "s")
    before = [0.0, *times]
    return tuple(StripStep(k + 1, k * step_stops, t, t - before[k]) for k, t in enumerate(times))


def changed_seconds(base_s, stops):
    """Seconds by which a time changes with stops of paper light: ``t0 (2^stops - 1)``. base_s: seconds. stops: + is more light.

    >>> round(changed_seconds(12, 1 / 3), 1), round(changed_seconds(12, -0.5), 1)
    (3.1, -3.5)
    """
    return base_s * (2.0**stops - 1)


def density_range(zones):
    """Density range of a negative on which textured tones span so many zones, normal development. zones: above 0."""
    return zones * DENSITY_OF_A_STOP


def grade_for(density, condenser=False):
    """(grade, how far its range is from the negative's, log exposure): the paper grade that prints a density range from black to white.

    density: range of the negative, 0.3 to 2.5. condenser: the head is a condenser's. Source: ISO 6846, paper ranges.

    >>> grade_for(1.1)[0], grade_for(1.1, condenser=True)[0], grade_for(0.75)[0]
    ('2', '1', '4')
    """
    _require(density, 0.2, 3.0, "density range", "")
    wanted = density * (CONDENSER if condenser else 1.0)
    name = min(PAPER_RANGES, key=lambda grade: abs(PAPER_RANGES[grade] - wanted))
    return name, round(wanted - PAPER_RANGES[name], 3)


def sequence(base_s, areas, edge_stops=0.0):
    """Step of each exposure of a print: the base, what is held back during it, then what is burned in.

    base_s: seconds of the base. areas: (name, stops, why) each, + lighter as a finishing plan says it: the paper gets less light there.
    edge_stops: burn of the edges, 0 or less. Raises CoreError where a dodge would take the whole base.
    """
    _require(base_s, LEAST_S, MOST_S, "base time", "s")
    steps, held = [Step("base", "whole sheet", base_s, 0.0)], 0.0
    dodged = sorted(((name, stops, why) for name, stops, why in areas if stops > 0), key=lambda each: -each[1])
    for name, stops, why in dodged:
        seconds = -changed_seconds(base_s, -stops)
        held += seconds
        if held > base_s:
            raise CoreError(
                f"Holding back {len(dodged)} areas takes {held:.0f} s of a base of {base_s:.0f} s. Close the lens a stop, which doubles it, or dodge less.",
                parameter="base",
                code="dodge-too-long",
            )
        steps.append(Step("dodge", name, round(seconds, 2), stops, round(base_s - held, 2), why))
    burned = [(name, -stops, why) for name, stops, why in areas if stops < 0]
    if edge_stops < 0:
        burned.append(("edges", -edge_stops, "keeps the eye inside"))
    for name, stops, why in burned:
        steps.append(Step("burn", name, round(changed_seconds(base_s, stops), 2), -stops, 0.0, why))
    return tuple(steps)


def warnings(base_s, steps):
    """Sentences on a sequence that is hard to do by hand. base_s: seconds. steps: of `sequence`."""
    if base_s < SHORT_S and any(step.kind == "dodge" for step in steps):
        yield f"A base of {base_s:.0f} s is short for dodging: close the lens a stop or two for {SHORT_S:.0f} s and more."
    if any(step.kind == "burn" and step.seconds > 60 for step in steps):
        yield "A burn of over a minute: open the lens for it, or use a softer grade there."


def _require(value, low, high, name, unit):
    if not low <= value <= high:
        raise OutOfRange(
            f"The {name} goes from {low:g} to {high:g} {unit} (got {value:g}).".replace("  ", " ").replace(" )", ")"),
            parameter=name.replace(" ", "_"),
            code="enlarger-range",
        )
