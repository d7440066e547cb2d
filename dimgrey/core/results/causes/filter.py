"""Coloured tones lie as if seen through another filter."""

import numpy as np

from dimgrey.core.results.causes.cause import Cause, Part, Said
from dimgrey.core.results.explaining import SAID_ZONES, Fit, best_of, refined

FILTER_PRICE = 2.5
"""A filter is one of many: its name costs more than a number."""
ALIKE_PRICE = 1.0
"""Filters whose explanations differ by less cannot be told apart."""


def _fit(data, name, unit):
    moved = data.others[name]
    if np.average(np.abs(moved - np.average(moved, weights=data.w)), weights=data.w) < SAID_ZONES / 3:
        return None
    a = (data.y - moved)[data.anchors]
    price = unit * (1 + FILTER_PRICE)
    fit = best_of(data, data.x + moved + a[:, None], lambda k, cost: Fit(cost, float(a[k]), filter=name, price=price))
    return refined(data, fit)


def _tries(data, unit):
    return (_fit(data, name, unit) for name in data.others)


def alike_filters(data):
    """Names of the filters that explain what was seen about as well, the likeliest first. data: Places."""
    tried = [(_fit(data, name, 0.0), name) for name in data.others]
    costs = sorted((made.cost, name) for made, name in tried if made)
    least = costs[0][0] if costs else 0.0
    return tuple(name for cost, name in costs if cost <= least + max(ALIKE_PRICE * data.w.sum(), 0.15 * least))[:3]


def _parts(apart):
    if apart.fit.filter:
        moved = apart.data.others[apart.fit.filter]
        yield Part("filter", round(float(np.abs(moved).max()), 3), filters=alike_filters(apart.data))


def _said(part, shot):
    names = " or ".join("no filter" if name == "none" else f"the {name} filter" for name in part.filters)
    planned = f" in place of {shot.filter}" if shot.filter and shot.filter != "none" else ""
    what = f"Coloured tones lie as if seen through {names}{planned}, up to {part.size:.1f} zones off."
    return Said("filter", what, "Look at what was on the lens or in the setup.", f"as if through {names}")


CAUSE = Cause("filter", 30, _parts, _said, _tries)
