"""The edge of outings: dates, places and times as people write them, or a sentence that says how to mend it."""

from django import forms

from dimgrey.core.errors import CoreError
from dimgrey.core.sky.clock import parse_clock, parse_day, zone_named
from dimgrey.core.sky.conditions import require_conditions
from dimgrey.core.sky.coordinates import format_coordinates, parse_coordinates
from dimgrey.core.sky.terrain import format_terrain, parse_terrain
from dimgrey.outings import gpx
from dimgrey.outings.actions import CHECKLIST
from dimgrey.outings.day.home import NO_DAY, SINGLE
from dimgrey.web.forms import CoreField, PlainForm, TypedForm, choices, text_input

MOST_DIGITS = 18


def _zone(text):
    return zone_named(text).key


class NewOutingForm(PlainForm):
    title = forms.CharField(max_length=120)
    zone = CoreField(_zone, required=False)


def _text(label, rows, max_length):
    widget = forms.Textarea({"rows": rows})
    return forms.CharField(max_length=max_length, required=False, label=label, widget=widget)


class FactsForm(PlainForm):
    """What an outing is: title, intent, date, place."""

    title = forms.CharField(max_length=120, label="Title")
    date = CoreField(parse_day, label="Day", widget=forms.DateInput({"type": "date"}))
    place_name = forms.CharField(max_length=120, required=False, label="Place", widget=text_input("name of the place"))
    coordinates = CoreField(
        parse_coordinates, max_length=80, label="Latitude and longitude", widget=text_input("51.4512, -2.6183")
    )
    zone = CoreField(_zone, required=True, label="Time zone")
    terrain = CoreField(
        parse_terrain,
        max_length=400,
        label="Hills and walls, by direction and height",
        widget=text_input("N 4, E 12, 200 8"),
    )
    tidal = forms.BooleanField(required=False, label="has a tide")
    forecast = forms.BooleanField(required=False, label="show a simulated forecast (made up)")
    intent = _text("Intent, in a sentence or two", 2, 600)
    bring = _text("Bring", 2, 1000)
    notes = _text("Notes", 2, 4000)

    ids = {"title": "facts-title", "zone": "facts-zone"}

    def facts(self):
        data = dict(self.cleaned_data)
        place = data.pop("coordinates")
        data["terrain"] = [list(point) for point in self.typed.terrain or ()]
        data["latitude_deg"], data["longitude_deg"] = (
            (place.latitude_deg, place.longitude_deg) if place else (None, None)
        )
        return data

    @classmethod
    def of(cls, outing):
        """The form as it stands for an outing."""
        where = format_coordinates(outing.latitude_deg, outing.longitude_deg) if outing.has_place else ""
        values = {
            name: getattr(outing, name)
            for name in ("title", "intent", "place_name", "zone", "tidal", "forecast", "bring", "notes")
        }
        hills = format_terrain(outing.terrain)
        return cls(
            initial={
                **values,
                "terrain": hills,
                "coordinates": where,
                "date": outing.date.isoformat() if outing.date else "",
            }
        )


class GpxForm(PlainForm):
    file = forms.FileField(allow_empty_file=True)

    def clean_file(self):
        file = self.typed.file
        if file.size > gpx.MAX_BYTES:
            raise forms.ValidationError(
                f"The file has {file.size / 1e6:.0f} MB; a GPX file may have {gpx.MAX_BYTES / 1e6:.0f} MB."
            )
        try:
            return gpx.read(file.read())
        except CoreError as refused:
            raise forms.ValidationError(str(refused)) from None


def _hourly(label):
    return forms.FloatField(required=False, label=label, widget=text_input(decimal=True, maxlength=6))


class ConditionsForm(PlainForm):
    """The weather of one hour, typed over the forecast. All empty: the forecast again."""

    hour = forms.IntegerField(
        min_value=0, max_value=23, label="Hour", widget=text_input("14", inputmode="numeric", maxlength=2)
    )
    cloud_percent = _hourly("Cloud, %")
    visibility_km = _hourly("Visibility, km")
    wind_m_s = _hourly("Wind, m/s")
    rain_mm_h = _hourly("Rain, mm/h")
    tide_m = _hourly("Tide, m")

    def __init__(self, data=None, outing=None):
        super().__init__(data)
        if outing is not None and not outing.tidal:
            del self.fields["tide_m"]

    def clean(self):
        data = super().clean()
        try:
            require_conditions(**{name: value for name, value in data.items() if name != "hour"})
        except CoreError as refused:
            self.add_error(refused.parameter if refused.parameter in self.fields else None, str(refused))
        return data

    def values(self):
        return {name: value for name, value in self.cleaned_data.items() if name != "hour"}


class MomentForm(PlainForm):
    """A moment of the sky sheet and the means that it is seen through: a scene's number, and another filter."""

    time = CoreField(parse_clock)
    through = forms.IntegerField(required=False)
    filter = forms.CharField(max_length=60, required=False)


class CheckForm(PlainForm):
    """A tick on the leaving list."""

    code = forms.ChoiceField(
        choices=choices(CHECKLIST), error_messages={"invalid_choice": "There is no such item on the list."}
    )
    checked = forms.BooleanField(required=False)


class DismissForm(PlainForm):
    """A caution that is put away, or shown again."""

    code = forms.CharField(max_length=40)
    back = forms.BooleanField(required=False)


class OrderForm(TypedForm):
    """The scenes' order as the page shows it, as numbers; what is no number is passed over."""

    def pks(self):
        return [int(pk) for pk in self.data.getlist("scene") if pk.isdecimal() and len(pk) <= MOST_DIGITS]


class OlderForm(PlainForm):
    """Which of the older outings are asked for: a year, those without a day, or the single scenes."""

    of = forms.RegexField(rf"^([12]\d{{3}}|{NO_DAY}|{SINGLE})$")
    page = forms.IntegerField(required=False, min_value=1)
