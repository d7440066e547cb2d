"""What a person does with setups, and what pages read of them."""

from django.db import transaction

from dimgrey.core.camera import setups
from dimgrey.core.errors import CoreError
from dimgrey.kit.models import Item, Setup, SetupRevision


def setups_of(owner_id):
    """A person's setups with their cameras; 1 query."""
    return Setup.objects.filter(owner_id=owner_id).select_related("camera")


def setup_of(person, pk):
    """One setup of a person, or None; 1 query."""
    return Setup.objects.owned_by(person).select_related("camera").filter(pk=pk).first()


def checked(values):
    """The core's Setup of kept values."""
    return setups.from_json({key: value for key, value in values.items() if key != "revision"})


def controls_of(camera):
    """Controls of a camera item in menu order; () for none or one that declares no menu."""
    return setups.parse_controls(camera.values.get("controls") or "") if camera else ()


@transaction.atomic
def keep_setup(person, made, camera=None, kept=None):
    """Make a setup from the core's Setup, or give one a new revision. An unchanged one stays. Returns it."""
    taken = Setup.objects.owned_by(person).filter(name=made.name).exclude(pk=kept.pk if kept else None).exists()
    if taken:
        raise CoreError(
            f"There is a setup “{made.name}” already. Give this one another name.", parameter="name", code="name-taken"
        )
    if kept is None:
        row = Setup.objects.create(owner=person, name=made.name, camera=camera, values=setups.as_json(made))
        SetupRevision.objects.create(setup=row, revision=1, values=row.values, change="made")
        return row
    change = what_changed(checked(kept.values), made)
    if not change and kept.camera == camera:
        return kept
    kept.revision += 1
    kept.name, kept.camera, kept.values = made.name, camera, setups.as_json(made, kept.revision)
    kept.save(update_fields=["name", "camera", "values", "revision"])
    SetupRevision.objects.create(
        setup=kept, revision=kept.revision, values=kept.values, change=(change or "camera changed")[:300]
    )
    return kept


def what_changed(before, after):
    """The difference of two setups in words, "" when there is none."""
    said = []
    for effect in setups.EFFECTS:
        a, b = before.effect(effect), after.effect(effect)
        if abs(a - b) > 1e-6:
            said.append(f"{effect} {a:+.2f} → {b:+.2f}")
    for name in ("name", "filter", "protection_stops", "file", "notes"):
        a, b = getattr(before, name), getattr(after, name)
        if a != b:
            said.append(f"{name.replace('_stops', '')} {a or 'none'} → {b or 'none'}" if name != "notes" else "notes")
    if before.tags != after.tags:
        said.append("tags")
    return ", ".join(said)


def import_setup(person, document):
    """A setup of a setup file, under a free name. Returns (row, renamed)."""
    made = setups.from_json(document)
    names = set(Setup.objects.owned_by(person).values_list("name", flat=True))
    name = next(
        each
        for k in range(1, len(names) + 2)
        if (each := made.name if k == 1 else f"{made.name[:54]} ({k})") not in names
    )
    row = keep_setup(
        person, setups.Setup(name, made.effects, made.filter, made.protection_stops, made.file, made.notes, made.tags)
    )
    return row, name != made.name


def scene_part(row):
    """A setup as the scene document keeps it."""
    made = checked(row.values)
    return {
        "name": row.name,
        "revision": row.revision,
        "effects": made.effects,
        "filter": made.filter,
        "protection_stops": made.protection_stops,
        "file": made.file,
    }


def cameras_of(person):
    """Digital cameras of a person that are in use; 1 query."""
    rows = Item.objects.owned_by(person).filter(kind="camera", retired=False)
    return [item for item in rows if item.values.get("senses") != "film"]
