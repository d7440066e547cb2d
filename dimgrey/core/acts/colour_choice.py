"""A coloured filter put in front, or the in-camera mix of a colour sensor; “none” takes it away."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Text, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import meansedits


@dataclass(frozen=True, kw_only=True)
class Keys:
    choice: str = needed(Text(40))


def _words(document, said):
    return f"{'in-camera filter' if document.medium.mixes_channels else 'filter'}: {said.choice}"


VERB = Verb(
    "colour-choice",
    "Choose a coloured filter or an in-camera mix",
    lambda document, said, case: meansedits.with_colour_choice(document, said.choice),
    Keys,
    _words,
)
