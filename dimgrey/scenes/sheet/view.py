"""Light: where the camera looks and when, whether there is sky, and the light that is wanted."""

from dataclasses import replace

from django import forms

from dimgrey.core.document.edits import Refused
from dimgrey.core.document.lightplan import lamps_line
from dimgrey.core.document.model import PlacePart, View
from dimgrey.core.sky.clock import parse_clock
from dimgrey.core.sky.light import WANTS, compass_point, parse_heading, parse_tilt
from dimgrey.core.sky.places import format_coordinates
from dimgrey.light.sky import wants_words
from dimgrey.outings.actions import change_outing
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


def _offered(situation):
    """The place where the picture was taken, in words, while neither the scene nor its outing has one; "" for nothing to offer."""
    has_place = situation.scene.outing.has_place if situation.scene.outing else situation.document.place
    said = (situation.picture.shot or {}).get("place") if situation.picture else None
    return format_coordinates(*said) if said and not has_place else ""


def _take_place(scene, form, by):
    """The place of the picture as the scene's, or as its outing's, whose scenes share one. The day is the picture's, where it tells one."""
    shot = (scene.picture.shot or {}) if scene.picture else {}
    if not shot.get("place"):
        raise Refused("This picture tells no place.", code="no-place")
    latitude, longitude = shot["place"]
    if scene.outing:
        change_outing(scene.outing, latitude_deg=latitude, longitude_deg=longitude)
        return scene
    day = (shot.get("taken_at") or "")[:10]
    return actions.set_parts(scene, by, "place of the picture", place=PlacePart(latitude, longitude, date=day))


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
    return {
        "words": situation.sky.short if situation.sky else words[:1].upper() + words[1:],
        "lamps": lamps_line(situation.document),
        "pk": situation.scene.pk,
    }


PART = Part(
    key="view",
    title="Light",
    order=20,
    line=_line,
    editor=lambda situation, forms, mark: {
        "form": forms["view"],
        "sky": situation.sky,
        "outing": situation.scene.outing,
        "offered": _offered(situation),
    },
    acts={
        "view": Act(ViewForm, lambda scene, form, by: actions.set_parts(scene, by, "view and light", **form.parts())),
        "take-place": Act(ActForm, _take_place),
    },
)
