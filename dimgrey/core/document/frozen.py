"""The plan and the document that a frame keeps for good, of whatever version they were frozen in.

A frozen zone is where a tone fell on film or sensor; how it prints was recorded later only.
"""

from dataclasses import dataclass

from dimgrey.core.document.plainform import document_of
from dimgrey.core.shapes.declare import YES_NO, Shaped, key, many, needed, number, or_none, part, text
from dimgrey.core.shapes.plain import checked_part

MOST_TONES = 1000


@dataclass(frozen=True)
class FrozenTone(Shaped):
    """One tone as it was planned. zone_after_filter: its fall. print: its zone in the print, None when not recorded; beyond_paper: -1
    blacker than the paper's black, 1 whiter than its white. needs_texture, held: as planned; a frame of before they were kept needs it."""

    name: str = needed(text(0))
    ev100: float = needed(number())
    zone_after_filter: float = needed(number())
    texture: str = needed(text(0))
    print: float | None = key(or_none(number()))
    beyond_paper: float = key(number(-1, 1), 0)
    needs_texture: bool = key(YES_NO, True)
    held: float | None = key(or_none(number()))


@dataclass(frozen=True)
class FrozenPlacing(Shaped):
    """What was placed. tone: its name, None where the school places none."""

    school: str = key(text(0), "")
    tone: str | None = key(or_none(text(0)))


@dataclass(frozen=True)
class FrozenIntent(Shaped):
    """What was wanted and how the plan stood to it, sentences; "" for a frame that was logged before they were kept."""

    wanted: str = key(text(0), "")
    now: str = key(text(0), "")


@dataclass(frozen=True)
class FrozenPlan(Shaped):
    """A plan as it was. given: the time to give, "" where it was not kept. development: "N-1", None without."""

    exposure_ev100: float = needed(number())
    placing: FrozenPlacing = part(FrozenPlacing)
    shutter: str = key(text(0), "")
    given: str = key(text(0), "")
    intent: FrozenIntent = part(FrozenIntent)
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
