"""Move a tone's pin, and its area with it, to another place of the picture; its light is read there."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import MARK, Number, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.document.lightscale import rescaled


@dataclass(frozen=True, kw_only=True)
class Keys:
    mark: str = needed(MARK)
    x: float = needed(Number(0, 1))
    y: float = needed(Number(0, 1))


def _edit(document, said, case):
    facts = case.require_picture("This scene has no picture.")
    area = edits.area_moved(edits.require_tone(document, said.mark), said.x, said.y)
    meter = case.meter(document)
    seen = meter.read_area(area) if area else meter.read(said.x, said.y, document.meter.spot_deg)
    reading = case.of_picture(document, seen)
    return rescaled(edits.repinned(document, said.mark, said.x, said.y, seen.spot, reading), facts)


VERB = Verb("move-pin", "Move a pin and read the light there", _edit, Keys, "move {mark}", ("meter",))
