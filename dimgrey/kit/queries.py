"""What pages read of the kit."""

from dimgrey.core.document.kit import KINDS
from dimgrey.kit.models import Item
from dimgrey.scenes.models import Scene


def items_of(person):
    """All items of a person, by kind and name; 1 query."""
    return Item.objects.owned_by(person)


def item_of(person, pk):
    """One item of a person, or None; 1 query."""
    return Item.objects.owned_by(person).filter(pk=pk).first()


def offered(owner_id):
    """kind -> names of the items that are not retired; 1 query."""
    found = {kind: [] for kind in KINDS}
    for kind, name in Item.objects.filter(owner_id=owner_id, retired=False).values_list("kind", "name"):
        found[kind].append(name)
    return found


def chosen(owner_id, names):
    """kind -> values with name, of items by kind and name; unknown ones are left out; 1 query."""
    wanted = {kind: name for kind, name in names.items() if name}
    if not wanted:
        return {}
    rows = Item.objects.filter(owner_id=owner_id, kind__in=wanted, name__in=wanted.values())
    return {item.kind: item.named for item in rows if wanted[item.kind] == item.name}


def uses_of(item):
    """How many scenes name an item in their plan; 1 query."""
    return Scene.objects.owned_by(item.owner).filter(**{f"document__kit__{item.kind}": item.name}).count()
