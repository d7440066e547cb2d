"""The lamps in use kept under a name."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Text, needed
from dimgrey.core.acts.lit import NEEDS, lamp_edit
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan


@dataclass(frozen=True, kw_only=True)
class Keys:
    name: str = needed(Text(40), "Name", missing="Give these lamps a name to keep them under.")


VERB = Verb(
    "lamps-keep",
    "Keep the lamps under a name",
    lamp_edit(lambda document, said, case: lightplan.with_kept(document, said.name)),
    Keys,
    "keep lamps “{name}”",
    NEEDS,
)
