"""What pages read of scenes. Each says how many queries it costs."""

from dimgrey.scenes.models import Picture, Scene, folder_path


def scenes_of(person):
    """A person's scenes with their pictures and outings, without removed ones; 1 query."""
    return Scene.objects.owned_by(person).filter(removed=False).select_related("picture", "outing")


def removed_scenes_of(person):
    """Scenes that were removed and can be brought back, newest first; 1 query."""
    return Scene.objects.owned_by(person).filter(removed=True).order_by("-updated_at")


def scene_of(person, pk):
    """One scene of a person, or Scene.DoesNotExist; 1 query."""
    return scenes_of(person).select_related("head").defer("head__document").get(pk=pk)


def scene_to_change(person, pk):
    """One scene of a person as an act needs it: with its picture, the rest when asked for; 1 query."""
    return Scene.objects.owned_by(person).filter(removed=False).select_related("picture", "outing").get(pk=pk)


def picture_of(scene):
    """The scene's picture or None; no query when it was selected along."""
    return getattr(scene, "picture", None)


def picture_folder(person, scene_pk):
    """Folder of a scene's picture, or None; 1 query, no model."""
    found = Picture.objects.owned_by(person).filter(scene_id=scene_pk).values_list("folder", flat=True).first()
    return None if found is None else folder_path(found)


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
