"""A tone removed; a placing on it becomes none."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import MARK, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.document.lightscale import rescaled


@dataclass(frozen=True, kw_only=True)
class Keys:
    mark: str = needed(MARK)


VERB = Verb(
    "drop-tone",
    "Remove a tone",
    lambda document, said, case: rescaled(edits.without_tone(document, said.mark), case.facts),
    Keys,
    "remove {mark}",
)
