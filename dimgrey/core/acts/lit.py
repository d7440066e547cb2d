"""What the acts of a light plan share: the plan put to work, and the tones that are bound to its light moved along."""

from dimgrey.core.document import edits
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.litplan import LitPlan, sky_lux_at
from dimgrey.core.planning.planwords import plan_or_wait

LEAST_MOVED = 0.02
"""Stops below which a tone's reading stays."""
NEEDS = ("read_as", "sun_altitude")
"""What of the Case every act of a light plan asks for."""


def require_lighting(document):
    """The light plan of a document. Raises Refused where there is none."""
    if document.lighting is None:
        raise Refused("This scene has no light plan yet.", code="no-light-plan")
    return document.lighting


def lit_plan(document, case):
    """LitPlan of a document as a Case has it. Raises Refused without a light plan."""
    require_lighting(document)
    return LitPlan(document, plan_or_wait(case.read_as(document))[0], sky_lux_at(case.sun_altitude(document)))


def with_bound_moved(before, after, case):
    """The document after a change of its light plan, what its bound tones read moved by what the lamps give now.

    before, after: Document. case: Case.
    """
    if not before.lighting.lit:
        return after
    was = lit_plan(before, case)
    now = LitPlan(after, was.plan, sky_lux_at(case.sun_altitude(before)))
    evs_before, evs_after = was.incident_evs, now.incident_evs
    moved = {}
    for each in after.lighting.lit:
        if each.place in evs_before and each.place in evs_after:
            stops = evs_after[each.place] - evs_before[each.place]
            if abs(stops) >= LEAST_MOVED:
                moved[each.tone] = round(stops, 3)
    return edits.with_tones_moved(after, moved) if moved else after


def lamp_edit(change):
    """The edit of an act that changes a light plan. change: (document, what was said, Case) -> document."""

    def edit(document, said, case):
        require_lighting(document)
        return with_bound_moved(document, change(document, said, case), case)

    return edit
