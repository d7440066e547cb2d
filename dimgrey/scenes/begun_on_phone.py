"""Scenes that a phone began come home: each once, with its picture."""

from dimgrey.core.errors import CoreError
from dimgrey.pictures.actions import keeping
from dimgrey.pictures.opening import read_picture
from dimgrey.scenes.lifecycle import attach_picture, create_scene
from dimgrey.scenes.models import Scene


def take_in_scene(person, came_as, document, outing=None, data=None, filename=""):
    """A scene that a phone began, with its picture; the same one for the same id, however often it is sent.

    came_as: UUID. data: bytes of the picture, or None. Returns (scene, sentence): a picture that cannot be read, or that there is no room for,
    is said and left out.
    """
    known = Scene.objects.owned_by(person).filter(came_as=came_as).first()
    decoded, sentence = None, ""
    if data is not None and (known is None or known.picture_id is None):
        try:
            decoded = read_picture(data, filename)
        except CoreError as refused:
            sentence = str(refused)
    with keeping():
        scene = known or create_scene(person, document, outing, "begun in the field")
        if known is None:
            scene.came_as = came_as
            scene.save(update_fields=["came_as"])
    if decoded:
        try:
            with keeping():
                attach_picture(scene, decoded, data, filename)
        except CoreError as refused:
            sentence = str(refused)
    return scene, sentence
