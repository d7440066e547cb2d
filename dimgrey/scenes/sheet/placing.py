"""Placing: which school, which tone, which zone, and what the other schools would set."""

from django import forms

from dimgrey.core.acts.school import UNDER, under_stops
from dimgrey.core.measure.stops import counted_stops
from dimgrey.core.planning import explain
from dimgrey.core.planning.otherschools import other_schools
from dimgrey.core.planning.planwords import placed_line
from dimgrey.core.planning.schools import default_zone, reason_of
from dimgrey.core.planning.scoring import score
from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part


def _first_school(situation):
    choice = situation.brief.choice
    same = [row for row in UNDER if row.endswith("lifted") == choice.lifted] or ["0"]
    under = min(same, key=lambda row: abs(under_stops(row) - choice.under_stops))
    return {
        "school": situation.school_key,
        "hold": choice.hold or "usual",
        "white": choice.white,
        "shadows": choice.shadows,
        "under": under,
    }


def _first_place(situation):
    placed = situation.document.placing.tone
    return {"mark": next((tone.mark for tone in situation.document.tones if tone.name == placed), None)}


def _place_form(form, situation):
    """The form with the scene's tones to choose from, and the usual zone as a hint."""
    tones = [(tone.mark, f"{tone.mark} {tone.name}") for tone in situation.document.tones]
    form.fields["mark"].widget = forms.Select({"class": "form-select", "id": "place-mark"}, tones)
    form.fields["zone"].widget.attrs["placeholder"] = _usual_zone(situation)
    return form


def _usual_zone(situation):
    return situation.words.zone(default_zone(situation.brief.choice.school, situation.brief.medium))


def _line(situation):
    return {
        "school": situation.school,
        "reason": reason_of(situation.school_key, situation.brief.medium.kind),
        "placed": placed_line(situation.plan, situation.words),
        "wait": situation.wait,
        "why": explain.why_setting(situation.plan) if situation.plan else "",
    }


def others_of(situation):
    """Other schools in words, for the table beside the chosen one."""
    if situation.plan is None:
        return ()
    now = score(situation.plan)
    return tuple(
        {
            "key": other.school,
            "name": other.name,
            "difference": "" if other.difference_stops is None else counted_stops(-other.difference_stops, signed=True),
            "places": "" if other.zone is None else f"{other.places} on {situation.words.zone(other.zone)}",
            "lost": ", ".join(other.lost) or "nothing",
            "nearer": other.score is not None and other.score.is_better_than(now),
            "why_not": other.why_not,
        }
        for other in other_schools(situation.plan)
    )


def _editor(situation, acts, mark):
    return {
        "form": acts.of("school"),
        "place": _place_form(acts.of("place"), situation) if situation.document.tones else None,
        "others": others_of(situation),
    }


PART = Part(
    key="placing",
    title="School",
    order=80,
    at_rest=True,
    holds=lambda situation: situation.school.name if situation.document.placing.school else "",
    line=_line,
    editor=_editor,
    opens="Place another way",
    acts={
        "school": Look(_first_school),
        "place": Look(_first_place, {"zone": {"id": "place-zone"}, "mark": {"id": "place-mark"}}),
        "unplace": Look(),
    },
)
