"""An in-camera setup of the kit by its number; the reason is added to the notes."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Text, Whole, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import meansedits
from dimgrey.core.document.edits import Refused

MOST = 2**31


@dataclass(frozen=True, kw_only=True)
class Keys:
    setup: int = needed(Whole(1, MOST))
    reason: str = given(Text(200), "")


def _edit(document, said, case):
    part = case.setup(said.setup)
    if part is None:
        raise Refused("There is no such setup among yours.", code="setup-gone")
    return meansedits.with_setup(document, part, said.reason)


VERB = Verb(
    "setup", "Use an in-camera setup", _edit, Keys, lambda document, said: f"setup: {document.setup.name}", ("setup",)
)
