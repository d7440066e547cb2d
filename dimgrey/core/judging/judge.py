"""The one judge: of all that may be changed in a scene, what brings it nearest to what is wanted, and what that costs.

Every candidate is planned anew and held against one score. Walls come before costs: needed texture stays, no wish goes noticeably further
away, only what camera, lens and film can do, a steady time. At most three are proposed, and the act that takes one does just that. After
the best is taken nothing leads back, because the score falls at every step. Source: HANDBOOK 21.
"""

from dataclasses import dataclass
from itertools import combinations

from dimgrey.core.errors import CoreError
from dimgrey.core.judging.around import NOWHERE
from dimgrey.core.judging.moves import moves
from dimgrey.core.measure.handheld import wind_shakes
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.scoring import CHANGE_COST, LEAST_GAIN, LEAST_SHARE, Score, score
from dimgrey.core.planning.wishes import MET_ZONES, wishes_of

MOST = 3
PAIRED, PAIRED_OF_A_KIND = 6, 2
"""Moves that are tried in pairs at first: the nearest, and at most so many of a kind. The rest is tried when it is asked for."""
WHITE_PRINT = 8.0
"""Print that the picture's brightest hundredth stays at or below after a longer development."""
HAND_SLACK = 1.2
LIMIT_SLACK = 2.0**0.25
"""A quarter of a stop over a marked time is still marked so."""
TOLD_OUTSIDE = 0.1
"""Zones beyond dependable texture that nobody sees."""
FAINTER_COST = 0.1
"""For each tone whose needed texture goes from full to faint."""


@dataclass(frozen=True)
class Candidate:
    """Moves that were tried together, the Plan that they give and its Score; net: what is gained after the cost of changing."""

    moves: tuple
    plan: object
    score: Score
    net: float

    @property
    def code(self):
        return ";".join(move.code for move in self.moves)

    @property
    def is_owned(self):
        return all(move.owned for move in self.moves)


@dataclass(frozen=True)
class Judgement:
    """now: Score of the plan as it is. best: Candidate of each proposal, the best first. tried: how many were planned."""

    now: Score
    best: tuple = ()
    tried: int = 0

    @property
    def missed(self):
        """(Wish, zones) of each that is not met, the worst first."""
        return missed_of(self.now)


def missed_of(scored):
    """(Wish, zones) of each that a Score misses by what is shown, the one that counts most first."""
    found = [(wish, zones) for wish, zones in scored.missed if zones >= MET_ZONES]
    return tuple(sorted(found, key=lambda each: -each[0].weight * each[1] ** 2))


def judged(document, result, read, around=NOWHERE, deeply=False):
    """The Judgement of a Plan.

    document: the Document that it is of. read: from a Document to its Brief. around: Around. deeply: all pairs are tried, not only those of
    the likeliest moves.
    """
    wishes = wishes_of(result.brief)
    now = score(result, wishes)
    if now.value < CHANGE_COST + LEAST_GAIN:
        return Judgement(now)  # nothing could gain enough
    search = _Search(result, now, wishes, around, document.wanted.refused)
    found = moves(document, result, read, around, missed_of(now), deeply)
    singles = [each for each in (search.tried((move,)) for move in found) if each is not None]
    kept = [each for each in singles if search.may(each)]
    for first, second in _pairs(singles, deeply):
        pair = search.tried((first, second))
        if pair is not None and search.may(pair) and _adds(pair, kept):
            kept.append(pair)
    return Judgement(now, _chosen(kept), search.count)


def _pairs(singles, deeply):
    """Pairs of moves worth trying: of different kinds, the likeliest of each first."""
    ranked = sorted((each for each in singles if not each.moves[0].alone), key=lambda each: -each.net)
    chosen, of_kind = [], {}
    for each in ranked:
        kind = each.moves[0].kind
        if not deeply and (len(chosen) >= PAIRED or of_kind.get(kind, 0) >= PAIRED_OF_A_KIND):
            continue
        of_kind[kind] = of_kind.get(kind, 0) + 1
        chosen.append(each.moves[0])
    if deeply:
        chosen = chosen[:24]
    return [(a, b) for a, b in combinations(chosen, 2) if a.kind != b.kind]


def _adds(pair, kept):
    """Whether both of a pair are needed: it is better by more than its cost than any one thing of their kinds."""
    kinds = {move.kind for move in pair.moves}
    alone = [each for each in kept if len(each.moves) == 1 and each.moves[0].kind in kinds]
    return all(pair.net >= each.net + LEAST_GAIN / 2 for each in alone)


def _chosen(kept):
    """At most three, each of another make, the best first; the best that changes one thing alone is among them."""
    ranked = sorted(kept, key=lambda each: (-each.net, not each.is_owned, len(each.moves), each.code))
    by_make = {}
    for each in ranked:
        by_make.setdefault(frozenset(move.kind for move in each.moves), each)
    made = list(by_make.values())
    plainest = next((each for each in made if len(each.moves) == 1), None)
    chosen = made[:MOST]
    if plainest is not None and plainest not in chosen:
        chosen[-1] = plainest
    return tuple(chosen)


class _Search:
    """Plans what is tried, and holds it against the walls."""

    def __init__(self, result, now, wishes, around, refused):
        self.refused = frozenset(refused)
        self.result, self.now, self.wishes, self.around = result, now, wishes, around
        self.limits = broken_limits(result)
        self.shaky = is_shaky(result, around)
        self.count = 0

    def tried(self, tried):
        """The Candidate of some moves, None where it cannot be planned."""
        brief = self.result.brief
        try:
            for move in tried:
                brief = move.edit(brief)
            planned = plan(brief)
        except CoreError:
            return None
        self.count += 1
        wishes = (
            self.wishes
            if all(move.kind not in ("placing",) and not move.kind.startswith("let-go") for move in tried)
            else wishes_of(brief)
        )
        scored = score(planned, wishes)
        fainter = FAINTER_COST * len(fainter_in(planned, self.result))
        net = scored.gain_over(self.now, len(tried)) - sum(move.cost for move in tried) - fainter
        return Candidate(tuple(tried), planned, scored, net)

    def may(self, candidate):
        """Whether a Candidate gains enough, breaks no wall, and was not refused."""
        return (
            candidate.net >= LEAST_GAIN
            and candidate.score.share_served(self.now) >= LEAST_SHARE
            and candidate.code not in self.refused
            and candidate.score.keeps_walls_of(self.now)
            and broken_limits(candidate.plan) <= self.limits
            and outside_texture(candidate.plan) <= outside_texture(self.result) + TOLD_OUTSIDE
            and (self.shaky or not is_shaky(candidate.plan, self.around))
            and self._keeps_white(candidate)
        )

    def _keeps_white(self, candidate):
        """A longer development keeps the highest texture at VII, and the picture's brightest hundredth at VIII."""
        step, before = candidate.plan.printing.step, self.result.printing.step
        if step <= max(before, 0):
            return True
        textured = [tone.printed for tone in candidate.plan.tones if tone.needs_texture]
        if textured and max(textured) > 7.0 + MET_ZONES:
            return False
        fall = self.around.white_fall
        if fall is None:
            return True
        moved = candidate.plan.setting_ev100 - self.result.setting_ev100
        return candidate.plan.printing.print(fall - moved).zone <= WHITE_PRINT + MET_ZONES


def fainter_in(after, before):
    """Names of tones that need texture and have all of it in the Plan `before`, and less in the Plan `after`."""
    full = {tone.name for tone in before.tones if tone.texture == "full"}
    return [tone.name for tone in after.tones if tone.needs_texture and tone.name in full and tone.texture != "full"]


def outside_texture(result):
    """Zones that the placed tone of a Plan lies outside dependable texture, 0 inside and for one that may go: what one places to keep
    its texture is not placed where it loses some."""
    low, high = result.brief.medium.dependable
    placed = next((tone for tone in result.tones if tone.name == result.placement.tone and tone.needs_texture), None)
    return max(low - placed.held, placed.held - high, 0.0) if placed else 0.0


def broken_limits(result):
    """What of camera and lens a Plan asks too much of: codes of the cautions that say so."""
    limits, found = result.brief.limits, set()
    if result.shutter_seconds < limits.time_min_s / LIMIT_SLACK:
        found.add("shutter-too-short")
    if result.corrected_seconds > limits.time_max_s * LIMIT_SLACK:
        found.add("shutter-too-long")
    if not limits.f_min * 0.95 <= result.aperture.exact <= limits.f_max * 1.05:
        found.add("aperture-out-of-limits")
    return found


def is_shaky(result, around=NOWHERE):
    """Whether the time of a Plan is one that its support does not hold: too long for the hand, or shaken by the wind `around` on a tripod."""
    brief, seconds = result.brief, result.shutter_seconds
    if brief.support == "hand" and brief.hand_limit_s:
        return seconds > brief.hand_limit_s * HAND_SLACK
    return brief.support == "tripod" and wind_shakes(around.wind_m_s, around.focal_35mm, seconds)
