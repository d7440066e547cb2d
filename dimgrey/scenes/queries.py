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
