"""What a drill asks: one question with its options, the right one, how far each is off, and why."""

from dataclasses import dataclass

from dimgrey.core.measure.stops import format_stops
from dimgrey.core.picture.plaintables import grey8
from dimgrey.core.planning.prints import PRINT_CURVE, shown_lightness
from dimgrey.core.planning.zones import MIDDLE

LEAST_APART = 1 / 3
"""Zones or stops below which nobody can tell two answers apart; no drill asks it."""

STEPS = (2.0, 4 / 3, 1.0, 2 / 3, LEAST_APART)
"""How far apart answers lie, by difficulty 0 to 4."""


@dataclass(frozen=True)
class Option:
    """One answer. text: in words. off: stops from the right answer for what is measured in stops, 1 for another wrong answer, 0 for the right one.
    colour: hex of a patch that is shown beside the words, or of two with a blank between; "" for none."""

    text: str
    off: float = 0.0
    colour: str = ""


@dataclass(frozen=True)
class Question:
    """kind: key of KINDS. key: of the card, the same whenever the same thing is asked. ask: the question. options: Option of each, one of them
    right. why: one sentence. subject: what it is about, for progress by surface. patches: hex greys or colours to look at. picture: key of the
    material it is asked on, with at: a pin in it (x, y); "" for none. bars: a histogram, shares of the zones. in_stops: its error is in stops."""

    kind: str
    key: str
    ask: str
    options: tuple
    why: str
    subject: str = ""
    patches: tuple = ()
    picture: str = ""
    at: tuple | None = None
    bars: tuple = ()
    in_stops: bool = False

    @property
    def right(self):
        """Index of the right option."""
        return next(k for k, option in enumerate(self.options) if option.off == 0)


def spread_options(right, step, low, high, count, words, rng):
    """Option of `count` values `step` apart around a right one, shuffled up or down so that the right one stands anywhere.

    right: value in stops or zones. step: at least LEAST_APART. low, high: range of the values. words: of a value. rng: random.Random.
    """
    step = max(step, LEAST_APART)
    places = [k for k in range(count) if low <= right - k * step and right + (count - 1 - k) * step <= high]
    before = rng.choice(places) if places else (0 if right - low < high - right else count - 1)
    values = [right + (k - before) * step for k in range(count)]
    return tuple(Option(words(value), abs(value - right)) for value in values if low - 1e-9 <= value <= high + 1e-9)


def one_of(right, wrong, rng):
    """Options of words in a random order. right: text. wrong: texts. rng: random.Random."""
    options = [Option(right), *(Option(text, 1.0) for text in wrong)]
    rng.shuffle(options)
    return tuple(options)


def stops_words(stops):
    """ "+1⅓", "−⅔", "0"."""
    return format_stops(stops, signed=True)


def grey_hex(zone):
    """Hex of the grey that a print shows of a zone."""
    code = grey8(shown_lightness(zone - MIDDLE, PRINT_CURVE))
    return f"#{code:02x}{code:02x}{code:02x}"
