"""The edge of results: files, what kind they are, three places, a reason."""

from django import forms

from dimgrey.core.errors import CoreError
from dimgrey.core.results.resultkinds import KINDS
from dimgrey.scenes.forms import ACCEPT
from dimgrey.web.forms import PlainForm, text_input

MOST_AT_ONCE = 40
POINTS = ("p1", "p2", "p3")


class ManyFiles(forms.FileInput):
    allow_multiple_selected = True


class FilesField(forms.FileField):
    """Any number of files up to MOST_AT_ONCE, as a list."""

    widget = ManyFiles({"accept": ACCEPT})

    def clean(self, data, initial=None):
        files = [each for each in (data if isinstance(data, list | tuple) else [data]) if each]
        if not files:
            raise forms.ValidationError("Choose a picture first.", code="no-file")
        if len(files) > MOST_AT_ONCE:
            raise forms.ValidationError(f"At most {MOST_AT_ONCE} files at once (got {len(files)}).", code="files-many")
        return files


def kind_choices():
    return [("", "told from the file"), *((kind.name, kind.words) for kind in KINDS.values())]


class ResultsForm(PlainForm):
    """Files that came of a frame. group: the file is one of several that a script sends one by one."""

    ids = {"files": "result-files", "kind": "result-kind"}
    files = FilesField(label="Pictures that came of it")
    kind = forms.ChoiceField(required=False, choices=kind_choices, label="They are")
    group = forms.BooleanField(required=False, widget=forms.HiddenInput)


class KindForm(PlainForm):
    ids = {"kind": "kind-of-result"}
    kind = forms.ChoiceField(required=False, choices=kind_choices, label="This is")


class PointsForm(PlainForm):
    """Where three key tones of the plan lie in a result, in percent, and whether it is mirrored or a negative."""

    p1 = forms.CharField(max_length=20, widget=text_input("40, 62"))
    p2 = forms.CharField(max_length=20, widget=text_input("40, 62"))
    p3 = forms.CharField(max_length=20, widget=text_input("40, 62"))
    is_mirrored = forms.BooleanField(required=False, label="Mirrored")
    is_negative = forms.BooleanField(required=False, label="A negative")

    def __init__(self, data=None, pins=(), **kwargs):
        super().__init__(data, **kwargs)
        for name, pin in zip(POINTS, pins, strict=False):
            self.fields[name].label = f"{pin.mark} {pin.name}"
        self.matched = [self[name] for name, _ in zip(POINTS, pins, strict=False)]

    def places(self):
        """Three places as fractions. Raises CoreError."""
        try:
            there = [tuple(float(cell) / 100 for cell in self.cleaned_data[name].split(",")) for name in POINTS]
        except (ValueError, KeyError):
            there = []
        if len(there) != 3 or any(len(point) != 2 or not all(-1 <= x <= 2 for x in point) for point in there):
            raise CoreError("Write the three places as percent of width and height: 40, 62.", code="points")
        return there


class ApplyForm(PlainForm):
    """Which proposal is applied."""

    key = forms.CharField(max_length=120, widget=forms.HiddenInput)


class LearnForm(PlainForm):
    """Which frames are drawn over time."""

    item = forms.CharField(required=False, max_length=120, widget=forms.HiddenInput)
