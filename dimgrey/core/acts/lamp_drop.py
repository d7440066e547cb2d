"""A lamp removed."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import needed
from dimgrey.core.acts.lamp_set import INDEX
from dimgrey.core.acts.lit import NEEDS, lamp_edit
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan


@dataclass(frozen=True, kw_only=True)
class Keys:
    index: int = needed(INDEX)


VERB = Verb(
    "lamp-drop",
    "Remove a lamp",
    lamp_edit(lambda document, said, case: lightplan.without_lamp(document, said.index)),
    Keys,
    "remove a lamp",
    NEEDS,
)
