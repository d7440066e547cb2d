"""From a bias to a changed item of the kit: meter offset, film speed, filter factor, development time, headroom.

A result that is lighter than planned got too much light: the meter read too low, the film is faster than it was taken to be, or the
filter takes less than its factor says. Where an item has no number of its own, it is said what to do instead.
"""

import math
from dataclasses import dataclass

from dimgrey.core.document.kitnotation import steps_of
from dimgrey.core.measure.stops import format_stops, marked_speed
from dimgrey.core.planning.development import TARGET_SPREAD
from dimgrey.core.planning.media import HEADROOM_STOPS

MOST_OFFSET, MOST_DENSITY = 3.0, 20
"""Stops that a kit keeps for a meter's offset and a filter's density."""
WHOLE_WAY = 0.35
"""Share of the slope by which a camera's contrast effect moves at its end."""
LEAST_POINTS, CLEAR_SHARE = 6, 0.85
"""Tones that a headroom is told from, and the share of them that must lie on the right side of it."""
NEAR_STOPS = 1.5


@dataclass(frozen=True)
class Change:
    """What a correction does. values: fields of the item that change, {} where it has none of its own. words: in a sentence."""

    values: dict
    words: str


def change_for(item, mean, quantity="exposure", computed_factor=None):
    """Change of an item of the kit for a bias.

    mean: the bias, stops (+ lighter) or share of the slope (+ more contrast). quantity: "exposure" or "contrast". computed_factor: of a
    filter without one on its rim.
    """
    if quantity == "contrast":
        return _contrast(item, mean)
    make = {"meter": _meter, "film": _film, "filter": _filter}.get(item.kind)
    if make:
        return make(item, mean, computed_factor)
    way = "−" if mean > 0 else "+"
    return Change(
        {}, f"It has no number of its own for this: dial {way}{format_stops(abs(mean))} of compensation with it."
    )


def _meter(item, mean, _):
    before = item.calibration_stops
    after = round(min(max(before + mean, -MOST_OFFSET), MOST_OFFSET), 2)
    reads = "low" if mean > 0 else "high"
    words = f"It reads {abs(mean):.2f} stop {reads}: its calibration offset goes from {before:+.2f} to {after:+.2f}."
    return Change({"calibration_stops": after}, words.replace("-", "−"))


def _film(item, mean, _):
    after = marked_speed(float(item.iso) * 2.0**mean).name
    if after == item.iso:
        return Change({}, f"Its speed stays {item.iso}: the nearest marked speed is the same.")
    return Change({"iso": after}, f"Your speed for it goes from {item.iso} to {after}.")


def _filter(item, mean, computed):
    before = item.factor or computed
    if item.stops is not None:
        after = round(min(max(item.stops - mean, 0), MOST_DENSITY), 2)
        return Change({"stops": after}, f"Its density goes from {item.stops:g} to {after:g} stops.")
    if not before:
        return Change({}, "Its factor is not known, so it cannot be corrected.")
    after = round(max(before * 2.0**-mean, 1.0), 2)
    return Change({"factor": after}, f"Its factor goes from {before:.2f} to {after:.2f}.")


def _contrast(item, mean):
    if item.kind != "film":
        turn = abs(mean) / WHOLE_WAY
        return Change(
            {}, f"Turn its contrast {'down' if mean > 0 else 'up'} by about {min(turn, 1) * 100:.0f} % of its way."
        )
    rows = steps_of(item.development)
    timed = sorted((row.step, row.minutes) for row in rows if row.minutes)
    if len(timed) < 2:
        return Change(
            {}, f"Develop it {'less' if mean > 0 else 'longer'}; its table has too few times to say how much."
        )
    factor = minutes_factor(timed, mean)
    after = lambda row: row._replace(minutes=round(row.minutes * factor, 2) if row.minutes else None)
    way = "shorter" if factor < 1 else "longer"
    words = f"All its development times get {abs(factor - 1) * 100:.0f} % {way}."
    return Change({"development": [after(row)._asdict() for row in rows]}, words)


def minutes_factor(timed, mean):
    """By what development times are multiplied so that contrast goes back by ``1 / (1 + mean)``.

    timed: (step, minutes), at least two. mean: share by which contrast is too high. The film's own table says how contrast grows with time:
    step k has a slope of ``4 / (4 - k)``, and log time is taken as straight in log slope.
    """
    slopes = [math.log(TARGET_SPREAD / (TARGET_SPREAD - step)) for step, _ in timed]
    times = [math.log(minutes) for _, minutes in timed]
    steepness = (times[-1] - times[0]) / (slopes[-1] - slopes[0])
    return math.exp(-math.log(1 + mean) * min(max(steepness, 0.3), 4.0))


def headroom_of(points):
    """Headroom that tones tell: the stops above middle from which they are lost in white, or None where they do not tell it.

    points: (stops above middle grey at which a tone fell, whether it is white).
    """
    lost, kept = sorted(s for s, white in points if white), sorted(s for s, white in points if not white)
    if not lost or not kept or len(lost) + len(kept) < LEAST_POINTS:
        return None
    edges = sorted({*lost, *kept})
    middles = [(a + b) / 2 for a, b in zip(edges, edges[1:], strict=False)] or [edges[0]]
    right = lambda edge: sum(s >= edge for s in lost) + sum(s < edge for s in kept)
    best = max(middles, key=right)
    ends = min((s for s in lost if s >= best), default=math.inf) - max((s for s in kept if s < best), default=-math.inf)
    if (
        right(best) < CLEAR_SHARE * len(points)
        or ends > NEAR_STOPS
        or not HEADROOM_STOPS[0] <= best <= HEADROOM_STOPS[1]
    ):
        return None
    return round(best, 2)
