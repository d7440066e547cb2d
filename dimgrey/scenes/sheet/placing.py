"""Placing: which school, which tone, which zone, and what the other schools would set."""

from django import forms

from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning import explain
from dimgrey.core.planning.otherschools import other_schools
from dimgrey.core.planning.schools import SCHOOLS, default_zone
from dimgrey.core.planning.zones import parse_zone
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm, MarkForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, text_input

UNDER = (("0", "as metered"), ("0.3333", "a third under"), ("2", "two stops under"))


class SchoolForm(ActForm):
    school = forms.ChoiceField(choices=[(key, school.name) for key, school in SCHOOLS.items()], label="School")
    hold = forms.ChoiceField(
        choices=[("before filter", "before the filter (classic)"), ("after filter", "after the filter")],
        required=False,
        label="The zone is held",
    )
    white = forms.ChoiceField(
        choices=[("textured", "keep texture"), ("pure", "pure white")], required=False, label="Whites"
    )
    shadows = forms.ChoiceField(
        choices=[("full", "keep detail"), ("empty", "black shapes")], required=False, label="Shadows"
    )
    under = forms.ChoiceField(choices=UNDER, required=False, label="Exposure")

    def first(self, situation):
        choice = situation.brief.choice
        under = min(UNDER, key=lambda each: abs(float(each[0]) - choice.under_stops))[0]
        return {
            "school": choice.school,
            "hold": choice.hold,
            "white": choice.white,
            "shadows": choice.shadows,
            "under": under,
        }

    def targets(self):
        """What the placing aims at beside its tone; what was not sent stays as it was, marked by absence."""
        data = self.cleaned_data
        found = {key: data[key] for key in ("hold", "white", "shadows") if data[key]}
        if data["under"]:
            found["under_stops"] = round(float(data["under"]), 4)
        return found


class PlaceForm(MarkForm):
    zone = CoreField(parse_zone, required=True, label="Zone", widget=text_input())

    ids = {"zone": "place-zone", "mark": "place-mark"}

    def __init__(self, data=None, document=None, situation=None):
        super().__init__(data, document, situation)
        if situation:
            self.fields["zone"].widget.attrs["placeholder"] = _usual_zone(situation)
            tones = [(tone.mark, f"{tone.mark} {tone.name}") for tone in situation.document.tones]
            self.fields["mark"] = forms.ChoiceField(
                choices=tones, label="Tone", widget=forms.Select({"class": "form-select", "id": "place-mark"})
            )

    def first(self, situation):
        placed = situation.document.placing.tone
        return {"mark": next((tone.mark for tone in situation.document.tones if tone.name == placed), None)}


def _usual_zone(situation):
    return situation.words.zone(default_zone(situation.brief.choice.school, situation.brief.medium))


def placed_line(situation):
    """Which tone stands on which zone; "" before a plan."""
    if situation.plan is None:
        return ""
    placement = situation.plan.placement
    return f"{placement.tone or 'midpoint of the textured tones'} on {situation.words.zone(placement.zone)}"


def _line(situation):
    return {
        "school": situation.school,
        "placed": placed_line(situation),
        "wait": situation.wait,
        "why": explain.why_setting(situation.plan) if situation.plan else "",
    }


def others_of(situation):
    """Other schools in words, for the table beside the chosen one."""
    if situation.plan is None:
        return ()
    return tuple(
        {
            "key": other.school,
            "name": other.name,
            "difference": ""
            if other.difference_stops is None
            else f"{format_stops(-other.difference_stops, signed=True)} stops",
            "places": "" if other.zone is None else f"{other.places} on {situation.words.zone(other.zone)}",
            "lost": ", ".join(other.lost) or "nothing",
            "why_not": other.why_not,
        }
        for other in other_schools(situation.plan)
    )


def _editor(situation, forms, mark):
    return {
        "form": forms["school"],
        "place": forms["place"] if situation.document.tones else None,
        "others": others_of(situation),
    }


def _place(scene, form, by):
    return actions.place_tone(scene, by, form.cleaned_data["mark"], form.cleaned_data["zone"])


PART = Part(
    key="placing",
    title="Placing",
    order=40,
    line=_line,
    editor=_editor,
    opens="Place another way",
    acts={
        "school": Act(
            SchoolForm,
            lambda scene, form, by: actions.choose_school(scene, by, form.cleaned_data["school"], form.targets()),
        ),
        "place": Act(PlaceForm, _place, part="tones"),
        "unplace": Act(ActForm, lambda scene, form, by: actions.unplace(scene, by)),
    },
)
