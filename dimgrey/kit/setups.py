"""What a person does with setups: the only place that writes them. Reads are in queries."""

from dataclasses import replace

from django.db import transaction

from dimgrey.core.camera.setups import carry, what_changed
from dimgrey.core.document import setupfile
from dimgrey.core.document.means import SetupPart
from dimgrey.core.errors import CoreError
from dimgrey.kit.models import KeptSetup, SetupRevision


@transaction.atomic
def keep_setup(person, made, camera=None, kept=None):
    """Make a setup from the core's Setup, or give one a new revision. An unchanged one stays. Returns it."""
    taken = KeptSetup.objects.owned_by(person).filter(name=made.name).exclude(pk=kept.pk if kept else None).exists()
    if taken:
        raise CoreError(
            f"There is a setup “{made.name}” already. Give this one another name.", parameter="name", code="name-taken"
        )
    if kept is None:
        row = KeptSetup.objects.create(owner=person, name=made.name, camera=camera, values=setupfile.plain(made))
        SetupRevision.objects.create(setup=row, revision=1, values=row.values, change="made")
        return row
    change = what_changed(kept.setup, made)
    if not change and kept.camera == camera:
        return kept
    kept.revision += 1
    kept.name, kept.camera, kept.values = made.name, camera, setupfile.plain(made, kept.revision)
    kept.save(update_fields=["name", "camera", "values", "revision"])
    SetupRevision.objects.create(
        setup=kept, revision=kept.revision, values=kept.values, change=(change or "camera changed")[:300]
    )
    return kept


def import_setup(person, made, camera=None):
    """The core's Setup of a setup file, kept under a free name. Returns (row, renamed)."""
    names = set(KeptSetup.objects.owned_by(person).values_list("name", flat=True))
    name = next(
        each
        for k in range(1, len(names) + 2)
        if (each := made.name if k == 1 else f"{made.name[:54]} ({k})") not in names
    )
    return keep_setup(person, replace(made, name=name), camera), name != made.name


def carry_setup(person, row, camera):
    """A setup kept as one of another camera, under a name of its own. Returns the new row."""
    carried = carry(row.setup, camera.controls, most_protection=camera.item.protection_stops)
    named = replace(carried.setup, name=f"{row.name}, {camera.name}"[:60])
    return import_setup(person, named, camera)[0]


def scene_part(row):
    """A setup as the scene document keeps it: SetupPart."""
    made = row.setup
    return SetupPart(row.name, row.revision, made.effects, made.filter, made.protection_stops, made.file)
