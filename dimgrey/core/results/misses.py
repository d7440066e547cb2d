"""A miss taken apart: exposure, contrast, another filter, flare, one tone alone, lost ends.

At the fall, ``seen = planned + a + b (planned - V)``: a is exposure, b contrast; another filter moves each place by what the two
chains make of its colour; flare adds one light to all, which shows in the dark. Every explanation is tried from many starts with
a cost that a few strays cannot move, and the plainest one that explains enough is kept. Source: HANDBOOK 19; Rousseeuw & Leroy,
Robust Regression and Outlier Detection, 1987; Schwarz 1978 for the price of a parameter.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.errors import CoreError
from dimgrey.core.results.causes.cause import Apart, every_cause
from dimgrey.core.results.explaining import Places, contrast_fit, halves, plainest

LEAST_LEFT = 0.12
"""Less of what the plan shows than this, and the result is lost throughout."""


@dataclass(frozen=True)
class Miss:
    """What a result shows against its plan. parts: () when all is as planned. a, b: exposure and contrast as fitted, whether worth a
    word or not, with half their 95 % intervals; residuals: key tone -> zones that no part explains. spread: zones, of the
    places that agree. count: places that say something."""

    parts: tuple
    a: float
    a_half: float
    b: float
    b_half: float
    residuals: dict
    spread: float
    count: int

    def part(self, kind):
        """The first Part of a kind, or None."""
        return next((part for part in self.parts if part.kind == kind), None)


def taken_apart(seen, free=frozenset(), needs=frozenset()):
    """Miss of what a result shows.

    seen: Witnesses. free: key tones that were allowed to be lost; they say nothing of exposure and contrast. needs: key tones that
    need texture. Raises CoreError when nothing of the plan lies in the result, or everything in it is lost.
    """
    counted = np.array([name not in free for name in seen.names], bool)
    if not counted.any():
        counted[:] = True
    if not len(seen.planned):
        raise CoreError("No place of the plan lies in the result.", parameter="result", code="result-elsewhere")
    said = counted & (seen.ends == 0)
    shown = counted if seen.visible is None else counted & seen.visible
    if said.sum() < 2 or seen.weights[said & shown].sum() < LEAST_LEFT * seen.weights[shown].sum():
        raise _all_lost(seen, counted)
    data = Places(seen, counted)
    best = plainest(data)
    return _told(data, best, seen, needs, counted)


def _all_lost(seen, counted):
    side = "white" if np.sum(seen.ends[counted]) > 0 else "black"
    other = "over" if side == "white" else "under"
    return CoreError(
        f"Almost everything in the result is {side}: it is {other}exposed throughout, by more than can be measured. "
        "Give it two stops " + ("less" if side == "white" else "more") + " and compare again.",
        parameter="result",
        code="result-lost",
    )


def _told(data, fit, seen, needs, counted):
    """The Miss of the best explanation."""
    free_fit = fit if fit.b or fit.filter or fit.own else contrast_fit(data, 0.0) or fit
    a_half, b_half, spread = halves(data, fit, bool(fit.b))
    residuals = _residuals(seen, data, fit, counted)
    apart = Apart(seen, data, fit, a_half, b_half, residuals, needs)
    return Miss(
        parts=tuple(part for cause in every_cause() for part in cause.parts(apart)),
        a=round(fit.a, 4),
        a_half=round(a_half, 4),
        b=round(fit.b or (free_fit.b if not (fit.filter or fit.own) else 0.0), 4),
        b_half=round(b_half, 4),
        residuals={name: round(off, 3) for name, off in residuals.items()},
        spread=round(spread, 3),
        count=int(np.count_nonzero(data.ends == 0)),
    )


def _residuals(seen, data, fit, counted):
    """Key tone -> zones that the explanation leaves of it; those that were allowed to be lost stay out."""
    off = data.residuals(data.predicted(fit))
    left = {}
    for place, k in enumerate(data.keep):
        name = seen.names[k]
        if name and counted[k]:
            left[name] = _beyond(float(off[place]), 0.0 if seen.known is None else float(seen.known[k]))
    return left


def _beyond(off, known):
    """What of a residual lies outside the span between the plan's picture (0) and the reading (known): that was known before."""
    low, high = min(0.0, known), max(0.0, known)
    return off - high if off > high else off - low if off < low else 0.0
