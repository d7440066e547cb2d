"""No wish of tones or orders any more; those that words suggest are suggested again."""

from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import wishing

VERB = Verb(
    "drop-wishes",
    "Drop the wishes of tones and orders",
    lambda document, said, case: wishing.without_wishes(document),
    words="no wishes",
)
