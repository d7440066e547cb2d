"""Scenes that a phone began come home: each once, with its picture."""

from django.db import transaction

from dimgrey.core.errors import CoreError
from dimgrey.pictures import arrivals
from dimgrey.scenes.lifecycle import PURPOSE, create_scene, send_picture
from dimgrey.scenes.models import Scene


def take_in_scene(person, came_as, document, outing=None, data=None, filename=""):
    """A scene that a phone began, with its picture; the same one for the same id, however often it is sent.

    came_as: UUID. data: bytes of the picture, or None. Returns (scene, sentence): a picture that is plainly none, or that there is no room
    for, is said and left out; one that cannot be read is told of at the desk.
    """
    with transaction.atomic():
        scene = Scene.objects.owned_by(person).filter(came_as=came_as).first()
        if scene is None:
            scene = create_scene(person, document, outing, "begun in the field")
            scene.came_as = came_as
            scene.save(update_fields=["came_as"])
    if data is None or scene.picture_id or arrivals.waiting(person).filter(purpose=PURPOSE, subject=scene.pk).exists():
        return scene, ""
    try:
        with arrivals.laid_down(person, data, filename) as file:
            send_picture(scene, file, is_first=True)
            return scene, file.sentence
    except CoreError as refused:
        return scene, str(refused)
