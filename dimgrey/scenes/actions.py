"""What a person does to a scene: the only place that writes scenes, revisions and pictures.

Each act edits a copy of the scene's document, checks it whole, and keeps it as a new revision in one transaction.
"""

import copy
import io
from pathlib import PurePath

from django.db import transaction
from django.db.models import Max
from django.utils import timezone
from PIL import Image

from dimgrey.core.camera.setups import ONE_SIDED
from dimgrey.core.colour.chain import CHANNEL_MIXES
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.document import kit, scenefile
from dimgrey.core.errors import CoreError
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.separation import require_pairs
from dimgrey.core.planning.tonenames import suggestions
from dimgrey.core.planning.waysout import ways_out
from dimgrey.core.planning.zones import require_zone
from dimgrey.core.sky.daylight import daylight_ev100
from dimgrey.kit.queries import chosen
from dimgrey.pictures.read import read_picture
from dimgrey.scenes import light, store
from dimgrey.scenes.models import Picture, Revision, Scene
from dimgrey.scenes.queries import newest_child, picture_of
from dimgrey.scenes.sky import planned_sun_altitude

MAX_TONES = 40
NEW_DOCUMENT = {
    "format": "dimgrey-scene",
    "version": 1,
    "increment": "third",
    "light": "D55",
    "medium": {"kind": "film", "iso": 100},
    "tones": [],
}


class Stale(CoreError):
    """The scene was changed in another window since this page was made."""


class Refused(CoreError):
    """An act that cannot be done now, with what to do."""


# --- the one way to write ------------------------------------------------------------------------------------------------


@transaction.atomic
def change(scene, stamp, label, edit):
    """Apply `edit(document, scene)` to a copy of the document and keep it as a new revision. Returns the scene.

    stamp: what the page showed; None skips the check. Raises Stale when another window wrote in between, CoreError
    when the edit or the edited document is refused; then nothing is written.
    """
    _require_current(scene, stamp)
    document = copy.deepcopy(scene.document)
    edit(document, scene)
    if document == scene.document:
        return scene
    scenefile.scene_of(document)
    _show(scene, Revision.objects.create(scene=scene, parent_id=scene.head_id, label=label[:160], document=document))
    return scene


def _require_current(scene, stamp):
    if stamp is not None and stamp != scene.stamp:
        raise Stale(
            "This scene was changed in another window. The page now shows that state; nothing of it was overwritten. "
            "Do your last step again.",
            code="stale",
        )


def _show(scene, revision):
    """Make a revision the scene's present state, unless another window wrote since the scene was read."""
    title = revision.document.get("title") or scene.title
    written = Scene.objects.filter(pk=scene.pk, stamp=scene.stamp).update(
        head=revision, document=revision.document, title=title, stamp=scene.stamp + 1, updated_at=timezone.now()
    )
    if not written:
        _require_current(scene, scene.stamp + 1)
    scene.head, scene.document, scene.title, scene.stamp = revision, revision.document, title, scene.stamp + 1


@transaction.atomic
def undo(scene, stamp):
    _require_current(scene, stamp)
    if scene.head is None or scene.head.parent_id is None:
        raise Refused("There is nothing to undo.", code="nothing-to-undo")
    _show(scene, scene.head.parent)
    return scene


@transaction.atomic
def redo(scene, stamp):
    _require_current(scene, stamp)
    child = newest_child(scene)
    if child is None:
        raise Refused("There is nothing to redo.", code="nothing-to-redo")
    _show(scene, child)
    return scene


# --- making and importing scenes -----------------------------------------------------------------------------------------


@transaction.atomic
def create_scene(person, document, outing=None, label="new scene"):
    """A scene from a checked document. Returns it with its first revision."""
    last = Scene.objects.owned_by(person).filter(outing=outing).aggregate(last=Max("position"))["last"]
    scene = Scene.objects.create(
        owner=person,
        outing=outing,
        title=document.get("title") or "Untitled scene",
        position=0 if last is None else last + 1,
        document=document,
    )
    scene.head = Revision.objects.create(scene=scene, label=label, document=document)
    scene.save(update_fields=["head"])
    return scene


def import_scene(person, text, outing=None):
    """A new scene from a scene file. Raises SceneFileError with every mistake; then nothing is written."""
    document = scenefile.load(text)
    _give_marks(document)
    return create_scene(person, document, outing, "imported from a scene file")


def new_scene(person, title, outing=None, medium_kind="film", data=None, filename=""):
    """A new scene, with a picture when its bytes are given; a refused picture leaves no scene behind."""
    document = copy.deepcopy(NEW_DOCUMENT) | {"title": title, "medium": {"kind": medium_kind, "iso": 100}}
    picture = read_picture(data, filename) if data is not None else None
    with transaction.atomic():
        scene = create_scene(person, document, outing)
        if picture:
            attach_picture(scene, picture, data, filename)
    return scene


def replace_picture(scene, data, filename):
    """Another picture for a scene: pins are read again in it, typed readings stay. Returns the scene."""
    read = read_picture(data, filename)
    with transaction.atomic():
        old = picture_of(scene)
        if old:
            folder = old.path
            old.delete()
            transaction.on_commit(lambda: store.drop_files(folder))
        attach_picture(scene, read, data, filename)
        return change(scene, None, "another picture", _read_pins_again)


def attach_picture(scene, read, data, filename, snapshot=None, simulated_light=False):
    """Keep an imported picture's files and row. snapshot: bytes of a picture shown in the colour view instead."""
    height, width = read.linear.shape[:2]
    shot = read.exposure
    row = Picture(
        owner_id=scene.owner_id,
        scene=scene,
        original_name=PurePath(filename or "picture").name[:255],
        kind=read.kind,
        width=read.width,
        height=read.height,
        view_width=width,
        view_height=height,
        profile=read.profile[:120],
        exposure={
            "time_s": shot.time_s,
            "f_number": shot.f_number,
            "iso": shot.iso,
            "focal_mm": shot.focal_mm,
            "focal_35mm": shot.focal_35mm,
            "taken_at": shot.taken_at,
        },
        middle_grey_ev100=read.middle_grey_ev100,
        scene_linear=read.scene_linear,
        absolute=read.absolute,
        clip=read.clip,
        simulated_light=simulated_light,
        warnings=list(read.warnings),
    )
    suffix = PurePath(row.original_name).suffix.lower()
    shown = Image.open(io.BytesIO(snapshot)) if snapshot else read.shown
    store.keep_files(row.path, data, suffix if suffix.isascii() and len(suffix) <= 8 else "", read.linear, shown)
    try:
        row.save()
    except BaseException:
        store.drop_files(row.path)
        raise
    return row


def set_removed(person, pk, removed):
    """Take a scene off the lists, or bring it back; nothing of it is deleted. Returns how many scenes changed (0 or 1)."""
    return Scene.objects.owned_by(person).filter(pk=pk).update(removed=removed, updated_at=timezone.now())


# --- tones and readings ----------------------------------------------------------------------------------------------------


def pin_tone(scene, stamp, x, y):
    """Pin a key tone at fractions x, y of the picture: read its light, give it a letter and a fitting name."""

    def edit(document, scene):
        picture = picture_of(scene)
        if picture is None:
            raise Refused("This scene has no picture. Add the tone by its name instead.", code="no-picture")
        _require_room(document)
        meter = light.meter_of(document, picture)
        seen = meter.read(x, y, light.spot_deg(document))
        likely = suggested_names(document, seen.spot, y)[0]
        document.setdefault("tones", []).append(
            {
                "name": likely.name,
                "mark": _next_mark(document),
                "role": likely.role,
                "texture": "free" if likely.role == "other" and abs(seen.spot.mean_stops) > 3 else "needed",
                "colour": _kept_colour(seen.spot.colour),
                "at": [round(x, 5), round(y, 5)],
                "readings": [_picture_reading(seen, picture, light.light_scale(document, picture) is not None)],
            }
        )

    return change(scene, stamp, "pin a tone", edit)


def suggested_names(document, spot, y):
    """Names that fit what is under the spot, without those already used."""
    return suggestions(
        spot.colour,
        spot.mean_stops,
        y,
        document.get("light", "D55"),
        f"{document.get('light_note', '')} {document.get('title', '')}",
        tuple(entry["name"] for entry in document.get("tones", [])),
    )


def _kept_colour(colour):
    return [float(f"{c:.5g}") for c in colour]


def _picture_reading(seen, picture, scaled):
    reading = {
        "kind": "picture",
        "taken_at": timezone.now().isoformat(timespec="seconds"),
        "meter": "simulated spot meter" if picture.simulated_light else "picture",
        "stops": round(seen.spot.mean_stops, 4),
    }
    if scaled:
        reading["ev100"] = round(seen.ev100, 4)
        reading["low_ev100"], reading["high_ev100"] = round(seen.low_ev100, 3), round(seen.high_ev100, 3)
    if seen.spot.clipped > 0.02:
        reading["clipped"] = round(seen.spot.clipped, 3)
    return reading


def _read_pins_again(document, scene):
    picture = scene.picture if hasattr(scene, "picture") else None
    meter = light.meter_of(document, picture)
    for entry in document.get("tones", []):
        entry["readings"] = [r for r in entry.get("readings", []) if r.get("kind") != "picture"]
        if "at" in entry:
            seen = meter.read(*entry["at"], light.spot_deg(document))
            entry["colour"] = _kept_colour(seen.spot.colour)
            entry["readings"].append(_picture_reading(seen, picture, light.light_scale(document, picture) is not None))
    light.rescale(document, picture)


def add_tone(scene, stamp, name, reading=None):
    """A tone without a place in a picture, with its first reading if one was typed."""

    def edit(document, scene):
        _require_room(document)
        wanted = name or suggestions((0.18, 0.18, 0.18), 0, 0.5, taken=_names(document))[0].name
        _require_free_name(document, wanted)
        entry = {"name": wanted, "mark": _next_mark(document), "role": "other", "texture": "needed", "readings": []}
        if reading:
            entry["readings"].append(_typed(reading))
        document.setdefault("tones", []).append(entry)

    return change(scene, stamp, f"add {name or 'a tone'}", edit)


def type_reading(scene, stamp, mark, reading, replace=False, others=False):
    """Keep a reading that was typed for a tone; `replace` drops the earlier typed ones.

    others: the light changed, so this reading replaces those of its tone, and every other tone moves with it.
    """

    def edit(document, scene):
        entry = _tone(document, mark)
        if others:
            before = _ev_of(entry, document)
            _require_read(before, entry)
            kept = [r for r in entry.get("readings", []) if r.get("kind") == "picture"]
            entry["readings"] = [*kept, _typed(reading)]
            change_stops = round(_ev_of(entry, document) - before, 4)
            _shift(document, change_stops, but=entry)
            for picture_reading in kept:  # the picture shows the light as it was
                picture_reading["shift"] = round(picture_reading.get("shift", 0.0) + change_stops, 4)
            return
        entry.pop("ev100", None)
        kept = [r for r in entry.get("readings", []) if not (replace and r.get("kind") != "picture")]
        entry["readings"] = [*kept, _typed(reading)]
        _rescale(document, scene)

    return change(scene, stamp, f"read {mark}", edit)


def shift_light(scene, stamp, stops):
    """The light of the whole scene changed: every reading moves together. The readings stay as they were taken."""

    def edit(document, scene):
        if not any(entry.get("readings") or "ev100" in entry for entry in document.get("tones", [])):
            raise Refused("No tone is read yet, so no light can have changed.", code="nothing-read")
        _shift(document, stops)

    return change(scene, stamp, f"light {stops:+.2f}", edit)


def _shift(document, stops, but=None):
    for entry in document.get("tones", []):
        if entry is but:
            continue
        for reading in entry.get("readings", []):
            reading["shift"] = round(reading.get("shift", 0.0) + stops, 4)
        if isinstance(entry.get("ev100"), (int, float)):
            entry["ev100"] = round(entry["ev100"] + stops, 4)


def _ev_of(entry, document):
    return scenefile.tone_ev(
        entry, document.get("meter", {}).get("calibration_stops", 0.0), document.get("increment", "third")
    )


def _require_read(ev, entry):
    if ev is None:
        raise Refused(
            f"{entry['name']} was not read before, so it cannot say how the light changed.", code="nothing-read"
        )


def estimate_tone(scene, stamp, name, light_kind):
    """A tone without a meter: middle grey in a named light, from the daylight guide and the sun's height if it is known."""
    altitude = planned_sun_altitude(scene)
    found = daylight_ev100(light_kind, 40.0 if altitude is None else altitude)

    def edit(document, scene):
        _require_room(document)
        wanted = name or f"grey in {light_kind}"
        _require_free_name(document, wanted)
        reading = {"kind": "estimate", "ev100": round(found.ev100, 2), "note": found.why[:120]}
        document.setdefault("tones", []).append(
            {
                "name": wanted,
                "mark": _next_mark(document),
                "role": "other",
                "texture": "needed",
                "readings": [_typed(reading)],
            }
        )

    return change(scene, stamp, f"estimate {light_kind}", edit)


def drop_reading(scene, stamp, mark, index):
    """Take back one reading of a tone (undo brings it back)."""

    def edit(document, scene):
        readings = _tone(document, mark).get("readings", [])
        if not 0 <= index < len(readings):
            raise Refused("That reading is no longer there.", code="no-reading")
        del readings[index]
        _rescale(document, scene)

    return change(scene, stamp, f"remove a reading of {mark}", edit)


def describe_tone(scene, stamp, mark, **fields):
    """Change a tone's name, role or texture wish; a placing by name follows the new name."""

    def edit(document, scene):
        entry = _tone(document, mark)
        name = fields.get("name", entry["name"])
        if name != entry["name"]:
            _require_free_name(document, name)
            if document.get("placing", {}).get("tone") == entry["name"]:
                document["placing"]["tone"] = name
            document_pairs = document.get("pairs", [])
            for pair in document_pairs:
                pair[:] = [name if each == entry["name"] else each for each in pair]
        entry.update(fields)

    return change(scene, stamp, f"describe {mark}", edit)


def drop_tone(scene, stamp, mark):
    """Remove a tone; a placing on it becomes none."""

    def edit(document, scene):
        entry = _tone(document, mark)
        document["tones"].remove(entry)
        if document.get("placing", {}).get("tone") == entry["name"]:
            for key in ("tone", "zone"):
                document["placing"].pop(key, None)
        _rescale(document, scene)

    return change(scene, stamp, f"remove {mark}", edit)


# --- placing, filter, camera ------------------------------------------------------------------------------------------------


def place_tone(scene, stamp, mark, zone):
    """Place a tone on a zone. A school that places no single tone, or another, becomes “known tone”."""

    def edit(document, scene):
        entry = _tone(document, mark)
        placing = document.setdefault("placing", {})
        if placing.get("school", "midpoint") == "midpoint":
            placing["school"] = "known tone"
        placing["tone"], placing["zone"] = entry["name"], round(require_zone(zone), 4)

    return change(scene, stamp, f"place {mark}", edit)


KEPT_TARGETS = ("hold", "under_stops", "white", "shadows")


def choose_school(scene, stamp, school, targets=None):
    """Choose how to place, and what to aim at. A new school finds its own tone and zone; None takes a target away."""

    def edit(document, scene):
        placing = document.setdefault("placing", {})
        if placing.get("school") != school:
            placing = {"school": school, **{key: placing[key] for key in KEPT_TARGETS if key in placing}}
            document["placing"] = placing
        for key, value in (targets or {}).items():
            if key in ("white", "shadows") and placing.get(key) != value:
                placing.pop("zone", None)
            if value is None:
                placing.pop(key, None)
            else:
                placing[key] = value

    return change(scene, stamp, f"school: {school}", edit)


def unplace(scene, stamp):
    """Take the placing back altogether."""
    return change(scene, stamp, "no placing", lambda document, scene: document.pop("placing", None))


def set_part(scene, stamp, label, **parts):
    """Replace whole parts of the document (title, intent, medium, filters, camera, ...); None removes a part."""

    def edit(document, scene):
        for key, value in parts.items():
            if value in (None, "", {}, []):
                document.pop(key, None)
            else:
                document[key] = value
        _rescale(document, scene)

    return change(scene, stamp, label, edit)


def crop_picture(scene, stamp, crop_for):
    """Crop the picture. crop_for: from the picture's width over height to the document's part, or None for the whole."""
    picture = picture_of(scene)
    if picture is None:
        raise Refused("This scene has no picture to crop.", code="no-picture")
    return set_part(scene, stamp, "crop", crop=crop_for(picture.view_width / picture.view_height))


def add_pair(scene, stamp, a, b):
    """Two tones that must part, in front of those chosen before."""

    def edit(document, scene):
        require_pairs(_names(document), [(a, b)])
        kept = [pair for pair in document.get("pairs", []) if set(pair) != {a, b}]
        document["pairs"] = [[a, b], *kept][:8]

    return change(scene, stamp, f"part {a} from {b}", edit)


def use_kit(scene, stamp, names):
    """Take camera, lens, film and meter from the kit: their values are copied into the scene."""
    found = chosen(scene.owner_id, names)
    missing = [f"the {kind} “{name}”" for kind, name in names.items() if kind not in found]
    if missing:
        raise Refused(f"The kit has no longer {' and '.join(missing)}. Choose another.", code="kit-gone")
    parts = kit.scene_parts(**found, before=scene.document)
    return set_part(scene, stamp, f"kit: {', '.join(names.values())}", **parts)


def use_kit_filter(scene, stamp, name):
    """Put a filter of the kit in front of the lens, in place of one of its kind."""
    found = chosen(scene.owner_id, {"filter": name}).get("filter")
    if found is None:
        raise Refused(f"The kit has no filter “{name}” any more. Choose another.", code="kit-gone")
    glass = kit.scene_filter(found)
    coloured = lambda each: each["name"] in COLOURED or "points" in each
    same = lambda other: coloured(other) if coloured(glass) else other["name"] == glass["name"]
    kept = [other for other in scene.document.get("filters", []) if not same(other)]
    return set_part(scene, stamp, f"filter: {name}", filters=[glass, *kept])


def use_way(scene, stamp, way):
    """Put a coloured filter in front, or choose the in-camera mix of a colour sensor; "none" takes it away."""
    if way not in ("none", *COLOURED, *CHANNEL_MIXES):
        raise Refused(f"There is no filter “{way}”.", code="filter-unknown")
    medium = dict(scene.document.get("medium", {"kind": "film"}))
    if medium["kind"].startswith("digital") and not medium.get("response"):
        medium["channel_mix"] = way
        return set_part(scene, stamp, f"in-camera filter: {way}", medium=medium)
    others = [
        glass for glass in scene.document.get("filters", []) if glass["name"] not in COLOURED and "points" not in glass
    ]
    return set_part(scene, stamp, f"filter: {way}", filters=[*([{"name": way}] if way != "none" else []), *others])


def use_setup(scene, stamp, part, reason=""):
    """Use an in-camera setup; its filter replaces a mix that was chosen before, the reason is added to the notes."""
    medium = {
        key: value
        for key, value in scene.document.get("medium", {"kind": "digital file"}).items()
        if key != "channel_mix"
    }
    if not medium["kind"].startswith("digital"):
        raise Refused(
            "A setup belongs to a digital camera; this scene is on film. Change the medium first.", code="setup-on-film"
        )
    used = {**scene.document.get("kit", {}), "setup": part["name"]}
    notes = scene.document.get("notes", "")
    if reason.strip():
        notes = f"{notes}\nSetup {part['name']}: {reason.strip()}".strip()
    return set_part(scene, stamp, f"setup: {part['name']}", setup=part, medium=medium, kit=used, notes=notes)


def take_advice(scene, stamp, proposal):
    """Do what a proposal of core.advice says: its filter or mix, or its effects added to the scene's setup."""
    if proposal.way:
        return use_way(scene, stamp, proposal.way)
    return use_setup(scene, stamp, _setup_with(scene.document, proposal.effects))


def _setup_with(document, changes):
    """The scene's setup with effects moved by `changes`, within their scale; no longer a revision of a kept one."""
    before = document.get("setup", {"name": "for this scene"})
    effects = dict(before.get("effects", {}))
    for name, value in changes.items():
        low = 0.0 if name in ONE_SIDED else -1.0
        effects[name] = round(min(max(effects.get(name, 0.0) + value, low), 1.0), 4)
    return {**{key: value for key, value in before.items() if key != "revision"}, "effects": effects}


def take_way_out(scene, stamp, code):
    """Apply one of the computed ways out of a scene that exceeds its medium."""

    def edit(document, scene):
        way = next((w for w in ways_out(plan(scenefile.scene_of(document))) if w.code == code), None)
        if way is None:
            raise Refused("That way out no longer fits this plan.", code="no-way-out")
        if code == "graduated":
            others = [glass for glass in document.get("filters", []) if glass["name"] != "graduated"]
            document["filters"] = [*others, {"name": "graduated", "stops": int(way.stops)}]
        elif code == "contrast":
            document["setup"] = _setup_with(document, way.effects)
        elif code == "bracket":
            document["bracket"] = {"count": way.count, "step": round(way.stops, 4), "order": "0 - +"}
        else:
            next(entry for entry in document["tones"] if entry["name"] == way.tone)["texture"] = "free"

    return change(scene, stamp, f"way out: {code}", edit)


# --- small parts --------------------------------------------------------------------------------------------------------------


def _rescale(document, scene):
    picture = picture_of(scene)
    if picture:
        light.rescale(document, picture)


def _typed(reading):
    return {"kind": "spot", **reading, "taken_at": timezone.now().isoformat(timespec="seconds")}


def _tone(document, mark):
    for entry in document.get("tones", []):
        if entry.get("mark") == mark:
            return entry
    raise Refused(f"There is no tone {mark} in this scene any more.", code="no-tone")


def _names(document):
    return tuple(entry["name"] for entry in document.get("tones", []))


def _require_free_name(document, name):
    if name in _names(document):
        raise Refused(f"“{name}” is already a tone of this scene. Give each tone a name of its own.", code="name-taken")


def _require_room(document):
    if len(document.get("tones", [])) >= MAX_TONES:
        raise Refused(f"A scene holds {MAX_TONES} tones. Remove one that does not matter.", code="too-many-tones")


def _next_mark(document):
    used = {entry.get("mark") for entry in document.get("tones", [])}
    letters = [chr(65 + k) for k in range(26)]
    return next(mark for mark in [*letters, *(f"A{letter}" for letter in letters)] if mark not in used)


def _give_marks(document):
    """Letters for the tones of an imported file that have none, or whose letter is used twice."""
    seen = set()
    for entry in document.get("tones", []):
        if entry.get("mark") in seen:
            del entry["mark"]
        seen.add(entry.get("mark"))
    for entry in document.get("tones", []):
        if "mark" not in entry:
            entry["mark"] = _next_mark(document)
