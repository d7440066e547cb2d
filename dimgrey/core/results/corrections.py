"""What many frames say of a meter, a film, a filter, a camera: bias and spread, and a correction where the evidence carries it.

For each item the mean of the unexplained exposure with its 95 % interval (Student's t). A correction is proposed from six frames on,
when the interval excludes 0 and the mean exceeds a sixth of a stop; and for one item only where the frames tell it apart from those
that it was used with, by how much worse the others explain them (likelihood ratio). Source: HANDBOOK 19; Wilks 1938.
"""

import math
from dataclasses import dataclass

import numpy as np

FEWEST, LEAST_STOPS, LEAST_CONTRAST = 6, 1 / 6, 0.05
TOLD_APART = 3.84
"""Twice the log of a likelihood ratio from which one explanation is better than another (chi-squared, 1 degree, 95 %)."""
MOST_PROPOSALS = 3
SPREAD_OF_MIDDLE = 1.4826
"""Standard deviation of a normal distribution over the middle of its distances from the middle."""
TAIL = 0.025
"""On either side of an interval of 95 %."""
OUTLIER = 3.5
"""A frame so many robust spreads from the others is left out: something else happened there."""
LEAST_SPREAD = 0.05
KINDS = ("meter", "film", "camera", "filter", "setup", "lens", "light", "school")
"""Kinds of items that frames are told by, those first whose correction is usual."""
CORRECTED = ("meter", "film", "filter", "camera", "setup")
"""Kinds that a bias of exposure can come from."""


@dataclass(frozen=True)
class Evidence:
    """One frame that was compared. at: its order in time. stops: unexplained exposure, None where it tells none. contrast: b.
    items: kind -> name. tones: (surface, zones off) of tones that missed alone or together."""

    frame: int
    at: float
    stops: float | None
    contrast: float
    items: dict
    tones: tuple = ()


@dataclass(frozen=True)
class Bias:
    """What the frames of one item show. mean, low, high: stops with the 95 % interval, + is lighter. spread: standard deviation.
    count: frames. frames: their numbers."""

    kind: str
    name: str
    mean: float
    low: float
    high: float
    spread: float
    count: int
    frames: tuple = ()

    @property
    def is_certain(self):
        """Whether it is more than chance and large enough to correct."""
        return self.count >= FEWEST and (self.low > 0 or self.high < 0) and abs(self.mean) > LEAST_STOPS


@dataclass(frozen=True)
class Correction:
    """A proposed correction. bias: of the item that explains the frames best. others: (kind, name) that explain them as well and are
    not told apart from it. quantity: "exposure" or "contrast"."""

    bias: Bias
    others: tuple = ()
    quantity: str = "exposure"


def bias_of(values, kind="", name="", frames=()):
    """Bias of some values, outliers left out. values: stops, at least one. kind, name: of the item. frames: numbers of as many frames.

    Source: Student 1908, the t distribution.
    """
    values = np.asarray(values, float)
    keep = _agreeing(values)
    kept = values[keep]
    n = len(kept)
    mean = float(kept.mean())
    spread = float(kept.std(ddof=1)) if n > 1 else 0.0
    half = _t(TAIL, n - 1) * max(spread, LEAST_SPREAD) / math.sqrt(n) if n > 1 else math.inf
    numbers = tuple(np.asarray(frames)[keep].tolist()) if len(frames) else ()
    return Bias(kind, name, mean, mean - half, mean + half, spread, n, numbers)


def _agreeing(values):
    middle = np.median(values)
    spread = max(SPREAD_OF_MIDDLE * float(np.median(np.abs(values - middle))), LEAST_SPREAD)
    return np.abs(values - middle) <= OUTLIER * spread


def _t(tail, freedom):
    """Student's t that is exceeded with a probability."""
    from scipy.stats import t

    return float(t.isf(tail, freedom))


def biases(evidence, quantity="exposure"):
    """Bias of every item that the evidence names, those with most frames first. quantity: "exposure" or "contrast"."""
    found = {}
    for each in evidence:
        value = _value(each, quantity)
        if value is not None:
            for kind, name in each.items.items():
                if name:
                    found.setdefault((kind, name), []).append((value, each.frame))
    made = [bias_of([v for v, _ in rows], *item, [f for _, f in rows]) for item, rows in found.items()]
    return tuple(sorted(made, key=lambda bias: (KINDS.index(bias.kind), -bias.count, bias.name)))


def _value(evidence, quantity):
    return evidence.stops if quantity == "exposure" else evidence.contrast


def corrections(evidence, quantity="exposure"):
    """Correction of each that the evidence carries, the surest first; () when nothing is sure.

    evidence: Evidence of each frame, since the last correction of what it was made with. quantity: "exposure" or "contrast".
    """
    rows = [(each, _value(each, quantity)) for each in evidence if _value(each, quantity) is not None]
    kinds = CORRECTED if quantity == "exposure" else ("film", "setup", "camera")
    least = LEAST_STOPS if quantity == "exposure" else LEAST_CONTRAST
    found = []
    while len(found) < MOST_PROPOSALS:
        made = _surest(rows, kinds, least, quantity)
        if made is None:
            break
        found.append(made)
        held = {(made.bias.kind, made.bias.name), *made.others}
        item = (made.bias.kind, made.bias.name)
        rows = [(each, value - (made.bias.mean if each.items.get(item[0]) == item[1] else 0.0)) for each, value in rows]
        kinds = tuple(kind for kind in kinds if kind not in {kind for kind, _ in held})
    return tuple(found)


def _surest(rows, kinds, least, quantity):
    """The Correction that explains the rows best, or None."""
    if len(rows) < FEWEST:
        return None
    values = np.array([value for _, value in rows])
    keep = _agreeing(values - _own_means(rows, kinds))
    values = values[keep]
    kept = [each for (each, _), stays in zip(rows, keep, strict=True) if stays]
    tried = []
    for item in sorted({(kind, each.items[kind]) for each in kept for kind in kinds if each.items.get(kind)}):
        inside = np.array([each.items.get(item[0]) == item[1] for each in kept])
        if inside.sum() < FEWEST:
            continue
        bias = bias_of(values[inside], *item, [each.frame for each, there in zip(kept, inside, strict=True) if there])
        left = float(((values[inside] - bias.mean) ** 2).sum() + (values[~inside] ** 2).sum())
        tried.append((left, bias))
    sure = [(left, bias) for left, bias in tried if _is_beyond_chance(bias, len(tried)) and abs(bias.mean) > least]
    if not sure:
        return None
    floor = len(values) * LEAST_SPREAD**2
    order = lambda each: (round(math.log(each[0] + floor), 6), kinds.index(each[1].kind))
    left, best = min(sure, key=order)
    there = lambda bias: np.array([each.items.get(bias.kind) == bias.name for each in kept], float)
    gain = lambda worse, better: len(values) * math.log((worse + floor) / (better + floor))
    alike = [
        (bias.kind, bias.name)
        for other, bias in tried
        # As good alone, and of no use beside it: then nothing tells them apart. What adds to it is an error of its own.
        if bias is not best
        and gain(other, left) < TOLD_APART
        and gain(left, _left_of_both(values, there(best), there(bias))) < TOLD_APART
    ]
    return Correction(best, tuple(alike), quantity)


def _left_of_both(values, first, second):
    """Sum of squares that two items leave together. first, second: 1 for each frame that has it, else 0."""
    columns = np.column_stack([first, second])
    fitted, *_ = np.linalg.lstsq(columns, values, rcond=None)
    return float(((values - columns @ fitted) ** 2).sum())


def _is_beyond_chance(bias, tried):
    """Whether a bias excludes 0 even though so many were looked at (Bonferroni 1936)."""
    if bias.low <= 0 <= bias.high:
        return False
    wider = _t(TAIL / tried, bias.count - 1) / _t(TAIL, bias.count - 1)
    return abs(bias.mean) > (bias.high - bias.mean) * wider


def _own_means(rows, kinds):
    """Median of the frames that share everything with each row, so that an outlier is told from a biased item."""
    key = lambda each: tuple(each.items.get(kind) for kind in kinds)
    groups = {}
    for each, value in rows:
        groups.setdefault(key(each), []).append(value)
    return np.array([np.median(groups[key(each)]) for each, _ in rows])


def habits(evidence):
    """Bias of each kind of tone over all frames, "snow lands ⅔ low"; only those that are certain.

    evidence: Evidence of each frame. Kind of a Bias: "surface".
    """
    found = {}
    for each in evidence:
        for surface, off in each.tones:
            found.setdefault(surface, []).append((off, each.frame))
    made = [
        bias_of([v for v, _ in rows], "surface", name, [f for _, f in rows])
        for name, rows in found.items()
        if len(rows) >= FEWEST
    ]
    return tuple(bias for bias in sorted(made, key=lambda each: -abs(each.mean)) if bias.is_certain)
