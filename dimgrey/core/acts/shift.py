"""The light changed, of the whole scene or of what is lit alone: readings move together and stay as they were taken."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import As, OneOf, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.notation import parse_stops
from dimgrey.core.measure.stops import format_stops

MOST_STOPS = 10


def _stops(text):
    stops = parse_stops(text, "stops")
    if not 0 < abs(stops) <= MOST_STOPS:
        raise OutOfRange(
            f"The light changes by up to {MOST_STOPS} stops, and by something (got {stops:g}).", code="shift"
        )
    return stops


@dataclass(frozen=True, kw_only=True)
class Keys:
    stops: float = needed(As(_stops), "The light changed by, stops", "-⅔", "Say by how many stops the light changed.")
    only: str | None = given(OneOf({"lit": "lit", "unlit": "unlit"}, unsaid="every tone"), None)


VERB = Verb(
    "shift",
    "The light changed by some stops",
    lambda document, said, case: edits.with_light_shifted(document, said.stops, said.only),
    Keys,
    lambda document, said: f"light {format_stops(said.stops, signed=True)}",
)
