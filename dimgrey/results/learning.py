"""What a person's frames say of their kit: evidence from results, biases, proposed corrections, habits."""

from dataclasses import dataclass

from dimgrey.core.measure.stops import format_stops
from dimgrey.core.measure.surfaces import surface_named
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.results import corrections
from dimgrey.core.results.applying import Change, change_for, headroom_of
from dimgrey.core.results.corrections import Correction, Evidence
from dimgrey.kit.models import Item
from dimgrey.kit.queries import corrected_at
from dimgrey.results.queries import compared

LEAST_HEADROOM = 1 / 6
NAMELESS = ("", "none")


@dataclass(frozen=True)
class Proposal:
    """A correction that may be applied. item: row of the kit, None where there is none of that name. change: core Change. key: how a
    form names it. why: the evidence in words."""

    key: str
    title: str
    why: str
    change: Change
    item: object = None
    correction: Correction | None = None

    @property
    def can_apply(self):
        return self.item is not None and bool(self.change.values)


def evidence_of(person):
    """Evidence of every frame of a person that was compared, in the order they were exposed; 1 query."""
    best = {}
    for result in compared(person):
        known = best.get(result.frame_id)
        # Of several results of one frame, the first that tells the exposure speaks.
        if known is None or (known.found.unexplained is None and result.found.unexplained is not None):
            best[result.frame_id] = result
    return tuple(_evidence(result) for result in best.values())


def _evidence(result):
    found = result.found
    items = {kind: name for kind in corrections.KINDS if (name := getattr(result.made, kind, "")) not in NAMELESS}
    return Evidence(
        frame=result.number,
        at=result.at.timestamp(),
        stops=found.unexplained,
        contrast=found.b,
        items=items,
        tones=tuple(_own_misses(found)),
    )


def _own_misses(found):
    """(surface, zones off) of each tone whose surface is known: what exposure and contrast of the frame leave of it."""
    if found.unexplained is None:
        return
    for tone in found.tones:
        surface = surface_named(tone.name)
        if surface and not tone.free and not tone.end:
            at = tone.planned_fall
            yield surface.name, tone.fall - at - found.a - found.b * (at - MIDDLE)


def since_corrections(person, evidence):
    """The evidence without what was exposed before an item of its was corrected: those frames speak of what is mended; 1 query."""
    since = corrected_at(person)
    is_past = lambda each: any(each.at < since.get(item, 0) for item in each.items.items())
    return tuple(each for each in evidence if not is_past(each))


def proposals_of(person, evidence):
    """Proposal of each correction that the evidence carries; 2 queries."""
    fresh = since_corrections(person, evidence)
    rows = {(row.kind, row.name): row for row in Item.objects.owned_by(person)}
    made = [
        _proposal(found, rows)
        for quantity in ("exposure", "contrast")
        for found in corrections.corrections(fresh, quantity)
    ]
    return (*made, *_headrooms(person, rows))


def _item_of(rows, kind, name):
    """The kit's row of an item as frames name it; a filter also by its glass."""
    if (kind, name) in rows or kind != "filter":
        return rows.get((kind, name))
    glasses = [row for (each, _), row in rows.items() if each == "filter" and row.item.glass == name]
    return glasses[0] if len(glasses) == 1 else None


def _proposal(found, rows):
    bias = found.bias
    row = _item_of(rows, bias.kind, bias.name)
    change = Change({}, "It is not in your kit: put it there to correct it.")
    if row:
        change = change_for(row.item, bias.mean, found.quantity, computed_factor(row))
    if found.others:
        named = ", ".join(f"{kind} {name}" for kind, name in found.others)
        change = Change(
            {},
            f"It may as well be {named}: the frames do not tell them apart. Use them in other company for a few frames.",
        )
    return Proposal(
        key=f"{found.quantity}:{bias.kind}:{bias.name}",
        title=_title(bias, found.quantity),
        why=_why(bias, found.quantity),
        change=change,
        item=row,
        correction=found,
    )


def _title(bias, quantity):
    if quantity == "contrast":
        way = "more" if bias.mean > 0 else "less"
        return f"{bias.kind.capitalize()} {bias.name}: {abs(bias.mean) * 100:.0f} % {way} contrast than planned"
    way = "lighter" if bias.mean > 0 else "darker"
    return f"{bias.kind.capitalize()} {bias.name}: {format_stops(abs(bias.mean))} stop {way} than planned"


def _why(bias, quantity):
    if quantity == "contrast":
        told = f"{bias.mean * 100:+.0f} %, 95 % interval {bias.low * 100:+.0f} to {bias.high * 100:+.0f} %"
    else:
        told = f"{bias.mean:+.2f} stop, 95 % interval {bias.low:+.2f} to {bias.high:+.2f}"
    return f"{bias.count} frames: {told}.".replace("-", "−")


def computed_factor(row):
    """Factor that a filter's glass has in daylight on common film, None for grey glass."""
    from dimgrey.core.planning.media import Medium

    glass = row.item.glass if row.kind == "filter" else None
    try:
        return Medium().glass_factor("D55", (glass,)) if glass and row.item.stops is None else None
    except ValueError:
        return None


def _headrooms(person, rows):
    """Proposal of each camera whose files lose highlights elsewhere than its headroom says; 1 query."""
    points, since = {}, corrected_at(person)
    for result in compared(person):
        name = result.made.camera if result.found.kind == "camera file" and result.made else ""
        if name and result.at.timestamp() >= since.get(("camera", name), 0):
            found = result.found
            for tone in found.tones:
                at = tone.planned_fall - MIDDLE
                points.setdefault(name, []).append((at + found.a + found.b * at, tone.end > 0))
    for name, told in sorted(points.items()):
        row = rows.get(("camera", name))
        headroom, now = headroom_of(told), row and row.item.headroom
        if headroom and now and abs(headroom - now) > LEAST_HEADROOM:
            words = f"Its headroom goes from {now:.2f} to {headroom:.2f} stops above middle grey."
            yield Proposal(
                key=f"headroom:camera:{name}",
                title=f"Camera {name}: white begins at {headroom:+.1f} stops",
                why=f"{len(told)} tones of its files, {sum(white for _, white in told)} of them white.",
                change=Change({"headroom": headroom}, words),
                item=row,
            )


def habits_of(evidence):
    """Own habits in words: "Snow in sun lands ⅔ lower than you plan it ..."."""
    made = []
    for bias in corrections.habits(evidence):
        way = "lower" if bias.mean < 0 else "higher"
        name = bias.name.removeprefix("a ")
        interval = _why(bias, "exposure").partition(": ")[2].rstrip(".")
        made.append(
            f"{name.capitalize()}: lands {format_stops(abs(bias.mean))} {way} than you plan it, apart from the rest of the "
            f"picture ({bias.count} readings, {interval})."
        )
    return tuple(made)
