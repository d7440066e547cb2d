"""What a person does to a scene, by words that tests are short with. Each is one act of the core, as the desk does it."""

from dimgrey.core.document import edits, meansedits
from dimgrey.core.document.edits import Refused  # noqa: F401 - tests ask for it here
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.errors import CoreError  # noqa: F401
from dimgrey.scenes.actions import By, Stale, change, do, done, is_done, redo, undo  # noqa: F401


def _text(reading):
    """A reading as people type it. reading: {"ev100": 12.3} or {"shutter": ..., "aperture": ..., "iso": ...}."""
    if isinstance(reading, str):
        return reading
    if "ev100" in reading:
        return f"{reading['ev100']:.10g}"
    return f"{reading['shutter']} {reading['aperture']} ISO {reading.get('iso', 100)}"


def pin_tone(scene, by, x, y):
    return do(scene, by, "pin", x=x, y=y)


def pin_area(scene, by, outline):
    text = outline if isinstance(outline, str) else ",".join(f"{x} {y}" for x, y in outline)
    return do(scene, by, "pin-area", outline=text)


def move_pin(scene, by, mark, x, y):
    return do(scene, by, "move-pin", mark=mark, x=x, y=y)


def add_tone(scene, by, name, reading=None):
    return do(scene, by, "add-tone", name=name, reading=_text(reading) if reading else None)


def type_reading(scene, by, mark, reading, replace=False, others=False):
    said = {} if isinstance(reading, str) else reading
    more = {"kind": said.get("kind"), "through": bool(said.get("through"))}
    return do(scene, by, "read", mark=mark, reading=_text(reading), replace=replace, others=others, **more)


def shift_light(scene, by, stops, only=None):
    return do(scene, by, "shift", stops=f"{stops}", only=only)


def estimate_tone(scene, by, name, light_kind):
    return do(scene, by, "estimate", name=name, light=light_kind)


def drop_reading(scene, by, mark, index):
    return do(scene, by, "unread", mark=mark, index=index)


def describe_tone(scene, by, mark, **fields):
    """As `edits.described` does it: what is named here was said, whatever it was before."""
    return change(scene, by, f"describe {mark}", lambda document: edits.described(document, mark, **fields))


def take_guesses(scene, by, mark=None):
    return do(scene, by, "take-guess", mark=mark)


def drop_tone(scene, by, mark):
    return do(scene, by, "drop-tone", mark=mark)


def place_tone(scene, by, mark, zone=None, printed=None):
    return do(scene, by, "place", mark=mark, zone=zone, print=printed)


def choose_school(scene, by, school, targets=None):
    targets = dict(targets or {})
    if "hold" in targets:
        targets["hold"] = targets["hold"] or "usual"
    if "under_stops" in targets or "lifted" in targets:
        stops, lifted = targets.pop("under_stops", 0), targets.pop("lifted", False)
        targets["under"] = "2 lifted" if lifted else {0: "0", 2: "2"}.get(stops, "0.3333")
    return do(scene, by, "school", school=school, **targets)


def unplace(scene, by):
    return do(scene, by, "unplace")


def set_parts(scene, by, label, **parts):
    """Whole parts of the document, whatever act might make them."""
    return change(scene, by, label, lambda document: rescaled(document.with_(**parts), scene.facts))


def add_pair(scene, by, a, b):
    return do(scene, by, "pair", a=a, b=b)


def use_kit(scene, by, names):
    return do(scene, by, "kit", **names)


def use_kit_filter(scene, by, name):
    return do(scene, by, "kit-filter", filter=name)


def use_colour_choice(scene, by, name):
    return do(scene, by, "colour-choice", choice=name)


def bend_mix(scene, by, name, stops, hold=True):
    return do(scene, by, "bend", tone=name, stops=f"{stops}", follow=not hold)


def level_mix(scene, by):
    return do(scene, by, "level")


def develop(scene, by, step):
    return do(scene, by, "develop", developed=step)


def use_setup(scene, by, part, reason=""):
    return change(scene, by, f"setup: {part.name}", lambda document: meansedits.with_setup(document, part, reason))
