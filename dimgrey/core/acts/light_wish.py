"""What a place shall be: on a zone, or so many zones over another place."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import As, Text, given, needed
from dimgrey.core.acts.lit import NEEDS, lamp_edit, lit_plan
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan
from dimgrey.core.document.edits import Refused
from dimgrey.core.planning.zones import parse_zone


def _zone(text):
    """A zone, or a number of zones with its sign."""
    plain = text.replace("−", "-").strip()
    return float(plain) if plain.lstrip("+-").replace(".", "", 1).isdigit() else parse_zone(plain)


@dataclass(frozen=True, kw_only=True)
class Keys:
    place: str = needed(Text(20))
    zone: float = needed(As(_zone, most=10), "On zone", "VI, or +1", "Say the zone, such as VI or +1.")
    over: str = given(Text(20), "")


def _change(document, said, case):
    names = lit_plan(document, case).place_names
    if said.place not in names or (said.over and said.over not in names):
        raise Refused("That place is not in this picture.", code="no-place")
    return lightplan.with_wish(document, said.place, said.zone, said.over)


VERB = Verb("light-wish", "Wish a zone for a place", lamp_edit(_change), Keys, "wish for {place}", NEEDS)
