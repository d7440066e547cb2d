"""What a picture is to look like, tone by tone and pair by pair.

A wish is a span of zones that a tone's print shall lie in, or how two tones shall print against each other. Those that a person set
come first; those that the words of the intent say count at once; a school and the roles that somebody gave add the rest. A guessed
name or role wishes nothing. Source: HANDBOOK 17, 21.
"""

from dataclasses import dataclass
from functools import lru_cache

from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning.intent.findings import (
    PARTED_ZONES,
    Named,
    Question,
)
from dimgrey.core.planning.intent.reading import read_all
from dimgrey.core.planning.spans import format_span

WEIGHT, SUBJECT_WEIGHT = 1.0, 2.0
ROLES_APART_ZONES = 2 / 3
"""What subject and background are to part by where only their roles are known: enough not to melt, less than a wish that was said."""
SILHOUETTE = (0.0, 1.0)
FULL_SCALE = (10 / 3, 20 / 3)
"""Prints that the darkest and the brightest textured tone of a full scale reach: III⅓ and VI⅔, a third within III and VII."""
SOFT = (3.5, 7.5)
SKINS = {"pale": (17 / 3, 19 / 3), "tan": (31 / 6, 35 / 6), "brown": (14 / 3, 16 / 3), "dark brown": (25 / 6, 29 / 6)}
"""Prints of the lit side of skin by complexion: VI, V½, V and IV½, a third to either side. Asked for, never taken from a picture."""
MET_ZONES = 1 / 6 + 0.01
"""A wish that is missed by less is met: half of the least step that zones are written in, itself counted in."""
KINDS = ("span", "order", "part", "together", "lightest", "darkest", "full scale", "soft")
SOURCES = {
    "set": "",
    "words": "from your words",
    "school": "from the school",
    "role": "from the roles",
    "scale": "from the scale",
}


@dataclass(frozen=True)
class Order:
    """One tone is to print lighter than another by so many zones."""

    lighter: str
    darker: str
    zones: float = PARTED_ZONES


@dataclass(frozen=True)
class Wish:
    """A wish ready to be measured.

    tones: names. span: (low, high) zones of one tone. zones: between the prints of two, the first the lighter in an "order"; by which the
    first of several is the "lightest" or the "darkest". kind: one of KINDS. source: one of SOURCES.
    """

    tones: tuple
    span: tuple | None = None
    zones: float = 0.0
    kind: str = "span"
    weight: float = WEIGHT
    source: str = "set"

    @property
    def guessed(self):
        """Whether nobody set it by hand."""
        return self.source != "set"

    @property
    def key(self):
        """By what it is struck and told from others: kind and tones."""
        return f"{self.kind}: {' > '.join(self.tones[:2])}"

    def missed_by(self, prints):
        """Zones that prints are away from it, 0 when it is met; None when a tone has no print. prints: name -> zone."""
        found = [prints[name] for name in self.tones if name in prints]
        if self.kind in ("span", "order", "part", "together") and len(found) < len(self.tones):
            return None
        if not found or self.tones[0] not in prints or (self.kind in ("lightest", "darkest") and len(found) < 2):
            return None
        return max(_AWAY[self.kind](self, found), 0.0)

    def is_reversed_in(self, prints):
        """Whether of two tones the wrong one is the lighter: a grave miss."""
        apart = [prints.get(name) for name in self.tones[:2]]
        return self.kind == "order" and None not in apart and self.zones > 0 and apart[0] - apart[1] < -MET_ZONES

    @property
    def words(self):
        first = self.tones[0]
        if self.kind == "span":
            return f"{first} {format_span(self.span)}"
        if self.kind == "order":
            return (
                f"{first} over {self.tones[1]} by {format_stops(self.zones)}"
                if self.zones
                else f"{first} no darker than {self.tones[1]}"
            )
        if self.kind == "part":
            return f"{first} and {self.tones[1]} {format_stops(self.zones)} apart"
        if self.kind == "together":
            return f"{first} and {self.tones[1]} one grey"
        if self.kind in ("lightest", "darkest"):
            return f"{first} the {self.kind}"
        return self.kind if self.kind == "full scale" else "soft tones"

    def miss_words(self, prints):
        """By how much prints miss it, in words: "blue sky 1⅓ too light"; "" when it is met."""
        missed = self.missed_by(prints)
        if missed is None or missed < MET_ZONES:
            return ""
        first, by = self.tones[0], format_stops(missed)
        if self.kind == "span":
            return f"{first} {by} too {'dark' if prints[first] < self.span[0] else 'light'}"
        if self.kind == "order":
            apart = prints[first] - prints[self.tones[1]]
            if apart < -MET_ZONES:
                return f"{first} {format_stops(-apart)} under {self.tones[1]}, not over it"
            return f"{first} {by} too little over {self.tones[1]}"
        if self.kind == "part":
            apart = format_stops(self.zones - missed)
            return f"{first} and {self.tones[1]} {'on one grey' if apart == '0' else f'only {apart} apart'}"
        if self.kind == "together":
            return f"{first} and {self.tones[1]} {format_stops(missed + self.zones)} apart"
        if self.kind in ("lightest", "darkest"):
            other = self._nearest_other(prints)
            return f"{other} {'lighter' if self.kind == 'lightest' else 'darker'} than {first}, or too near"
        return f"{self.words} missed by {by}"

    def nearer_words(self, now, then):
        """How a wish fares from prints to other prints: "blue sky 2 too light, then ⅓". now, then: tone name -> zone."""
        before, after = self.miss_words(now), self.miss_words(then)
        if not after:
            return f"{before}, then as wanted" if before else f"{self.words}: as wanted"
        number = format_stops(self.missed_by(then))
        alike = before.replace(format_stops(self.missed_by(now)), "") == after.replace(number, "")
        return f"{before or self.words}, then {number if alike else after}"

    def _nearest_other(self, prints):
        others = [name for name in self.tones[1:] if name in prints]
        return (max if self.kind == "lightest" else min)(others, key=prints.get)


_AWAY = {
    "span": lambda wish, found: max(wish.span[0] - found[0], found[0] - wish.span[1]),
    "order": lambda wish, found: wish.zones - (found[0] - found[1]),
    "part": lambda wish, found: wish.zones - abs(found[0] - found[1]),
    "together": lambda wish, found: abs(found[0] - found[1]) - wish.zones,
    "lightest": lambda wish, found: wish.zones - (found[0] - max(found[1:])),
    "darkest": lambda wish, found: wish.zones - (min(found[1:]) - found[0]),
    "full scale": lambda wish, found: max(min(found) - wish.span[0], 0.0) + max(wish.span[1] - max(found), 0.0),
    "soft": lambda wish, found: max(wish.span[0] - min(found), max(found) - wish.span[1]),
}
"""From a Wish and the prints of its tones to the zones that it is missed by, below 0 when it is met."""


@dataclass(frozen=True)
class Wanted:
    """Everything that a scene wants. wishes: Wish each. textures: tone -> "needed" or "free", as the words say. asked: Question each."""

    wishes: tuple = ()
    textures: dict = None
    asked: tuple = ()


def wishes_of(brief):
    """Wish of each that a Brief has: those set, those that its words say, then those of school, scale and roles."""
    return wanted_of(brief).wishes


def wanted_of(brief):
    """Wanted of a Brief."""
    if not brief.tones:
        return Wanted((), {}, _findings(brief).asked_all)
    return _wanted(
        tuple(Named(tone.name, tone.role, tone.named, tone.needs_texture, tone.wish, bool(tone.evs)) for tone in brief.tones),
        brief.intent, brief.said_lists, brief.choice.school, brief.scale, brief.orders, brief.pairs, brief.struck,
        brightest_of(brief.medium),
    )  # fmt: skip


def brightest_of(medium):
    """The lightest print on which a Medium keeps dependable texture: "bright" with texture wants no more."""
    return medium.prints_of(medium.dependable)[1]


@lru_cache(maxsize=256)
def _wanted(tones, intent, lists, school, scale, orders, pairs, struck, brightest):
    roles = {tone.name: tone.role for tone in tones}
    subjects = {name for name, role in roles.items() if role == "subject"}
    heavy = lambda *names: SUBJECT_WEIGHT if subjects & set(names) else WEIGHT
    found = read_all(intent, lists, tones)
    made = [Wish((tone.name,), tone.wish, weight=heavy(tone.name)) for tone in tones if tone.wish]
    made += [Wish((o.lighter, o.darker), None, o.zones, "order", heavy(o.lighter, o.darker)) for o in orders]
    made += [Wish(pair, None, PARTED_ZONES, "part", heavy(*pair)) for pair in pairs]
    for source, wishes in (
        ("words", _from_words(found, tones, heavy, brightest)),
        ("school", _from_school(tones, school, heavy)),
        ("scale", _from_scale(tones, scale, brightest)),
        ("role", _from_roles(tones, heavy)),
    ):
        said = {_matter(wish) for wish in made}
        made += [_of(wish, source) for wish in wishes if _matter(wish) not in said and wish.key not in struck]
    return Wanted(tuple(made), dict(found.textures), found.asked_all + _circle(made))


def _matter(wish):
    """What a wish is about: a later one of the same matter is not counted beside an earlier one."""
    return (
        wish.kind if wish.kind in ("span", "lightest", "darkest", "full scale", "soft") else "pair",
        frozenset(wish.tones[:2]),
    )


def _of(wish, source):
    return Wish(wish.tones, wish.span, wish.zones, wish.kind, wish.weight, source)


def _from_words(found, tones, heavy, brightest):
    free = {tone.name: not tone.needs_texture for tone in tones}
    names = [tone.name for tone in tones]
    for name in names:
        span = found.span_of(name, free[name])
        if span:
            is_open = not free[name] and found.textures.get(name) != "free" and name not in found.zones
            low = min(span[0], brightest) if is_open else span[0]
            yield Wish((name,), (low, span[1]), weight=heavy(name))
    for kind, a, b, zones in found.relations:
        yield Wish((a, b), None, zones, kind, heavy(a, b))
    for name, pole, zones, spared in found.extremes:
        others = tuple(other for other in names if other != name and other not in spared)
        if others:
            yield Wish((name, *others), None, zones, "lightest" if pole > 0 else "darkest", heavy(name))


def _from_school(tones, school, heavy):
    if school == "silhouette":
        for tone in tones:
            if tone.role == "subject":
                yield Wish((tone.name,), SILHOUETTE, weight=heavy(tone.name))


def _from_scale(tones, scale, brightest):
    """A scale that can be measured on tones; the others are of areas, and the balance of the picture says them."""
    textured = tuple(tone.name for tone in tones if tone.needs_texture and tone.is_read)
    if len(textured) > 1 and scale in ("full scale", "soft"):
        full = FULL_SCALE[0], min(FULL_SCALE[1], brightest)
        yield Wish(textured, full if scale == "full scale" else SOFT, 0.0, scale)


def _from_roles(tones, heavy):
    """Subjects part from what is behind them."""
    read = [tone for tone in tones if tone.is_read]
    pairs = [
        (a.name, b.name) for a in read if a.role in ("subject", "skin") for b in read if b.role in ("background", "sky")
    ]
    for a, b in pairs[:8]:
        yield Wish((a, b), None, ROLES_APART_ZONES, "part", heavy(a, b))


@lru_cache(maxsize=256)
def _findings_of(intent, lists):
    return read_all(intent, lists, ())


def _findings(brief):
    return _findings_of(brief.intent, brief.said_lists)


# --- wishes that cannot all be met ------------------------------------------------------------------------------------------


def contradictions(brief):
    """Sentences for wishes that cannot all be met: an order that no two spans allow, orders in a circle."""
    wishes = wishes_of(brief)
    spans = {wish.tones[0]: wish.span for wish in wishes if wish.kind == "span"}
    found = []
    for wish in wishes:
        if wish.kind != "order" or any(name not in spans for name in wish.tones):
            continue
        lighter, darker = wish.tones
        most = spans[lighter][1] - spans[darker][0]
        if most < wish.zones - 1e-6:
            found.append(
                f"{lighter} cannot print {format_stops(wish.zones)} zones over {darker} while both keep their spans; "
                f"at most {format_stops(max(most, 0))}. The nearest is shown."
            )
    return tuple(found) + tuple(question.text for question in _circle(wishes))


def circle_in(orders):
    """Names of tones whose orders run in a circle, () for none. orders: (lighter, darker) each.

    >>> circle_in([("a", "b"), ("b", "c"), ("c", "a")])
    ('a', 'b', 'c')
    """
    below = {}
    for lighter, darker in orders:
        below.setdefault(lighter, []).append(darker)
    for start in below:
        path = _back_to(start, start, below, ())
        if path:
            return path
    return ()


def _back_to(goal, at, below, path):
    for darker in below.get(at, ()):
        if darker == goal:
            return (*path, at)
        if darker not in path and darker != at:
            found = _back_to(goal, darker, below, (*path, at))
            if found:
                return found
    return ()


def _circle(wishes):
    names = circle_in([wish.tones for wish in wishes if wish.kind == "order" and wish.zones > 0])
    if not names:
        return ()
    text = f"{' over '.join((*names, names[0]))}: that runs in a circle. Which of these is not meant?"
    return (Question(names[0], text),)
