"""A scene whose film is on a roll in a camera: the roll was rated once and gets one development, whatever the scene says of itself.

Kept stays what the scene says; plans, sheets and what is logged read the document that `on_roll` gives.
"""

from dataclasses import dataclass, replace

from dimgrey.core.document.meansline import film_of
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_speed
from dimgrey.core.planning.development import format_development
from dimgrey.core.shapes.declare import Shaped, key, needed, number, text

DEVELOPMENTS = {format_development(step): step for step in range(-4, 5)}
"""What a roll can get, in words -> k of N+k."""


@dataclass(frozen=True)
class RollInUse(Shaped):
    """A roll that is in a camera. film: as scenes name it. rated: its speed, "200". development: "N-1", "" where it was not said."""

    number: int = needed(number(1, kind="integer"))
    film: str = needed(text(60))
    rated: str = needed(text(16))
    development: str = key(text(8), "")

    @property
    def speed(self):
        """The speed that it was rated at, as scenes write it; None where nobody can read it."""
        try:
            return parse_speed(self.rated).name
        except CoreError:
            return None

    @property
    def step(self):
        """k of N+k that it gets, None where it was not said."""
        return DEVELOPMENTS.get(self.development)


def roll_of(document, rolls):
    """The RollInUse that a Document's film is on, or None. rolls: of the person, those in cameras."""
    film = film_of(document)
    return next((roll for roll in rolls if roll.film == film), None) if film else None


def on_roll(document, rolls):
    """The Document as it is exposed: with the speed and the development of the roll that its film is on, itself without one.

    rolls: RollInUse of each that is in a camera. A speed that the film had of its own stays its own.
    """
    roll = roll_of(document, rolls)
    if roll is None:
        return document
    medium = document.medium
    if roll.speed is not None and str(medium.iso) != roll.speed:
        own = medium.iso if medium.own_iso is None else medium.own_iso
        iso = int(roll.speed) if roll.speed.isdecimal() else roll.speed
        medium = replace(medium, iso=iso, own_iso=None if str(own) == roll.speed else own)
    if roll.step is not None:
        medium = replace(medium, developed=roll.step)
    return document if medium == document.medium else replace(document, medium=medium)


def roll_line(roll):
    """A roll in words, "" for none.

    >>> roll_line(RollInUse(3, "Slow", "200", "N+1"))
    'roll 3, rated ISO 200, developed N+1'
    """
    if roll is None:
        return ""
    return f"roll {roll.number}, rated ISO {roll.rated}" + (
        f", developed {roll.development}" if roll.development else ""
    )
