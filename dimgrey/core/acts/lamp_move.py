"""A lamp moved on the drawing: degrees, and metres whatever the unit."""

from dataclasses import asdict, dataclass

from dimgrey.core.acts.keys import Number, needed
from dimgrey.core.acts.lamp_set import INDEX
from dimgrey.core.acts.lit import NEEDS, lamp_edit
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan
from dimgrey.core.lamps.lamp import HIGHEST_M, MOST_M


@dataclass(frozen=True, kw_only=True)
class Keys:
    index: int = needed(INDEX)
    angle_deg: float = needed(Number(-180, 180))
    away_m: float = needed(Number(0, MOST_M))
    height_m: float = needed(Number(0, HIGHEST_M))


VERB = Verb(
    "lamp-move",
    "Move a lamp",
    lamp_edit(lambda document, said, case: lightplan.with_lamp(document, **asdict(said))),
    Keys,
    "move a lamp",
    NEEDS,
)
