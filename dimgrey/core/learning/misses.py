"""A miss taken apart: exposure, contrast, another filter, flare, one tone alone, lost ends.

At the fall, ``seen = planned + a + b (planned - V)``: a is exposure, b contrast; another filter moves each place by what the two
chains make of its colour; flare adds one light to all, which shows in the dark. Every explanation is tried from many starts with
a cost that a few strays cannot move, and the plainest one that explains enough is kept. Source: HANDBOOK 19; Rousseeuw & Leroy,
Robust Regression and Outlier Detection, 1987; Schwarz 1978 for the price of a parameter.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.errors import CoreError
from dimgrey.core.learning.explaining import (
    SAID_CONTRAST,
    SAID_FLARE,
    SAID_ZONES,
    Places,
    alike_filters,
    contrast_fit,
    halves,
    plainest,
)

OWN_ZONES = 0.3
"""What one tone keeps beyond this is its own."""
CUT = 2
"""A tone of which a part is black or white in the result is read so much less surely."""
NEAR_END = 0.2
"""Zones within which a tone that was planned so close to an end belongs there."""
LEAST_LEFT = 0.12
"""Less of what the plan shows than this, and the result is lost throughout."""


@dataclass(frozen=True)
class Part:
    """One part of a miss. kind: exposure, contrast, filter, flare, tone or end. size: stops for exposure (+ lighter), share of the
    slope for contrast, zones for tone and end, parts of middle grey for flare, largest shift in zones for a filter. half: half the
    95 % interval, 0 where there is none. tone: its name, or "". filters: those that would explain it, the likeliest first."""

    kind: str
    size: float
    half: float = 0.0
    tone: str = ""
    filters: tuple = ()


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

    @property
    def is_as_planned(self):
        return not self.parts

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
    free_fit = fit if fit.b or fit.filter or fit.phi else contrast_fit(data, 0.0) or fit
    a_half, b_half, spread = halves(data, fit, bool(fit.b))
    parts = [*_whole_parts(data, fit, a_half, b_half)]
    residuals = _residuals(seen, data, fit, counted)
    parts += [
        Part("tone", round(off, 3), tone=name)
        for name, off in sorted(residuals.items(), key=lambda each: -abs(each[1]))
        if abs(off) > OWN_ZONES * (1 if seen.weights[seen.named(name)] >= 1 else CUT)
    ]
    parts += [
        Part("end", float(seen.ends[k]), tone=name)
        for k, name in enumerate(seen.names)
        if name in needs and seen.ends[k] and not _was_there(seen, k)
    ]
    return Miss(
        parts=tuple(parts),
        a=round(fit.a, 4),
        a_half=round(a_half, 4),
        b=round(fit.b or (free_fit.b if not (fit.filter or fit.phi) else 0.0), 4),
        b_half=round(b_half, 4),
        residuals={name: round(off, 3) for name, off in residuals.items()},
        spread=round(spread, 3),
        count=int(np.count_nonzero(data.ends == 0)),
    )


def _was_there(seen, k):
    """Whether a tone was planned at the end where it is."""
    return bool(seen.planned[k] * seen.ends[k] >= seen.seen[k] * seen.ends[k] - NEAR_END)


def _whole_parts(data, fit, a_half, b_half):
    if abs(fit.a) >= SAID_ZONES:
        yield Part("exposure", round(fit.a, 3), round(a_half, 3))
    if abs(fit.b) >= SAID_CONTRAST:
        yield Part("contrast", round(fit.b, 4), round(b_half, 3))
    if fit.filter:
        moved = data.others[fit.filter]
        yield Part("filter", round(float(np.abs(moved).max()), 3), filters=alike_filters(data, fit))
    if fit.phi:
        darkest = float(data.x[data.ends <= 0].min())
        lift = float(np.log2(1 + fit.phi * 2.0**-darkest))
        if lift >= SAID_FLARE:
            yield Part("flare", round(fit.phi, 4))


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
