"""What the program guessed of a tone, or of all tones, taken as the photographer's own."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import MARK, given
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits


@dataclass(frozen=True, kw_only=True)
class Keys:
    """mark: None for all tones."""

    mark: str | None = given(MARK)


VERB = Verb(
    "take-guess",
    "Take a guessed name and role",
    lambda document, said, case: edits.taken(document, said.mark),
    Keys,
    lambda document, said: f"take {said.mark or 'all guesses'}",
)
