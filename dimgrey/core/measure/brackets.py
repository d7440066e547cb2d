"""Brackets: several frames around the plan, so that each textured tone is well held by one of them."""

import math
from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.exposure import marked_time
from dimgrey.core.measure.stops import Marked

COUNTS = (3, 5, 7)
ORDERS = ("0 - +", "- 0 +", "+ 0 -")
STEPS = (1 / 3, 1 / 2, 2 / 3, 1.0, 4 / 3, 5 / 3, 2.0)


@dataclass(frozen=True)
class Bracket:
    """count frames, `step` stops apart, taken in `order`."""

    count: int
    step: float
    order: str = "0 - +"


@dataclass(frozen=True)
class BracketFrame:
    """One frame: its offset in stops (+ is over), its time, and the tones with texture that it holds well."""

    offset_stops: float
    shutter: Marked
    seconds: float
    holds: tuple


def require_bracket(count, step, order="0 - +"):
    """A Bracket that cameras have: count of frames, step in stops, order. Raises OutOfRange naming what is wrong."""
    if count not in COUNTS:
        raise OutOfRange(f"A bracket has 3, 5 or 7 frames (got {count}).", parameter="bracket", code="bracket-count")
    if not any(abs(step - known) < 0.02 for known in STEPS):
        raise OutOfRange(f"Frames lie ⅓ to 2 stops apart (got {step:g}).", parameter="bracket", code="bracket-step")
    if order not in ORDERS:
        raise OutOfRange(
            f"The order is one of {', '.join(ORDERS)} (got {order}).", parameter="bracket", code="bracket-order"
        )
    return Bracket(count, min(STEPS, key=lambda known: abs(known - step)), order)


def offsets(bracket):
    """Offsets of the frames in their order, stops.

    >>> offsets(Bracket(3, 1.0))
    (0.0, -1.0, 1.0)
    """
    half = bracket.count // 2
    rising = [k * bracket.step for k in range(-half, half + 1)]
    if bracket.order == "- 0 +":
        return tuple(rising)
    if bracket.order == "+ 0 -":
        return tuple(reversed(rising))
    return (0.0, *(sign * k * bracket.step for k in range(1, half + 1) for sign in (-1, 1)))


def frames(bracket, seconds, zones, dependable, increment="third", corrected=lambda seconds: seconds):
    """The frames of a bracket by shutter.

    seconds: of the plan, as metered. zones: (name, zone) of each tone that needs texture. dependable: (low, high) zones.
    corrected: from metered to given seconds; film that loses speed in long times asks for more in each frame.
    """
    low, high = dependable
    made = []
    for offset in offsets(bracket):
        time = seconds * 2.0**offset
        held = tuple(name for name, zone in zones if low - 0.01 <= zone + offset <= high + 0.01)
        given = corrected(time)
        made.append(BracketFrame(offset, marked_time(given, increment), given, held))
    return tuple(made)


def suggested(zones, dependable, uncertainty_stops=0.0):
    """The smallest Bracket whose frames hold every tone between them, or None when the plan's own frame does.

    zones: of the tones that need texture. dependable: the medium's, low and high. uncertainty_stops: how far the light or the readings may be off.
    """
    if not zones:
        return None
    over = max(dependable[0] - min(zones), 0.0) + uncertainty_stops
    under = max(max(zones) - dependable[1], 0.0) + uncertainty_stops
    reach = max(over, under)
    # Under a fifth of a stop the frame of the plan holds them as well as any.
    if reach < 0.2:
        return None
    for count in COUNTS:
        half = count // 2
        for step in STEPS:
            if half * step >= reach - 0.01 and step >= 0.66:
                return Bracket(count, step)
    return Bracket(7, 2.0)


def uncovered(bracket, zones, dependable):
    """Stops by which the brightest or darkest tone still lies outside every frame's dependable zones; 0 when held."""
    reach = bracket.count // 2 * bracket.step
    missing = max(dependable[0] - min(zones), max(zones) - dependable[1], 0.0) - reach
    return max(missing, 0.0) if not math.isinf(missing) else 0.0
