"""Two tones that must part, in front of those chosen before."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Named, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import wishing


@dataclass(frozen=True, kw_only=True)
class Keys:
    a: str = needed(Named("tone"), "Must part")
    b: str = needed(Named("tone"), "from")


VERB = Verb(
    "pair",
    "Two tones that must part",
    lambda document, said, case: wishing.with_pair(document, said.a, said.b),
    Keys,
    "part {a} from {b}",
)
