"""Explanations of what a result shows, tried from many starts, and the plainest that explains enough.

A cost that a few strays cannot move (Rousseeuw & Leroy, Robust Regression and Outlier Detection, 1987), and a price for each further
quantity (Schwarz 1978). What they mean is said in `misses`.
"""

from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np

from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.results.causes.cause import cause_of, every_cause

NOISE_ZONES = 0.1
"""What two honest measurements of one tone differ by."""
STRAY = 3.0
"""A place further off than so many times the noise is a stray: it costs no more for being further off."""
PRICE = 2.0
"""What a further quantity must save to be believed, in squares of the noise, for each of the key tones' weight."""
SECOND = 0.6
"""What contrast or flare costs beside exposure, which it comes with."""
SAID_ZONES = 0.15
"""The least exposure, in stops, that is worth a word."""
LEAST_RUN = 1.0
"""Tones must lie so many zones apart for a contrast to be read from them."""
STARTS = 36
TURNS = 12


@dataclass(frozen=True)
class Fit:
    """One explanation: cost with its price; a, b: exposure and contrast; filter: seen through another; own, size: kind of a cause that
    has a quantity of its own, and how large it is."""

    cost: float
    a: float = 0.0
    b: float = 0.0
    filter: str = ""
    own: str = ""
    size: float = 0.0
    price: float = 0.0

    @property
    def total(self):
        return self.cost + self.price


class Places:
    """Witnesses as arrays that explanations are tried on. x: planned, from V. y: seen less planned."""

    def __init__(self, seen, counted):
        keep = np.flatnonzero(counted)
        self.keep = keep
        self.x = seen.planned[keep] - MIDDLE
        self.seen = seen.seen[keep] - MIDDLE
        self.ends = seen.ends[keep]
        self.w = seen.weights[keep]
        self.others = {name: moved[keep] for name, moved in seen.others.items()}
        self.y = self.seen - self.x

    def residuals(self, predicted):
        """Seen less predicted, shape (..., n); at an end only what contradicts it counts."""
        off = self.seen - predicted
        off = np.where(self.ends > 0, np.maximum(off, 0), off)
        return np.where(self.ends < 0, np.minimum(off, 0), off)

    def cost(self, predicted):
        """Cost of predictions, shape (...): squares in units of the noise, a stray's held."""
        off = self.residuals(predicted) / NOISE_ZONES
        return (np.minimum(off**2, STRAY**2) * self.w).sum(axis=-1)

    def predicted(self, fit):
        moved = self.x + (self.others[fit.filter] if fit.filter else 0.0)
        whole = fit.a + moved * (1 + fit.b)
        return whole + cause_of(fit.own).moves(moved, fit.size) if fit.own else whole

    @property
    def anchors(self):
        """Indices that explanations start from: places that are not at an end, the weightiest and the most different."""
        said = np.flatnonzero(self.ends == 0)
        if len(said) <= STARTS:
            return said
        order = said[np.argsort(self.x[said])]
        chosen = order[np.linspace(0, len(order) - 1, STARTS - 12).round().astype(int)]
        heavy = said[np.argsort(-self.w[said])][:12]
        return np.unique(np.concatenate([chosen, heavy]))


def plainest(data):
    """The Fit that costs least with its price."""
    unit = PRICE * np.log(max(data.w.sum(), 2.0))
    none = Fit(float(data.cost(data.x)))
    tried = (fit for cause in every_cause() for fit in cause.tries(data, unit))
    best = min([none, *filter(None, tried)], key=lambda fit: fit.total)
    if best.filter:
        both = refined(data, replace(best, price=best.price + unit), with_b=True)
        best = min(best, both, key=lambda fit: fit.total)
    return best


def best_of(data, predicted, make):
    """The Fit of the cheapest of many predictions. data: Places. predicted: falls from V, shape (m, n). make: (k, cost) -> Fit of row k."""
    costs = data.cost(predicted)
    k = int(np.argmin(costs))
    return make(k, float(costs[k]))


def exposure_fit(data, unit):
    """Fit of exposure alone. data: Places. unit: price of a quantity."""
    a = data.y[data.anchors]
    fit = best_of(data, data.x + a[:, None], lambda k, cost: Fit(cost, float(a[k]), price=unit))
    return refined(data, fit)


def contrast_fit(data, unit):
    """Fit of exposure and contrast from all pairs of places that lie apart, or None without such. data: Places. unit: price of a quantity."""
    pairs = [(i, j) for i, j in combinations(data.anchors, 2) if abs(data.x[i] - data.x[j]) >= LEAST_RUN]
    if not pairs:
        return None
    i, j = np.array(pairs).T
    b = (data.y[j] - data.y[i]) / (data.x[j] - data.x[i])
    a = data.y[i] - b * data.x[i]
    sane = np.abs(b) < 0.8
    if not sane.any():
        return None
    a, b = a[sane], b[sane]
    predicted = data.x * (1 + b[:, None]) + a[:, None]
    fit = best_of(data, predicted, lambda k, cost: Fit(cost, float(a[k]), float(b[k]), price=(1 + SECOND) * unit))
    return refined(data, fit, with_b=True)


def refined(data, fit, with_b=False):
    """The Fit after a few turns of weighted least squares over the places that agree with it. data: Places. with_b: contrast is fitted
    too; the quantity of a cause's own always is."""
    best = fit
    for _ in range(TURNS):
        predicted = data.predicted(fit)
        agree = np.abs(data.residuals(predicted)) < STRAY * NOISE_ZONES
        w = data.w * agree * ((data.ends == 0) | (data.residuals(predicted) != 0))
        columns = _columns(data, fit, with_b)
        if np.count_nonzero(w) < len(columns) + 1:
            break
        step = _solved(np.array(columns), w, data.residuals(predicted))
        moved = {"a": fit.a + step[0]}
        if with_b:
            moved["b"] = float(np.clip(fit.b + step[1], -0.9, 2.0))
        if fit.own:
            own = cause_of(fit.own)
            moved["size"] = float(np.clip(fit.size + step[-1], own.least, own.most))
        fit = replace(fit, **{key: float(value) for key, value in moved.items()})
        fit = replace(fit, cost=float(data.cost(data.predicted(fit))))
        if fit.cost < best.cost - 1e-9:
            best = replace(fit, price=fit.price)
    return best if best.price == fit.price else replace(best, price=fit.price)


def _columns(data, fit, with_b):
    """Derivatives of the prediction by a, b and the cause's own quantity, as far as they are fitted."""
    columns = [np.ones_like(data.x)]
    moved = data.x + (data.others[fit.filter] if fit.filter else 0.0)
    if with_b:
        columns.append(moved)
    if fit.own:
        columns.append(cause_of(fit.own).slope(moved, fit.size))
    return columns


def _solved(columns, w, off):
    normal = (columns * w) @ columns.T + np.eye(len(columns)) * 1e-9
    return np.linalg.solve(normal, (columns * w) @ off)


def halves(data, fit, with_b):
    """Half the 95 % intervals of a and b, and the spread of the places that agree. data: Places. fit: Fit. with_b: contrast was fitted."""
    off = data.residuals(data.predicted(fit))
    agree = (np.abs(off) < STRAY * NOISE_ZONES) & (data.ends == 0)
    columns = np.array(_columns(data, fit, with_b))
    w = data.w * agree
    if w.sum() <= 0:
        return 9.9, 9.9, 0.0
    spread = float(np.sqrt((w * off**2).sum() / w.sum()))
    noise = max(spread, NOISE_ZONES / 3)
    cover = np.linalg.inv((columns * w) @ columns.T + np.eye(len(columns)) * 1e-6) * noise**2
    return 1.96 * float(np.sqrt(cover[0, 0])), 1.96 * float(np.sqrt(cover[1, 1])) if with_b else 0.0, spread
