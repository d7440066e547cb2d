"""One reading of a tone taken back."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import MARK, Whole, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits


@dataclass(frozen=True, kw_only=True)
class Keys:
    """index: its place among all readings of the tone."""

    mark: str = needed(MARK)
    index: int = needed(Whole(0, 1000))


VERB = Verb(
    "unread",
    "Take back one reading of a tone",
    lambda document, said, case: edits.without_reading(document, said.mark, said.index, case.facts),
    Keys,
    "remove a reading of {mark}",
)
