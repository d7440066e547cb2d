"""The edge of light studies."""

from django import forms

from dimgrey.core.picture.crop import EDGES
from dimgrey.core.sky.wants import parse_heading
from dimgrey.results.forms import FilesField
from dimgrey.web.forms import CoreField, PlainForm, text_input


class StudyForm(PlainForm):
    """One subject: its name, its place, where the camera looks."""

    ids = {"title": "study-title", "outing": "study-outing", "heading": "study-heading"}
    title = forms.CharField(max_length=120, label="Subject", error_messages={"required": "Name the subject."})
    outing = forms.TypedChoiceField(required=False, coerce=int, empty_value=None, label="Place and clocks of")
    heading = CoreField(parse_heading, label="Camera looks to", widget=text_input("NE or 45"))

    def __init__(self, data, outings, **kwargs):
        super().__init__(data, **kwargs)
        self.fields["outing"].choices = [("", "no outing"), *((outing.pk, outing.title) for outing in outings)]

    @classmethod
    def of(cls, study, outings):
        """The form of a study."""
        first = {"title": study.title, "outing": study.outing_id, "heading": study.heading_deg}
        return cls(None, outings, initial=first)


class LightsForm(PlainForm):
    """Pictures for a study."""

    ids = {"files": "study-files"}
    files = FilesField(label="Pictures of it in other lights")


class ScenesForm(PlainForm):
    """Scenes for a study."""

    scenes = forms.TypedMultipleChoiceField(coerce=int, error_messages={"required": "Choose a scene."})

    def __init__(self, data, known):
        super().__init__(data)
        self.fields["scenes"].choices = [(pk, pk) for pk in known]


class TimeForm(PlainForm):
    """When a light was, by the clocks of the place."""

    at = forms.DateTimeField(
        required=False,
        widget=forms.DateTimeInput({"type": "datetime-local"}, format="%Y-%m-%dT%H:%M"),
        error_messages={"invalid": "Write day and time, such as 2026-09-01 15:50."},
    )
    note = forms.CharField(required=False, max_length=120)

    def moment(self, zone):
        at = self.typed.at
        return at.replace(tzinfo=zone) if at else None


class FrameForm(PlainForm):
    """Subject and crop of all pictures, in percent."""

    x = forms.FloatField(min_value=0, max_value=100, label="Subject from the left, %")
    y = forms.FloatField(min_value=0, max_value=100, label="from the top, %")
    left = forms.FloatField(min_value=0, max_value=90, label="Crop left, %")
    top = forms.FloatField(min_value=0, max_value=90, label="top, %")
    right = forms.FloatField(min_value=10, max_value=100, label="right, %")
    bottom = forms.FloatField(min_value=10, max_value=100, label="bottom, %")

    def clean(self):
        data = super().clean()
        for low, high in (("left", "right"), ("top", "bottom")):
            if low in data and high in data and data[high] - data[low] < 10:
                raise forms.ValidationError("The crop leaves nothing of the picture.", code="crop")
        return data

    def told(self):
        data = {name: value / 100 for name, value in self.cleaned_data.items()}
        return {"subject": [data[name] for name in "xy"], "crop": [data[edge] for edge in EDGES]}
