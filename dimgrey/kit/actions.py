"""What a person does to the kit: the only place that writes it."""

from dataclasses import replace

from django.db import transaction
from django.utils import timezone

from dimgrey.core.camera.calibration import CardFrame, curve_from_series, measured_values, mix_from_chart
from dimgrey.core.document import kit, kitfile
from dimgrey.core.errors import CoreError
from dimgrey.core.planning.media import FOOTROOM_STOPS, HEADROOM_STOPS
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.kit.models import Item, ItemRevision, free_name
from dimgrey.kit.queries import uses_of
from dimgrey.people.removal import remove


def keep_item(person, kind, name, values, item=None):
    """Make an item, or change one. Raises KitError, or CoreError for a name that is taken."""
    checked = kit.check(kind, values)
    clean = " ".join(name.split())[:60]
    if not clean:
        raise CoreError("Give it a name, as it stands on its front.", parameter="name", code="name")
    taken = Item.objects.owned_by(person).filter(kind=kind, name=clean).exclude(pk=item.pk if item else None).exists()
    if taken:
        raise CoreError(
            f"There is a {kind} “{clean}” already. Give this one another name.", parameter="name", code="name-taken"
        )
    if item is None:
        return Item.objects.create(owner=person, kind=kind, name=clean, values=checked)
    item.name, item.values = clean, checked
    item.save(update_fields=["name", "values"])
    return item


@transaction.atomic
def correct_item(item, values, change, correction):
    """A new version of an item with some of its values changed, as its frames proposed. Plans made before keep their own copy.

    values: fields that change. change: in words. correction: as ItemRevision has it. Raises KitError.
    """
    before = item.values
    item.values = kit.check(item.kind, {**item.values, **values})
    item.save(update_fields=["values"])
    told = {"before": before, "values": item.values, "change": change[:300], "correction": correction}
    return ItemRevision.objects.create(item=item, **told)


@transaction.atomic
def undo_correction(revision):
    """Take a correction back: the fields that it changed get the values of before. Raises CoreError for one that is undone already."""
    if revision.undone_at:
        raise CoreError("This correction was taken back already.", code="undone")
    item = revision.item
    changed = {name: value for name, value in revision.before.items() if revision.values.get(name) != value}
    item.values = {**item.values, **changed}
    item.save(update_fields=["values"])
    revision.undone_at = timezone.now()
    revision.save(update_fields=["undone_at"])


def duplicate(item):
    """A copy under a free name."""
    return Item.objects.create(
        owner=item.owner, kind=item.kind, name=free_name(item.name, _of_kind(item.owner, item.kind)), values=item.values
    )


def _of_kind(person, kind):
    return Item.objects.owned_by(person).filter(kind=kind)


def retire(item, retired=True):
    """Take an item out of use, or back. One that no plan names is removed instead. Returns "", or what the next page is called with."""
    if retired and not uses_of(item):
        return remove(item)
    item.retired = retired
    item.save(update_fields=["retired"])
    return ""


@transaction.atomic
def import_items(person, text):
    """Items of a kit file. Same ones are passed over, others under a taken name come in as copies. Returns (new, passed, renamed)."""
    items = kitfile.load(text)
    known = {(item.kind, item.name): item for item in Item.objects.owned_by(person)}
    new = passed = renamed = 0
    for kind, name, values, retired in items:
        there = known.get((kind, name))
        if there and there.values == values:
            passed += 1
            continue
        if there:
            name, renamed = free_name(name, _of_kind(person, kind)), renamed + 1
        else:
            new += 1
        known[kind, name] = Item.objects.create(owner=person, kind=kind, name=name, values=values, retired=retired)
    return new, passed, renamed


def calibrate_curve(row, series, day):
    """Measure a camera's curve, or a film's with its scanner, from a card series. Returns the Curve.

    Headroom and footroom replace a camera's defaults, and a film's outer zones; its dependable zones are held within.
    """
    curve = curve_from_series([CardFrame(*frame) for frame in series])
    row.values = {**row.values, **(_film_limits if row.kind == "film" else _camera_limits)(row.item, curve)}
    measured = replace(
        row.measured,
        day=day.isoformat(),
        stops=tuple(round(s, 3) for s in curve.stops),
        lightness=tuple(round(v, 2) for v in curve.lightness),
        headroom=round(curve.headroom, 2),
        footroom=round(curve.footroom, 2),
        residual=round(curve.residual, 2),
        middle_stops=round(curve.middle_stops, 2),
    )
    row.calibration = measured_values(measured)
    row.save(update_fields=["values", "calibration"])
    return curve


def _film_limits(film, curve):
    low, high = round(max(MIDDLE - curve.footroom, 0), 2), round(min(MIDDLE + curve.headroom, 10), 2)
    return {
        "outer_low": low,
        "outer_high": high,
        "dependable_low": max(film.dependable_low, low),
        "dependable_high": min(film.dependable_high, high),
    }


def _camera_limits(camera, curve):
    head, foot = _within(curve.headroom, HEADROOM_STOPS), _within(curve.footroom, FOOTROOM_STOPS)
    return {"headroom": head, "footroom": foot, "limits_per_iso": _moved(camera.limits_per_iso, head, foot)}


def _moved(rows, headroom, footroom):
    """Rows per speed moved so that the lowest speed has the measured values; a card series is taken at that speed."""
    if not rows:
        return []
    up, down = headroom - rows[0][1], footroom - rows[0][2]
    return [[iso, _within(head + up, HEADROOM_STOPS), _within(foot + down, FOOTROOM_STOPS)] for iso, head, foot in rows]


def _within(value, limits):
    return round(min(max(value, limits[0]), limits[1]), 2)


def calibrate_mix(row, name, colours, greys, day):
    """Measure what one in-camera filter mixes, from a chart. Returns the Mix."""
    mix, before = mix_from_chart(colours, greys), row.measured
    measured = replace(
        before,
        mixes={**before.mixes, name: list(mix.weights)},
        mix_residuals={**before.mix_residuals, name: round(mix.residual_stops, 3)},
        mix_day=day.isoformat(),
    )
    row.calibration = measured_values(measured)
    row.save(update_fields=["calibration"])
    return mix
