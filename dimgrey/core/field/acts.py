"""What a hand does in the field: verbs with their values as a form sends them, as edits of a Document.

The desk reads the same verbs with its own forms and has the last word when the acts come home; a test holds the two alike. An act
is a dictionary: verb, act (its id), at (when it was done, ISO 8601), and the values that the verb asks for, as text or numbers.
"""

from dataclasses import dataclass, field, replace

from dimgrey.core.document import edits, meansedits, wishing
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.kituse import glass_of
from dimgrey.core.document.means import SetupPart
from dimgrey.core.document.read import brief_of
from dimgrey.core.document.readtones import glass_in_front
from dimgrey.core.document.scale import light_scale, picture_reading, rescaled
from dimgrey.core.document.tones import Reading
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_stops, parse_time
from dimgrey.core.measure.readings import parse_reading
from dimgrey.core.measure.stops import written_aperture, written_time
from dimgrey.core.planning.wishes import parse_wish
from dimgrey.core.planning.zones import parse_zone


@dataclass(frozen=True)
class Carried:
    """What of a scene lies beside its document. facts: of its picture, or None. kit: name -> filter item. setups: number ->
    SetupPart. polarized: what stands in for overhead.Polarized, or None. sky: its FrameSky, or None."""

    facts: object = None
    kit: dict = field(default_factory=dict)
    setups: dict = field(default_factory=dict)
    polarized: object = None
    sky: object = None

    def brief_of(self, document):
        """The Brief of a Document of this scene."""
        return brief_of(document, self.polarized)


@dataclass(frozen=True)
class At:
    """One act being done. values: what it says. at: its time, an aware datetime. carried: Carried."""

    values: dict
    at: object
    carried: Carried

    def text(self, name):
        return str(self.values.get(name, "")).strip()

    def is_on(self, name):
        return self.text(name).lower() in ("on", "true", "1")

    def reading(self, document, text):
        """The Reading that was typed, with its time."""
        typed = parse_reading(text, str(document.medium.iso), document.increment)
        return Reading(**typed, taken_at=self.at.isoformat(timespec="seconds"))


def _read(document, act):
    reading = act.reading(document, act.text("reading"))
    if act.text("kind"):
        reading = replace(reading, kind=act.text("kind"))
    if act.is_on("through"):
        reading = replace(reading, through=glass_in_front(document))
    if act.is_on("others"):
        return edits.with_light_from(document, act.text("mark"), reading)
    return edits.with_reading(document, act.text("mark"), reading, act.is_on("replace"), act.carried.facts)


def _place(document, act):
    zone, printed = (parse_zone(act.text(name)) if act.text(name) else None for name in ("zone", "print"))
    if zone is None and printed is None:
        raise Refused("Say the zone, such as VII⅓ or 7.5.", code="zone-missing")
    return edits.placed(document, act.text("mark"), zone, printed, act.carried.brief_of)


def _add_tone(document, act):
    text = act.text("reading")
    return edits.with_named_tone(document, act.text("name"), act.reading(document, text) if text else None)


def _pin(document, act):
    """A tone pinned in the picture; seen: what the spot there says (field/spot.py), which the desk reads again for itself."""
    facts, seen = act.carried.facts, act.values["seen"]
    reading = picture_reading(seen, facts, light_scale(document, facts) is not None, act.at)
    return edits.pinned(document, float(act.values["x"]), float(act.values["y"]), seen.spot, reading)


def _move_pin(document, act):
    """A pin at another place; seen: as in `_pin`."""
    facts, seen = act.carried.facts, act.values["seen"]
    reading = picture_reading(seen, facts, light_scale(document, facts) is not None, act.at)
    x, y = float(act.values["x"]), float(act.values["y"])
    return rescaled(edits.repinned(document, act.text("mark"), x, y, seen.spot, reading), facts)


def _kit_filter(document, act):
    item = act.carried.kit.get(act.text("filter"))
    if item is None:
        raise Refused(f"The kit has no filter “{act.text('filter')}” any more. Choose another.", code="kit-gone")
    return meansedits.with_glass(document, glass_of(item))


def _setup(document, act):
    part = act.carried.setups.get(int(act.text("setup")))
    if part is None:
        raise Refused("There is no such setup among yours.", code="setup-gone")
    return meansedits.with_setup(document, part, act.text("reason"))


def _setting(document, act):
    by_aperture = act.text("lead") == "aperture"
    parse, written = (parse_aperture, written_aperture) if by_aperture else (parse_time, written_time)
    value = written(parse(act.text("value"), document.increment))
    leads = {"aperture": None, "shutter": None, act.text("lead"): value}
    return rescaled(document.with_(camera=replace(document.camera, **leads)), act.carried.facts)


def _tone(document, act):
    tone, found = edits.require_tone(document, act.text("mark")), {"name": act.text("name")}
    if act.text("role") and act.text("role") != (tone.role or "other"):
        found["role"] = act.text("role")
    return edits.described(document, act.text("mark"), **found)


def _log(document, act):
    """A frame stands in the log and changes no document; what was set must be what a camera can set."""
    for name, parse in (("shutter", parse_time), ("aperture", parse_aperture), ("iso", parse_speed)):
        if act.text(name):
            parse(act.text(name))
    return document


VERBS = {
    "log": _log,
    "undo": lambda document, act: document,  # what was done at the desk is taken back there
    "read": _read,
    "place": _place,
    "add-tone": _add_tone,
    "pin": _pin,
    "move-pin": _move_pin,
    "tone": _tone,
    "shift": lambda document, act: edits.with_light_shifted(
        document, parse_stops(act.text("stops"), "stops"), act.text("only") or None
    ),
    "colour-choice": lambda document, act: meansedits.with_colour_choice(document, act.text("choice")),
    "kit-filter": _kit_filter,
    "filter": lambda document, act: rescaled(
        document.with_(filters=()), act.carried.facts
    ),  # all off; more is the desk's
    "setup": _setup,
    "setting": _setting,
    "wish": lambda document, act: wishing.with_wish(document, act.text("mark"), parse_wish(act.text("wish"))),
    "take-guess": lambda document, act: edits.taken(document, act.text("mark") or None),
    "drop-tone": lambda document, act: rescaled(edits.without_tone(document, act.text("mark")), act.carried.facts),
}
"""Every verb that the field knows."""


def done(document, values, at, carried):
    """The Document after an act. values: its verb and what it says. at: when, an aware datetime. carried: Carried. Raises CoreError."""
    verb = values.get("verb")
    if verb not in VERBS:
        raise Refused(f"There is no act “{verb}” in the field.", code="no-act")
    return VERBS[verb](document, At(values, at, carried))


def setup_part(data):
    """SetupPart of plain data, as a bundle carries it."""
    return SetupPart(**data)
