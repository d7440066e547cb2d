"""What a person does to outings: the only place that writes them."""

import copy

from django.db import transaction

from dimgrey.core.errors import CoreError
from dimgrey.core.sky.conditions import require_conditions
from dimgrey.outings.models import Outing
from dimgrey.scenes.actions import create_scene
from dimgrey.scenes.models import Scene

CHECKLIST = {
    "battery": "battery charged, a spare one warm",
    "medium": "card emptied or film loaded",
    "filters": "filters clean and packed",
    "card": "field card printed",
    "told": "someone told where and until when",
}
FACTS = (
    "title", "intent", "notes", "bring", "date", "place_name", "latitude_deg", "longitude_deg", "zone", "tidal",
)  # fmt: skip


def create_outing(person, title, **facts):
    return Outing.objects.create(owner=person, title=title, **facts)


def change_outing(outing, **facts):
    """Change title, intent, date, place and the like. A new date or place drops what was typed over the forecast."""
    moved = any(facts[key] != getattr(outing, key) for key in ("date", "latitude_deg", "longitude_deg") if key in facts)
    for key in FACTS:
        if key in facts:
            setattr(outing, key, facts[key])
    if moved:
        outing.typed_conditions = {}
    outing.save()
    return outing


def type_conditions(outing, hour, **values):
    """Type the weather of one hour over the forecast; without values the forecast comes back. Raises OutOfRange."""
    kept = require_conditions(**values)
    typed = {**outing.typed_conditions}
    typed.pop(str(hour), None)
    if kept:
        typed[str(hour)] = kept
    outing.typed_conditions = typed
    outing.save(update_fields=["typed_conditions"])
    return outing


def set_checked(outing, code, checked):
    """Tick an item of the leaving list, or take the tick off."""
    if code not in CHECKLIST:
        raise CoreError("There is no such item on the list.", parameter="code", code="no-item")
    outing.checked = [c for c in CHECKLIST if c in outing.checked and c != code or (c == code and checked)]
    outing.save(update_fields=["checked"])
    return outing


def dismiss_caution(outing, code, dismissed=True):
    """Put a caution away for this outing, or show it again."""
    outing.dismissed = sorted({*outing.dismissed, code} if dismissed else {*outing.dismissed} - {code})
    outing.save(update_fields=["dismissed"])
    return outing


@transaction.atomic
def order_scenes(outing, pks):
    """Put the scenes of an outing in an order. Scenes that are not named keep their order behind the named ones."""
    scenes = {scene.pk: scene for scene in Scene.objects.owned_by(outing.owner).filter(outing=outing)}
    wanted = [scenes[pk] for pk in dict.fromkeys(pks) if pk in scenes]
    rest = [scene for scene in scenes.values() if scene not in wanted]
    for position, scene in enumerate([*wanted, *rest]):
        if scene.position != position:
            Scene.objects.filter(pk=scene.pk).update(position=position)


def set_removed(person, pk, removed):
    """Take an outing off the lists, or bring it back. Returns how many changed (0 or 1)."""
    return Outing.objects.owned_by(person).filter(pk=pk).update(removed=removed)


@transaction.atomic
def visit_again(outing):
    """A second visit to the place: the same intents, views and means, without readings, pictures and date."""
    again = Outing.objects.create(
        owner=outing.owner,
        series=outing.series,
        **{key: getattr(outing, key) for key in FACTS if key not in ("date", "notes")},
    )
    for scene in Scene.objects.owned_by(outing.owner).filter(outing=outing, removed=False):
        create_scene(outing.owner, _unmeasured(scene.document), again, "for another visit")
    return again


def _unmeasured(document):
    """A scene document without what belongs to one day: readings, places in a picture, placing."""
    kept = copy.deepcopy(document)
    kept.pop("placing", None)
    kept["tones"] = [
        {key: tone[key] for key in ("name", "mark", "role", "texture") if key in tone} for tone in kept.get("tones", [])
    ]
    return kept
