"""The ribbon of a scene: each thing that was done to it is a line, which can be struck out and put back."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.verb import require_verb
from dimgrey.core.shapes.declare import ANYTHING, Shaped, key

STRIKE = "strike-out"
STEPS = ("undo", "redo")
"""Verbs that walk through the history and leave no line of their own."""
FRAME = "log"


@dataclass(frozen=True)
class Line(Shaped):
    """One thing that was done. line: what it is known by. at: ISO 8601. frame: it is an exposure. struck: id of the act that struck it
    out, "" while it stands. step: its place among the carried states, None for what led to none. strikes: what it strikes out itself."""

    line: str = key(ANYTHING, "")
    words: str = key(ANYTHING, "")
    at: str = key(ANYTHING, "")
    frame: bool = key(ANYTHING, False)
    struck: str = key(ANYTHING, "")
    step: int | None = key(ANYTHING)
    strikes: str = key(ANYTHING, "")


def ribbon(lines):
    """Lines as they stand, oldest first: those that strike others out are told by what they struck. lines: Lines as they were done."""
    found = ()
    for each in lines:
        found = _struck(found, each.strikes, each.line) if each.strikes else (*found, each)
    return found


def with_act(lines, verb, line, said, document, is_change):
    """A ribbon after an act. lines: as it was. verb: its name. line: its id. said: what it says, as read. document: after it. is_change: of the document."""
    if verb == STRIKE:
        return _struck(lines, said.line, line)
    if verb in STEPS or not (is_change or verb == FRAME):
        return lines
    return (*lines, Line(line, require_verb(verb).told(document, said), frame=verb == FRAME))


def _struck(lines, target, by):
    """Lines after one was struck out by an act, or put back by one that strikes the striking."""
    return tuple(_met(each, target, by) if target in (each.line, each.struck) else each for each in lines)


def _met(each, target, by):
    return replace(each, struck="" if each.struck == target else each.struck or by)


def plain_lines(lines):
    """What the page is told of a ribbon."""
    return [
        {"line": each.line, "words": each.words, "frame": each.frame, "struck": each.struck, "at": each.at}
        for each in lines
    ]
