"""What pages read of the kit."""

from dimgrey.core.document.kit import KINDS
from dimgrey.core.document.kituse import glass_of
from dimgrey.core.measure.surfaces import Surface
from dimgrey.kit.models import Item, ItemRevision, KeptSetup

_COUNTERS = []


def counts_uses(count):
    """Rooms above say how often they use an item. count: (owner id, kind, name) -> number."""
    _COUNTERS.append(count)


def items_of(person):
    """All items of a person, by kind and name; 1 query."""
    return Item.objects.owned_by(person)


def item_of(person, pk):
    """One item of a person, or None; 1 query."""
    return Item.objects.owned_by(person).filter(pk=pk).first()


def corrected_at(person):
    """(kind, name) -> when an item was last corrected by what its frames said, seconds of the epoch; 1 query."""
    rows = ItemRevision.objects.filter(item__owner=person, undone_at=None).exclude(correction="")
    return {
        (kind, name): at.timestamp()
        for kind, name, at in rows.order_by("at").values_list("item__kind", "item__name", "at")
    }


def offered(owner_id):
    """kind -> names of the items that are not retired; 1 query."""
    found = {kind: [] for kind in KINDS}
    for kind, name in Item.objects.filter(owner_id=owner_id, retired=False).values_list("kind", "name"):
        found[kind].append(name)
    return found


def glasses_of(owner_id):
    """Name of a filter that is not retired -> GlassPart; 1 query."""
    rows = Item.objects.filter(owner_id=owner_id, kind="filter", retired=False)
    return {row.name: glass_of(row.item) for row in rows}


def chosen(owner_id, names):
    """kind -> Item, of items by kind and name; unknown ones are left out; 1 query."""
    wanted = {kind: name for kind, name in names.items() if name}
    if not wanted:
        return {}
    rows = Item.objects.filter(owner_id=owner_id, kind__in=wanted, name__in=wanted.values())
    return {item.kind: item for item in rows if wanted[item.kind] == item.name}


def item_named(owner_id, kind, name):
    """The Item of a kind and a name, or None; 1 query."""
    return chosen(owner_id, {kind: name}).get(kind)


def uses_of(item):
    """How often an item is named in plans; 1 query."""
    return sum(count(item.owner_id, item.kind, item.name) for count in _COUNTERS)


def cameras_of(person):
    """Digital cameras of a person that are in use; 1 query."""
    rows = Item.objects.owned_by(person).filter(kind="camera", retired=False)
    return [row for row in rows if row.item.senses != "film"]


def surfaces_of(owner_id):
    """Surfaces that a person added to the usual ones; 1 query."""
    rows = Item.objects.filter(owner_id=owner_id, kind="surface", retired=False).values_list("name", "values__zone")
    return tuple(Surface(name, (name.lower(),), float(zone)) for name, zone in rows)


def setups_of(person):
    """A person's setups with their cameras; 1 query."""
    return KeptSetup.objects.owned_by(person).select_related("camera")


def setup_of(person, pk):
    """One setup of a person, or None; 1 query. pk: a number, also as text."""
    return setups_of(person).filter(pk=int(pk)).first() if str(pk).isdecimal() and len(str(pk)) < 19 else None
