"""The plan and the document that a frame keeps for good, of whatever version they were frozen in.

A frozen zone is where a tone fell on film or sensor; how it prints was recorded later only.
"""

from dataclasses import dataclass

from dimgrey.core.document.plainform import document_of
from dimgrey.core.shapes.declare import Shaped, key, many, needed, number, or_none, part, text
from dimgrey.core.shapes.plain import checked_part

MOST_TONES = 1000


@dataclass(frozen=True)
class FrozenTone(Shaped):
    """One tone as it was planned. zone_after_filter: its fall. print: its zone in the print, None when not recorded."""

    name: str = needed(text(0))
    ev100: float = needed(number())
    zone_after_filter: float = needed(number())
    texture: str = needed(text(0))
    print: float | None = key(or_none(number()))


@dataclass(frozen=True)
class FrozenPlacing(Shaped):
    """What was placed. tone: its name, None where the school places none."""

    school: str = key(text(0), "")
    tone: str | None = key(or_none(text(0)))


@dataclass(frozen=True)
class FrozenPlan(Shaped):
    """A plan as it was. development: "N-1", None without."""

    exposure_ev100: float = needed(number())
    placing: FrozenPlacing = part(FrozenPlacing)
    shutter: str = key(text(0), "")
    aperture: str = key(text(0), "")
    iso: str = key({"type": ["number", "string"]}, "", reads=str)
    development: str | None = key(or_none(text(0)))
    tones: tuple = many(FrozenTone, MOST_TONES)


def frozen_plan(data):
    """FrozenPlan of a kept "dimgrey-plan", or None for a frame that was logged without one. Raises DocumentError for one that is none."""
    return checked_part(FrozenPlan, data, lenient=True) if data else None


def frozen_document(data):
    """The Document that a frame was made with, or None for one that came without."""
    return document_of(data) if data else None
