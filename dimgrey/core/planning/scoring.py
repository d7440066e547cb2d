"""How far a plan is from what is wanted: one score for every proposal. All its weights and costs stand here.

``sum of weight * missed**2`` over the wishes, in zones of print, plus costs. Source: HANDBOOK 17 and 21.
"""

import math
from dataclasses import dataclass, field

from dimgrey.core.colour.chain import noise_gain_of
from dimgrey.core.planning.wishes import wishes_of

LIGHT_COST, NOISE_COST, HALO_COST, LOST_COST = 0.02, 0.1, 0.25, 1.0
"""For each stop of light, for log2 of the noise gain, for halos, for needed texture that is lost (with the square of how far)."""
HALO_GAIN = 2.0
CHANGE_COST = 0.1
"""For every thing that changes: the plan as it is has been chosen."""
GIVEN_UP_COST = 0.5
"""For texture that is let go: less than what it costs to lose it unsaid, more than any way to keep it."""
LEAST_GAIN, LEAST_SHARE = 0.1, 0.5
MOST_WORSE_ZONES = 1 / 3
"""A proposal that gains less, that takes away less of what it serves, or that takes one wish further away than this, is not made: a tower that shall be
black on a sky as dark as itself is not helped by two thirds of a stop."""
SERVED_ZONES = 0.1


@dataclass(frozen=True)
class Score:
    """How far a plan is from its wishes: 0 is all met at no cost. missed: (Wish, zones) each. costs: name -> amount. lost: names of
    tones that lose texture they need."""

    missed: tuple
    costs: dict = field(default_factory=dict)
    lost: tuple = ()

    @property
    def value(self):
        return sum(wish.weight * zones**2 for wish, zones in self.missed) + sum(self.costs.values())

    def keeps_walls_of(self, other):
        """Whether nothing that `other` has is broken: no needed texture goes, no wish goes noticeably further away."""
        before = {wish.key: zones for wish, zones in other.missed}
        return set(self.lost) <= set(other.lost) and all(
            zones <= before.get(wish.key, 0.0) + MOST_WORSE_ZONES for wish, zones in self.missed
        )

    def gain_over(self, other, changes=1):
        """What it is better by, with the cost of so many changes counted."""
        return other.value - self.value - CHANGE_COST * changes

    def share_served(self, other):
        """What part of the misses that come nearer than in `other` is taken away, 0 to 1; 1 where texture comes back or nothing was missed."""
        before = {wish.key: zones for wish, zones in other.missed}
        nearer = [
            (wish.weight, before.get(wish.key, 0.0), zones)
            for wish, zones in self.missed
            if zones < before.get(wish.key, 0.0)
        ]
        whole = sum(weight * was**2 for weight, was, _ in nearer)
        if set(other.lost) - set(self.lost) or not whole:
            return 1.0
        return sum(weight * (was**2 - now**2) for weight, was, now in nearer) / whole

    def is_better_than(self, other, changes=1):
        """Whether it may be proposed in place of `other`."""
        return (
            self.gain_over(other, changes) >= LEAST_GAIN
            and self.share_served(other) >= LEAST_SHARE
            and self.keeps_walls_of(other)
        )

    def serves(self, other):
        """The wishes that come nearer than in `other`, those that gain most first."""
        before = {wish.key: zones for wish, zones in other.missed}
        gained = [(before.get(wish.key, 0.0) - zones, k, wish) for k, (wish, zones) in enumerate(self.missed)]
        return tuple(
            wish for gain, _, wish in sorted(gained, key=lambda each: (-each[0], each[1])) if gain > SERVED_ZONES
        )


def score(plan, wishes=None):
    """Score of a Plan. wishes: of its brief, where they are at hand."""
    made = score_of(plan.brief, {tone.name: tone.printed for tone in plan.tones}, plan.chain, wishes)
    costs = {"light": LIGHT_COST * max(plan.filter_cost.stops, 0.0), **made.costs}
    low, high = plan.brief.medium.outer
    lost = lost_of(plan)
    if lost:
        costs["lost texture"] = sum(LOST_COST + max(tone.held - high, low - tone.held, 0.0) ** 2 for tone in lost)
    return Score(made.missed, costs, tuple(tone.name for tone in lost))


def lost_of(plan):
    """PlannedTone of each that loses texture it needs, in every frame of a bracket; () for None."""
    lost = [tone for tone in plan.tones if tone.needs_texture and tone.texture == "lost"] if plan else ()
    if lost and plan.brief.bracket and not plan.brief.medium.is_film:
        held = {name for frame in plan.bracket_frames for name in frame.holds}
        lost = [tone for tone in lost if tone.name not in held]
    return tuple(lost)


def score_of(brief, prints, chain, wishes=None):
    """Score of prints against the wishes of a Brief, with what the mix costs and without light and texture.

    prints: tone name -> zone. chain: the Chain that they were seen through. wishes: of the brief, where they are at hand.
    """
    measured = ((wish, wish.missed_by(prints)) for wish in (wishes_of(brief) if wishes is None else wishes))
    costs, gain = {}, noise_gain_of(chain)
    if gain > 1:
        costs["noise"] = NOISE_COST * math.log2(gain)
    if gain > HALO_GAIN:
        costs["halos"] = HALO_COST
    return Score(tuple((wish, zones) for wish, zones in measured if zones is not None), costs)
