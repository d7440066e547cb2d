"""The edge of the scene desk: what was typed becomes parts of a scene document, or a sentence that says how to mend it."""

from django import forms

from dimgrey.core.colour.chain import CHANNEL_MIXES, LIGHTS
from dimgrey.core.colour.filters import COLOURED, POLARIZER_STOPS
from dimgrey.core.colour.responses import RESPONSES
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.brackets import require_bracket
from dimgrey.core.measure.readings import parse_distance, parse_reading
from dimgrey.core.measure.stops import INCREMENTS, parse_aperture, parse_speed, parse_stops, parse_time
from dimgrey.core.picture.crop import RATIOS, largest_crop, require_crop
from dimgrey.core.planning.media import KINDS
from dimgrey.core.planning.placing import SCHOOLS
from dimgrey.core.planning.plan import ROLES
from dimgrey.core.planning.zones import parse_zone
from dimgrey.core.sky.clock import parse_clock
from dimgrey.core.sky.daylight import KINDS as DAYLIGHT
from dimgrey.core.sky.light import WANTS, parse_heading, parse_tilt

SCALES = ("full scale", "graphic", "high-key", "low-key", "soft")
WANTED_PARTS = ("mood", "subject", "dark", "light", "textured", "empty", "scale")


def choices(values):
    return [(value, value) for value in values]


class CoreField(forms.CharField):
    """A text field whose rule is a core function; the core's sentence is the field's error."""

    def __init__(self, parse, **kwargs):
        self.parse = parse
        super().__init__(**{"required": False, "max_length": 60, **kwargs})

    def clean(self, value):
        text = super().clean(value)
        if text in ("", None):
            return None
        try:
            return self.parse(text)
        except CoreError as refused:
            raise forms.ValidationError(str(refused), code=refused.code) from None


class ActForm(forms.Form):
    """An act on a scene. `stamp` is the state the page showed; `document` is there for increments and defaults."""

    stamp = forms.IntegerField(min_value=0)

    def __init__(self, data, document):
        self.document = document
        super().__init__(data)

    @property
    def increment(self):
        return self.document.get("increment", "third")

    def sentence(self):
        """The first error in words, for the line under the form."""
        for name, errors in self.errors.items():
            text = errors[0]
            plain = text.startswith(("This field", "Enter a", "Select a", "Ensure"))
            return f"{name.replace('_', ' ').capitalize()}: {text}" if plain else text
        return ""


class PinForm(ActForm):
    x = forms.FloatField(min_value=0, max_value=1)
    y = forms.FloatField(min_value=0, max_value=1)


class MarkForm(ActForm):
    mark = forms.RegexField(r"^[A-Z]{1,2}$")


class ReadingForm(MarkForm):
    """One typed reading: EV, or shutter and aperture."""

    reading = forms.CharField(max_length=60, required=False)
    kind = forms.ChoiceField(choices=choices(("spot", "incident", "whole frame", "grey card")), required=False)
    replace = forms.BooleanField(required=False)
    others = forms.BooleanField(required=False)

    def clean_reading(self):
        return read_text(self.cleaned_data["reading"], self.document)

    def clean(self):
        data = super().clean()
        if data.get("reading") and data.get("kind"):
            data["reading"]["kind"] = data["kind"]
        return data


def read_text(text, document):
    try:
        return parse_reading(text, str(document.get("medium", {}).get("iso", 100)), document.get("increment", "third"))
    except CoreError as refused:
        raise forms.ValidationError(str(refused), code=refused.code) from None


class ReadingIndexForm(MarkForm):
    index = forms.IntegerField(min_value=0, max_value=1000)


class AddToneForm(ActForm):
    name = forms.CharField(max_length=60, required=False)
    reading = forms.CharField(max_length=60, required=False)

    def clean_reading(self):
        text = self.cleaned_data["reading"].strip()
        return read_text(text, self.document) if text else None


class ToneForm(MarkForm):
    name = forms.CharField(max_length=60)
    role = forms.ChoiceField(choices=choices(ROLES), required=False)
    texture = forms.ChoiceField(choices=choices(("needed", "free")), required=False)

    def described(self):
        return {key: self.cleaned_data[key] for key in ("name", "role", "texture") if self.cleaned_data.get(key)}


class PlaceForm(MarkForm):
    zone = CoreField(parse_zone, required=True)


class SchoolForm(ActForm):
    school = forms.ChoiceField(choices=choices(SCHOOLS))
    hold = forms.ChoiceField(choices=choices(("before filter", "after filter")), required=False)
    under = forms.ChoiceField(choices=choices(("0", "0.3333", "2")), required=False)
    white = forms.ChoiceField(choices=choices(("textured", "pure")), required=False)
    shadows = forms.ChoiceField(choices=choices(("full", "empty")), required=False)

    def targets(self):
        """What the placing aims at beside its tone; what was not sent stays as it was, marked by absence."""
        data, found = self.cleaned_data, {}
        if data["hold"]:
            found["hold"] = data["hold"]
        if data["under"]:
            found["under_stops"] = round(float(data["under"]), 4) or None
        if data["white"]:
            found["white"] = data["white"] if data["white"] == "pure" else None
        if data["shadows"]:
            found["shadows"] = data["shadows"] if data["shadows"] == "empty" else None
        return found


class FilterForm(ActForm):
    """What is in front of the lens: coloured glass, its printed factor, neutral density, polarizer."""

    filter = forms.ChoiceField(choices=[("", "none"), *choices(COLOURED)], required=False)
    factor = forms.FloatField(min_value=1, max_value=100000, required=False)
    nd = CoreField(lambda text: parse_stops(text, "nd"))
    polarizer = forms.BooleanField(required=False)
    graduated = forms.ChoiceField(choices=choices(("", "1", "2", "3")), required=False)

    def clean_nd(self):
        stops = self.cleaned_data["nd"]
        if stops is not None and not 0 <= stops <= 20:
            raise forms.ValidationError(f"Neutral density is 0 to 20 stops (got {stops:g}). Density 0.3 is 1 stop.")
        return stops

    def filters(self):
        data, found = self.cleaned_data, []
        if data["filter"]:
            found.append({"name": data["filter"], **({"factor": data["factor"]} if data["factor"] else {})})
        if data["polarizer"]:
            found.append({"name": "polarizer", "stops": round(POLARIZER_STOPS, 4)})
        if data["nd"]:
            found.append({"name": "nd", "stops": data["nd"]})
        if data["graduated"]:
            found.append({"name": "graduated", "stops": int(data["graduated"])})
        return found


class SettingForm(ActForm):
    """Aperture or shutter to lead with; an empty one follows."""

    lead = forms.ChoiceField(choices=choices(("aperture", "shutter")))
    value = forms.CharField(max_length=24)

    def camera(self):
        return {**self.others(), self.cleaned_data["lead"]: self.cleaned_data["value"]}

    def others(self):
        return {k: v for k, v in self.document.get("camera", {}).items() if k not in ("aperture", "shutter")}

    def clean(self):
        data = super().clean()
        parse = parse_aperture if data.get("lead") == "aperture" else parse_time
        if data.get("value"):
            try:
                marked = parse(data["value"], self.increment)
            except CoreError as refused:
                raise forms.ValidationError({"value": str(refused)}) from None
            data["value"] = f"f/{marked.name}" if data["lead"] == "aperture" else _time_text(marked)
        return data


def _time_text(marked):
    return marked.name if "/" in marked.name or "m" in marked.name else f"{marked.name}s"


class CameraForm(ActForm):
    """Medium, speed, lens and spot: what the scene is taken with."""

    kind = forms.ChoiceField(choices=choices(KINDS))
    iso = forms.CharField(max_length=12)
    increment = forms.ChoiceField(choices=choices(INCREMENTS))
    light = forms.ChoiceField(choices=choices(LIGHTS))
    light_note = forms.CharField(max_length=120, required=False)
    response = forms.ChoiceField(choices=[("", "colour sensor"), *choices(RESPONSES)], required=False)
    channel_mix = forms.ChoiceField(choices=choices(CHANNEL_MIXES), required=False)
    reciprocity = forms.FloatField(min_value=1, max_value=2, required=False)
    focal_35mm = forms.FloatField(min_value=4, max_value=2000, required=False)
    spot_deg = forms.FloatField(min_value=0.1, max_value=30, required=False)
    magnification = forms.FloatField(min_value=0, max_value=20, required=False)
    calibration = CoreField(lambda text: parse_stops(text, "calibration"))
    through_filter = forms.BooleanField(required=False)

    def clean(self):
        data = super().clean()
        offset = data.get("calibration")
        if offset is not None and abs(offset) > 3:
            self.add_error("calibration", f"A meter's calibration offset is −3 to 3 stops (got {offset:g}).")
        try:
            data["iso"] = parse_speed(data.get("iso", ""), data.get("increment") or "third").name
        except CoreError as refused:
            self.add_error("iso", str(refused))
        return data

    def parts(self):
        """The parts of the document that this form decides; numbers the form does not show stay as they were."""
        data, before = self.cleaned_data, self.document
        same_kind = before.get("medium", {}).get("kind") == data["kind"]
        kept = dict(before.get("medium", {})) if same_kind else {}
        film = data["kind"] in ("film", "slide")
        medium = {**kept, "kind": data["kind"], "iso": int(data["iso"])}
        _put(medium, "response", data["response"] or None)
        _put(
            medium,
            "channel_mix",
            data["channel_mix"] if not film and not data["response"] and data["channel_mix"] != "none" else None,
        )
        table = "table" in kept.get("reciprocity", {})
        if not table:
            _put(
                medium,
                "reciprocity",
                {"exponent": data["reciprocity"], "onset_s": 1} if film and data["reciprocity"] else None,
            )
        lens, meter = dict(before.get("lens", {})), dict(before.get("meter", {}))
        _put(lens, "focal_35mm", data["focal_35mm"])
        _put(lens, "magnification", data["magnification"] or None)
        _put(meter, "spot_deg", data["spot_deg"])
        _put(meter, "calibration_stops", data["calibration"] or None)
        _put(meter, "through_filter", data["through_filter"] or None)
        return {
            "medium": medium,
            "increment": data["increment"],
            "light": data["light"],
            "light_note": data["light_note"],
            "lens": lens,
            "meter": meter,
        }


def _put(part, key, value):
    if value is None:
        part.pop(key, None)
    else:
        part[key] = value


class IntentForm(ActForm):
    """Why this picture: in a sentence, and by parts that later steps check the plan against."""

    title = forms.CharField(max_length=120)
    intent = forms.CharField(max_length=600, required=False, widget=forms.Textarea)
    mood = forms.CharField(max_length=200, required=False)
    subject = forms.CharField(max_length=200, required=False)
    dark = forms.CharField(max_length=200, required=False)
    light = forms.CharField(max_length=200, required=False)
    textured = forms.CharField(max_length=200, required=False)
    empty = forms.CharField(max_length=200, required=False)
    scale = forms.ChoiceField(choices=[("", ""), *choices(SCALES)], required=False)

    def parts(self):
        data, wanted = self.cleaned_data, dict(self.document.get("wanted", {}))
        for key in WANTED_PARTS:
            _put(wanted, key, data[key] or None)
        return {"title": data["title"], "intent": data["intent"], "wanted": wanted}


class ViewForm(ActForm):
    """Where the camera looks and when, whether there is sky, and the light that is wanted."""

    heading = CoreField(parse_heading)
    tilt = CoreField(parse_tilt)
    time = CoreField(parse_clock)
    sky = forms.BooleanField(required=False)
    lights = forms.MultipleChoiceField(choices=[(code, want.label) for code, want in WANTS.items()], required=False)

    def parts(self):
        data = self.cleaned_data
        view, wanted = {}, dict(self.document.get("wanted", {}))
        _put(view, "heading_deg", data["heading"])
        _put(view, "tilt_deg", data["tilt"])
        _put(view, "time", data["time"].strftime("%H:%M") if data["time"] else None)
        _put(view, "sky", True if data["sky"] else None)
        _put(wanted, "lights", data["lights"] or None)
        return {"view": view, "wanted": wanted}


class BracketForm(ActForm):
    """Count, step and order of a bracket; no count takes it away."""

    count = forms.IntegerField(required=False)
    step = CoreField(lambda text: parse_stops(text, "bracket"))
    order = forms.CharField(max_length=8, required=False)

    def clean(self):
        data = super().clean()
        if data.get("count"):
            try:
                require_bracket(data["count"], data.get("step") or 1.0, data.get("order") or "0 - +")
            except CoreError as refused:
                raise forms.ValidationError(str(refused)) from None
        return data

    def bracket(self):
        data = self.cleaned_data
        if not data["count"]:
            return None
        found = require_bracket(data["count"], data["step"] or 1.0, data["order"] or "0 - +")
        return {"count": found.count, "step": round(found.step, 4), "order": found.order}


class KitForm(ActForm):
    """Items of the kit by name; an empty one leaves its part as it is."""

    camera = forms.CharField(max_length=60, required=False)
    lens = forms.CharField(max_length=60, required=False)
    film = forms.CharField(max_length=60, required=False)
    meter = forms.CharField(max_length=60, required=False)

    def names(self):
        return {
            kind: self.cleaned_data[kind] for kind in ("camera", "lens", "film", "meter") if self.cleaned_data[kind]
        }


class KitFilterForm(ActForm):
    filter = forms.CharField(max_length=60)


class WayOutForm(ActForm):
    code = forms.ChoiceField(choices=choices(("graduated", "contrast", "bracket", "let-go")))


class ShiftForm(ActForm):
    """By how many stops the light changed."""

    stops = CoreField(lambda text: parse_stops(text, "stops"), required=True)

    def clean_stops(self):
        stops = self.cleaned_data["stops"]
        if not 0 < abs(stops) <= 10:
            raise forms.ValidationError(f"The light changes by up to 10 stops, and by something (got {stops:g}).")
        return stops


class EstimateForm(ActForm):
    """A tone whose EV comes from the daylight guide."""

    name = forms.CharField(max_length=60, required=False)
    light = forms.ChoiceField(choices=choices(DAYLIGHT))


class NeedsForm(ActForm):
    """What aperture and time are chosen for."""

    near = CoreField(parse_distance)
    far = CoreField(parse_distance)
    speed = forms.FloatField(min_value=0, max_value=1000, required=False)
    distance = CoreField(parse_distance)
    motion = forms.ChoiceField(choices=choices(("", "freeze", "blur")), required=False)
    support = forms.ChoiceField(choices=choices(("tripod", "hand")), required=False)

    def clean(self):
        data = super().clean()
        near, far = data.get("near"), data.get("far")
        if near is not None and far is not None and not near < far:
            self.add_error("near", f"The near distance must lie before the far one (got {near:g} and {far:g} m).")
        if (near is None) != (far is None) and not self.errors:
            self.add_error("near", "Depth needs both a near and a far distance; far may be infinity.")
        return data

    def needs(self):
        data, found = self.cleaned_data, {}
        _put(found, "near_m", data["near"])
        _put(found, "far_m", "infinity" if data["far"] == float("inf") else data["far"])
        _put(found, "speed_m_s", data["speed"] or None)
        _put(found, "distance_m", data["distance"])
        _put(found, "motion", data["motion"] or None)
        _put(found, "support", data["support"] or None)
        return found


class TakeForm(ActForm):
    """A proposal that is taken: aperture, speed, neutral density."""

    aperture = CoreField(parse_aperture, required=True)
    iso = CoreField(parse_speed, required=True)
    nd = forms.FloatField(min_value=0, max_value=20, required=False)

    def parts(self):
        data = self.cleaned_data
        camera = {k: v for k, v in self.document.get("camera", {}).items() if k != "shutter"}
        medium = {**self.document.get("medium", {"kind": "film"}), "iso": int(data["iso"].name)}
        others = [glass for glass in self.document.get("filters", []) if glass["name"] != "nd"]
        nd = [{"name": "nd", "stops": data["nd"]}] if data["nd"] else []
        return {
            "camera": {**camera, "aperture": f"f/{data['aperture'].name}"},
            "medium": medium,
            "filters": [*others, *nd],
        }


class CropForm(ActForm):
    """A crop by its shape, or by its four edges when it was dragged."""

    ratio = forms.ChoiceField(choices=choices(("whole", "free", *RATIOS)))
    upright = forms.BooleanField(required=False)
    guides = forms.ChoiceField(choices=choices(("none", "thirds", "golden")), required=False)
    left = forms.FloatField(required=False)
    top = forms.FloatField(required=False)
    right = forms.FloatField(required=False)
    bottom = forms.FloatField(required=False)

    def crop(self, picture_ratio):
        """The crop part of a document for a picture of a ratio, or None for the whole. Raises OutOfRange."""
        data, before = self.cleaned_data, self.document.get("crop", {})
        if data["ratio"] == "whole":
            return None
        edges = [data[key] for key in ("left", "top", "right", "bottom")]
        guides = data["guides"] or before.get("guides", "none")
        if None not in edges:
            found = require_crop(*edges)
        elif data["ratio"] == "free":
            found = require_crop(*before.get("box", (0.1, 0.1, 0.9, 0.9)))
        else:
            box = before.get("box", (0, 0, 1, 1))
            centre = ((box[0] + box[2]) / 2, (box[1] + box[3]) / 2)
            found = largest_crop(data["ratio"], picture_ratio, data["upright"], centre)
        return {
            "box": [found.left, found.top, found.right, found.bottom],
            "ratio": data["ratio"],
            **({"upright": True} if data["upright"] else {}),
            "guides": guides,
        }


class WayForm(ActForm):
    """A filter or in-camera mix, as the table of ways names it."""

    way = forms.ChoiceField(choices=choices(("none", *COLOURED, *CHANNEL_MIXES)))


class PairForm(ActForm):
    a = forms.CharField(max_length=60)
    b = forms.CharField(max_length=60)


class NewSceneForm(forms.Form):
    title = forms.CharField(max_length=120, label="What is the scene?")
    kind = forms.ChoiceField(choices=choices(KINDS), initial="film", label="Taken on")
    picture = forms.FileField(required=False, allow_empty_file=True, label="Picture of it")


class SceneFileForm(forms.Form):
    file = forms.FileField(allow_empty_file=True, label="Scene file (.json)")


class PictureForm(forms.Form):
    picture = forms.FileField(allow_empty_file=True)
