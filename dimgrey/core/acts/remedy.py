"""One of the computed ways out of a scene that exceeds its medium."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Text, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import meansedits


@dataclass(frozen=True, kw_only=True)
class Keys:
    code: str = needed(Text(40))


VERB = Verb(
    "remedy",
    "Take a way out of too long a range",
    lambda document, said, case: meansedits.with_remedy(document, said.code, case.read_as),
    Keys,
    "way out: {code}",
    ("read_as",),
)
