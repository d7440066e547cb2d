"""What a person does to a scene: the only place that writes scenes and revisions.

Every act is `do`: the core's verb, which is a pure edit of the document, checked whole, kept as a new revision in one transaction.
What is kept can be exported and imported again.
"""

from datetime import UTC, datetime, timedelta

from django.db import transaction
from django.utils import timezone

from dimgrey.core.acts.verb import require_verb
from dimgrey.core.document import scenefile
from dimgrey.core.document.edits import Refused
from dimgrey.core.errors import CoreError
from dimgrey.scenes.acts import By, DeskCase, hand_of, when_done
from dimgrey.scenes.models import Revision, Scene, Turn
from dimgrey.scenes.queries import newest_child

CLOCK_SLACK = timedelta(minutes=5)
"""How far an act's own time may lie in the future: devices' clocks differ."""
EARLIEST = datetime(2000, 1, 1, tzinfo=UTC)
"""A clock that says an earlier time was never set."""


class Stale(CoreError):
    """The scene was changed in another window since this page was made."""


def do(scene, by, verb, **values):
    """Do an act. verb: its name. values: what it says, as people write it or as it is. Returns the scene. Raises as `change` does."""
    found = require_verb(verb)
    return done(scene, by, found, found.said(values, scene.document))


def done(scene, by, verb, said):
    """Do an act that was read. verb: Verb. said: its keys. Returns the scene. Raises as `change` does."""
    # Where no hand is there is nobody to ask; a time at which an act was done is no answer to a question.
    settled, by = by is None, _by(by)
    case = DeskCase(at=_when(by), facts=scene.facts, settled=settled, scene=scene)
    label = lambda document: verb.told(document, said)
    line = getattr(said, "line", "")
    plainly = lambda: change(scene, by, label, lambda document: verb.edit(document, said, case), line=line)
    hand = hand_of(verb.name)
    return hand(scene, said, by, plainly) if hand else plainly()


@transaction.atomic
def change(scene, by, label, edit, picture=None, line=""):
    """Keep `edit(document)` as a new revision. Returns the scene; unchanged for an act that was done before.

    label: its words in the history, or a function of the document after it. edit: from Document to Document. by: By, or the stamp that the page showed, or None, which skips the check. picture: another one
    that the scene has from now on, or None. line: what is struck out. Raises
    Stale when another window wrote in between, CoreError when the edit is refused, DocumentError when its result cannot
    be kept; then nothing is written.
    """
    by = _by(by)
    # Sent twice, or sent again after a lost answer: the first time counted.
    if is_done(scene.owner_id, by.act):
        return scene
    _require_current(scene, by.stamp)
    before = scene.document
    after = edit(before)
    if after == before and picture is None:
        # An act that changed nothing was done all the same: sent again, it must not undo what came since.
        if by.act:
            Turn.objects.get_or_create(scene=scene, act=by.act)
        return scene
    kept, brief = scenefile.kept(after)
    label = label(after) if callable(label) else label
    shown = picture.pk if picture else scene.picture_id
    known = {
        "parent_id": scene.head_id,
        "label": label[:160],
        "picture_id": shown,
        "act": by.act,
        "line": line,
        "done_at": by.at,
    }
    # What is sky and what a polarizer takes of it depends on more than the document, on its picture.
    read = {"document": after} if picture or scene.picture else {"document": after, "brief": brief}
    _show(scene, Revision.objects.create(scene=scene, kept=kept, **known), **read)
    return scene


def _by(by):
    return by if isinstance(by, By) else By(by)


def _require_current(scene, stamp):
    if stamp is not None and stamp != scene.stamp:
        raise Stale(
            "This scene was changed in another window. The page now shows that state; nothing of it was overwritten. "
            "Do your last step again.",
            code="stale",
        )


def _show(scene, revision, **read):
    """Make a revision the scene's present state, unless another window wrote since the scene was read.

    read: what was read of it already, its document and brief.
    """
    before = scene.kept
    scene.become(revision.kept, **read)
    title = scene.document.title or scene.title
    # The stamp in the condition makes two windows that write at once take turns, without a lock.
    now = {"head": revision, "kept": revision.kept, "picture_id": revision.picture_id, "updated_at": timezone.now()}
    written = Scene.objects.filter(pk=scene.pk, stamp=scene.stamp).update(title=title, stamp=scene.stamp + 1, **now)
    if not written:
        scene.kept = before
        _require_current(scene, scene.stamp + 1)
    scene.head, scene.title, scene.stamp = revision, title, scene.stamp + 1
    scene.picture_id = revision.picture_id


@transaction.atomic
def undo(scene, by):
    """Take the last act back, once for each id."""
    return _turned(
        scene, _by(by), scene.head.parent if scene.head else None, "There is nothing to undo.", "nothing-to-undo"
    )


@transaction.atomic
def redo(scene, by):
    """Do again what was taken back last, once for each id."""
    return _turned(scene, _by(by), newest_child(scene), "There is nothing to redo.", "nothing-to-redo")


def _turned(scene, by, revision, sentence, code):
    """The scene at another revision of its history; a step that was taken before is not taken again."""
    if is_done(scene.owner_id, by.act):
        return scene
    _require_current(scene, by.stamp)
    if revision is None:
        raise Refused(sentence, code=code)
    _show(scene, revision)
    if by.act:
        Turn.objects.create(scene=scene, act=by.act)
    return scene


when_done("undo", lambda scene, said, by, plainly: undo(scene, by))
when_done("redo", lambda scene, said, by, plainly: redo(scene, by))


def is_done(owner_id, act):
    """Whether an act of a person was done before, by its id: a revision or a step in a history has it; 2 queries."""
    return bool(act) and any(
        rows.objects.filter(act=act, scene__owner_id=owner_id).exists() for rows in (Revision, Turn)
    )


def _when(by):
    """When an act was done. Raises Refused for a time that has not come yet, and for one that no clock that was set says."""
    at, now = _by(by).at, timezone.now()
    if at is not None and at > now + CLOCK_SLACK:
        raise Refused("That time has not come yet. Look at the clock of the device.", code="time-ahead")
    if at is not None and at < EARLIEST:
        raise Refused("That time lies before 2000. Look at the clock of the device.", code="time-unset")
    return at or now
