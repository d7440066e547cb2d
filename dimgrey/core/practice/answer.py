"""One answer of a round, as the page sends it and the archive keeps it."""

from dataclasses import dataclass
from datetime import datetime

from dimgrey.core.practice.drills import KINDS
from dimgrey.core.shapes.declare import YES_NO, Shaped, needed, number, one_of, text
from dimgrey.core.shapes.moments import ID, MOMENT, id_of, zoned_moment


@dataclass(frozen=True, kw_only=True)
class GivenAnswer(Shaped):
    """act: its id, so that one sent twice counts once. off: by how much, zones, or stops where in_stops. level: of the card then."""

    act: str = needed(ID, reads=id_of)
    kind: str = needed(one_of(*KINDS))
    subject: str = needed(text(60, 1))
    off: float = needed(number(0, 20))
    is_right: bool = needed(YES_NO)
    in_stops: bool = needed(YES_NO)
    level: int = needed(number(0, 4, "integer"))
    at: datetime = needed(MOMENT, reads=zoned_moment)
