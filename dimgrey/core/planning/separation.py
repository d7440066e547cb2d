"""Which tones must part, by how much they do through a chain, and which filter or mix parts them best.

Source: HANDBOOK 8. Differences are taken after the whole chain, exposure, development and an in-camera file's setup included.
"""

import math
from dataclasses import dataclass, replace

from dimgrey.core.colour.chain import CHANNEL_MIXES, glass_chain, mixed_chain, noise_gain_of
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.errors import CoreError
from dimgrey.core.planning.brief import Glass
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.prints import shown_lightness
from dimgrey.core.planning.scoring import score
from dimgrey.core.planning.zones import MIDDLE

MERGE, WEAK, CLEAR = 1 / 3, 1.0, 2.0
NOISE_LIMIT = 2.0


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
    """One filter or mix on a scene: the plan that it would give, and how that stands to the wishes.

    name: "none", a filter or a mix. standing: tone name -> print. parted: Parted for each pair. merges: pairs that merge here
    and do not without it. lost: tones that keep no texture here and do without it. noise_gain: 1 for glass. score: wishes.Score.
    """

    name: str
    plan: object
    parted: tuple
    merges: tuple
    lost: tuple
    noise_gain: float
    score: object

    @property
    def stops(self):
        """Light it costs."""
        return self.plan.filter_cost.coloured_stops

    @property
    def chain(self):
        return self.plan.chain

    @property
    def standing(self):
        return {tone.name: tone.printed for tone in self.plan.tones}


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


def colour_choices(result, pairs=None):
    """Every filter (or, for a colour sensor, every in-camera mix) on a scene, the best by its wishes first.

    result: a Plan. pairs: of Pair, to be told of; those suggested for its tones when None. Each is planned anew, with the
    same placing, so that it says what the sheet will say once it is taken. Returns ColourChoice of each, "none" and the
    present one among them.
    """
    pairs = suggested_pairs(result.tones) if pairs is None else tuple(pairs)
    base = _without(result)
    made = [choice_through(result, pairs, name, glass, base) for name, glass in _candidates(result.brief)]
    if result.brief.colour_choice not in {choice.name for choice in made}:
        made.append(_judged(result.brief.colour_choice, result, pairs, base))
    return tuple(sorted(made, key=lambda choice: choice.score.value))


def choice_through(result, pairs, name, glass, base=None):
    """ColourChoice of one filter or mix in place of the present one.

    pairs: of Pair. glass: a coloured Glass, None for no filter, or for a colour sensor its mix. base: the plan without any
    filter, when it is at hand.
    """
    return _judged(name, plan(_with(result.brief, glass)), pairs, base or _without(result))


def _judged(name, planned, pairs, base):
    """ColourChoice of a Plan. base: the same without any filter."""
    standing, before = ({tone.name: tone.printed for tone in each.tones} for each in (planned, base))
    merges = tuple(
        Pair(x, y)
        for x, y in _all_pairs(planned.tones)
        if Pair(x, y) not in pairs and abs(standing[x] - standing[y]) < MERGE and abs(before[x] - before[y]) >= MERGE
    )
    kept = {tone.name for tone in base.tones if tone.texture != "lost"}
    lost = tuple(
        tone.name for tone in planned.tones if tone.needs_texture and tone.texture == "lost" and tone.name in kept
    )
    parted = tuple(_parted(pair, standing, planned) for pair in pairs)
    return ColourChoice(name, planned, parted, merges[:3], lost, noise_gain_of(planned.chain), score(planned))


def _with(brief, glass):
    """The brief through another filter, or another mix of a colour sensor."""
    if brief.medium.mixes_channels:
        return replace(brief, medium=replace(brief.medium, channel_mix=glass or "none", own_mix=()))
    others = tuple(each for each in brief.filters if not each.is_coloured)
    return replace(brief, filters=(glass, *others) if glass else others)


def choice_names(brief):
    """Names of every filter or in-camera mix that the medium of a Brief can be seen through, "none" among them."""
    return tuple(name for name, _ in _candidates(brief))


def through_choice(brief, name):
    """The Brief through another filter or mix. name: of `choice_names`; raises KeyError for any other."""
    return _with(brief, dict(_candidates(brief))[name])


def _without(result):
    return plan(_with(result.brief, None))


def _candidates(brief):
    """(name, what `choice_through` takes) of every choice that a medium has."""
    names = [name for name, _ in candidate_chains(brief.medium, brief.light)]
    if brief.medium.mixes_channels:
        return [(name, name) for name in names]
    return [(name, None if name == "none" else Glass(name)) for name in names]


def _parted(pair, standing, planned):
    apart = standing[pair.a] - standing[pair.b]
    l_star = [shown_lightness(standing[name] - MIDDLE) for name in (pair.a, pair.b)]
    errors = [tone.error_stops for tone in planned.tones if tone.name in (pair.a, pair.b)]
    return Parted(
        pair, float(apart), float(l_star[0] - l_star[1]), parting(apart), math.hypot(*errors) if errors else 0.0
    )


def _all_pairs(tones):
    names = [tone.name for tone in tones]
    return [(x, y) for k, x in enumerate(names) for y in names[k + 1 :]]


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


def chains_of(brief):
    """`through` of every glass chain that the plan of a Brief, or another choice of one filter, may ask for; terms.packed takes it."""
    medium, light = brief.medium, brief.light
    stacks = {(), brief.coloured, *((name,) for name in COLOURED), *((glass,) for glass in brief.coloured)}
    seeing = {"eye", medium.response or "monochrome sensor"}
    return tuple((response, light, glass) for response in sorted(seeing) for glass in sorted(stacks, key=repr))
