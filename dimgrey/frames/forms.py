"""The edge of the log: actual settings, a note, a CSV file."""

from django import forms

from dimgrey.core.measure.stops import parse_aperture, parse_speed, parse_time
from dimgrey.scenes.forms import CoreField


class SettingsForm(forms.Form):
    """What was really set; an empty field keeps the plan's."""

    aperture = CoreField(parse_aperture)
    shutter = CoreField(parse_time)
    iso = CoreField(parse_speed)
    note = forms.CharField(max_length=500, required=False)

    def settings(self):
        return {k: self.cleaned_data[k] for k in ("aperture", "shutter", "iso") if self.cleaned_data[k]}


class LogForm(SettingsForm):
    token = forms.UUIDField()


class CsvForm(forms.Form):
    file = forms.FileField(allow_empty_file=True)
