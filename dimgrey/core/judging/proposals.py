"""What the judge found, in words: what to change, what it serves, what it costs, the setting that follows, and the one act that does it."""

from dataclasses import dataclass
from typing import NamedTuple

from dimgrey.core.document.changes import change_words, changed
from dimgrey.core.errors import CoreError
from dimgrey.core.judging.around import NOWHERE
from dimgrey.core.judging.judge import fainter_in, judged
from dimgrey.core.judging.otherways import left_over, other_way, why_not
from dimgrey.core.measure.stops import counted_stops, format_aperture, format_time
from dimgrey.core.planning.media import MEDIA
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.planwords import texture_words
from dimgrey.core.planning.scoring import lost_of

ACT, AS_WANTED = "take-proposal", "Now: as wanted."
TOLD_STOPS = 1 / 6
MOST_SERVED = 2
HOW_TO = frozenset({"polarizer-manual", "hold-differs", "factor-differs"})
"""Cautions that tell how a thing is used, or where two rules differ: no cost of it."""
NEARER_STOPS = 1.0
"""A tone that stays lost is worth naming where it comes nearer to texture by so much."""


@dataclass(frozen=True)
class Proposal:
    """One way nearer to what is wanted.

    code: what its act takes. what: in words. serves: sentences of what comes nearer. costs: sentences of what it takes. setting: the exposure
    that follows. gain: in the score, what changing costs counted. score: after it. owned: False where its glass is not in the kit.
    """

    code: str
    what: str
    serves: tuple
    costs: tuple
    setting: str
    gain: float
    score: float
    owned: bool = True

    @property
    def line(self):
        return f"{self.what}{'' if self.owned else ', which is not in your kit'}."


@dataclass(frozen=True)
class IntentLine:
    """What is wanted, how it stands, and what brings it nearest, in words that every page shows alike.

    wanted, now: sentences. nearest: of the best Proposal, or why there is none; "" where nothing is missed. grave: an order is reversed. asked: questions that the
    words leave open.
    """

    wanted: str = ""
    now: str = ""
    nearest: str = ""
    grave: bool = False
    asked: tuple = ()

    @property
    def text(self):
        return " ".join(filter(None, (self.wanted, self.now, self.nearest)))


class Judged(NamedTuple):
    """found: the Judgement. proposals: Proposal of each that it found, the best first. left: what the best leaves far from what is wanted,
    and why. otherwise: what other light would do; "" for nothing."""

    found: object
    proposals: tuple = ()
    left: str = ""
    otherwise: str = ""


def proposals_of(document, result, read, around=NOWHERE, warned=None, deeply=False):
    """Judged of a scene.

    document, result, read, around, deeply: as in `judge.judged`. warned: from a Document and its Plan to its cautions, where they are at hand:
    what a proposal brings of them is told as its cost.
    """
    found = judged(document, result, read, around, deeply)
    before = {each.code for each in warned(document, result)} if warned and found.best else set()
    made = (_proposal(each, found, document, result, read, warned, before) for each in found.best)
    serving = tuple(each for each in made if each.serves)  # one that nobody would notice is none
    return Judged(found, serving, left_over(found), other_way(result, found, around))


def _proposal(candidate, found, document, result, read, warned, before):
    after = candidate.plan
    costs = [*_costs(candidate, result)]
    if warned:
        costs += _new_cautions(candidate, document, read, warned, before)
    return Proposal(
        code=candidate.code,
        what=change_words(document, candidate.code, result.placement.tone),
        serves=_served(candidate, found, result),
        costs=tuple(costs),
        setting=f"{format_time(after.shutter)} {format_aperture(after.aperture)} ISO {after.speed.name}",
        gain=candidate.net,
        score=candidate.score.value,
        owned=candidate.is_owned,
    )


def _served(candidate, found, result):
    prints = {tone.name: tone.printed for tone in candidate.plan.tones}
    now = {tone.name: tone.printed for tone in result.tones}
    said = []
    said += [wish.nearer_words(now, prints) for wish in candidate.score.serves(found.now)[:MOST_SERVED]]
    needing = {tone.name for tone in candidate.plan.tones if tone.needs_texture}
    back = [name for name in found.now.lost if name not in candidate.score.lost]
    said += [f"{name} keeps texture" if name in needing else f"{name} is meant to go" for name in back]
    return tuple(said + [*_nearer_texture(candidate, found, result)])


def _nearer_texture(candidate, found, result):
    """Tones that stay lost, and by less than before."""
    low, high = result.brief.medium.outer
    beyond = lambda tone: max(tone.held - high, low - tone.held)
    before = {tone.name: beyond(tone) for tone in result.tones if tone.name in found.now.lost}
    low, high = candidate.plan.brief.medium.outer
    for tone in candidate.plan.tones:
        nearer = before.get(tone.name, 0.0) - beyond(tone)
        if tone.name in candidate.score.lost and nearer >= NEARER_STOPS:
            yield f"{tone.name} {counted_stops(nearer)} nearer to texture"


def _costs(candidate, result):
    light = candidate.plan.filter_cost.stops - result.filter_cost.stops
    if light > TOLD_STOPS:
        yield f"{counted_stops(light)} of light"
    for name, what in (("noise", "noise"), ("halos", "halos where colours swap order")):
        if candidate.score.costs.get(name, 0.0) > 0.01 and candidate.plan.chain != result.chain:
            yield what
    if any(move.kind.startswith("let-go") for move in candidate.moves):
        yield "its texture, for good"
    fainter = fainter_in(candidate.plan, result)
    if fainter:
        yield f"less texture in {fainter[0]}"


def _new_cautions(candidate, document, read, warned, before):
    try:
        there = changed(document, candidate.code, read)
        found = warned(there, plan(read(there)))
    except CoreError:
        return []
    first = (each.text.split(". ")[0].rstrip(".") for each in found if each.code not in before | HOW_TO)
    return [f"{sentence[:1].lower()}{sentence[1:]}" for sentence in first]


# --- the line ------------------------------------------------------------------------------------------------------------------


def intent_line(wanted, result, judged=None):
    """IntentLine of a scene.

    wanted: its wishes.Wanted. result: its Plan, or None before one. judged: Judged of it; None where nobody has looked.
    """
    asked = tuple(question.text for question in wanted.asked)
    parts = [*(wish.words for wish in shown_wishes(wanted.wishes)), *_texture_said(wanted.textures)]
    if not parts:
        return IntentLine(asked=asked)
    said = f"You want: {', '.join(parts)}."
    if result is None:
        return IntentLine(said, asked=asked)
    prints = {tone.name: tone.printed for tone in result.tones}
    missed = sorted(
        (
            (wish.weight * (wish.missed_by(prints) or 0.0) ** 2, k, wish)
            for k, wish in enumerate(wanted.wishes)
            if wish.miss_words(prints)
        ),
        key=lambda each: (-each[0], each[1]),
    )
    lost = lost_of(result)
    if not missed and not lost:
        return IntentLine(said, AS_WANTED, asked=asked)
    ends = [f"{tone.name} {texture_words(tone)}" for tone in lost]
    now = f"Now: {'; '.join([wish.miss_words(prints) for _, _, wish in missed[:2]] + ends[:2])}."
    grave = any(wish.is_reversed_in(prints) for _, _, wish in missed)
    why = (
        why_not(missed[0][2], result)
        if missed
        else (f"the range is more than {MEDIA[result.brief.medium.kind].called} holds.", "")
    )
    return IntentLine(said, now, _nearest(judged, why), grave, asked)


def _texture_said(textures):
    """What the words say of texture that stays. textures: tone -> "needed" or "free"."""
    needed = [name for name, kind in textures.items() if kind == "needed"]
    if len(needed) > MOST_SERVED:
        yield "texture everywhere" if len(needed) == len(textures) else f"texture in {len(needed)} tones"
    elif needed:
        yield f"texture in {', '.join(needed)}"


def shown_wishes(wishes, most=4):
    """Wishes worth naming: those that somebody said, before those that only roles suggest, `most` of them."""
    said = [wish for wish in wishes if wish.source != "role"]
    return (said or list(wishes))[:most]


def _nearest(judged, why):
    if judged is None:
        return ""
    if not judged.proposals:
        reason, other = why
        return f"Nothing at hand brings it nearer: {reason} {judged.otherwise or other}".rstrip()
    best = judged.proposals[0]
    said = f"Nearest: {best.what[:1].lower()}{best.what[1:]} ({best.setting})."
    return " ".join(filter(None, (said, judged.left, judged.otherwise)))
