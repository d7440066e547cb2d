"""How scenes begin, get their picture, come out of files, leave the lists and come back. Beside `actions`, which changes one scene."""

from datetime import date

from django.db import transaction
from django.db.models import Max
from django.utils import timezone

from dimgrey.core.document import edits, scenefile
from dimgrey.core.document.lightscale import light_scale, picture_reading, rescaled
from dimgrey.core.document.means import MediumPart
from dimgrey.core.document.model import Document
from dimgrey.core.errors import CoreError
from dimgrey.pictures import arrivals, store
from dimgrey.pictures.actions import keep_picture, lying_picture
from dimgrey.scenes import spotmeter
from dimgrey.scenes.actions import change
from dimgrey.scenes.models import Revision, Scene

PURPOSE = "scene"
"""What a file for a scene comes for."""


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
    """A new scene; its file is read in a moment. What is plainly no picture leaves no scene behind: raises CoreError.

    title: "" for the day, that on which the picture was taken as soon as its file has told it.
    """
    named = title or _day_words(timezone.localdate(), outing)
    begin = lambda: create_scene(person, Document(title=named, medium=MediumPart(medium_kind)), outing)
    if data is None:
        return begin()
    with arrivals.laid_down(person, data, filename) as file, transaction.atomic():
        scene = begin()
        send_picture(scene, file, is_first=True, named="" if title else named)
        arrivals.refused(file)
    return scene


def _day_words(day, outing):
    """What a scene is called that nobody named: the place of its outing, and the day."""
    words = f"{day.day} {day:%B}"
    return f"{outing.title}, {words}"[:120] if outing else words


def send_picture(scene, file, is_first=False, named=""):
    """Have a file read that becomes the picture of a scene. file: Arrival. is_first: from the scene's first state on, if it has none then.

    named: how the scene was called because nobody named it, for the day of its picture to take the place of.
    """
    arrivals.send(file, PURPOSE, scene.pk, is_first=is_first, named=named)
    if file.state == file.State.KEPT:
        scene.refresh_from_db()


@arrivals.reads(PURPOSE)
def read_for_scene(arrival, decoded, is_first=False, named=""):
    """A file becomes the picture of a scene: its first, or one that takes another's place."""
    picture = lying_picture(arrival, decoded)
    store.prepare(picture.path)

    def keep():
        # Read now: what was done to the scene while the file was decoded counts too.
        known = Scene.objects.select_related("picture", "outing", "head").filter(owner_id=arrival.owner_id)
        scene = known.filter(pk=arrival.subject).first()
        if scene is None:
            raise CoreError("The scene is gone.", code="scene-gone")
        picture.save()
        if is_first and scene.picture_id is None:
            _become_first(scene, picture)
            _name_by_day(scene, picture, named)
        else:
            change(scene, None, "another picture", lambda document: pins_read(document, picture), picture)
        return scene.pk

    return keep


def attach_picture(scene, decoded, data, filename, **kept):
    """Keep a picture as that of a scene which has none, from its first state on; call it within `keeping`.

    kept: as keep_picture takes it. Returns the picture.
    """
    _become_first(scene, keep_picture(scene.owner_id, decoded, data, filename, **kept))
    return scene.picture


def _become_first(scene, picture):
    scene.picture = picture
    scene.save(update_fields=["picture"])
    scene.revisions.update(picture=picture)


def _name_by_day(scene, picture, named):
    """The day on which its picture was taken names a scene that nobody has named, from its first state on."""
    day = (picture.shot_data.taken_at or "")[:10].replace(":", "-")
    if not named or scene.title != named or not day:
        return
    try:
        title = _day_words(date.fromisoformat(day), scene.outing)
    except ValueError:
        return
    for row in (scene, *scene.revisions.all()):
        row.kept = {**row.kept, "title": title}
        row.save(update_fields=["kept"])
    scene.title = title
    scene.save(update_fields=["title"])


def replace_picture(scene, data, filename):
    """Another picture for a scene, read in a moment: pins are read again in it, typed readings stay; undo brings the one before back.

    Raises CoreError for what is plainly no picture.
    """
    with arrivals.laid_down(scene.owner, data, filename) as file, transaction.atomic():
        send_picture(scene, file)
        arrivals.refused(file)


def pins_read(document, picture):
    """A document whose pins are read anew in a picture. picture: Picture."""
    meter = spotmeter.meter_of(document, picture)
    document = document.with_(taken_in=None)  # said of the picture before
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
