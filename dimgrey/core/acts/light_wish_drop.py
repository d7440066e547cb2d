"""The wish for a place dropped."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Text, needed
from dimgrey.core.acts.lit import NEEDS, lamp_edit
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan


@dataclass(frozen=True, kw_only=True)
class Keys:
    place: str = needed(Text(20))


VERB = Verb(
    "light-wish-drop",
    "Drop the wish for a place",
    lamp_edit(lambda document, said, case: lightplan.without_wish(document, said.place)),
    Keys,
    "no wish for {place}",
    NEEDS,
)
