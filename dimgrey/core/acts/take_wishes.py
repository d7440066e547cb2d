"""Every wish that words and roles suggest, taken as the photographer's own."""

from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import wishing

VERB = Verb(
    "take-wishes",
    "Take the wishes that words and roles suggest",
    lambda document, said, case: wishing.with_wishes_taken(document),
    words="wishes taken",
)
