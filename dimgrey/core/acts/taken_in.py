"""The light that a picture was taken in, where its file does not say how it was exposed: its light gets a scale from it, as a guess."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import OneOf, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.guessedscale import guessed
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.sky.daylight import TAKEN_IN

NO_PICTURE = "This scene has no picture whose light could be guessed."


@dataclass(frozen=True, kw_only=True)
class Keys:
    light: str = needed(OneOf(tuple(TAKEN_IN)), "Taken in", missing="Say which light it was taken in.")


def _edit(document, said, case):
    facts = case.require_picture(NO_PICTURE)
    scale = guessed(said.light, case.frame_stops(), case.sun_altitude(document))
    return rescaled(document.with_(taken_in=scale), facts)


VERB = Verb(
    "taken-in",
    "Guess the scale of a picture from the light it was taken in",
    _edit,
    Keys,
    "taken in {light}",
    ("frame_stops", "sun_altitude"),
)
