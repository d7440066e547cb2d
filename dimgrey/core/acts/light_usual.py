"""What a face usually wants in the print: the lit side by its complexion, and an edge that gets a stop of light more than it."""

import math

from dimgrey.core.acts.lit import NEEDS, lamp_edit, lit_plan
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan
from dimgrey.core.document.edits import Refused
from dimgrey.core.lamps.subjects import HAIR, SITTER, SKIN
from dimgrey.core.planning.prints import Printing

EDGE_DEG = 110.0
"""Angle from which a lamp stands behind the subject and draws an edge."""
EDGE_STOPS = 1.0
"""Light that an edge gets over the lit side. Source: HANDBOOK 20."""


def _change(document, said, case):
    lit = lit_plan(document, case)
    if lit.lighting.subject != SITTER:
        raise Refused(
            "Usual wishes are those of a face: wish a zone for a place of the table yourself.", code="no-face"
        )
    side = lit.sides[0] or "right"
    printing = lit.plan.printing if lit.plan else Printing(document.medium.kind)
    low, high = lit.surfaces[SKIN].wished
    on_skin = round(printing.fall_for((low + high) / 2), 1)
    shares = lit.surfaces[HAIR].reflectance / lit.surfaces[SKIN].reflectance
    on_edge = round(EDGE_STOPS + math.log2(shares), 1)
    edges = [lamp for lamp in lit.lamps if lamp.is_on and abs(lamp.angle_deg) >= EDGE_DEG]
    made = lightplan.with_wish(document, f"cheek {side}", on_skin)
    for lamp in edges[:1]:
        hair = "right" if lamp.angle_deg > 0 else "left"
        made = lightplan.with_wish(made, f"hair {hair}", on_edge, f"cheek {side}")
    return made


VERB = Verb(
    "light-usual", "Wish what a face usually wants", lamp_edit(_change), words="usual wishes of a face", needs=NEEDS
)
