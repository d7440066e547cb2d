"""What a person does to a scene: the only place that writes scenes and revisions.

Every act is `change`: a pure edit of the document, checked whole, kept as a new revision in one transaction. What is kept
can be exported and imported again.
"""

from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from dimgrey.core.document import edits, scenefile, wishing
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.scale import light_scale, picture_reading, rescaled
from dimgrey.core.document.tones import Reading
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.outline import middle_of
from dimgrey.core.sky.daylight import daylight_ev100
from dimgrey.light.sky import planned_sun_altitude
from dimgrey.scenes import light
from dimgrey.scenes.acts import By
from dimgrey.scenes.models import Revision, Scene
from dimgrey.scenes.queries import newest_child

USUAL_SUN_ALTITUDE_DEG = 40.0
"""Where the sun is taken to stand while date or place is missing."""
CLOCK_SLACK = timedelta(minutes=5)
"""How far an act's own time may lie in the future: devices' clocks differ."""


class Stale(CoreError):
    """The scene was changed in another window since this page was made."""


@transaction.atomic
def change(scene, by, label, edit, picture=None):
    """Keep `edit(document)` as a new revision. Returns the scene; unchanged for an act that was done before.

    edit: from Document to Document. by: By, or the stamp that the page showed, or None, which skips the check. picture: another one
    that the scene has from now on, or None. Raises
    Stale when another window wrote in between, CoreError when the edit is refused, DocumentError when its result cannot
    be kept; then nothing is written.
    """
    by = _by(by)
    # Sent twice, or sent again after a lost answer: the first time counted.
    if by.act and Revision.objects.filter(act=by.act, scene__owner_id=scene.owner_id).exists():
        return scene
    _require_current(scene, by.stamp)
    before = scene.document
    after = edit(before)
    if after == before and picture is None:
        return scene
    kept, brief = scenefile.kept(after)
    shown = picture.pk if picture else scene.picture_id
    known = {"parent_id": scene.head_id, "label": label[:160], "picture_id": shown, "act": by.act, "done_at": by.at}
    # What a polarizer takes depends on more than the document, on the picture's angle among it.
    read = {"document": after} if picture or scene.polarized(after) else {"document": after, "brief": brief}
    _show(scene, Revision.objects.create(scene=scene, kept=kept, **known), **read)
    return scene


def _by(by):
    return by if isinstance(by, By) else By(by)


def _require_current(scene, stamp):
    if stamp is not None and stamp != scene.stamp:
        raise Stale(
            "This scene was changed in another window. The page now shows that state; nothing of it was overwritten. "
            "Do your last step again.",
            code="stale",
        )


def _show(scene, revision, **read):
    """Make a revision the scene's present state, unless another window wrote since the scene was read.

    read: what was read of it already, its document and brief.
    """
    before = scene.kept
    scene.become(revision.kept, **read)
    title = scene.document.title or scene.title
    # The stamp in the condition makes two windows that write at once take turns, without a lock.
    now = {"head": revision, "kept": revision.kept, "picture_id": revision.picture_id, "updated_at": timezone.now()}
    written = Scene.objects.filter(pk=scene.pk, stamp=scene.stamp).update(title=title, stamp=scene.stamp + 1, **now)
    if not written:
        scene.kept = before
        _require_current(scene, scene.stamp + 1)
    scene.head, scene.title, scene.stamp = revision, title, scene.stamp + 1
    scene.picture_id = revision.picture_id


@transaction.atomic
def undo(scene, by):
    _require_current(scene, _by(by).stamp)
    if scene.head is None or scene.head.parent_id is None:
        raise Refused("There is nothing to undo.", code="nothing-to-undo")
    _show(scene, scene.head.parent)
    return scene


@transaction.atomic
def redo(scene, by):
    _require_current(scene, _by(by).stamp)
    child = newest_child(scene)
    if child is None:
        raise Refused("There is nothing to redo.", code="nothing-to-redo")
    _show(scene, child)
    return scene


# --- tones and readings ----------------------------------------------------------------------------------------------------


def pin_tone(scene, by, x, y):
    """Pin a key tone at fractions x, y of the picture: read its light, give it a letter and a fitting name."""
    if scene.picture is None:
        raise Refused("This scene has no picture. Add the tone by its name instead.", code="no-picture")

    def edit(document):
        facts = scene.picture.facts
        seen = light.meter_of(document, scene.picture).read(x, y, document.meter.spot_deg)
        is_scaled = light_scale(document, facts) is not None
        return edits.pinned(document, x, y, seen.spot, picture_reading(seen, facts, is_scaled, _when(by)))

    return change(scene, by, "pin a tone", edit)


def pin_area(scene, by, outline):
    """Pin a key tone that is an area: all of its light is read, as a sweep of the meter would. outline: corners as fractions."""
    if scene.picture is None:
        raise Refused("This scene has no picture. Add the tone by its name instead.", code="no-picture")

    def edit(document):
        facts = scene.picture.facts
        seen = light.meter_of(document, scene.picture).read_area(outline)
        reading = picture_reading(seen, facts, light_scale(document, facts) is not None, _when(by))
        return edits.pinned(document, *middle_of(outline), seen.spot, reading, outline)

    return change(scene, by, "pin an area", edit)


def move_pin(scene, by, mark, x, y):
    """Move a tone's pin, and its area with it, to fractions x, y of the picture and read its light there."""
    if scene.picture is None:
        raise Refused("This scene has no picture.", code="no-picture")

    def edit(document):
        facts = scene.picture.facts
        meter, area = (
            light.meter_of(document, scene.picture),
            edits.area_moved(edits.require_tone(document, mark), x, y),
        )
        seen = meter.read_area(area) if area else meter.read(x, y, document.meter.spot_deg)
        reading = picture_reading(seen, facts, light_scale(document, facts) is not None, _when(by))
        return rescaled(edits.repinned(document, mark, x, y, seen.spot, reading), facts)

    return change(scene, by, f"move {mark}", edit)


def _when(by):
    """When an act was done. Raises Refused for a time that has not come yet."""
    at, now = _by(by).at, timezone.now()
    if at is not None and at > now + CLOCK_SLACK:
        raise Refused("That time has not come yet. Look at the clock of the device.", code="time-ahead")
    return at or now


def _typed(reading, by):
    """A Reading of typed values with the time it was done at."""
    return Reading(**reading, taken_at=_when(by).isoformat(timespec="seconds"))


def add_tone(scene, by, name, reading=None):
    """A tone without a place in a picture, with its first reading if one was typed."""
    typed = _typed(reading, by) if reading else None
    return change(scene, by, f"add {name or 'a tone'}", lambda document: edits.with_named_tone(document, name, typed))


def type_reading(scene, by, mark, reading, replace=False, others=False):
    """Keep a reading that was typed for a tone; `replace` drops the earlier typed ones.

    others: the light changed, so this reading replaces those of its tone, and every other tone moves with it.
    """
    typed = _typed(reading, by)
    if others:
        return change(scene, by, f"read {mark}", lambda document: edits.with_light_from(document, mark, typed))
    edit = lambda document: edits.with_reading(document, mark, typed, replace, scene.facts)
    return change(scene, by, f"read {mark}", edit)


def shift_light(scene, by, stops, only=None):
    """The light changed, of the whole scene or of what is lit alone: readings move together and stay as they were taken."""
    return change(scene, by, f"light {stops:+.2f}", lambda document: edits.with_light_shifted(document, stops, only))


def estimate_tone(scene, by, name, light_kind):
    """A tone without a meter: middle grey in a named light, from the daylight guide and the sun's height if it is known."""
    altitude = planned_sun_altitude(scene.outing, scene.document)
    found = daylight_ev100(light_kind, USUAL_SUN_ALTITUDE_DEG if altitude is None else altitude)
    reading = {"kind": "estimate", "ev100": round(found.ev100, 2), "note": found.why[:120]}
    typed, wanted = _typed(reading, by), name or f"grey in {light_kind}"
    return change(scene, by, f"estimate {light_kind}", lambda document: edits.with_named_tone(document, wanted, typed))


def drop_reading(scene, by, mark, index):
    """Take back one reading of a tone (undo brings it back)."""
    edit = lambda document: edits.without_reading(document, mark, index, scene.facts)
    return change(scene, by, f"remove a reading of {mark}", edit)


def describe_tone(scene, by, mark, **fields):
    """Change a tone's name, role or texture wish; a placing by name follows the new name."""
    return change(scene, by, f"describe {mark}", lambda document: edits.described(document, mark, **fields))


def take_guesses(scene, by, mark=None):
    """Take what the program guessed of a tone, or of all tones, as one's own."""
    return change(scene, by, f"take {mark or 'all guesses'}", lambda document: edits.taken(document, mark or None))


def drop_tone(scene, by, mark):
    """Remove a tone; a placing on it becomes none."""
    edit = lambda document: rescaled(edits.without_tone(document, mark), scene.facts)
    return change(scene, by, f"remove {mark}", edit)


# --- placing, parts ----------------------------------------------------------------------------------------------------------


def place_tone(scene, by, mark, zone=None, printed=None):
    """Place a tone on a zone, or so that it prints on one. What its school would not place becomes a “known tone”."""
    return change(
        scene, by, f"place {mark}", lambda document: edits.placed(document, mark, zone, printed, scene.read_as)
    )


def choose_school(scene, by, school, targets=None):
    """Choose how to place, and what to aim at."""
    return change(
        scene, by, f"school: {school}", lambda document: edits.with_school(document, school, targets, scene.read_as)
    )


def unplace(scene, by):
    """Take the placing back altogether."""
    return change(scene, by, "no placing", edits.unplaced)


def set_parts(scene, by, label, **parts):
    """Replace whole parts of the document (title, intent, medium, filters, camera, ...)."""
    return change(scene, by, label, lambda document: rescaled(document.with_(**parts), scene.facts))


def add_pair(scene, by, a, b):
    """Two tones that must part, in front of those chosen before."""
    return change(scene, by, f"part {a} from {b}", lambda document: wishing.with_pair(document, a, b))


def crop_picture(scene, by, crop_for):
    """Crop the picture. crop_for: from the picture's width over height to a CropPart, or None for the whole."""
    if scene.picture is None:
        raise Refused("This scene has no picture to crop.", code="no-picture")
    crop = crop_for(scene.facts.width / scene.facts.height)
    return set_parts(scene, by, "crop", crop=crop)
