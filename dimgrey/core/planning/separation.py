"""Which tones must part, by how much they do through a chain, and which filter or mix parts them best.

Source: HANDBOOK 8. Differences are taken after the whole chain, exposure, development and an in-camera file's setup included.
"""

import math
from dataclasses import dataclass, replace

import numpy as np

from dimgrey.core.colour.chain import CHANNEL_MIXES, error_stops, glass_chain, mixed_chain
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.errors import CoreError
from dimgrey.core.planning.development import developed_zone
from dimgrey.core.planning.media import texture
from dimgrey.core.planning.plan import printing_of
from dimgrey.core.planning.prints import shown_lightness
from dimgrey.core.planning.spread import development_for, tone_shifts
from dimgrey.core.planning.zones import MIDDLE

MERGE, WEAK, CLEAR = 1 / 3, 1.0, 2.0
NOISE_LIMIT = 2.0
CHANNEL_NOISE = (1.0, 1.0, 1.0)


def parting(zones_apart):
    """ "merge", "weak", "clear" or "strong" of a difference in zones.

    >>> [parting(z) for z in (0.2, 0.5, 1.5, 2.5)]
    ['merge', 'weak', 'clear', 'strong']
    """
    apart = abs(zones_apart)
    return "merge" if apart < MERGE else "weak" if apart < WEAK else "clear" if apart <= CLEAR else "strong"


@dataclass(frozen=True)
class Pair:
    """Two tones by name that should part."""

    a: str
    b: str


@dataclass(frozen=True)
class Parted:
    """How a pair stands through one way: zones and L* apart, the word for it, how unsure it is in stops."""

    pair: Pair
    zones_apart: float
    lightness_apart: float
    word: str
    error_stops: float

    @property
    def unsure(self):
        """Whether the chain's own error could change the word."""
        return parting(abs(self.zones_apart) - self.error_stops) != self.word


@dataclass(frozen=True)
class ColourChoice:
    """One filter or mix against all pairs.

    name: "none", a filter or a mix. standing: tone name -> printed zone. parted: Parted for each pair. merges: pairs that merge here and do not without it.
    lost: tones that keep no texture here and do without it. stops: light it costs. noise_gain: 1 for glass.
    """

    name: str
    parted: tuple
    merges: tuple
    lost: tuple
    stops: float
    noise_gain: float
    chain: object
    standing: dict

    @property
    def worst_apart(self):
        return min((abs(p.zones_apart) for p in self.parted), default=0.0)

    @property
    def rank(self):
        """The better, the larger: the wanted pairs apart, few side effects, little light lost."""
        apart = sum(min(abs(p.zones_apart), 2.5) for p in self.parted)
        return apart + self.worst_apart - 1.5 * len(self.merges) - 2 * len(self.lost) - 0.12 * self.stops


def suggested_pairs(tones):
    """Pairs that should part: every subject against every background and sky; without those, neighbours in zone.

    tones: with `name`, `role` and `zone_after_filter`, such as a plan's.
    """
    subjects = [t for t in tones if t.role in ("subject", "skin")]
    behind = [t for t in tones if t.role in ("background", "sky")]
    pairs = [Pair(s.name, b.name) for s in subjects for b in behind]
    if not pairs:
        ordered = sorted(tones, key=lambda t: t.fall)
        pairs = [Pair(x.name, y.name) for x, y in zip(ordered, ordered[1:], strict=False)]
    return tuple(pairs[:8])


def require_pairs(names, pairs):
    """Check that each pair (a, b) is of two known tones. Raises CoreError."""
    for a, b in pairs:
        if a not in names or b not in names:
            raise CoreError(f"There is no tone “{a if a not in names else b}”.", parameter="pairs", code="pair-unknown")
        if a == b:
            raise CoreError("A tone cannot part from itself: choose two.", parameter="pairs", code="pair-same")


def noise_gain(weights, sigma=CHANNEL_NOISE, base=CHANNEL_MIXES["none"]):
    """Noise of a mix against the camera's own, ``sqrt(sum(w^2 s^2)) / sqrt(sum(b^2 s^2))``.

    weights w, base b: of the mix and of the camera's own, red, green, blue. sigma s: noise of each channel.

    >>> round(noise_gain((1.9, -0.5, -0.4)), 2)
    2.66
    """
    # Noises of the channels are independent, so their squares add; the signs of the weights do not matter.
    made = math.sqrt(sum((w * s) ** 2 for w, s in zip(weights, sigma, strict=True)))
    return made / math.sqrt(sum((w * s) ** 2 for w, s in zip(base, sigma, strict=True)))


def colour_choices(result, pairs=None):
    """Every filter (or, for a colour sensor, every in-camera mix) against all pairs, best first.

    result: a Plan. pairs: of Pair; those suggested for its tones when None. The placed tone keeps its place before the
    filter, as the plan has it. Returns ColourChoice of each, with "none" among them.
    """
    brief = result.brief
    pairs = suggested_pairs(result.tones) if pairs is None else tuple(pairs)
    candidates = candidate_chains(brief.medium, brief.light)
    made = [choice_through(result, pairs, name, chain) for name, chain in candidates]
    return tuple(sorted(made, key=lambda choice: -choice.rank))


def choice_through(result, pairs, name, chain, stops=None):
    """ColourChoice of one chain against the pairs of a Plan, with what it does besides.

    stops: light it costs; None for what its spectrum takes.
    """
    brief = result.brief
    colours = {tone.name: tone.colour for tone in brief.tones}
    held_before, base = _fallen(result, plain_chain(brief.medium, brief.light))
    held, standing = _fallen(result, chain)
    merges = tuple(
        Pair(x, y)
        for x, y in _all_pairs(result.tones)
        if Pair(x, y) not in pairs and abs(standing[x] - standing[y]) < MERGE and abs(base[x] - base[y]) >= MERGE
    )
    lost = tuple(
        tone.name
        for tone in result.tones
        if tone.needs_texture
        and texture(held[tone.name], brief.medium) == "lost"
        and texture(held_before[tone.name], brief.medium) != "lost"
    )
    gain = noise_gain(chain.weights) if brief.medium.mixes_channels else 1.0
    parted = tuple(_parted(pair, standing, colours, chain) for pair in pairs)
    return ColourChoice(name, parted, merges[:3], lost, chain.stops if stops is None else stops, gain, chain, standing)


def _fallen(result, chain):
    """(name -> place that the medium's limits see, name -> print) of a plan's tones through another chain, on the plan's
    setting, with the development that this chain asks for."""
    brief = result.brief
    shifts = tone_shifts(replace(brief, through_filter=False), chain)
    development = development_for(brief, tuple(tone for tone in brief.tones if tone.evs), shifts)
    printing = printing_of(brief, development)
    falls = {tone.name: tone.zone + shifts[tone.name] - brief.medium.push_stops for tone in result.tones}
    held = {name: developed_zone(fall, printing.step) for name, fall in falls.items()}
    return held, {name: printing.print(fall).zone for name, fall in falls.items()}


def _parted(pair, standing, colours, chain):
    apart = standing[pair.a] - standing[pair.b]
    l_star = [shown_lightness(standing[name] - MIDDLE) for name in (pair.a, pair.b)]
    errors = [error_stops(chain, colours[name]) for name in (pair.a, pair.b) if colours[name] is not None]
    return Parted(
        pair, float(apart), float(l_star[0] - l_star[1]), parting(apart), math.hypot(*errors) if errors else 0.0
    )


def _all_pairs(tones):
    names = [tone.name for tone in tones]
    return [(x, y) for k, x in enumerate(names) for y in names[k + 1 :]]


def part_twins(lab_pair_colours, candidates, kind, stops=0.0, slope=1.0):
    """Choices that bring two colours apart, best first: (name, L* apart). () when none does.

    lab_pair_colours: two linear sRGB colours. candidates: (name, Chain). stops, slope: the exposure of the view.
    """
    from dimgrey.core.picture.tonemap import ToneMap
    from dimgrey.core.picture.twins import PARTED_L

    found = []
    for name, chain in candidates:
        a, b = ToneMap(chain.terms, stops, slope, kind).lightness(np.asarray(lab_pair_colours))
        if abs(a - b) >= PARTED_L:
            found.append((name, float(abs(a - b))))
    return tuple(sorted(found, key=lambda each: -each[1]))


def plain_chain(medium, light):
    """The medium's Chain without any filter or mix."""
    return mixed_chain("none") if medium.mixes_channels else glass_chain(medium.response, light)


def candidate_chains(medium, light):
    """(name, Chain) of every choice a medium has, "none" first; glass that hardly lets through what it sees is left out."""
    if medium.mixes_channels:
        return tuple((name, mixed_chain(name)) for name in CHANNEL_MIXES)
    glass = (name for name in COLOURED if not medium.is_blocked_by(light, (name,)))
    return ("none", plain_chain(medium, light)), *(
        (name, glass_chain(medium.response, light, (name,))) for name in glass
    )
