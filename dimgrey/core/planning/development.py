"""Development of film: shorter or longer to fit the scene's range to the paper."""

import math
from dataclasses import dataclass

from dimgrey.core.errors import CoreError

REACH = (-2, 2)
"""Steps of development that a film's table usually covers; a kit's own table replaces it."""
FIRST_MOVED, TARGET_SPREAD = 3.0, 4.0
"""Zone above which development moves tones, and the zones that N is made for above it."""
LEAST_SPREAD = 1.0
"""No development stretches less than a stop to the whole paper."""


HIGHEST_PRINT, HIGHEST_EXPANDED = 7.5, 7.0
"""Zones on which the highest tone with texture may print when development is shortened for it, and when it is prolonged."""


def contraction_for(spread_stops):
    """The least step that prints a spread above III at VII 1/2 or lower: 0, -1, -2 ...; N holds 4 1/2 stops, N-1 5 5/8, N-2 6 3/4.

    >>> [contraction_for(s) for s in (4.5, 5.0, 5.625, 6.0, 6.75, 7.0)]
    [0, -1, -1, -2, -2, -3]
    """
    room = (HIGHEST_PRINT - FIRST_MOVED) / TARGET_SPREAD
    return min(0, -math.ceil(spread_stops / room - TARGET_SPREAD - 1e-6))


def expansion_for(spread_stops):
    """The most steps that print a spread above III at VII or lower, at most 2: a spread of 3 gives 1.

    >>> [expansion_for(s) for s in (4.0, 3.0, 2.5, 1.0)]
    [0, 1, 1, 2]
    """
    room = HIGHEST_EXPANDED - FIRST_MOVED
    return max(0, min(REACH[1], math.floor(TARGET_SPREAD - spread_stops * TARGET_SPREAD / room + 1e-6)))


def format_development(step):
    """0 -> "N", -1 -> "N-1", 2 -> "N+2"."""
    return "N" if step == 0 else f"N{step:+d}"


def developed_zone(zone, step):
    """Zone at which a tone prints after development, ``3 + (z - 3) 4 / (4 - k)`` above III; shadows hardly move.

    A spread of 4 - k stops, which N+k is chosen for, prints as the four that are wanted. zone: a number or an array of zones.
    step: k of N+k. Returns the same kind and shape.

    >>> developed_zone(9.0, -2), developed_zone(6.0, 1), developed_zone(2.0, -2)
    (7.0, 7.0, 2.0)
    """
    above = (zone - FIRST_MOVED) * (zone > FIRST_MOVED)
    return zone + above * (TARGET_SPREAD / max(TARGET_SPREAD - step, LEAST_SPREAD) - 1)


def undeveloped_zone(zone, step):
    """The fall that `developed_zone` prints on `zone`; a film's limits above III lie there.

    zone: a number or an array of zones. step: k of N+k. Returns the same kind and shape.

    >>> undeveloped_zone(7.0, -2), undeveloped_zone(7.0, 1)
    (9.0, 6.0)
    """
    above = (zone - FIRST_MOVED) * (zone > FIRST_MOVED)
    return zone + above * (max(TARGET_SPREAD - step, LEAST_SPREAD) / TARGET_SPREAD - 1)


@dataclass(frozen=True)
class Development:
    """One row of a film's table: step (N is 0), minutes or None, and the exposure to add for it in stops."""

    step: int
    minutes: float | None = None
    stops: float = 0.0


def development_table(rows):
    """Checked table, sorted by step. rows: (step, minutes or None, stops). Raises CoreError when times do not rise."""
    table = tuple(
        Development(int(step), minutes, float(stops)) for step, minutes, stops in sorted(rows, key=lambda row: row[0])
    )
    steps = [row.step for row in table]
    if len(set(steps)) != len(steps):
        raise CoreError("A development table names each step once.", parameter="development", code="development-twice")
    timed = [row for row in table if row.minutes is not None]
    if any(a.minutes >= b.minutes for a, b in zip(timed, timed[1:], strict=False)):
        raise CoreError(
            "Development times must rise from N- to N+: a longer development gives more contrast.",
            parameter="development",
            code="development-not-rising",
        )
    return table


def reach_of(table):
    """(lowest, highest) step of a table, or the usual reach of film for ()."""
    return (table[0].step, table[-1].step) if table else REACH


def row_for(table, step):
    """The row of a step, or one without time and speed change when the table has none."""
    return next((row for row in table if row.step == step), Development(step))
