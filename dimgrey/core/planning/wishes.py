"""What a picture is to look like, tone by tone and pair by pair, and how far a plan is from it: one score for every proposal.

A wish is a span of zones that a tone's print shall lie in, or how much lighter one tone shall print than another. Wishes that a
person set count; for the rest some are proposed from the words of the intent and from roles. Source: HANDBOOK 17.
"""

import math
import re
from dataclasses import dataclass, field
from functools import lru_cache

from dimgrey.core.colour.chain import noise_gain_of
from dimgrey.core.errors import Unreadable
from dimgrey.core.planning.zones import ZONE_MAX, ZONE_MIN, format_zone, parse_zone

WEIGHT, SUBJECT_WEIGHT = 1.0, 2.0
LIGHT_COST, NOISE_COST, HALO_COST, LOST_COST = 0.02, 0.1, 0.25, 1.0
"""Costs in the score: for each stop of light, for log2 of the noise gain, for halos, for needed texture that is lost."""
HALO_GAIN = 2.0
LEAST_GAIN = 0.1
MOST_WORSE_ZONES = 1 / 3
"""A proposal that gains less, or that takes one wish further away than this, is not made."""
PARTED_ZONES, AGAINST_ZONES = 1.0, 2.0
SILHOUETTE = (0.0, 1.0)
DARK, DARK_FREE = (2.0, 4.0), (0.0, 3.0)
LIGHT, LIGHT_FREE = (20 / 3, 8.0), (20 / 3, 10.0)
"""Spans that "dark" and "light" are read as, for tones that need texture and for those that may go."""
DARK_WORDS = frozenset({"dark", "deep", "black", "darkest", "deepest", "dim"})
LIGHT_WORDS = frozenset(
    {"bright", "light", "white", "pale", "glow", "glows", "ring", "rings", "shine", "shines", "loud", "brightest"}
)
PART_WORDS = ("melt", "merge", "one grey", "must part", "stand apart", "stands out", "stand out")
NOT_NAMES = frozenset(
    {"the", "and", "with", "side", "sun", "shade", "lit", "left", "right", "front", "back", "upper", "lower", "cast", "under",
     "foot", "mouth", "one", "grey", *DARK_WORDS, *LIGHT_WORDS}
)  # fmt: skip
"""Words of a tone's name that say where or how it is and not what."""


@dataclass(frozen=True)
class Order:
    """One tone is to print lighter than another by so many zones."""

    lighter: str
    darker: str
    zones: float = PARTED_ZONES


@dataclass(frozen=True)
class Wish:
    """A wish ready to be measured.

    tones: one name with `span`, or two with `zones` between their prints: the first the lighter when `signed`. guessed: it was
    proposed and nobody has taken it.
    """

    tones: tuple
    span: tuple | None = None
    zones: float = 0.0
    signed: bool = True
    weight: float = WEIGHT
    guessed: bool = False

    def missed_by(self, prints):
        """Zones that prints are away from it, 0 when it is met; None when a tone has no print. prints: name -> zone."""
        if any(name not in prints for name in self.tones):
            return None
        if self.span:
            low, high = self.span
            return max(low - prints[self.tones[0]], prints[self.tones[0]] - high, 0.0)
        apart = prints[self.tones[0]] - prints[self.tones[1]]
        return max(self.zones - (apart if self.signed else abs(apart)), 0.0)

    @property
    def words(self):
        if self.span:
            return f"{self.tones[0]} {format_span(self.span)}"
        if self.signed:
            return f"{self.tones[0]} over {self.tones[1]} by {self.zones:.3g}"
        return f"{self.tones[0]} and {self.tones[1]} {self.zones:.3g} apart"


@dataclass(frozen=True)
class Score:
    """How far a plan is from its wishes: 0 is all met at no cost. missed: (Wish, zones) each. costs: name -> amount."""

    missed: tuple
    costs: dict = field(default_factory=dict)

    @property
    def value(self):
        return sum(wish.weight * zones**2 for wish, zones in self.missed) + sum(self.costs.values())

    def is_better_than(self, other):
        """Whether it may be proposed in place of `other`: it gains enough, and takes no wish noticeably further away."""
        if other.value - self.value < LEAST_GAIN:
            return False
        before = {wish.tones + (wish.span,): zones for wish, zones in other.missed}
        return all(
            zones <= before.get(wish.tones + (wish.span,), 0.0) + MOST_WORSE_ZONES for wish, zones in self.missed
        )

    def serves(self, other):
        """The wishes that come nearer than in `other`, those that gain most first."""
        before = {wish.tones + (wish.span,): zones for wish, zones in other.missed}
        gained = [(before.get(wish.tones + (wish.span,), 0.0) - zones, wish) for wish, zones in self.missed]
        return tuple(wish for gain, wish in sorted(gained, key=lambda each: -each[0]) if gain > LEAST_GAIN)


def wishes_of(brief):
    """Wish of each that a Brief has: those set, and for tones and pairs without one those proposed."""
    roles = {tone.name: tone.role for tone in brief.tones}
    heavy = lambda *names: SUBJECT_WEIGHT if any(roles.get(name) == "subject" for name in names) else WEIGHT
    made = [Wish((tone.name,), tone.wish, weight=heavy(tone.name)) for tone in brief.tones if tone.wish]
    made += [Wish((o.lighter, o.darker), None, o.zones, weight=heavy(o.lighter, o.darker)) for o in brief.orders]
    made += [Wish(pair, None, PARTED_ZONES, signed=False, weight=heavy(*pair)) for pair in brief.pairs]
    said = {frozenset(wish.tones) for wish in made}
    return tuple(made) + tuple(wish for wish in proposed(brief, heavy) if frozenset(wish.tones) not in said)


def score(plan):
    """Score of a Plan against the wishes of its brief."""
    made = score_of(plan.brief, {tone.name: tone.printed for tone in plan.tones}, plan.chain)
    costs = {"light": LIGHT_COST * max(plan.filter_cost.stops, 0.0), **made.costs}
    low, high = plan.brief.medium.outer
    lost = [
        max(tone.held - high, low - tone.held, 0.0)
        for tone in plan.tones
        if tone.needs_texture and tone.texture == "lost"
    ]
    if lost:
        costs["lost texture"] = sum(LOST_COST + by**2 for by in lost)
    return Score(made.missed, costs)


def score_of(brief, prints, chain):
    """Score of prints against the wishes of a Brief, with what the mix costs and without light and texture.

    prints: tone name -> zone. chain: the Chain that they were seen through.
    """
    measured = ((wish, wish.missed_by(prints)) for wish in wishes_of(brief))
    costs, gain = {}, noise_gain_of(chain)
    if gain > 1:
        costs["noise"] = NOISE_COST * math.log2(gain)
    if gain > HALO_GAIN:
        costs["halos"] = HALO_COST
    return Score(tuple((wish, zones) for wish, zones in measured if zones is not None), costs)


def contradictions(brief):
    """Sentences for wishes that cannot all be met: an order that no two spans allow."""
    spans = {tone.name: tone.wish for tone in brief.tones if tone.wish}
    found = []
    for order in brief.orders:
        if order.lighter in spans and order.darker in spans:
            most = spans[order.lighter][1] - spans[order.darker][0]
            if most < order.zones - 1e-6:
                found.append(
                    f"{order.lighter} cannot print {order.zones:.3g} zones over {order.darker} while both keep their spans; "
                    f"at most {max(most, 0):.2g}. The nearest is shown."
                )
    return tuple(found)


# --- proposed from words and roles ---------------------------------------------------------------------------------------


def proposed(brief, heavy=lambda *names: WEIGHT):
    """Wishes that the words of the intent and the roles suggest, each `guessed`. heavy: from names to a weight."""
    spans, pairs = {}, {}
    for sentence in re.split(r"[.;!?\n]", brief.intent.lower()):
        clauses = re.split(r",| against | before | but | with ", sentence)
        for clause in clauses:
            said = set(_words(clause))
            for tone in _named(brief, clause):
                if said & DARK_WORDS and not said & LIGHT_WORDS:
                    spans[tone.name] = DARK if tone.needs_texture else DARK_FREE
                elif said & LIGHT_WORDS and not said & DARK_WORDS:
                    spans[tone.name] = LIGHT if tone.needs_texture else LIGHT_FREE
        if " against " in sentence:
            _against(brief, sentence, pairs)
        if any(word in sentence for word in PART_WORDS):
            named = _named(brief, sentence)[:2]
            if len(named) == 2:
                pairs.setdefault(tuple(tone.name for tone in named), (PARTED_ZONES, False))
    for text, textured, free in ((brief.must_dark, DARK, DARK_FREE), (brief.must_light, LIGHT, LIGHT_FREE)):
        spans |= {tone.name: textured if tone.needs_texture else free for tone in _named(brief, text.lower())}
    if brief.choice.school == "silhouette":
        spans |= {tone.name: SILHOUETTE for tone in brief.tones if tone.role == "subject"}
    made = [Wish((name,), span, weight=heavy(name), guessed=True) for name, span in spans.items()]
    made += [Wish(pair, None, zones, signed, heavy(*pair), True) for pair, (zones, signed) in pairs.items()]
    said = {frozenset(pair) for pair in pairs}
    for pair in _role_pairs(brief):
        if frozenset(pair) not in said:
            made.append(Wish(pair, None, PARTED_ZONES, False, heavy(*pair), True))
    return tuple(made)


def _against(brief, sentence, pairs):
    """ "the kiln stands bright against a deep sky": which of the two is to be the lighter, where the words say it."""
    front, _, behind = sentence.partition(" against ")
    left, right = _named(brief, front), _named(brief, behind)
    if not left or not right or left[0] is right[0]:
        return
    words = [set(_words(part)) for part in (front, behind)]
    if words[0] & LIGHT_WORDS or words[1] & DARK_WORDS:
        pairs[left[0].name, right[0].name] = (AGAINST_ZONES, True)
    elif words[0] & DARK_WORDS or words[1] & LIGHT_WORDS:
        pairs[right[0].name, left[0].name] = (AGAINST_ZONES, True)
    else:
        pairs[left[0].name, right[0].name] = (PARTED_ZONES, False)


def _named(brief, text):
    """Tones that a text names, in its order, one for each word; of several with that word the subject, else the first."""
    found = []
    for word in _words(text):
        fitting = [tone for tone in brief.tones if tone.named and _stem(word) in _stems_of(tone.name)]
        fitting.sort(key=lambda tone: tone.role not in ("subject", "skin"))
        if fitting and fitting[0] not in found:
            found.append(fitting[0])
    return found


@lru_cache(maxsize=1024)
def _words(text):
    return tuple(re.findall(r"[a-zà-ÿ]+", text.lower()))


@lru_cache(maxsize=1024)
def _stems_of(name):
    """Stems of the words of a name that say what a tone is."""
    return frozenset(_stem(word) for word in _words(name) if len(word) > 2 and word not in NOT_NAMES)


def _stem(word):
    return word[:-1] if word.endswith("s") and len(word) > 3 else word


def _role_pairs(brief):
    """Subjects against what is behind them, (name, name) each."""
    read = [tone for tone in brief.tones if tone.evs]
    subjects = [tone for tone in read if tone.role in ("subject", "skin")]
    behind = [tone for tone in read if tone.role in ("background", "sky")]
    return [(a.name, b.name) for a in subjects for b in behind][:8]


# --- as people write them -------------------------------------------------------------------------------------------------------


def parse_wish(text):
    """A span of zones: "II-III", "VI½ to VII", "at most I", "at least VII", "VI" (a third to either side). Raises Unreadable.

    >>> parse_wish("II-III"), parse_wish("at most I"), parse_wish("at least VII")
    ((2.0, 3.0), (0.0, 1.0), (7.0, 10.0))
    """
    said = " ".join(text.split())
    if match := re.fullmatch(r"(?i)(at most|at least|<|>|≤|≥)\s*(.+)", said):
        zone = parse_zone(match[2])
        return (ZONE_MIN, zone) if match[1].lower() in ("at most", "<", "≤") else (zone, ZONE_MAX)
    ends = [parse_zone(part) for part in re.split(r"\s*(?:–|-|\bto\b)\s*", said)]
    if len(ends) == 1:
        return max(ends[0] - 1 / 3, ZONE_MIN), min(ends[0] + 1 / 3, ZONE_MAX)
    if len(ends) != 2 or ends[0] > ends[1]:
        raise Unreadable(
            f"“{text[:24]}” is no span of zones. Write II-III, at most I, or VI.", parameter="wish", code="wish"
        )
    return tuple(ends)


def format_span(span):
    """ "II–III", "at most I", "at least VII". span: (low, high) zones."""
    low, high = span
    if low <= ZONE_MIN and high < ZONE_MAX:
        return f"at most {format_zone(high)}"
    if high >= ZONE_MAX and low > ZONE_MIN:
        return f"at least {format_zone(low)}"
    return f"{format_zone(low)}–{format_zone(high)}"
