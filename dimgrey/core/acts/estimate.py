"""A tone without a meter: middle grey in a named light, from the daylight guide and the sun's height if it is known."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import OneOf, Text, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.sky.daylight import KINDS, daylight_ev100

USUAL_SUN_ALTITUDE_DEG = 40.0
"""Where the sun is taken to stand while date or place is missing."""
MOST_NOTE = 120


@dataclass(frozen=True, kw_only=True)
class Keys:
    light: str = needed(OneOf(KINDS), "No meter? Grey in", missing="Say which light it is.")
    name: str = given(Text(60), "")


def _edit(document, said, case):
    altitude = case.sun_altitude(document)
    found = daylight_ev100(said.light, USUAL_SUN_ALTITUDE_DEG if altitude is None else altitude)
    reading = case.typed({"kind": "estimate", "ev100": round(found.ev100, 2), "note": found.why[:MOST_NOTE]})
    return edits.with_named_tone(document, said.name or f"grey in {said.light}", reading)


VERB = Verb(
    "estimate",
    "A tone from the daylight guide, without a meter",
    _edit,
    Keys,
    "estimate {light}",
    ("sun_altitude",),
    appends=True,
)
