"""What the words of an intent say of each tone, as spans of zones, and what they leave open. Source: HANDBOOK 17, 21."""

from dataclasses import dataclass, field

from dimgrey.core.planning.zones import ZONE_MAX, ZONE_MIN

PARTED_ZONES, AGAINST_ZONES, ALONE_ZONES, JUST_ZONES = 1.0, 2.0, 1.0, 1 / 3
TOGETHER_ZONES = 1 / 3
"""Prints nearer than this are one grey: what merges."""
DARK, DARK_FREE = (2.0, 4.0), (0.0, 4.0)
BLACK, BLACK_TEXTURED = (0.0, 1.5), (2.0, 3.0)
LIGHT, LIGHT_FREE = (20 / 3, 8.0), (20 / 3, 10.0)
WHITE, WHITE_TEXTURED = (8.0, 10.0), (7.0, 8.0)
GREY = (4.5, 5.5)
"""Spans that the words mean, for tones that need texture and for those that may go."""
NOT_BLACK, NOT_DARK, NOT_LIGHT, NOT_WHITE = (3.0, 10.0), (4.0, 10.0), (0.0, 7.0), (0.0, 8.0)
NARROWEST = 1 / 3


@dataclass(frozen=True)
class Question:
    """What the words leave open. word: that it is about. text: the question."""

    word: str
    text: str


@dataclass
class Findings:
    """What was read. said: tone -> Tint each. zones: tone -> (low, high) in figures. textures: tone -> "needed" or "free".
    relations: (kind, one, other, zones) of "order" (the first lighter), "part" and "together". extremes: (tone, pole, zones, names that are left out)."""

    said: dict = field(default_factory=dict)
    zones: dict = field(default_factory=dict)
    textures: dict = field(default_factory=dict)
    relations: list = field(default_factory=list)
    extremes: list = field(default_factory=list)
    asked: list = field(default_factory=list)

    def ask(self, word, text):
        if all(question.word != word for question in self.asked):
            self.asked.append(Question(word, text))

    def zone(self, name, span):
        """Take the figures of a tone; "below III but above I" is both."""
        before = self.zones.get(name)
        both = (max(before[0], span[0]), min(before[1], span[1])) if before else span
        self.zones[name] = both if both[0] <= both[1] else span

    def span_of(self, name, free):
        """(low, high) that the words mean for a tone, None without any or where they contradict. free: its texture may go."""
        if name in self.zones:
            return self.zones[name]
        tints = self.said.get(name, ())
        poles = {tint.pole for tint in tints if not tint.negated}
        if len(poles) > 1:
            return None
        span = (ZONE_MIN, ZONE_MAX)
        meant = [tint for tint in tints if not tint.negated]
        for tint in [tint for tint in meant if tint.full] or meant:  # of "deep black" the black
            span = _narrowed(span, tint.span(free, self.textures.get(name)))
        for tint in tints:
            if tint.negated:
                span = _narrowed(span, tint.bound)
        return None if span == (ZONE_MIN, ZONE_MAX) else span

    @property
    def asked_all(self):
        return tuple(self.asked)

    @property
    def torn(self):
        """Tones of which the words say both dark and light."""
        return [
            name
            for name, tints in self.said.items()
            if len({tint.pole for tint in tints if not tint.negated}) > 1 and name not in self.zones
        ]


def _narrowed(span, other):
    low, high = max(span[0], other[0]), min(span[1], other[1])
    if high - low >= NARROWEST:
        return low, high
    # Words that just meet, such as "dark, not too dark", mean the place where they meet.
    return (
        (max(low - 2 * NARROWEST, ZONE_MIN), low) if other[0] > span[0] else (high, min(high + 2 * NARROWEST, ZONE_MAX))
    )


@dataclass(frozen=True)
class Tint:
    """How light or dark a tone is said to be. pole: -1 dark, 0 grey, 1 light. full: black or white. negated: it shall not be.
    too: "not too dark"."""

    pole: int
    full: bool = False
    negated: bool = False
    too: bool = False

    def span(self, free, texture):
        if self.pole == 0:
            return GREY
        keeps = texture == "needed" or (texture is None and not free)
        if self.full:
            # Black and white are said without texture, unless the same words ask for it.
            rows = (BLACK_TEXTURED if texture == "needed" else BLACK), (WHITE_TEXTURED if keeps else WHITE)
        else:
            rows = (DARK if keeps else DARK_FREE), (LIGHT if keeps else LIGHT_FREE)
        return rows[self.pole > 0]

    @property
    def bound(self):
        """What is left when it is excluded."""
        if self.pole < 0:
            return NOT_BLACK if self.full else NOT_DARK
        return NOT_WHITE if self.full else NOT_LIGHT


@dataclass(frozen=True)
class Named:
    """What the words need to know of a tone. wish: its span where one was set. is_read: it has a reading."""

    name: str
    role: str = "other"
    named: bool = True
    needs_texture: bool = True
    wish: tuple | None = None
    is_read: bool = True
