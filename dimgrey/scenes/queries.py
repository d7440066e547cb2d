"""What pages read of scenes. Each says how many queries it costs."""

from dimgrey.core.document.plainform import document_of
from dimgrey.scenes.models import Scene


def scenes_of(person):
    """A person's scenes with their pictures and outings, without removed ones; 1 query."""
    return Scene.objects.owned_by(person).filter(removed=False).select_related("picture", "outing")


MOST_OFFERED = 24


def pictured_scenes(person, asked=None):
    """Scenes with a picture to choose from, the last ones first, and the one that is asked for by its number; at most 2 queries."""
    rows = scenes_of(person).exclude(picture=None).order_by("-updated_at", "-pk")
    found = list(rows[:MOST_OFFERED])
    if asked and all(scene.pk != asked for scene in found):
        found += rows.filter(pk=asked)
    return found


def removed_scenes_of(person):
    """Scenes that were removed and can be brought back, newest first; 1 query."""
    return Scene.objects.owned_by(person).filter(removed=True).order_by("-updated_at")


def scene_of(person, pk):
    """One scene of a person with its newest revision, or None; 1 query."""
    return _one(scenes_of(person).select_related("head").defer("head__kept"), pk)


def scene_to_change(person, pk):
    """One scene of a person as an act needs it, or None; 1 query."""
    return _one(scenes_of(person), pk)


def _one(scenes, pk):
    return next(iter(scenes.filter(pk=pk).order_by()), None)


def scenes_naming(owner_id, kind, name):
    """How many scenes name an item of the kit in their plan; 1 query."""
    return Scene.objects.filter(owner_id=owner_id, **{f"kept__kit__{kind}": name}).count()


def neighbours(scene):
    """(previous id, next id, place, count) within the outing; 1 query."""
    ids = list(
        Scene.objects.filter(owner_id=scene.owner_id, outing_id=scene.outing_id, removed=False).values_list(
            "pk", flat=True
        )
    )
    at = ids.index(scene.pk)
    return (ids[at - 1] if at else None, ids[at + 1] if at + 1 < len(ids) else None, at + 1, len(ids))


def can_undo(scene):
    return scene.head is not None and scene.head.parent_id is not None


def newest_child(scene):
    """The revision that redo goes to, or None; 1 query."""
    if scene.head_id is None:
        return None
    return scene.revisions.filter(parent_id=scene.head_id).order_by("-pk").first()


def states_around(scene, count):
    """(past, ahead, whole, steps): documents as kept that undo and redo lead to, the nearest last, whether that is all of them, and the
    revisions that the past ones were followed by, without documents; 3 queries.

    count: at most so many each way.
    """
    rows = dict(scene.revisions.order_by("pk").values_list("pk", "parent_id"))
    newest = {parent: pk for pk, parent in rows.items()}  # of several children the newest stays
    past, ahead = _walk(rows.get(scene.head_id), rows.get, count), _walk(newest.get(scene.head_id), newest.get, count)
    kept = dict(scene.revisions.filter(pk__in=[*past[0], *ahead[0]]).values_list("pk", "kept"))
    steps = scene.revisions.defer("kept").in_bulk([*past[0][1:], scene.head_id] if past[0] else [])
    return (
        [kept[pk] for pk in past[0]],
        [kept[pk] for pk in ahead[0]],
        past[1] and ahead[1],
        [steps[pk] for pk in sorted(steps, key=[*past[0], scene.head_id].index)],
    )


def around_act(scene, line):
    """(Document before, Document after) of an act of a scene, None for one that led to no state; 1 query.

    line: id of the act, or the number of the state that it led to.
    """
    known = {"pk": int(line)} if line.isdecimal() else {"act": line}
    row = scene.revisions.filter(**known).select_related("parent").first()
    return (document_of(row.parent.kept), document_of(row.kept)) if row and row.parent else None


def _walk(pk, following, count):
    """(numbers of revisions from one on, the nearest last, whether none is left out)."""
    found = []
    while pk is not None and len(found) < count:
        found.append(pk)
        pk = following(pk)
    return found[::-1], pk is None
