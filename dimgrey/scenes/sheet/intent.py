"""Intent: why this picture, in a sentence, and by parts that later steps check the plan against."""

from dataclasses import replace

from django import forms

from dimgrey.core.document import wishing
from dimgrey.core.measure.notation import parse_stops
from dimgrey.core.picture.measures import SCALES
from dimgrey.core.planning.wishes import contradictions
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, choices, text_input

PARTS = ("mood", "subject", "dark", "light", "textured", "empty", "scale")


def _words(label):
    return forms.CharField(max_length=200, required=False, label=label)


class IntentForm(ActForm):
    title = forms.CharField(max_length=120, label="Title")
    intent = forms.CharField(max_length=600, required=False, widget=forms.Textarea({"rows": 3}), label="Intent")
    mood = _words("Mood")
    subject = _words("Subject")
    dark = _words("Must be dark")
    light = _words("Must be light")
    textured = _words("Keeps texture")
    empty = _words("May be empty")
    scale = forms.ChoiceField(choices=[("", "not decided"), *choices(SCALES)], required=False, label="Tone scale")

    ids = {
        "title": "intent-title",
        "intent": "intent-text",
        "dark": "must-dark",
        "light": "must-light",
        "textured": "must-texture",
        "empty": "may-empty",
    }

    def first(self, situation):
        wanted = situation.document.wanted
        return {
            "title": situation.title,
            "intent": situation.document.intent,
            **{key: getattr(wanted, key) for key in PARTS},
        }

    def parts(self):
        data = self.cleaned_data
        wanted = replace(self.document.wanted, **{key: data[key] for key in PARTS})
        return {"title": data["title"], "intent": data["intent"], "wanted": wanted}


class OrderForm(ActForm):
    """Which of two tones is to print lighter, and by how much."""

    lighter = forms.CharField(max_length=60, label="Lighter")
    darker = forms.CharField(max_length=60, label="than")
    zones = CoreField(
        lambda text: parse_stops(text, "zones"), required=True, label="by zones", widget=text_input("2", decimal=True)
    )

    ids = {"lighter": "order-lighter", "darker": "order-darker", "zones": "order-zones"}

    def __init__(self, data=None, document=None, situation=None):
        super().__init__(data, document, situation)
        for name in ("lighter", "darker"):
            attrs = {"class": "form-select", "id": self.ids[name]}
            self.fields[name].widget = forms.Select(attrs, choices(self.document.names))

    def clean_zones(self):
        zones = self.cleaned_data["zones"]
        if not 0 < zones <= 10:
            raise forms.ValidationError(f"A tone prints lighter by up to 10 zones, and by something (got {zones:g}).")
        return zones


def _order(scene, form, by):
    lighter, darker, zones = (form.cleaned_data[name] for name in ("lighter", "darker", "zones"))
    edit = lambda document: wishing.with_order(document, lighter, darker, zones)
    return actions.change(scene, by, f"{lighter} over {darker}", edit)


def _line(situation):
    wishes = situation.wishes
    return {
        "intent": situation.document.intent,
        "wished": "; ".join(wish.words for wish in wishes if not wish.guessed),
        "guessed": "; ".join(wish.words for wish in wishes if wish.guessed),
    }


def _editor(situation, forms, mark):
    return {
        "form": forms["intent"],
        "order": forms["order"] if len(situation.document.tones) > 1 else None,
        **_line(situation),
        "contradictions": contradictions(situation.brief),
    }


def _wishes(label, edit):
    return Act(ActForm, lambda scene, form, by: actions.change(scene, by, label, edit))


PART = Part(
    key="intent",
    title="Intent",
    order=10,
    line=_line,
    editor=_editor,
    opens=lambda situation: "Change" if situation.document.intent else "Write it",
    acts={
        "take-wishes": _wishes("wishes taken", wishing.with_wishes_taken),
        "order": Act(OrderForm, _order),
        "drop-wishes": _wishes("no wishes", wishing.without_wishes),
        "intent": Act(IntentForm, lambda scene, form, by: actions.set_parts(scene, by, "intent", **form.parts())),
    },
)
