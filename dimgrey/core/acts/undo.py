"""The last act taken back."""

from dimgrey.core.acts.verb import Verb

VERB = Verb("undo", "Take the last act back", lambda document, said, case: case.before(document), needs=("before",))
