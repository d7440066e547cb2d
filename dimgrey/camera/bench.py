"""The filter bench: every filter and mix on this picture and these tones at once, with cost, effects and advice."""

from dataclasses import dataclass

from dimgrey.core.colour.chain import mixed_chain, noise_gain, tone_shift_stops
from dimgrey.core.colour.filters import own_spectrum
from dimgrey.core.document.kituse import glass_of
from dimgrey.core.document.meansedits import is_coloured
from dimgrey.core.document.meansline import glass_names, mix_words
from dimgrey.core.measure.stops import counted_stops, format_aperture, format_stops, format_time
from dimgrey.core.planning import separation
from dimgrey.core.planning.brief import Glass
from dimgrey.core.planning.scoring import score
from dimgrey.core.sky.skyview import SKY_COLOUR
from dimgrey.kit.queries import items_of
from dimgrey.scenes.rail import place_percent

LEAVES, SKIN = (0.06, 0.11, 0.04), (0.45, 0.28, 0.20)
"""Linear sRGB of leaves in sun and of pale skin, for words about what a filter does."""
TELLING_STOPS = 0.2
MOVED_ZONES = 0.15


@dataclass(frozen=True)
class BenchRow:
    """One filter or mix, ready to show. grey: address of the picture through it. arrows: a tone's mark with its place
    before and after, in percent of the rail. kit: it is a filter of the kit."""

    name: str
    grey: str
    current: bool
    cost: str
    exposure: str
    arrows: tuple
    parts: str
    effects: str
    words: str
    kit: bool
    wishes: str
    score: str
    best: bool

    @property
    def verb(self):
        """The act that takes it."""
        return "kit-filter" if self.kit else "colour-choice"


@dataclass(frozen=True)
class Bench:
    """rows: what is in use, then the best by the scene's wishes first. on_lens: what is on the lens, and what another choice
    takes off. judged: Judged. line: IntentLine."""

    situation: object
    rows: tuple
    judged: object
    places: tuple
    on_lens: str = ""
    line: object = None

    ticks = tuple((f"{place_percent(zone):.1f}%", numeral) for zone, numeral in ((0, "0"), (5, "V"), (10, "X")))
    ends = tuple(f"{place_percent(zone):.1f}%" for zone in (0, 10))


def bench_of(situation, person):
    """Bench of a Situation: the medium's own choices and the coloured filters of the kit; empty before a plan."""
    if situation.plan is None:
        return Bench(situation, (), None, ())
    pairs = situation.pairs
    own = separation.colour_choices(situation.plan, pairs)
    base = next(choice for choice in own if choice.name == "none")
    all_choices = [(choice, False) for choice in own] + [
        (each, True) for each in _kit_choices(situation, person, pairs)
    ]
    all_choices.sort(key=lambda each: each[0].score.value)
    best = _nearest(situation.plan, all_choices)
    rows = [_row(choice, base, situation, kit, choice is best) for choice, kit in all_choices]
    rows.sort(key=lambda row: not row.current)  # what is in use comes first, the rest stay in the order of the score
    return Bench(
        situation,
        tuple(rows),
        situation.looked_deeply(),
        _places(situation.brief.medium),
        _on_lens(situation),
        situation.intent_line,
    )


def _nearest(result, all_choices):
    """The choice that brings the scene nearest to its wishes by enough to be worth it, None where what is in use is as near as any."""
    now = score(result)
    worth = [choice for choice, _ in all_choices if choice.score.is_better_than(now) and not choice.lost]
    return worth[0] if worth else None


def _on_lens(situation):
    """What is on the lens, and what of it another choice would take off, in a sentence."""
    document, mixes = situation.document, situation.brief.medium.mixes_channels
    names = glass_names(document)
    mixed = mix_words(document)
    if not names and not mixed:
        return "Nothing is on the lens."
    text = f"On the lens: {', '.join(names) or 'nothing'}{f'; in the camera: {mixed}' if mixed else ''}."
    coloured = [glass.name for glass in document.filters if is_coloured(glass)]
    if mixes:
        return (
            f"{text} Another choice mixes otherwise; the glass stays."
            if names
            else f"{text} Another choice mixes otherwise."
        )
    if not coloured:
        return f"{text} Another choice is put in front of it."
    stays = ", ".join(name for name in names if name not in coloured)
    return f"{text} Another choice takes the {' and the '.join(coloured)} off{f'; {stays} stays' if stays else ''}."


def _kit_choices(situation, person, pairs):
    """Coloured filters of the kit with a spectrum or a printed factor of their own, for film or a grey sensor."""
    if situation.brief.medium.mixes_channels:
        return []
    made = []
    for row in items_of(person).filter(kind="filter", retired=False):
        glass = glass_of(row.item)
        if is_coloured(glass):
            known = Glass(glass.name, factor=glass.factor, points=own_spectrum(glass.points) if glass.points else None)
            made.append(separation.choice_through(situation.plan, pairs, row.name, known))
    return made


def _row(choice, base, situation, kit, best):
    result = situation.plan
    planned = choice.plan
    parts = [f"{p.pair.a} / {p.pair.b}: {p.word} ({abs(p.zones_apart):.1f})" for p in choice.parted]
    effects = [f"{pair.a} and {pair.b} merge" for pair in choice.merges] + [f"{name} is lost" for name in choice.lost]
    if choice.noise_gain > separation.NOISE_LIMIT:
        effects.append(f"noise ×{choice.noise_gain:.1f}; halos where colours swap order")
    return BenchRow(
        name=choice.name,
        grey=situation.grey_of(situation.rendering_of(planned)),
        current=choice.name == result.brief.colour_choice,
        cost=counted_stops(choice.stops) if choice.stops else "costs no light",
        exposure=f"{format_time(planned.shutter)} {format_aperture(planned.aperture)}",
        arrows=_arrows(choice, base, situation.document.marks),
        parts="; ".join(parts[:3]),
        effects="; ".join(effects),
        words=_what_it_does(choice.chain, base.chain),
        kit=kit,
        wishes=_wishes_words(choice, base),
        score=f"{choice.score.value:.2f}",
        best=best,
    )


def _wishes_words(choice, base):
    """Which wishes a choice brings home that none would miss, and how it misses the one that counts most; never the same one twice."""
    missed = {wish.key: (zones, wish) for wish, zones in choice.score.missed if wish.miss_words(choice.standing)}
    served = (
        [wish for wish in choice.score.serves(base.score) if wish.key not in missed] if choice.name != "none" else []
    )
    said = [f"serves {', '.join(wish.words for wish in served[:2])}"] if served else []
    if missed:
        _, worst = max(missed.values(), key=lambda each: each[1].weight * each[0] ** 2)
        said.append(worst.miss_words(choice.standing))
    return "; ".join(said)


def _arrows(choice, base, marks):
    place = lambda zone: f"{place_percent(zone):.1f}%"
    return tuple(
        {
            "mark": marks.get(name, ""),
            "from": place(base.standing[name]),
            "to": place(zone),
            "moved": abs(zone - base.standing[name]) > MOVED_ZONES,
        }
        for name, zone in choice.standing.items()
    )


def _what_it_does(chain, plain):
    said = []
    for name, colour, sky in (("sky", SKY_COLOUR, True), ("leaves", LEAVES, False), ("skin", SKIN, False)):
        change = tone_shift_stops(chain, colour, sky=sky) - tone_shift_stops(plain, colour, sky=sky)
        if abs(change) >= TELLING_STOPS:
            said.append(f"{name} {format_stops(abs(change))} {'lighter' if change > 0 else 'darker'}")
    return ", ".join(said) or "hardly changes sky, leaves or skin"


# --- in front of the lens, in the camera, or later -----------------------------------------------------------------------------


@dataclass(frozen=True)
class Place:
    """Where colour can be controlled: name, whether it applies to this medium, why, and what it costs."""

    name: str
    applies: bool
    why: str
    costs: str


def _places(medium):
    if not medium.mixes_channels:
        later = "Film has decided when the shutter closes." if medium.is_film else "Needs a raw file with colour."
        return (
            Place("Glass on the lens", True, "Film and grey sensors see the glass as it is.", "Light, by its factor; no noise and no halos."),
            Place("In-camera filter", False, "This medium has no colours to mix.", "—"),
            Place("Mixing later from raw", False, later, "—"),
        )  # fmt: skip
    keeps_colour = medium.kind == "digital raw"
    hard, red = noise_gain((2.0, -0.6, -0.4)), noise_gain(mixed_chain("red").weights)
    return (
        Place(
            "Glass on the lens",
            False,
            "A colour sensor is balanced through the glass, so most of its effect is lost.",
            "Light, for little. A polarizer and grey glass still work: nothing later replaces them.",
        ),
        Place(
            "In-camera filter",
            True,
            "The camera mixes its own colours.",
            f"No light; noise ×{red:.1f} with red. Baked into the in-camera file.",
        ),
        Place(
            "Mixing later from raw",
            keeps_colour,
            "The raw file keeps colour, so every mix is still open."
            if keeps_colour
            else "Needs a raw file with colour.",
            f"No light; hard mixes cost noise (×{hard:.1f} for a black sky) and draw halos where neighbouring colours swap order.",
        ),
    )
