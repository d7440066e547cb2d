"""What a person does to outings: the only place that writes them."""

from django.utils import timezone

from dimgrey.core.errors import CoreError
from dimgrey.core.sky.conditions import require_conditions
from dimgrey.outings.models import Outing

CHECKLIST = {
    "battery": "battery charged, a spare one warm",
    "medium": "card emptied or film loaded",
    "filters": "filters clean and packed",
    "card": "field card printed",
    "told": "someone told where and until when",
}
FACTS = (
    "title", "intent", "notes", "bring", "date", "place_name", "latitude_deg", "longitude_deg", "zone", "tidal", "forecast", "terrain",
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


def set_removed(person, pk, removed):
    """Take an outing off the lists, or bring it back. Returns how many changed (0 or 1)."""
    at = timezone.now() if removed else None
    return Outing.objects.owned_by(person).filter(pk=pk).update(removed=removed, removed_at=at)


def create_visit(outing):
    """Another outing to the same place, without date and notes. Its scenes are made by the room that knows them."""
    facts = {key: getattr(outing, key) for key in FACTS if key not in ("date", "notes")}
    return Outing.objects.create(owner=outing.owner, series=outing.series, **facts)
