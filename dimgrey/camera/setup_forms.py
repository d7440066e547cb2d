"""The edge of setups: sliders, names, files."""

from django import forms

from dimgrey.core.camera.setups import (
    EFFECTS,
    FILES,
    ONE_SIDED,
    SLOPE_AT_END,
    SURFACE_EFFECTS,
    TONE_EFFECTS,
    name_of,
    setup,
)
from dimgrey.core.colour.chain import CHANNEL_MIXES
from dimgrey.core.errors import CoreError
from dimgrey.web.forms import PlainForm, TypedForm, choices

SLIDER_STEPS = 100
"""A slider's ends, for the effects' -1 and +1."""
MOST_TAG = 30


def slider_name(effect):
    return effect.replace(" ", "_")


class Slider(forms.NumberInput):
    input_type = "range"


def said(value):
    """A slider's value, -100..+100, as it stands beside it, on the common scale that advice, history and files use.

    "" for what is no number.
    """
    try:
        return f"{float(value or 0) / SLIDER_STEPS:+.2f}".replace("-", "−").replace("+0.00", "0.00")
    except ValueError:
        return ""


def _slider(effect, words):
    low = 0 if effect in ONE_SIDED else -SLIDER_STEPS
    called = name_of(effect)
    attrs = {
        "min": low,
        "max": SLIDER_STEPS,
        "step": 5,
        "aria-label": f"{called}: {words}",
        "class": "slide",
    }
    return forms.FloatField(
        required=False,
        label=called.capitalize(),
        widget=Slider(attrs),
        error_messages={"invalid": f"{called.capitalize()} is a number."},
    )


class SetupForm(PlainForm):
    """A setup as it is edited; the sliders run to 100 for an effect of 1. made() gives the core's Setup."""

    name = forms.CharField(max_length=60, required=False, label="Name")
    camera = forms.CharField(max_length=18, required=False, label="Camera")
    filter = forms.CharField(
        max_length=20, required=False, label="Filter", widget=forms.Select(choices=choices(CHANNEL_MIXES))
    )
    protection = forms.FloatField(
        required=False, label="Highlight protection, stops", widget=forms.Select(choices=choices("012"))
    )
    file = forms.CharField(max_length=20, required=False, label="File", widget=forms.Select(choices=choices(FILES)))
    notes = forms.CharField(max_length=1000, required=False, label="Notes", widget=forms.Textarea({"rows": 2}))
    tags = forms.CharField(max_length=200, required=False, label="Tags, with commas")
    scene = forms.CharField(max_length=18, required=False, label="Seen on")

    ids = {"scene": "on-scene", "filter": "setup-filter", "file": "setup-file-kind", "name": "setup-name"}

    def __init__(self, data=None, made=None, cameras=(), scenes=(), camera=None, scene=None):
        first = self._first(made, camera, scene) if made else None
        super().__init__(data, initial=first)
        for effect, words in EFFECTS.items():
            self.fields[slider_name(effect)] = _slider(effect, words)
        camera_choices = [("", "any"), *((str(each.pk), each.name) for each in cameras)]
        self.fields["camera"].widget = forms.Select({"class": "form-select"}, camera_choices)
        scene_choices = [(str(each.pk), each.title) for each in scenes]
        self.fields["scene"].widget = forms.Select({"class": "form-select", "id": "on-scene"}, scene_choices)
        self.cameras, self.scenes = cameras, scenes

    @staticmethod
    def _first(made, camera, scene):
        return {
            "name": made.name,
            "camera": str(camera.pk) if camera else "",
            "filter": made.filter,
            "protection": f"{made.protection_stops:g}",
            "file": made.file,
            "notes": made.notes,
            "tags": ", ".join(made.tags),
            "scene": str(scene.pk) if scene else "",
            **{slider_name(effect): round(made.effect(effect) * SLIDER_STEPS) for effect in EFFECTS},
        }

    def _sliders(self, effects):
        """(bound field, what it does, its value in words) of each effect."""
        fields = [(effect, self[slider_name(effect)]) for effect in effects]
        return [(field, EFFECTS[effect], said(field.value())) for effect, field in fields]

    @property
    def slope_percent(self):
        """What an end of the curve's sliders does to the slope, per cent."""
        return round(100 * SLOPE_AT_END)

    @property
    def curve(self):
        return self._sliders(TONE_EFFECTS)

    @property
    def surface(self):
        return self._sliders(SURFACE_EFFECTS)

    def made(self, usual_name=""):
        """The core's Setup. Raises CoreError for what is not a setup. usual_name: for one without a name."""
        if not self.is_valid():
            raise CoreError(self.sentence(), code="setup")
        typed = self.typed
        effects = {effect: (self.cleaned_data[slider_name(effect)] or 0.0) / SLIDER_STEPS for effect in EFFECTS}
        tags = [tag.strip()[:MOST_TAG] for tag in typed.tags.split(",") if tag.strip()]
        return setup(
            typed.name or usual_name,
            effects,
            typed.filter or "none",
            typed.protection or 0.0,
            typed.file or "both",
            typed.notes,
            tags,
        )

    def _picked(self, name, rows):
        self.is_valid()
        return next((row for row in rows if str(row.pk) == self.cleaned_data.get(name)), None)

    def camera_chosen(self):
        return self._picked("camera", self.cameras)

    def scene_chosen(self):
        return self._picked("scene", self.scenes)


class AskForm(TypedForm):
    """What a page of setups was opened with: the camera to carry to, the scene to see it on."""

    to = forms.CharField(max_length=18, required=False)
    scene = forms.CharField(max_length=18, required=False)
    camera = forms.CharField(max_length=18, required=False)

    def number(self, name):
        """The number that was asked for, or None."""
        text = getattr(self.typed, name) if self.is_valid() else ""
        return int(text) if text.isascii() and text.isdecimal() else None

    def picked(self, name, rows):
        """The row whose number was asked for, or None."""
        self.is_valid()
        return next((row for row in rows if str(row.pk) == self.cleaned_data.get(name)), None)


class SetupFileForm(TypedForm):
    file = forms.FileField(allow_empty_file=True)
