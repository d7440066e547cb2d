"""The edge of the light plan: lamps, subject, wishes as people write them, in metres or feet."""

from django import forms

from dimgrey.core.document.lighting import GROUND_WISHES, LightingPart
from dimgrey.core.lamps.lamp import KINDS
from dimgrey.core.lamps.patterns import PATTERNS
from dimgrey.core.lamps.reflectances import CLOTH, GROUND, HAIR, SKIN, of_kind
from dimgrey.core.lamps.subjects import SITTER, TABLE
from dimgrey.core.measure.notation import parse_aperture, parse_time
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.planning.zones import parse_zone
from dimgrey.scenes.acts import ActForm
from dimgrey.web.forms import CoreField, choices, text_input

FOOT_M = 0.3048
KIND_WORDS = {"lasting": "lasting lamp", "flash": "flash", "window": "window", "reflector": "reflector"}


def shown_length(metres, unit):
    """Metres as the field shows them."""
    return round(metres / (FOOT_M if unit == "ft" else 1.0), 2)


def in_metres(length, unit):
    """What was typed, in metres."""
    return round(length * (FOOT_M if unit == "ft" else 1.0), 4)


def named(kind):
    return [(surface.name, surface.name) for surface in of_kind(kind)]


class LightForm(ActForm):
    """An act on a light plan: it knows the unit that lengths are written in."""

    @property
    def unit(self):
        return self.document.lighting.unit if self.document.lighting else LightingPart().unit


class IndexForm(LightForm):
    """An act on one lamp. index: its place in the list, from 0."""

    index = forms.IntegerField(min_value=0, max_value=20, widget=forms.HiddenInput)


class MoveForm(IndexForm):
    """A lamp moved on the drawing: degrees, and metres whatever the unit."""

    angle_deg = forms.FloatField(min_value=-180, max_value=180)
    away_m = forms.FloatField(min_value=0, max_value=30)
    height_m = forms.FloatField(min_value=0, max_value=12)


class LampForm(IndexForm):
    """One lamp. reading: what a meter at the subject says of it alone, which sets its strength."""

    name = forms.CharField(max_length=40, label="Name")
    kind = forms.ChoiceField(choices=[(kind, KIND_WORDS[kind]) for kind in KINDS], label="Kind")
    angle_deg = forms.FloatField(min_value=-180, max_value=180, label="Angle from the camera, °")
    away = forms.FloatField(min_value=0, max_value=100, label="Along the floor")
    height = forms.FloatField(min_value=0, max_value=40, label="Height")
    width = forms.FloatField(min_value=0, max_value=20, label="Face wide")
    face = forms.FloatField(min_value=0, max_value=20, label="Face high")
    is_round = forms.BooleanField(required=False, label="round")
    strength = forms.FloatField(min_value=0, max_value=1e7, label="Strength")
    stops = forms.FloatField(min_value=-12, max_value=12, label="Power, stops")
    grid_deg = forms.FloatField(min_value=0, max_value=80, required=False, label="Grid, °")
    is_flagged = forms.BooleanField(required=False, label="a dark board keeps it off the ground")
    is_on = forms.BooleanField(required=False, label="on")
    follows_sky = forms.BooleanField(required=False, label="a window that follows the outing's sky")
    reading = forms.CharField(
        max_length=20, required=False, label="Or: it reads at the subject", widget=text_input("f/8, EV 9 or 500 lx")
    )

    def fields_of_lamp(self):
        """Fields of core.lamps.lamp.Lamp."""
        data, unit = self.cleaned_data, self.unit
        plain = ("name", "kind", "angle_deg", "is_round", "strength", "stops", "is_flagged", "is_on", "follows_sky")
        return {
            **{name: data[name] for name in plain},
            "grid_deg": data["grid_deg"] or 0.0,
            "away_m": in_metres(data["away"], unit),
            "height_m": in_metres(data["height"], unit),
            "width_m": in_metres(data["width"], unit),
            "face_m": in_metres(data["face"], unit),
        }

    @staticmethod
    def first_of(part, unit):
        """What stands in the fields of a lamp. part: Lamp."""
        return {
            **{
                name: getattr(part, name) for name in ("name", "kind", "is_round", "is_flagged", "is_on", "follows_sky")
            },
            **{name: f"{getattr(part, name):.6g}" for name in ("angle_deg", "strength", "stops", "grid_deg")},
            **{
                name: f"{shown_length(getattr(part, field), unit):g}"
                for name, field in (
                    ("away", "away_m"),
                    ("height", "height_m"),
                    ("width", "width_m"),
                    ("face", "face_m"),
                )
            },
        }


class PatternForm(LightForm):
    pattern = forms.ChoiceField(choices=[(key, pattern.title) for key, pattern in PATTERNS.items()])


class SubjectForm(LightForm):
    """What is lit, before what, and how the camera is set while the scene has no plan."""

    subject = forms.ChoiceField(choices=[(SITTER, "sitter"), (TABLE, "table")], label="Subject")
    skin = forms.ChoiceField(choices=named(SKIN), label="Skin")
    hair = forms.ChoiceField(choices=named(HAIR), label="Hair")
    clothes = forms.ChoiceField(choices=named(CLOTH), label="Clothes")
    is_bold = forms.BooleanField(required=False, label="bold pattern")
    ground = forms.ChoiceField(choices=named(GROUND), label="Ground")
    ground_wish = forms.ChoiceField(choices=choices(GROUND_WISHES), label="Hair and shoulder shall")
    ground_away = forms.FloatField(min_value=0.1, max_value=33, label="Ground behind it")
    camera_away = forms.FloatField(min_value=0.1, max_value=33, label="Camera before it")
    ambient_lux = forms.FloatField(min_value=0, max_value=100000, label="Light of the room, lux")
    aperture = CoreField(lambda text: format_aperture(parse_aperture(text)), label="Aperture")
    shutter = CoreField(lambda text: format_time(parse_time(text)), label="Time")
    unit_of_length = forms.ChoiceField(choices=[("m", "metres"), ("ft", "feet")], label="Lengths in")

    def parts(self):
        """Fields of the document's LightingPart."""
        data, unit = self.cleaned_data, self.unit
        plain = ("subject", "skin", "hair", "clothes", "is_bold", "ground", "ground_wish", "ambient_lux")
        return {
            **{name: data[name] for name in plain},
            "ground_m": in_metres(data["ground_away"], unit),
            "camera_m": in_metres(data["camera_away"], unit),
            "unit": data["unit_of_length"],
            **{name: data[name] for name in ("aperture", "shutter") if data[name]},
        }

    @staticmethod
    def first_of(lighting):
        """What stands in the fields."""
        plain = (
            "subject",
            "skin",
            "hair",
            "clothes",
            "is_bold",
            "ground",
            "ground_wish",
            "ambient_lux",
            "aperture",
            "shutter",
        )
        return {
            **{name: getattr(lighting, name) for name in plain},
            "ground_away": f"{shown_length(lighting.ground_m, lighting.unit):g}",
            "camera_away": f"{shown_length(lighting.camera_m, lighting.unit):g}",
            "unit_of_length": lighting.unit,
        }


class WishForm(LightForm):
    """What a place shall be: a zone, or zones over another place."""

    place = forms.CharField(max_length=20)
    zone = forms.CharField(max_length=10, label="On zone", widget=text_input("VI, or +1"))
    over = forms.CharField(max_length=20, required=False)

    def clean_zone(self):
        text = self.cleaned_data["zone"].replace("−", "-").strip()
        try:
            return float(text) if text.lstrip("+-").replace(".", "", 1).isdigit() else parse_zone(text)
        except ValueError as refused:
            raise forms.ValidationError(str(refused)) from None


class PlaceForm(LightForm):
    place = forms.CharField(max_length=20)


class NamedForm(LightForm):
    """Lamps kept under a name."""

    name = forms.CharField(max_length=40, error_messages={"required": "Give these lamps a name to keep them under."})


class BindForm(LightForm):
    """A tone of the scene and the place that has its light, "" for none."""

    tone = forms.CharField(max_length=60)
    place = forms.CharField(max_length=20, required=False)
