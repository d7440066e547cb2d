"""Acts that come home from a phone: done in their order, each exactly once, joined with what was done at the desk meanwhile.

An act that touches what the desk touched since the phone took the scene along is not done: it comes back with both, side by side,
and nothing is overwritten in silence. What appends (readings, pins, tones, frames) is joined always. docs/decisions/026.
"""

from dataclasses import replace

from django.db import transaction

from dimgrey.core.document.plainform import document_of
from dimgrey.core.document.schema import DocumentError
from dimgrey.core.document.touched import named, touched
from dimgrey.core.errors import CoreError
from dimgrey.frames.models import Frame
from dimgrey.people.owned import owned
from dimgrey.scenes import queries
from dimgrey.scenes.actions import Stale
from dimgrey.scenes.models import Revision
from dimgrey.scenes.sheet.registry import act_named


class Met(Exception):
    """Two devices changed the same; the transaction that found it is taken back. keys: what both touched."""

    def __init__(self, keys):
        super().__init__(keys)
        self.keys = keys


def come_home(person, pk, base, own, sent):
    """What became of each act, in order: {"act", "state", "sentence", "theirs"}.

    base: number of the revision that the phone had when it acted, or None. own: ids of acts that it knows as kept. sent: the
    acts as they were sent. state: "kept" (now or before), "stale" or "refused" with the sentence.
    """
    own, answers = set(own), []
    for values in sent:
        answer = _one(person, pk, base, own, values)
        if answer["state"] == "kept":
            own.add(str(values.get("act")))
        answers.append(answer)
    return answers


def _one(person, pk, base, own, values):
    verb, act_id = values["verb"], str(values.get("act"))
    answer = {"act": act_id, "state": "kept", "sentence": "", "theirs": ""}
    if is_known(person, act_id):
        return answer
    found = act_named(verb)
    if found is None:
        return answer | {"state": "refused", "sentence": f"There is no act “{verb}”."}
    scene = owned(queries.scene_to_change, person, pk, "scene")
    form = found[1].form(
        {key: str(value) for key, value in values.items() if key not in ("verb", "stamp")}, scene.document
    )
    if not form.is_valid():
        return answer | {"state": "refused", "sentence": form.sentence()}
    if verb == "undo" and base != scene.head_id:
        return answer | {"state": "stale", "sentence": "The scene was changed at the desk since; take it back there."}
    theirs, now = frozenset() if found[1].appends else since(scene, base, own), scene.document
    try:
        _do(scene, found[1], form, theirs)
    except Met as met:
        both = named(met.keys, now)
        return answer | {
            "state": "stale",
            "sentence": f"The desk changed {both} too since you took it along.",
            "theirs": both,
        }
    except Stale as stale:
        return answer | {"state": "stale", "sentence": str(stale)}
    except DocumentError as refused:
        return answer | {"state": "refused", "sentence": " ".join(refused.mistakes)}
    except CoreError as refused:
        return answer | {"state": "refused", "sentence": str(refused)}
    return answer


@transaction.atomic
def _do(scene, act, form, theirs):
    """Do an act, unless it touches what `theirs` names: then Met is raised and nothing is kept."""
    before = scene.document
    by = replace(form.by(act.appends), stamp=None)
    after = act.do(scene, form, by).document
    if met := touched(before, after) & theirs:
        raise Met(met)


def is_known(person, act_id):
    """Whether an act of a person was done before: a revision or a frame has its id; 2 queries."""
    return (
        Revision.objects.filter(act=act_id, scene__owner=person).exists()
        or Frame.objects.owned_by(person).filter(token=act_id).exists()
    )


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
