"""What a cause is: how it is found in a result, and the sentences it is told in."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache
from importlib import import_module
from pathlib import Path
from typing import Any

from dimgrey.core.measure.stops import format_stops
from dimgrey.core.results import causes
from dimgrey.core.shapes.declare import Shaped, key, needed, number, several, text


@dataclass(frozen=True)
class Part(Shaped):
    """One part of a miss. kind: of its Cause. size: stops for exposure (+ lighter), share of the
    slope for contrast, zones for tone and end, parts of middle grey for flare, largest shift in zones for a filter. half: half the
    95 % interval, 0 where there is none. tone: its name, or "". filters: those that would explain it, the likeliest first."""

    kind: str = needed(text(20))
    size: float = needed(number())
    half: float = key(number(), 0.0)
    tone: str = key(text(60), "")
    filters: tuple = key(several(text(60), most=20), ())


@dataclass(frozen=True)
class Shot:
    """What is known of how a result came to be. tells_exposure, is_print: of its Kind. set_stops: light given beyond the plan on
    purpose, by the log (+ is more). is_film. filter: what the plan sees through, in words. step: of its development."""

    tells_exposure: bool = True
    is_print: bool = False
    set_stops: float = 0.0
    is_film: bool = True
    filter: str = ""
    step: int = 0


@dataclass(frozen=True)
class Said(Shaped):
    """One part of a miss in words. kind: of its Cause. what: the finding. next: what to change. short: the finding in a list."""

    kind: str = needed(text(20))
    what: str = needed(text(500))
    next: str = needed(text(500))
    short: str = needed(text(200))


@dataclass(frozen=True)
class Apart:
    """A result taken apart, as causes look for their parts in it. seen: Witnesses. data: Places. fit: the plainest Fit. a_half, b_half: half
    the 95 % intervals of exposure and contrast. residuals: key tone -> zones that the fit leaves. needs: key tones that need texture."""

    seen: Any
    data: Any
    fit: Any
    a_half: float
    b_half: float
    residuals: dict
    needs: frozenset


@dataclass(frozen=True)
class Cause:
    """One cause. kind: as parts say it. order: among the parts of a miss.

    parts: Apart -> Part of each that it has there. said: (Part, Shot) -> Said. tries: (Places, price of a quantity) -> Fit of each
    explanation, none where it explains no more than single tones. moves, slope: of a quantity of its own, (falls from V, size) -> zones,
    and their derivative by the size; least, most: limits of that size.
    """

    kind: str
    order: int
    parts: Callable
    said: Callable
    tries: Callable = lambda data, unit: ()
    moves: Callable | None = None
    slope: Callable | None = None
    least: float = 0.0
    most: float = 1.0


@cache
def every_cause():
    """Every Cause, in the order of a miss's parts: the modules of this package."""
    names = {path.stem for path in Path(__file__).parent.glob("*.py")} - {"__init__", "cause"}
    found = (import_module(f"{causes.__name__}.{name}").CAUSE for name in names)
    return tuple(sorted(found, key=lambda each: each.order))


@cache
def cause_of(kind):
    """The Cause of a kind."""
    return next(each for each in every_cause() if each.kind == kind)


def in_thirds(size):
    """Stops or zones in words of thirds; tenths for what is smaller than a third.

    >>> in_thirds(0.66), in_thirds(-0.2), in_thirds(1.0)
    ('⅔', '0.2', '1')
    """
    return f"{abs(size):.1f}" if abs(size) < 0.29 else format_stops(abs(size))


def counted(size, word):
    """A size in thirds with what it counts. word: of one.

    >>> counted(1.0, "stop"), counted(-2.0, "zone")
    ('1 stop', '2 zones')
    """
    return f"{in_thirds(size)} {word if abs(size) < 1.17 else word + 's'}"
