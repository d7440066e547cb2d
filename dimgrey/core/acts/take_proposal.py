"""What the judge proposes, taken: its code says what changes, and nothing else does."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Text, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.changes import changed
from dimgrey.core.document.kituse import glass_of


@dataclass(frozen=True, kw_only=True)
class Keys:
    """code: as document.changes reads it."""

    code: str = needed(Text(200))


def _edit(document, said, case):
    def item(name):
        found = case.item("filter", name)
        return found and glass_of(found)

    return changed(document, said.code, case.read_as, item)


VERB = Verb("take-proposal", "Take what is proposed", _edit, Keys, "proposal: {code}", ("read_as",))
