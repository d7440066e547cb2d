"""Acts that come home from a phone: done in their order, each exactly once, joined with what was done at the desk meanwhile.

An act that touches what the desk touched since the phone took the scene along is not done: it comes back with both, side by side,
and nothing is overwritten in silence. What appends (readings, pins, tones, frames) is joined always. docs/decisions/026.
"""

from dataclasses import replace
from typing import NamedTuple

from django.db import transaction

from dimgrey.core.acts.keys import sent_id, sent_verb
from dimgrey.core.acts.verb import require_verb
from dimgrey.core.document.joining import named, touched
from dimgrey.core.document.plainform import document_of
from dimgrey.frames.models import Frame
from dimgrey.people.owned import owned
from dimgrey.scenes import actions, queries
from dimgrey.scenes.act_views import STATES, answer_to
from dimgrey.scenes.acts import By
from dimgrey.scenes.models import Revision


class Became(NamedTuple):
    """What became of an act."""

    act: str
    state: str = "kept"
    sentence: str = ""
    theirs: str = ""


class Met(Exception):
    """Two devices changed the same; the transaction that found it is taken back. keys: what both touched."""

    def __init__(self, keys):
        super().__init__(keys)
        self.keys = keys


def take_in_acts(person, pk, base, own, sent):
    """What became of each act, in order: {"act", "state", "sentence", "theirs"}.

    base: number of the revision that the phone had when it acted, or None. own: ids of acts that it knows as kept. sent: the
    acts as they were sent. state: "kept" (now or before), "stale" or "refused" with the sentence.
    """
    own, answers = set(own), []
    for values in sent:
        answer = _one(person, pk, base, own, values)
        if answer.state == "kept":
            own.add(answer.act)
        answers.append(answer._asdict())
    return answers


def _one(person, pk, base, own, values):
    answer = Became(str(sent_id(values)))
    if is_known(person, answer.act):
        return answer
    scene = owned(queries.scene_to_change, person, pk, "scene")
    met = []

    def do():
        verb = require_verb(sent_verb(values))
        by = replace(By.sent(values, verb.appends), stamp=None)
        said = verb.said(values, scene.document)
        if verb.needs in HISTORY:
            _require_own_step(scene, base, own)
            return actions.done(scene, by, verb, said)
        is_joined = verb.appends or verb.name in RELATIVE
        theirs, now = frozenset() if is_joined else since(scene, base, own), scene.document
        try:
            return _joined(scene, by, verb, said, theirs)
        except Met as both:
            met.append(named(both.keys, now))
            raise actions.Stale(f"The desk changed {met[0]} too since you took it along.") from None

    became = answer_to(scene, do)
    if became.status == 200:
        return answer
    return answer._replace(state=STATES[became.status], sentence=became.sentence, theirs=met[0] if met else "")


RELATIVE = frozenset({"shift", "strike-out"})
"""Verbs that say by how much, not to what: they join what others did, whoever they are."""
HISTORY = (("before",), ("after",))
"""What the verbs need that walk through a scene's history."""


def _require_own_step(scene, base, own):
    """Raise Stale where the last step is not the phone's own to take back: the desk went on since."""
    last = str(scene.head.act) if scene.head else ""
    if base != scene.head_id and last not in own and since(scene, base, own):
        raise actions.Stale("The scene was changed at the desk since; take it back there.")


@transaction.atomic
def _joined(scene, by, verb, said, theirs):
    """Do an act, unless it touches what `theirs` names: then Met is raised and nothing is kept."""
    before = scene.document
    done = actions.done(scene, by, verb, said)
    if met := touched(before, done.document) & theirs:
        raise Met(met)
    return done


def is_known(person, act_id):
    """Whether an act of a person was done before: a revision, a step in a history or a frame has its id; 3 queries."""
    return actions.is_done(person.pk, act_id) or Frame.every.owned_by(person).filter(token=act_id).exists()


def since(scene, base, own):
    """Keys of what others than the phone touched since a revision; empty for one that is not known.

    scene: Scene. base: number of the revision that the phone started from. own: ids of the phone's own acts. What was undone at the
    desk since counts as touched, too. Costs 1 query for all revisions of the scene, without their documents, and 1 with those on the way.
    """
    rows = {row.pk: row for row in Revision.objects.filter(scene=scene).only("pk", "parent_id", "act")}
    if base not in rows or base == scene.head_id:
        return frozenset()
    here, there = _way(rows, scene.head_id), _way(rows, base)
    shared = next((pk for pk in here if pk in set(there)), None)
    walked = [pk for way in (here, there) for pk in way[: way.index(shared) if shared in way else len(way)]]
    strangers = [pk for pk in walked if str(rows[pk].act) not in own]
    needed = {*strangers, *(rows[pk].parent_id for pk in strangers)} - {None}
    documents = {row.pk: document_of(row.kept) for row in Revision.objects.filter(pk__in=needed)}
    pairs = [(documents[rows[pk].parent_id], documents[pk]) for pk in strangers if rows[pk].parent_id]
    return frozenset().union(*(touched(*pair) for pair in pairs))


def _way(rows, pk):
    """Numbers from a revision back to the first."""
    found = []
    while pk is not None:
        found.append(pk)
        pk = rows[pk].parent_id
    return found
