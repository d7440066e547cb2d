"""In-camera black-and-white settings: setups, what they do to tones, and how one is carried to another camera.

A setup holds effects on a common scale of -1 to +1. A camera declares its controls: its own names, scale, step and order
in the menu, and which effect each has. Source: HANDBOOK 10.
"""

import re
from dataclasses import dataclass, field

from dimgrey.core.colour.chain import CHANNEL_MIXES
from dimgrey.core.errors import CoreError, OutOfRange

SLOPE_AT_END = 0.35
"""How much a tone control at its end changes the slope."""
EFFECTS = {
    "contrast": "slope of all tones",
    "highlights": "slope above V",
    "shadows": "slope below V",
    "clarity": "contrast of coarse detail",
    "sharpening": "contrast of fine detail; can be added later, never taken away",
    "grain": "amount of grain; gives deep shadows some life",
    "grain size": "size of grain",
    "noise reduction": "smoothing; costs fine texture",
    "toning": "tint of the in-camera file, cold to warm",
}
"""Effects by the name that files keep, with what each does."""
NAMES = {"clarity": "local contrast"}
"""What people call an effect, where files keep another name."""
ONE_SIDED = frozenset({"grain", "grain size"})
"""Effects that run from 0 to +1."""
TONE_EFFECTS = ("contrast", "highlights", "shadows")
SURFACE_EFFECTS = tuple(effect for effect in EFFECTS if effect not in TONE_EFFECTS)
FILE_WORDS = {
    "both": "The in-camera file shows the plan at once; the raw file keeps colour and room.",
    "raw": "Nothing is baked in; the grey is made later.",
    "in-camera": "What is set here is baked in for good, and cannot be taken out again.",
}
FILES = tuple(FILE_WORDS)


def name_of(effect):
    """What people call an effect.

    >>> name_of("clarity"), name_of("grain")
    ('local contrast', 'grain')
    """
    return NAMES.get(effect, effect)


def effect_named(name):
    """The effect of a name, people's or files'. A name of none comes back as it is.

    >>> effect_named("local contrast")
    'clarity'
    """
    return next((effect for effect, called in NAMES.items() if called == name), name)


@dataclass(frozen=True)
class Setup:
    """A named set. effects: name -> -1..+1, what is not there is 0. filter: one of CHANNEL_MIXES. protection: stops."""

    name: str = ""
    effects: dict = field(default_factory=dict)
    filter: str = "none"
    protection_stops: float = 0.0
    file: str = "both"
    notes: str = ""
    tags: tuple = ()

    def effect(self, name):
        return float(self.effects.get(name, 0.0))

    @property
    def tone(self):
        """(contrast, highlights, shadows), what the tone curve follows."""
        return tuple(self.effect(name) for name in TONE_EFFECTS)


def _known():
    return ", ".join(name_of(effect) for effect in EFFECTS)


def setup(name, effects=None, filter="none", protection_stops=0.0, file="both", notes="", tags=()):
    """A checked Setup. Raises OutOfRange for an effect beyond its scale, CoreError for an unknown one.

    effects: name -> -1..+1. filter: an in-camera filter. file: both, raw or in-camera. notes, tags: words.
    """
    kept = {}
    for effect, value in (effects or {}).items():
        if effect not in EFFECTS:
            raise CoreError(
                f"There is no effect “{effect}”. Known: {_known()}.", parameter=effect, code="effect-unknown"
            )
        low = 0.0 if effect in ONE_SIDED else -1.0
        if not low <= value <= 1.0:
            raise OutOfRange(
                f"{name_of(effect).capitalize()} runs from {low:g} to +1 (got {value:g}).",
                parameter=effect,
                code="effect-range",
            )
        if abs(value) > 1e-6:
            kept[effect] = round(float(value), 4)
    if filter not in CHANNEL_MIXES:
        raise CoreError(
            f"There is no in-camera filter “{filter}”. Known: {', '.join(CHANNEL_MIXES)}.",
            parameter="filter",
            code="mix-unknown",
        )
    if file not in FILES:
        raise CoreError(f"File is one of {', '.join(FILES)} (got {file}).", parameter="file", code="file-kind")
    if not 0 <= protection_stops <= 3:
        raise OutOfRange(
            f"Highlight protection is 0 to 3 stops (got {protection_stops:g}).",
            parameter="protection",
            code="protection",
        )
    if not name.strip():
        raise CoreError("Give the setup a name.", parameter="name", code="name")
    return Setup(
        " ".join(name.split())[:60], kept, filter, float(protection_stops), file, notes[:1000], tuple(tags)[:12]
    )


def what_changed(before, after):
    """The difference of two Setups in words, "" when there is none."""
    said = []
    for effect in EFFECTS:
        a, b = before.effect(effect), after.effect(effect)
        if abs(a - b) > 1e-6:
            said.append(f"{name_of(effect)} {a:+.2f} → {b:+.2f}")
    for name, title in (("name", "name"), ("filter", "filter"), ("protection_stops", "protection"), ("file", "file")):
        a, b = getattr(before, name), getattr(after, name)
        if a != b:
            said.append(f"{title} {a or 'none'} → {b or 'none'}")
    said += [name for name in ("notes", "tags") if getattr(before, name) != getattr(after, name)]
    return ", ".join(said)


def toned_stops(stops, tone):
    """Stops from middle grey after contrast, highlights and shadows, ``z (1 + 0.35 c)`` and so on; the middle stays.

    stops: a number or an array. tone: (contrast, highlights, shadows), -1..+1 each. Returns the same kind and shape.

    >>> toned_stops(2.0, (0, 1, 0))
    2.7
    """
    contrast, highlights, shadows = tone
    side = 1 + SLOPE_AT_END * (highlights * (stops > 0) + shadows * (stops <= 0))
    return stops * (1 + SLOPE_AT_END * contrast) * side


def plain_stops(stops, tone):
    """What toned_stops made `stops` of: its inverse. stops: a number or an array. tone: as there.

    >>> round(plain_stops(2.7, (0, 1, 0)), 6)
    2.0
    """
    above, below = toned_stops(1.0, tone), -toned_stops(-1.0, tone)
    return stops / (above * (stops > 0) + below * (stops <= 0))


# --- cameras and their menus --------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Control:
    """A menu entry of a camera: its own name, its effect, scale and step. Its place in the list is its place in the menu."""

    name: str
    effect: str
    low: float
    high: float
    step: float

    def normalised(self, value):
        """A value of the menu on the common scale: the upper end is +1, the lower -1, 0 is 0."""
        return value / self.high if value > 0 else value / -self.low if value < 0 and self.low < 0 else 0.0

    def value_for(self, effect):
        """The nearest step for an effect, held within the scale."""
        wanted = effect * self.high if effect > 0 else -effect * self.low
        steps = round(wanted / self.step)
        return float(min(max(steps * self.step, self.low), self.high)) + 0.0


LONGEST_LINE, MOST_STEPS = 120, 2000
_CONTROL = re.compile(
    r"(?P<name>[^:]{1,40}):\s*(?P<effect>[a-z ]+?)\s+(?P<low>[-−+]?\d+(?:\.\d+)?)\s*(?:\.\.|to)\s*(?P<high>[-−+]?\d+(?:\.\d+)?)(?:\s+step\s+(?P<step>\d+(?:\.\d+)?))?"
)


def parse_controls(text):
    """Controls in menu order from lines such as "Upper slope: highlights -12..12 step 3". Raises CoreError naming a line."""
    controls = []
    for line in re.split(r"[\n;]", text):
        # Single blanks and a short line keep the pattern from trying forever.
        words = " ".join(line.split())
        if not words:
            continue
        match = _CONTROL.fullmatch(words) if len(words) <= LONGEST_LINE else None
        if not match:
            raise CoreError(
                f"“{words[:LONGEST_LINE]}” is not a control. Write Whole slope: contrast -12..12 step 2.",
                parameter="controls",
                code="control",
            )
        number = lambda key, default="1", match=match: float((match[key] or default).replace("−", "-"))
        controls.append(
            control(
                match["name"].strip(),
                effect_named(match["effect"].strip()),
                number("low"),
                number("high"),
                number("step"),
            )
        )
    effects = [each.effect for each in controls]
    twice = next((effect for effect in effects if effects.count(effect) > 1), None)
    if twice:
        raise CoreError(
            f"Two controls have the effect {name_of(twice)}. Name each effect once.",
            parameter="controls",
            code="control-twice",
        )
    return tuple(controls)


def control(name, effect, low, high, step):
    """A checked Control. effect: what it moves. low, high, step: of its scale in the camera's own numbers."""
    if effect not in EFFECTS:
        raise CoreError(
            f"{name}: there is no effect “{effect}”. Known: {_known()}.",
            parameter="controls",
            code="effect-unknown",
        )
    if not low <= 0 < high or step <= 0 or step > high - low:
        raise CoreError(
            f"{name}: its scale must hold 0 and rise, in a step above 0 (got {low:g}..{high:g} step {step:g}).",
            parameter="controls",
            code="control-scale",
        )
    if high - low > MOST_STEPS * step:
        raise CoreError(
            f"{name}: its scale has more than {MOST_STEPS} steps (got {low:g}..{high:g} step {step:g}).",
            parameter="controls",
            code="control-scale",
        )
    return Control(name, effect, low, high, step)


def format_controls(controls, called=str):
    """The lines that `parse_controls` reads. called: effect -> its name; name_of for people, as it is for files."""
    return "\n".join(f"{c.name}: {called(c.effect)} {c.low:g}..{c.high:g} step {c.step:g}" for c in controls)


@dataclass(frozen=True)
class Carried:
    """A setup on a camera. menu: (Control, value, effect lost by rounding) in menu order. cannot: sentences."""

    menu: tuple
    cannot: tuple
    setup: Setup


def carry(wanted, controls, filters=tuple(CHANNEL_MIXES), most_protection=0.0):
    """A setup on another camera: same effect, nearest step, and what cannot be carried.

    wanted: Setup. controls: of the camera. filters: in-camera filters it has. most_protection: its strongest, stops.
    """
    menu, effects, cannot = [], {}, []
    have = {each.effect for each in controls}
    for each in controls:
        value = each.value_for(wanted.effect(each.effect))
        there = each.normalised(value)
        effects[each.effect] = there
        menu.append((each, value, wanted.effect(each.effect) - there))
    for effect, value in wanted.effects.items():
        if effect not in have and abs(value) > 1e-6:
            cannot.append(
                f"{name_of(effect).capitalize()} {value:+.2f} cannot be carried: this camera has no such control."
            )
    chosen = wanted.filter
    if chosen not in filters:
        cannot.append(f"The {chosen} filter cannot be carried: this camera has {', '.join(filters)}.")
        chosen = "none"
    protection = min(wanted.protection_stops, most_protection)
    if protection < wanted.protection_stops:
        cannot.append(f"Highlight protection of {wanted.protection_stops:g} stops becomes {protection:g}.")
    kept = {effect: round(value, 4) for effect, value in effects.items() if abs(value) > 1e-6}
    return Carried(
        tuple(menu), tuple(cannot), Setup(wanted.name, kept, chosen, protection, wanted.file, wanted.notes, wanted.tags)
    )
