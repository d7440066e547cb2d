"""Lamps turned until the wishes are met; where they are too weak and no plan holds the exposure, that gives way."""

from dataclasses import replace

from dimgrey.core.acts.lit import NEEDS, lamp_edit, lit_plan
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan
from dimgrey.core.document.edits import Refused
from dimgrey.core.lamps.backwards import Wish, solved

MOST_LONGER = 3
"""Stops by which the exposure gives way to wishes that lamps cannot meet."""


def _change(document, said, case):
    lit = lit_plan(document, case)
    if not lit.lighting.wishes:
        raise Refused("Wish a zone for one place at least.", code="no-wish")
    longer, found = exposed_longer(lit)
    made = lightplan.with_lamps(document, found.lamps)
    return lightplan.exposed_longer(made, longer) if longer else made


def exposed_longer(lit):
    """(stops of more exposure, Solution) for a LitPlan: where its lamps are too weak, the exposure gives way by a stop each time."""
    best = (0, solution_of(lit, lit.camera))
    for stops in range(1, 1 + (0 if lit.plan else MOST_LONGER)):
        if not best[1].unmet:
            break
        # One stop more is one stop more of everything, whether by time or by aperture.
        found = solution_of(lit, replace(lit.camera, f_number=lit.camera.f_number / 2 ** (stops / 2)))
        if len(found.unmet) < len(best[1].unmet):
            best = (stops, found)
    return best


def solution_of(lit, camera):
    """backwards.Solution for the wishes of a LitPlan that its places have. camera: exposure.Camera."""
    names = lit.place_names
    wishes = tuple(
        Wish(wish.place, wish.zone, wish.over)
        for wish in lit.lighting.wishes
        if wish.place in names and (not wish.over or wish.over in names)
    )
    shares = {part: surface.reflectance for part, surface in lit.surfaces.items()}
    return solved(lit.view, lit.lamps, shares, camera, wishes, lit.lighting.ambient_lux)


VERB = Verb(
    "light-solve", "Turn the lamps to meet the wishes", lamp_edit(_change), words="lamps for the wishes", needs=NEEDS
)
