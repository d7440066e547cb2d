"""Several frames around the plan; no count takes the bracket away."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import As, OneOf, given
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.model import BracketPart
from dimgrey.core.measure.brackets import COUNTS, ORDERS, require_bracket
from dimgrey.core.measure.notation import parse_stops

USUAL_STEP = 1.0


@dataclass(frozen=True, kw_only=True)
class Keys:
    count: int | None = given(OneOf(COUNTS, unsaid="none"), None, "Frames")
    step: float | None = given(As(lambda text: parse_stops(text, "bracket")), None, "Stops apart", "1")
    order: str | None = given(OneOf(ORDERS), None, "Order")


def _edit(document, said, case):
    if not said.count:
        return document.with_(bracket=None)
    found = require_bracket(said.count, said.step or USUAL_STEP, said.order or ORDERS[0])
    return document.with_(bracket=BracketPart(found.count, round(found.step, 4), found.order))


VERB = Verb("bracket", "Several frames around the plan", _edit, Keys)
