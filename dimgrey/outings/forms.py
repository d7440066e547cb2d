"""The edge of outings: dates, places and times as people write them, or a sentence that says how to mend it."""

from django import forms

from dimgrey.core.errors import CoreError
from dimgrey.core.sky.clock import parse_clock, parse_day, zone_named
from dimgrey.core.sky.places import format_coordinates, parse_coordinates
from dimgrey.outings import gpx
from dimgrey.scenes.forms import CoreField


class NewOutingForm(forms.Form):
    title = forms.CharField(max_length=120)
    zone = CoreField(lambda text: zone_named(text).key, required=False)


class FactsForm(forms.Form):
    """What an outing is: title, intent, date, place."""

    title = forms.CharField(max_length=120)
    intent = forms.CharField(max_length=600, required=False)
    date = CoreField(parse_day)
    place_name = forms.CharField(max_length=120, required=False)
    coordinates = CoreField(parse_coordinates, max_length=80)
    zone = CoreField(lambda text: zone_named(text).key, required=True)
    tidal = forms.BooleanField(required=False)
    bring = forms.CharField(max_length=1000, required=False)
    notes = forms.CharField(max_length=4000, required=False)

    def facts(self):
        data = dict(self.cleaned_data)
        place = data.pop("coordinates")
        data["latitude_deg"], data["longitude_deg"] = (
            (place.latitude_deg, place.longitude_deg) if place else (None, None)
        )
        return data

    @classmethod
    def of(cls, outing):
        """The form as it stands for an outing."""
        where = format_coordinates(outing.latitude_deg, outing.longitude_deg) if outing.has_place else ""
        values = {
            name: getattr(outing, name) for name in ("title", "intent", "place_name", "zone", "tidal", "bring", "notes")
        }
        return cls(initial={**values, "coordinates": where, "date": outing.date.isoformat() if outing.date else ""})


class GpxForm(forms.Form):
    file = forms.FileField(allow_empty_file=True)

    def clean_file(self):
        file = self.cleaned_data["file"]
        if file.size > gpx.MAX_BYTES:
            raise forms.ValidationError(
                f"The file has {file.size / 1e6:.0f} MB; a GPX file may have {gpx.MAX_BYTES / 1e6:.0f} MB."
            )
        try:
            return gpx.read(file.read())
        except CoreError as refused:
            raise forms.ValidationError(str(refused)) from None


class ConditionsForm(forms.Form):
    """The weather of one hour, typed over the forecast. All empty: the forecast again."""

    hour = forms.IntegerField(min_value=0, max_value=23)
    cloud_percent = forms.FloatField(required=False)
    visibility_km = forms.FloatField(required=False)
    wind_m_s = forms.FloatField(required=False)
    rain_mm_h = forms.FloatField(required=False)
    tide_m = forms.FloatField(required=False)


class TimeForm(forms.Form):
    time = CoreField(parse_clock, required=True)


def first_error(form):
    """The first error of a form in words."""
    for name, errors in form.errors.items():
        text = errors[0]
        plain = text.startswith(("This field", "Enter a", "Ensure"))
        return f"{name.replace('_', ' ').capitalize()}: {text}" if plain else text
    return ""
