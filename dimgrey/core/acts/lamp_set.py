"""One lamp as it stands and burns. What a meter at the subject says of it alone sets its strength."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import Number, OneOf, Text, Whole, YesNo, given, needed
from dimgrey.core.acts.lit import NEEDS, lamp_edit, lit_plan
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan
from dimgrey.core.document.lighting import in_metres
from dimgrey.core.lamps.lamp import KIND_WORDS
from dimgrey.core.lamps.lampmetering import strength_for

INDEX = Whole(0, 20)
"""The place of a lamp in its list, from 0."""
LENGTHS = {"away": "away_m", "height": "height_m", "width": "width_m", "face": "face_m"}
"""Keys in the unit of the light plan, and the fields in metres that they are."""


@dataclass(frozen=True, kw_only=True)
class Keys:
    """reading: what a meter at the subject says of it alone, which sets its strength."""

    index: int = needed(INDEX)
    name: str = needed(Text(40), "Name")
    kind: str = needed(OneOf(KIND_WORDS), "Kind")
    angle_deg: float = needed(Number(-180, 180), "Angle from the camera, °")
    away: float = needed(Number(0, 100), "Along the floor")
    height: float = needed(Number(0, 40), "Height")
    width: float = needed(Number(0, 20), "Face wide")
    face: float = needed(Number(0, 20), "Face high")
    is_round: bool = given(YesNo(), False, "round")
    strength: float = needed(Number(0, 1e7), "Strength")
    stops: float = needed(Number(-12, 12), "Power, stops")
    grid_deg: float = given(Number(0, 80), 0.0, "Grid, °")
    is_flagged: bool = given(YesNo(), False, "a dark board keeps it off the ground")
    is_on: bool = given(YesNo(), False, "on")
    follows_sky: bool = given(YesNo(), False, "a window that follows the outing's sky")
    reading: str = given(Text(20), "", "Or: it reads at the subject", "f/8, EV 9 or 500 lx")


AS_SAID = tuple(name for name in Keys.__dataclass_fields__ if name not in ("index", "reading", *LENGTHS))
"""Keys that are fields of a lamp by the same name."""


def _change(document, said, case):
    fields = {name: getattr(said, name) for name in AS_SAID}
    fields |= {field: in_metres(getattr(said, key), document.lighting.unit) for key, field in LENGTHS.items()}
    if said.reading:
        lit = lit_plan(document, case)
        placed = replace(lit.lamps[said.index if said.index < len(lit.lamps) else 0], **fields)
        burning = replace(placed, strength=1.0, is_on=True)
        fields["strength"] = strength_for(said.reading, burning, lit.view.middle, lit.camera)
    return lightplan.with_lamp(document, said.index, **fields)


VERB = Verb("lamp-set", "Say how a lamp stands and burns", lamp_edit(_change), Keys, "lamp {name}", NEEDS)
