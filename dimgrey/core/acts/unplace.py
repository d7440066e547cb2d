"""The placing taken back altogether."""

from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits

VERB = Verb(
    "unplace", "Take the placing back", lambda document, said, case: edits.unplaced(document), words="no placing"
)
