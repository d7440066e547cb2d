"""Placing: which school, which tone, which zone, and what the other schools would set."""

from django import forms

from dimgrey.core.measure.stops import counted_stops
from dimgrey.core.planning import explain
from dimgrey.core.planning.otherschools import other_schools
from dimgrey.core.planning.schools import SCHOOLS, default_zone
from dimgrey.core.planning.told import placed_line
from dimgrey.core.planning.wishes import LEAST_GAIN, score
from dimgrey.core.planning.zones import parse_zone
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm, MarkForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, text_input

UNDER = (
    ("0", "as metered"),
    ("0.3333", "a third under"),
    ("2", "two stops under"),
    ("2 lifted", "two under, lifted later"),
)
HOLDS_NAMED = (
    ("usual", "as fits"),
    ("before filter", "before the filter (classic)"),
    ("after filter", "after the filter"),
    ("in the print", "in the print"),
)


class SchoolForm(ActForm):
    school = forms.ChoiceField(choices=[(key, school.name) for key, school in SCHOOLS.items()], label="School")
    hold = forms.ChoiceField(choices=HOLDS_NAMED, required=False, label="The zone is held")
    white = forms.ChoiceField(
        choices=[("textured", "keep texture"), ("pure", "pure white")], required=False, label="Whites"
    )
    shadows = forms.ChoiceField(
        choices=[("full", "keep detail"), ("empty", "black shapes")], required=False, label="Shadows"
    )
    under = forms.ChoiceField(choices=UNDER, required=False, label="Exposure")

    def first(self, situation):
        choice = situation.brief.choice
        same = [key for key, _ in UNDER if key.endswith("lifted") == choice.lifted] or ["0"]
        under = min(same, key=lambda key: abs(_under(key) - choice.under_stops))
        return {
            "school": situation.school_key,
            "hold": choice.hold or "usual",
            "white": choice.white,
            "shadows": choice.shadows,
            "under": under,
        }

    def targets(self):
        """What the placing aims at beside its tone; what was not sent stays as it was, marked by absence."""
        data = self.cleaned_data
        found = {key: data[key] for key in ("white", "shadows") if data[key]}
        if data["hold"]:
            found["hold"] = None if data["hold"] == "usual" else data["hold"]
        if data["under"]:
            found |= {"under_stops": round(_under(data["under"]), 4), "lifted": data["under"].endswith("lifted")}
        return found


def _under(key):
    """Stops of a row of UNDER."""
    return float(key.split()[0])


class PlaceForm(MarkForm):
    zone = CoreField(parse_zone, label="Zone", widget=text_input())
    print = CoreField(parse_zone, widget=forms.HiddenInput)

    ids = {"zone": "place-zone", "mark": "place-mark"}

    def __init__(self, data=None, document=None, situation=None):
        super().__init__(data, document, situation)
        if situation:
            self.fields["zone"].widget.attrs["placeholder"] = _usual_zone(situation)
            tones = [(tone.mark, f"{tone.mark} {tone.name}") for tone in situation.document.tones]
            self.fields["mark"] = forms.ChoiceField(
                choices=tones, label="Tone", widget=forms.Select({"class": "form-select", "id": "place-mark"})
            )

    def clean(self):
        data = super().clean()
        if not self.errors and data.get("zone") is None and data.get("print") is None:
            raise forms.ValidationError({"zone": "Say the zone, such as VII⅓ or 7.5."})
        return data

    def first(self, situation):
        placed = situation.document.placing.tone
        return {"mark": next((tone.mark for tone in situation.document.tones if tone.name == placed), None)}


def _usual_zone(situation):
    return situation.words.zone(default_zone(situation.brief.choice.school, situation.brief.medium))


def _line(situation):
    return {
        "school": situation.school,
        "placed": placed_line(situation.plan, situation.words),
        "wait": situation.wait,
        "why": explain.why_setting(situation.plan) if situation.plan else "",
    }


def others_of(situation):
    """Other schools in words, for the table beside the chosen one."""
    if situation.plan is None:
        return ()
    now = score(situation.plan).value
    return tuple(
        {
            "key": other.school,
            "name": other.name,
            "difference": "" if other.difference_stops is None else counted_stops(-other.difference_stops, signed=True),
            "places": "" if other.zone is None else f"{other.places} on {situation.words.zone(other.zone)}",
            "lost": ", ".join(other.lost) or "nothing",
            "nearer": not other.why_not and other.misses < now - LEAST_GAIN,
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
    data = form.cleaned_data
    return actions.place_tone(scene, by, data["mark"], zone=data["zone"], printed=data["print"])


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
