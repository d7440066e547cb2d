"""Intent: why this picture, in a sentence, and by parts that later steps check the plan against."""

from dataclasses import replace

from django import forms

from dimgrey.core.document import wishing
from dimgrey.core.picture.measures import SCALES
from dimgrey.core.planning.wishes import contradictions
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import choices

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
        "drop-wishes": _wishes("no wishes", wishing.without_wishes),
        "intent": Act(IntentForm, lambda scene, form, by: actions.set_parts(scene, by, "intent", **form.parts())),
    },
)
