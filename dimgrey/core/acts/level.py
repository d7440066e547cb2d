"""The own mix back to a level curve."""

from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import meansedits

VERB = Verb(
    "level",
    "Level the own mix again",
    lambda document, said, case: meansedits.with_level_mix(document),
    words="level mix",
)
