"""What the other schools would set for the same scene, side by side, and what each would lose."""

from dataclasses import dataclass, replace

from dimgrey.core.errors import CoreError
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.planning.scoring import Score, score


@dataclass(frozen=True)
class Other:
    """Another school: its setting against the plan's in stops (+ lets in less light), what it places, and what it loses.

    score: how far it is from the wishes. why_not: a sentence when the school cannot work here; the rest is then empty.
    """

    school: str
    name: str
    difference_stops: float | None
    places: str
    zone: float | None
    lost: tuple
    why_not: str = ""
    score: Score | None = None


def other_schools(result):
    """Other of each school but the plan's own, in the order of SCHOOLS. result: a Plan."""
    made = []
    for key, school in SCHOOLS.items():
        if key == result.placement.school:
            continue
        choice = replace(result.brief.choice, school=key, tone=None, zone=None)
        try:
            other = plan(replace(result.brief, choice=choice))
        except CoreError as refused:
            made.append(Other(key, school.name, None, "", None, (), str(refused)))
            continue
        lost = tuple(tone.name for tone in other.tones if tone.needs_texture and tone.texture == "lost")
        difference = other.setting_ev100 - result.setting_ev100
        made.append(
            Other(
                key,
                school.name,
                difference,
                other.placement.tone or "the midpoint",
                other.placement.zone,
                lost,
                score=score(other),
            )
        )
    return tuple(made)
