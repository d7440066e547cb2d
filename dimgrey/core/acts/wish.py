"""The print that a tone shall have; nothing takes the wish back."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import MARK, As, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import wishing
from dimgrey.core.planning.spans import parse_wish


@dataclass(frozen=True, kw_only=True)
class Keys:
    mark: str = needed(MARK)
    wish: tuple | None = given(As(parse_wish), None, "Shall print on", "II-III, at most I")


VERB = Verb(
    "wish",
    "Wish a print for a tone",
    lambda document, said, case: wishing.with_wish(document, said.mark, said.wish),
    Keys,
    "wish for {mark}",
)
