"""One tone is to print lighter than another, by so many zones."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import As, Named, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import wishing
from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.notation import parse_stops

MOST_ZONES = 10


def _zones(text):
    zones = parse_stops(text, "zones")
    if not 0 < zones <= MOST_ZONES:
        raise OutOfRange(
            f"A tone prints lighter by up to {MOST_ZONES} zones, and by something (got {zones:g}).", code="order"
        )
    return zones


@dataclass(frozen=True, kw_only=True)
class Keys:
    lighter: str = needed(Named("tone"), "Lighter")
    darker: str = needed(Named("tone"), "than")
    zones: float = needed(As(_zones), "by zones", "2", "Say by how many zones.")


VERB = Verb(
    "order",
    "One tone shall print lighter than another",
    lambda document, said, case: wishing.with_order(document, said.lighter, said.darker, said.zones),
    Keys,
    "{lighter} over {darker}",
)
