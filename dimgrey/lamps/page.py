"""What the light plan's page shows, in words: rows of lamps, places and wishes, ready to read."""

from dataclasses import dataclass

from dimgrey.core.document.lighting import shown_length
from dimgrey.core.lamps.backwards import MET, Wish
from dimgrey.core.lamps.lamp import KIND_WORDS
from dimgrey.core.measure.stops import format_aperture, format_stops, format_time
from dimgrey.core.planning.zones import format_tone
from dimgrey.core.practice.question import grey_hex

STEP = 30
"""Width of a zone on the ramp."""
DARK_EV = -12.0
"""EV below which a place gets no light to speak of."""
HARDLY = -9.0
"""Stops below the strongest from which a lamp gives nothing to speak of."""


def length(metres, unit):
    """A length in words: "1.5 m", "4.9 ft"."""
    return f"{shown_length(metres, unit):g} {unit}"


def angle(degrees):
    """An angle from the camera in words: "45° right", "from behind"."""
    turned = abs(degrees)
    if turned < 0.5:
        return "at the camera"
    if turned > 179.5:
        return "from behind"
    return f"{turned:.0f}° {'right' if degrees > 0 else 'left'}"


@dataclass(frozen=True)
class LampRow:
    """One lamp. number: from 1. line: where it stands. gives: what it gives at the subject. edge: of shadows and fall-off. form: its LampForm."""

    number: int
    lamp: object
    line: str
    gives: str
    edge: str
    form: object


def lamp_label(lit):
    """(number, Lamp) -> words on the drawing: its name, and its power where that is not full."""

    def words(number, lamp):
        power = f" {format_stops(lamp.stops, signed=True)}" if lamp.stops else ""
        return f"{lamp.name}{power}"

    return words


def lamp_rows(lit, form_of):
    """LampRow of each lamp. lit: LitScene. form_of: (number, Lamp) -> its form."""
    return [_lamp_row(each, lit, form_of) for each in lit.measured]


def _lamp_row(each, lit, form_of):
    lamp, unit = each.lamp, lit.lighting.unit
    line = (
        f"{KIND_WORDS[lamp.kind]}, {angle(lamp.angle_deg)}, {length(each.distance_m, unit)} from the subject, "
        f"{length(lamp.height_m, unit)} high"
    )
    if not lamp.is_on:
        gives = "off"
    elif each.share_stops < HARDLY:
        gives = "gives the subject nothing"
    else:
        meter = f"f/{each.f_number:.1f}" if each.f_number else f"{each.lux:.0f} lx, EV {format_stops(each.ev100)}"
        gives = meter if each.share_stops > -0.05 else f"{meter}, {format_stops(each.share_stops, signed=True)}"
    edge = f"{each.hard}: an edge of {each.edge_mm:.0f} mm" if each.edge_mm >= 0.5 else "hard: a point"
    edge += f"; loses {format_stops(each.deep_stops)} over the depth of a head, {format_stops(each.ground_stops)} on the way to the ground"
    if each.pause_s is not None:
        edge += f"; ready again in {each.pause_s:.1f} s"
    return LampRow(each.number, lamp, line, gives, edge, form_of(each.number, lamp))


@dataclass(frozen=True)
class PlaceRow:
    """One place. zone: in words. x: of its mark on the ramp. reads: EV of a spot meter. side: "lit", "unlit" or ""."""

    name: str
    surface: str
    zone: str
    x: float
    reads: str
    side: str


def place_rows(lit, labels):
    """PlaceRow of each place, the lightest first."""
    side, _ = lit.sides
    told = []
    for each in sorted(lit.places, key=lambda one: -one.zone):
        which = each.place.name.rpartition(" ")[2] if each.place.part in ("skin", "cup") else ""
        told.append(
            PlaceRow(
                each.place.name,
                lit.surfaces[each.place.part].name if each.place.part in lit.surfaces else each.place.part,
                format_tone(each.zone, labels),
                round(min(max(each.zone + 0.5, 0.0), 11.0) * STEP, 1),
                f"EV {format_stops(each.ev100)}" if each.ev100 > DARK_EV else "no light",
                ("lit" if which == side else "unlit") if side and which in ("right", "left") else "",
            )
        )
    return told


def ramp_steps(labels):
    """(x, grey, label) of each zone of the ramp."""
    return [(k * STEP, grey_hex(k), format_tone(k, labels)) for k in range(11)]


def setting_words(lit):
    """How the camera is set: that of the scene's plan, else that of the light plan."""
    plan = lit.situation.plan
    if plan:
        return f"{format_aperture(plan.aperture)}, {format_time(plan.shutter)}, ISO {lit.camera.iso:g}"
    return f"{lit.lighting.aperture}, {lit.lighting.shutter}, ISO {lit.camera.iso:g}"


@dataclass(frozen=True)
class WishRow:
    """One wish. words: what is wished. got: what is reached. is_met."""

    place: str
    words: str
    got: str
    is_met: bool


def wish_rows(lit, labels):
    """WishRow of each wish, held against the light that is there."""
    if not lit.lighting.wishes:
        return []
    zones = {each.place.name: each.zone for each in lit.places}
    rows = []
    for part in lit.lighting.wishes:
        wish = Wish(part.place, part.zone, part.over)
        if part.place not in zones or (part.over and part.over not in zones):
            rows.append(WishRow(part.place, wish.words, "not in this picture", False))
            continue
        got = zones[part.place] - (zones[part.over] if part.over else 0.0)
        told = f"{got:+.1f}" if part.over else format_tone(got, labels)
        rows.append(WishRow(part.place, wish.words, told, abs(got - part.zone) <= MET))
    return rows


def compared(columns, labels):
    """(what, its words in each column) of several light plans. columns: (name, LitScene, number) of each."""
    places = [each.place.name for each in columns[0][1].places]
    rows = [
        (
            "lamps",
            [
                ", ".join(f"{m.lamp.name} {angle(m.lamp.angle_deg)}" for m in lit.measured if m.lamp.is_on)
                for _, lit, _ in columns
            ],
        )
    ]
    rows.append(("between its two sides, stops", [f"{format_stops(lit.sides[1])}" for _, lit, _ in columns]))
    for name in places:
        told = []
        for _, lit, _ in columns:
            found = next((each for each in lit.places if each.place.name == name), None)
            told.append(format_tone(found.zone, labels) if found else "")
        rows.append((name, told))
    return rows
