"""An act struck out of the log of a scene: what it changed is as before, what was done later stays. Struck out again, it counts again."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import As, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.joining import put_back
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.moments import id_of

MOST_DIGITS = 18


def line_of(text):
    """What an act of the log is known by: the number of the state that it led to, or its id. Raises Unreadable."""
    return text if text.isascii() and text.isdecimal() and len(text) <= MOST_DIGITS else id_of(text)


@dataclass(frozen=True, kw_only=True)
class Keys:
    """line: id of the act, or the number of the state that it led to."""

    line: str = needed(As(line_of), missing="Say which act is to be struck out.")


LATER = "What was done later stands on it. Strike that out first."


def _edit(document, said, case):
    before, after = case.around(document, said.line)
    if document == after:
        return before
    left = put_back(document, before, after)
    if left == document:
        # Gone already, or changed again since by an act that stays.
        if before != after and put_back(document, after, before) == document:
            raise Refused(LATER, code="stood-on")
        return document
    left = rescaled(left, case.facts)
    try:
        case.read_as(left)
    except CoreError:
        raise Refused(LATER, code="stood-on") from None
    return left


VERB = Verb("strike-out", "Strike an act out of the scene's log", _edit, Keys, "struck out", ("around", "read_as"))
