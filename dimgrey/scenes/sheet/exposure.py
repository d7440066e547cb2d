"""Exposure: time, aperture and speed in very large figures, the other pairs, and the timer."""

from dataclasses import replace

from django import forms

from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_aperture, parse_time
from dimgrey.core.measure.stops import (
    format_seconds,
    written_aperture,
    written_time,
)
from dimgrey.core.planning import explain
from dimgrey.core.planning.told import exposure_words, pairs_of, timer_seconds
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import choices, text_input


class SettingForm(ActForm):
    """Aperture or shutter to lead with; the other follows."""

    lead = forms.ChoiceField(choices=choices(("aperture", "shutter")), widget=forms.HiddenInput)
    value = forms.CharField(max_length=24, label="Or choose the time", widget=text_input("1/60"))

    ids = {"value": "lead-shutter"}

    def first(self, situation):
        return {"lead": "shutter"}

    def camera(self):
        leads = {"aperture": None, "shutter": None, self.cleaned_data["lead"]: self.cleaned_data["value"]}
        return replace(self.document.camera, **leads)

    def clean(self):
        data = super().clean()
        if data.get("value"):
            by_aperture = data.get("lead") == "aperture"
            parse, written = (parse_aperture, written_aperture) if by_aperture else (parse_time, written_time)
            try:
                data["value"] = written(parse(data["value"], self.increment))
            except CoreError as refused:
                raise forms.ValidationError({"value": str(refused)}) from None
        return data


def _line(situation):
    seconds = timer_seconds(situation.plan)
    return {
        "exposure": exposure_words(situation.plan),
        "wait": situation.wait,
        "why": explain.why_exposure(situation.plan) if situation.plan else "",
        "timer": f"{seconds:.2f}" if seconds else "",
        "timer_words": format_seconds(seconds) if seconds else "",
    }


PART = Part(
    key="exposure",
    title="Exposure",
    order=80,
    line=_line,
    editor=lambda situation, forms, mark: {"form": forms["setting"], "pairs": pairs_of(situation.plan)},
    opens=lambda situation: "Other pairs" if situation.plan else "",
    acts={
        "setting": Act(
            SettingForm,
            lambda scene, form, by: actions.set_parts(scene, by, "aperture and shutter", camera=form.camera()),
        )
    },
)
