"""What is kept of a result against its plan: each key tone, the parts of the miss, and what was said of them."""

from dataclasses import dataclass

from dimgrey.core.results.causes.cause import Part, Said
from dimgrey.core.results.resultkinds import KINDS
from dimgrey.core.shapes.declare import YES_NO, Shaped, exactly, key, many, needed, number, one_of, or_none, text

MOST_TONES, MOST_SAID = 40, 60
ZONE = number(-60, 60)


@dataclass(frozen=True)
class FoundTone(Shaped):
    """One key tone. wished: span of zones, or None. planned, actual: prints. planned_fall, fall: on film or sensor. end: 1 lost in
    white, -1 in black, 0 neither. own: zones that no part of the miss explains, or None. free: it was allowed to be lost."""

    name: str = needed(text(60))
    role: str = needed(text(20))
    planned: float = needed(ZONE)
    actual: float = needed(ZONE)
    planned_fall: float = needed(ZONE)
    fall: float = needed(ZONE)
    end: int = needed(number(-1, 1, "integer"))
    free: bool = needed(YES_NO)
    wished: tuple | None = key(or_none(exactly(2, ZONE)))
    own: float | None = key(or_none(ZONE))

    @property
    def miss(self):
        """Zones that it prints lighter than planned."""
        return self.actual - self.planned


@dataclass(frozen=True)
class Found(Shaped):
    """What was found. a, b: exposure in stops and contrast as a share, a_half, b_half: half their 95 % intervals. unexplained: stops
    that the settings of the frame do not explain, None where the file does not tell its exposure. spread: zones. places: how many
    spoke. share: of the plan's picture that the result shows."""

    kind: str = needed(one_of(*KINDS))
    a: float = needed(number())
    a_half: float = needed(number())
    b: float = needed(number())
    b_half: float = needed(number())
    spread: float = needed(number())
    places: int = needed(number(0, kind="integer"))
    share: float = needed(number())
    unexplained: float | None = key(or_none(number()))
    tones: tuple = many(FoundTone, MOST_TONES)
    parts: tuple = many(Part, MOST_SAID)
    said: tuple = many(Said, MOST_SAID)
