"""What was taken back last done again."""

from dimgrey.core.acts.verb import Verb

VERB = Verb("redo", "Do again what was taken back", lambda document, said, case: case.after(document), needs=("after",))
