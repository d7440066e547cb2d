"""The pairs that were chosen dropped; those that are suggested are back."""

from dimgrey.core.acts.verb import Verb

VERB = Verb(
    "unpair",
    "Drop the pairs that must part",
    lambda document, said, case: document.with_(pairs=()),
    words="suggested pairs",
)
