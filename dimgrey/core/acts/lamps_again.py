"""Lamps that were kept under a name in use again."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Text, needed
from dimgrey.core.acts.lit import NEEDS, lamp_edit
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan


@dataclass(frozen=True, kw_only=True)
class Keys:
    name: str = needed(Text(40), "Name", missing="Say which lamps.")


VERB = Verb(
    "lamps-again",
    "Use kept lamps again",
    lamp_edit(lambda document, said, case: lightplan.kept_again(document, said.name)),
    Keys,
    "lamps “{name}”",
    NEEDS,
)
