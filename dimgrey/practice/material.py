"""The person's own scenes as material of drills: their pins, their range, their profile of tones."""

from dataclasses import dataclass

from dimgrey.core.planning.prints import falls_of
from dimgrey.core.practice.drills import Material
from dimgrey.scenes.histogram import LOWEST, PER_ZONE
from dimgrey.scenes.queries import scenes_of
from dimgrey.scenes.situation import Situation

MOST = 8
END_SHARE = 0.005


@dataclass(frozen=True)
class Shown:
    """A picture that a drill shows: its address and its shape, height through width."""

    address: str
    shape: float


def material_of(person):
    """(Material of each of the latest scenes with a picture and a plan, key -> Shown)."""
    made, shown = [], {}
    for scene in scenes_of(person).exclude(picture=None).order_by("-updated_at")[: 2 * MOST]:
        if len(made) >= MOST or not scene.is_sound:
            continue
        situation = Situation(scene)
        counts = situation.fall_counts if situation.plan else ()
        if not counts:
            continue
        key = str(scene.pk)
        made.append(_material(key, situation, counts))
        facts = situation.facts
        shown[key] = Shown(f"{situation.grey}?small=1", round(facts.height / max(facts.width, 1), 4))
    return tuple(made), shown


def _material(key, situation, counts):
    prints = {tone.name: tone.printed for tone in situation.plan.tones}
    tones = tuple(
        (tone.name, tuple(tone.at), prints[tone.name])
        for tone in situation.document.tones
        if tone.at is not None and tone.name in prints
    )
    return Material(key, situation.title, tones, _range(counts), _bars(counts, situation.plan.printing))


def _range(counts):
    """Stops between the darkest and the lightest half per cent of a picture. counts: of hill.fall_counts."""
    total, below, ends = sum(counts), 0.0, []
    for k, share in enumerate(counts):
        before, below = below, below + share
        for end in (END_SHARE * total, (1 - END_SHARE) * total):
            if before < end <= below:
                ends.append(k + (end - before) / max(share, 1e-9))
    return (ends[-1] - ends[0]) / PER_ZONE if len(ends) == 2 else None


def _bars(counts, printing):
    """Shares of the eleven zones of the print."""
    known = falls_of(printing, PER_ZONE)
    bars = [0.0] * 11
    for k, share in enumerate(counts):
        fall = LOWEST + (k + 0.5) / PER_ZONE
        printed = sum(each < fall for each in known) / PER_ZONE
        bars[min(round(printed), 10)] += share
    return tuple(bars)
