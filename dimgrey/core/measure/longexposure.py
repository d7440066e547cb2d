"""Exposures so long that film answers less than it should (reciprocity failure)."""

import math
from dataclasses import dataclass

from dimgrey.core.errors import CoreError

STEPS_BACK = 60
"""Halvings on the way back: as fine as a number is."""


@dataclass(frozen=True)
class Reciprocity:
    """A film's answer to long times: an exponent beyond an onset, or a table of (metered s, corrected s)."""

    exponent: float = 1.0
    onset_s: float = 1.0
    table: tuple = ()


def reciprocity(exponent=None, onset_s=1.0, table=None):
    """Checked Reciprocity. exponent 1..2, onset above 0 s; a table rises in both columns and never shortens a time."""
    if table:
        rows = tuple((float(a), float(b)) for a, b in table)
        rising = all(a < c and b < d for (a, b), (c, d) in zip(rows, rows[1:], strict=False))
        if not rising or any(a <= 0 or b < a for a, b in rows):
            raise CoreError(
                "A reciprocity table must rise in both columns, and a corrected time is never shorter than the metered one.",
                parameter="reciprocity",
                code="table-not-rising",
            )
        return Reciprocity(table=rows)
    return Reciprocity(float(exponent), float(onset_s))


def corrected_seconds(seconds, film):
    """Time to give for a metered time, ``t' = t0 (t / t0)**p`` beyond the onset t0; seconds.

    seconds: metered, above 0. film: Reciprocity, or None for a medium that needs no correction. With a table, log-log
    interpolation between its rows, no correction before the first, and the last slope beyond the last.
    Source: Schwarzschild's law with the exponent turned to give the time, as film makers print it.

    >>> round(corrected_seconds(4, Reciprocity(1.26, 1)), 1)
    5.7
    """
    if film is None:
        return seconds
    if film.table:
        return _from_table(seconds, film.table)
    if seconds <= film.onset_s:
        return seconds
    return film.onset_s * (seconds / film.onset_s) ** film.exponent


def metered_seconds(given, film):
    """The metered time that a given one stands for: the inverse of `corrected_seconds`; seconds.

    given: above 0. film: as there.

    >>> round(metered_seconds(5.7358, Reciprocity(1.26, 1)), 3)
    4.0
    """
    if film is None or corrected_seconds(given, film) <= given:
        return given
    low, high = 0.0, given
    for _ in range(STEPS_BACK):
        middle = (low + high) / 2
        low, high = (middle, high) if corrected_seconds(middle, film) < given else (low, middle)
    return (low + high) / 2


def _from_table(seconds, table):
    if seconds <= table[0][0]:
        return seconds if len(table) == 1 or seconds < table[0][0] else table[0][1]
    if len(table) == 1:
        return seconds * table[0][1] / table[0][0]
    pairs = list(zip(table, table[1:], strict=False))
    (a, b), (c, d) = next((pair for pair in pairs if seconds <= pair[1][0]), pairs[-1])
    slope = math.log(d / b) / math.log(c / a)
    return b * (seconds / a) ** slope
