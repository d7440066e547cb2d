"""A proposal that is not wanted for this scene: it does not come again."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import Text, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.model import MOST_STRUCK


@dataclass(frozen=True, kw_only=True)
class Keys:
    """code: of the proposal."""

    code: str = needed(Text(200))


def _edit(document, said, case):
    refused = (*(each for each in document.wanted.refused if each != said.code), said.code)[-MOST_STRUCK:]
    return document.with_(wanted=replace(document.wanted, refused=refused))


VERB = Verb("refuse", "Refuse a proposal for this scene", _edit, Keys, "not wanted: {code}")
