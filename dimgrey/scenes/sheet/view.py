"""Light: where the camera looks and when, whether there is sky, and the light that is wanted."""

from dataclasses import replace

from django import forms

from dimgrey.core.document.model import View
from dimgrey.core.sky.clock import parse_clock
from dimgrey.core.sky.light import WANTS, compass_point, parse_heading, parse_tilt
from dimgrey.light.sky import wants_words
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, text_input


class ViewForm(ActForm):
    heading = CoreField(
        parse_heading, label="Camera looks, degrees from north", widget=text_input("0 north, 90 east", decimal=True)
    )
    tilt = CoreField(parse_tilt, label="Tilted up, degrees", widget=text_input("0", decimal=True))
    time = CoreField(parse_clock, label="Planned time", widget=text_input("16:40"))
    sky = forms.BooleanField(required=False, label="There is sky in the frame")
    lights = forms.MultipleChoiceField(
        choices=[(code, want.label) for code, want in WANTS.items()],
        required=False,
        label="Light it wants",
        widget=forms.CheckboxSelectMultiple,
    )

    ids = {"time": "planned-time", "sky": "has-sky"}

    def first(self, situation):
        view = situation.document.view
        return {
            "heading": _number(view.heading_deg),
            "tilt": _number(view.tilt_deg),
            "time": view.time,
            "sky": view.sky,
            "lights": list(situation.document.wanted.lights),
        }

    def parts(self):
        data = self.cleaned_data
        clock = data["time"].strftime("%H:%M") if data["time"] else ""
        view = View(data["heading"], data["tilt"], clock, data["sky"])
        return {"view": view, "wanted": replace(self.document.wanted, lights=tuple(data["lights"]))}


def _number(value):
    return "" if value is None else f"{value:g}"


def _line(situation):
    """Where the camera looks and what light it wants, in words."""
    heading, said = situation.document.view.heading_deg, []
    if heading is not None:
        said.append(f"looking {compass_point(heading)} ({heading:g}°)")
    if wants := wants_words(situation.document):
        said.append(f"wants {wants}")
    words = ", ".join(said)
    return {"words": situation.sky.short if situation.sky else words[:1].upper() + words[1:]}


PART = Part(
    key="view",
    title="Light",
    order=20,
    line=_line,
    editor=lambda situation, forms, mark: {
        "form": forms["view"],
        "sky": situation.sky,
        "outing": situation.scene.outing,
    },
    acts={
        "view": Act(ViewForm, lambda scene, form, by: actions.set_parts(scene, by, "view and light", **form.parts()))
    },
)
