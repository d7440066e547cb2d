"""The edge of pages that make scenes, and of what is asked of a picture. Acts have their forms beside their parts."""

from django import forms

from dimgrey.core.planning.media import KINDS
from dimgrey.web.forms import PlainForm, TypedForm, choices

ACCEPT = "image/*,.dng,.exr,.heic,.tif,.tiff"


class NewSceneForm(PlainForm):
    """kiln: the made-up picture that ships with the program, for who has none at hand."""

    title = forms.CharField(max_length=120, required=False, label="What is the scene?")
    kind = forms.ChoiceField(choices=choices(KINDS), initial="film", label="Taken on", required=False)
    kiln = forms.BooleanField(required=False, widget=forms.HiddenInput)
    picture = forms.FileField(
        required=False, allow_empty_file=True, label="Picture of it", widget=forms.FileInput({"accept": ACCEPT})
    )

    def clean_title(self):
        if not self.typed.title and not (self.files or self.data.get("kiln")):
            raise forms.ValidationError("Name the scene, or give it a picture.")
        return self.typed.title


class OutingNumberForm(TypedForm):
    """The outing that a new scene belongs to, if any."""

    outing = forms.CharField(max_length=18, required=False)

    def number(self):
        return self.typed.outing if self.is_valid() else ""


class SceneFileForm(PlainForm):
    file = forms.FileField(allow_empty_file=True, label="Scene file (.json)")


class PlaceInPictureForm(TypedForm):
    """Fractions of the picture's width and height."""

    x = forms.FloatField(min_value=0, max_value=1)
    y = forms.FloatField(min_value=0, max_value=1)


class NearerForm(TypedForm):
    """Whether every pair of changes is tried too."""

    deeply = forms.BooleanField(required=False)


class ContourForm(TypedForm):
    """The medium's ends in zones, and whether the map stands alone, for paper."""

    low = forms.FloatField(required=False, min_value=-20, max_value=20)
    high = forms.FloatField(required=False, min_value=-20, max_value=20)
    alone = forms.BooleanField(required=False)

    def outer(self):
        low, high = self.typed.low, self.typed.high
        return (0.0 if low is None else low, 10.0 if high is None else high)


class SentForm(TypedForm):
    """What comes along with every act: the editors that stand open, and the page to go back to."""

    open = forms.CharField(required=False, max_length=2000)
    page = forms.CharField(required=False, max_length=20)

    def opened(self):
        return self.typed.open.split(",") if self.is_valid() else ()

    def page_name(self):
        return self.typed.page if self.is_valid() else ""
