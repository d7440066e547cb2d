"""Where the edge of graduated glass stands, as a fraction from the top."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Number, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import meansedits


@dataclass(frozen=True, kw_only=True)
class Keys:
    edge: float = needed(Number(0, 1))


VERB = Verb(
    "edge",
    "Move the edge of a graduated filter",
    lambda document, said, case: meansedits.with_glass_changed(document, "graduated", edge=round(said.edge, 3)),
    Keys,
    "graduated edge",
)
