"""One light lies over all, which shows in the dark."""

import numpy as np

from dimgrey.core.results.causes.cause import Cause, Part, Said
from dimgrey.core.results.explaining import SECOND, Fit, best_of, refined

SAID_FLARE = 0.25
"""The least lift of the darkest tone, in zones, that is worth a word."""
FLARES = np.geomspace(0.002, 0.5, 28)
"""Light that flare adds to all, in parts of middle grey."""


def _lift(x, size):
    return np.log2(1 + size * 2.0**-x)


def _slope(x, size):
    return 2.0**-x / (1 + size * 2.0**-x) / np.log(2)


def _tries(data, unit):
    tried = []
    for size in FLARES:
        lift = _lift(data.x, size)
        a = (data.y - lift)[data.anchors]
        made = lambda k, cost, a=a, size=size: Fit(
            cost, float(a[k]), own="flare", size=float(size), price=(1 + SECOND) * unit
        )
        tried.append(best_of(data, data.x + lift + a[:, None], made))
    yield refined(data, min(tried, key=lambda fit: fit.cost))


def _parts(apart):
    if apart.fit.own != "flare":
        return
    darkest = float(apart.data.x[apart.data.ends <= 0].min())
    if float(_lift(darkest, apart.fit.size)) >= SAID_FLARE:
        yield Part("flare", round(apart.fit.size, 4))


def _said(part, shot):
    what = f"One light lies over all, as flare does: {part.size * 100:.0f} % of middle grey, seen in the dark tones."
    return Said("flare", what, "Shade the lens, keep sun and lamps off its glass, and clean it.", "flare")


CAUSE = Cause("flare", 40, _parts, _said, _tries, _lift, _slope, 1e-4, 1.0)
