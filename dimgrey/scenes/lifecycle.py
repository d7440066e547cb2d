"""How scenes begin, get their picture, come out of files, leave the lists and come back. Beside `actions`, which changes one scene."""

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from dimgrey.core.document import edits, scenefile
from dimgrey.core.document.lightscale import light_scale, picture_reading, rescaled
from dimgrey.core.document.means import MediumPart
from dimgrey.core.document.model import Document
from dimgrey.pictures.actions import keep_picture, keeping
from dimgrey.pictures.opening import read_picture
from dimgrey.scenes import spotmeter
from dimgrey.scenes.actions import change
from dimgrey.scenes.models import Revision, Scene


@transaction.atomic
def create_scene(person, document, outing=None, label="new scene"):
    """A scene from a Document. Returns it with its first revision. Raises DocumentError when it cannot be kept."""
    last = Scene.objects.owned_by(person).filter(outing=outing).aggregate(last=Max("position"))["last"]
    kept, _ = scenefile.kept(document)
    titled = {"title": document.title or "Untitled scene", "position": 0 if last is None else last + 1}
    scene = Scene.objects.create(owner=person, outing=outing, kept=kept, **titled)
    scene.head = Revision.objects.create(scene=scene, label=label, kept=kept)
    scene.save(update_fields=["head"])
    return scene


def import_scene(person, text, outing=None):
    """A new scene from a scene file. Raises DocumentError with every mistake; then nothing is written."""
    return create_scene(person, scenefile.load(text), outing, "imported from a scene file")


def new_scene(person, title, outing=None, medium_kind="film", data=None, filename=""):
    """A new scene, with a picture when its bytes are given; a refused picture leaves no scene behind."""
    decoded = read_picture(data, filename) if data is not None else None
    with keeping():
        scene = create_scene(person, Document(title=title, medium=MediumPart(medium_kind)), outing)
        if decoded:
            attach_picture(scene, decoded, data, filename)
    return scene


def attach_picture(scene, decoded, data, filename, **kept):
    """Keep a picture as that of a scene which has none, from its first state on; call it within `keeping`.

    kept: as keep_picture takes it. Returns the picture.
    """
    scene.picture = keep_picture(scene.owner_id, decoded, data, filename, **kept)
    scene.save(update_fields=["picture"])
    scene.revisions.update(picture=scene.picture)
    return scene.picture


def replace_picture(scene, data, filename):
    """Another picture for a scene: pins are read again in it, typed readings stay; undo brings the one before back.

    Returns the scene.
    """
    decoded = read_picture(data, filename)
    with keeping():
        # Read again: another window may have written while the file was decoded, and both count, one after the other.
        scene = Scene.objects.select_related("picture", "outing", "head").get(pk=scene.pk)
        picture = keep_picture(scene.owner_id, decoded, data, filename)
        return change(scene, None, "another picture", lambda document: pins_read(document, picture), picture)


def pins_read(document, picture):
    """A document whose pins are read anew in a picture. picture: Picture."""
    meter = spotmeter.meter_of(document, picture)
    is_scaled = light_scale(document, picture.facts) is not None

    def read(tone):
        seen = meter.read_area(tone.area) if tone.area else meter.read(*tone.at, document.meter.spot_deg)
        return seen.spot, picture_reading(seen, picture.facts, is_scaled, timezone.now())

    return rescaled(edits.with_pins_read(document, read), picture.facts)


def set_removed(person, pk, removed):
    """Take a scene off the lists, or bring it back; nothing of it is deleted. Returns how many scenes changed (0 or 1)."""
    now = timezone.now()
    at = now if removed else None
    return Scene.objects.owned_by(person).filter(pk=pk).update(removed=removed, removed_at=at, updated_at=now)


@transaction.atomic
def order_scenes(outing, pks):
    """Put the scenes of an outing in an order. Scenes that are not named keep their order behind the named ones."""
    scenes = {scene.pk: scene for scene in Scene.objects.owned_by(outing.owner).filter(outing=outing)}
    wanted = [scenes[pk] for pk in dict.fromkeys(pks) if pk in scenes]
    rest = [scene for scene in scenes.values() if scene not in wanted]
    for position, scene in enumerate([*wanted, *rest]):
        if scene.position != position:
            Scene.objects.filter(pk=scene.pk).update(position=position)


def copy_scenes(outing, again):
    """The scenes of an outing for another visit: intents, views and means, without readings and pictures."""
    for scene in Scene.objects.owned_by(outing.owner).filter(outing=outing, removed=False):
        create_scene(outing.owner, edits.unmeasured(scene.document), again, "for another visit")
