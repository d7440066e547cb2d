"""What pages read of scenes. Each says how many queries it costs."""

from dimgrey.scenes.models import Scene


def scenes_of(person):
    """A person's scenes with their pictures and outings, without removed ones; 1 query."""
    return Scene.objects.owned_by(person).filter(removed=False).select_related("picture", "outing")


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
    """(past, ahead, whole): documents as kept that undo and redo lead to, the nearest last, and whether that is all of them; 2 queries.

    count: at most so many each way.
    """
    rows = dict(scene.revisions.order_by("pk").values_list("pk", "parent_id"))
    newest = {parent: pk for pk, parent in rows.items()}  # of several children the newest stays
    past, ahead = _walk(rows.get(scene.head_id), rows.get, count), _walk(newest.get(scene.head_id), newest.get, count)
    kept = dict(scene.revisions.filter(pk__in=[*past[0], *ahead[0]]).values_list("pk", "kept"))
    return [kept[pk] for pk in past[0]], [kept[pk] for pk in ahead[0]], past[1] and ahead[1]


def _walk(pk, following, count):
    """(numbers of revisions from one on, the nearest last, whether none is left out)."""
    found = []
    while pk is not None and len(found) < count:
        found.append(pk)
        pk = following(pk)
    return found[::-1], pk is None
