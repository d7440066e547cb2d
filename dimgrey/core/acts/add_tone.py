"""A tone without a place in a picture, with its first reading if one was typed."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Text, given
from dimgrey.core.acts.read import READING
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits


@dataclass(frozen=True, kw_only=True)
class Keys:
    name: str = given(Text(60), "", "Name", "lime wall")
    reading: dict | None = given(READING, None, "Reading", "12⅓ or 1/125 f/8")


def _edit(document, said, case):
    return edits.with_named_tone(document, said.name, case.typed(said.reading) if said.reading else None)


VERB = Verb(
    "add-tone",
    "Add a tone by its name",
    _edit,
    Keys,
    lambda document, said: f"add {said.name or 'a tone'}",
    appends=True,
)
