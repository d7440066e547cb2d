"""A wish that the words were read as, or that a school or role suggests, struck: it is not meant."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import Text, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.model import MOST_STRUCK


@dataclass(frozen=True, kw_only=True)
class Keys:
    """wish: its key."""

    wish: str = needed(Text(200))


def _edit(document, said, case):
    struck = (*(each for each in document.wanted.struck if each != said.wish), said.wish)[-MOST_STRUCK:]
    return document.with_(wanted=replace(document.wanted, struck=struck))


VERB = Verb("strike", "Strike a wish that is not meant", _edit, Keys, "not meant: {wish}")
