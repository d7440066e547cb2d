"""A scene on a phone: acts done on what was carried, one after another, with where undo, redo and striking out lead from there."""

from dataclasses import dataclass, field, replace

from dimgrey.core.acts.case import Elsewhere
from dimgrey.core.acts.keys import Sent, said_of, sent_id, sent_verb
from dimgrey.core.acts.read import DOUBT
from dimgrey.core.acts.verb import done, require_verb
from dimgrey.core.document.scenefile import kept
from dimgrey.core.errors import CoreError
from dimgrey.core.field.carried import Carried
from dimgrey.core.field.exchange import Sighted
from dimgrey.core.field.lines import STEPS, with_act
from dimgrey.core.shapes.check import DocumentError
from dimgrey.core.shapes.plain import read_part


@dataclass
class OnPhone:
    """A scene with the acts that were done here.

    base: its Document as carried. after: ids of the acts that `document` has behind it, with what was refused of them. past, ahead:
    documents that undo and redo lead to, the nearest last. asked: ids of acts whose refusal is a question. steps: as `Carried.steps`. lines: the ribbon.
    """

    base: object
    carried: Carried
    after: list = field(default_factory=list)
    document: object = None
    refused: dict = field(default_factory=dict)
    asked: tuple = ()
    past: tuple = ()
    ahead: tuple = ()
    steps: dict = field(default_factory=dict)
    lines: tuple = ()


def catch_up(scene, acts):
    """Do those acts that the scene's last document has not behind it; from the start where another order was asked for."""
    ids = [sent_id(act) for act in acts]
    if scene.document is None or scene.after != ids[: len(scene.after)]:
        scene.after, scene.document, scene.refused = [], scene.base, {}
        scene.past, scene.ahead = scene.carried.past, scene.carried.ahead
        scene.steps, scene.lines = dict(scene.carried.steps), scene.carried.lines
    for act in acts[len(scene.after) :]:
        after, sentence = tried(scene, act)
        name, line, before = sent_verb(act), sent_id(act), scene.document
        scene.steps[line] = (after, after) if name in STEPS else (before, after)
        if sentence:
            scene.refused[line] = sentence
        else:
            said = require_verb(name).said(act, before)
            scene.lines = with_act(scene.lines, name, line, said, after, after != before)
            if after != before:
                _go(scene, name, after)
        scene.after.append(line)


def _go(scene, verb, after):
    """The scene with the document after an act that changed it, and with where undo and redo lead from there."""
    before, scene.document = scene.document, after
    if verb == "undo":
        scene.past, scene.ahead = scene.past[:-1], (*scene.ahead, before)
    elif verb == "redo":
        scene.past, scene.ahead = (*scene.past, before), scene.ahead[:-1]
    else:
        scene.past, scene.ahead = (*scene.past, before), ()


def tried(scene, act):
    """(Document after an act, "") or (the same, the sentence of its refusal). scene: OnPhone. act: as the page sends it."""
    try:
        sent = said_of(Sent, act)
        spot = read_part(Sighted, act).spot
        case = replace(scene.carried, at=sent.at, spot=spot, past=scene.past, ahead=scene.ahead, steps=scene.steps)
        after = done(scene.document, sent_verb(act), act, case)
        if after != scene.document:
            kept(after)  # what the desk could not keep is refused here as it is there
        return after, ""
    except DocumentError as refused:
        return scene.document, " ".join(refused.mistakes)
    except CoreError as refused:
        if refused.code == DOUBT:
            scene.asked = (*scene.asked, sent_id(act))
        return scene.document, str(refused)
    except ImportError:
        return scene.document, str(Elsewhere("what computes it"))  # NumPy is not on a phone
