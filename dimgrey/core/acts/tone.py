"""What is said of a tone: its name, role, texture, light and glare. Placing, pairs and orders follow the name."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import MARK, Number, OneOf, Text, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.document.tonebriefing import needs_texture
from dimgrey.core.planning.brief import ROLES

LIT = {"": "not said", "lit": "lit", "unlit": "unlit"}


@dataclass(frozen=True, kw_only=True)
class Keys:
    """A key that is left out leaves what it is about as it was."""

    mark: str = needed(MARK)
    name: str = needed(Text(60), "Name", missing="Give the tone a name.")
    role: str | None = given(OneOf(ROLES), None, "It is the")
    texture: str | None = given(OneOf({"needed": "must stay", "free": "may go"}), None, "Texture")
    lit: str | None = given(OneOf(LIT), None, "Light", empty="")
    glare: float | None = given(Number(0, 2), None, "Polarizer takes, stops", "0", empty=0.0)


def _edit(document, said, case):
    tone, found = edits.require_tone(document, said.mark), {"name": said.name}
    # A default that still stands is not written down as if it had been chosen.
    if said.role and said.role != (tone.role or "other"):
        found["role"] = said.role
    if said.texture and said.texture != ("needed" if needs_texture(tone, document) else "free"):
        found["texture"] = said.texture
    if said.lit is not None:
        found["lit"] = said.lit or None
    if said.glare is not None:
        found["glare_stops"] = said.glare
    return edits.described(document, said.mark, **found)


VERB = Verb("tone", "Name and describe a tone", _edit, Keys, "describe {mark}")
