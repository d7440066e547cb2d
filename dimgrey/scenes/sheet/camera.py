"""Camera: medium, speed, lens, meter and setup - what the scene is taken with."""

import json
from dataclasses import replace

from django import forms

from dimgrey.core.colour.chain import CHANNEL_MIXES, LIGHT_NAMES
from dimgrey.core.colour.responses import RESPONSES
from dimgrey.core.document.means import DEFAULT_SPOT_DEG, ReciprocityPart
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_speed, parse_stops
from dimgrey.core.planning.development import format_development
from dimgrey.core.planning.media import KINDS
from dimgrey.core.planning.told import plan_or_wait
from dimgrey.scenes import actions, meansactions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, choices, text_input

MOST_OFFSET_STOPS = 3
STEPS = [("third", "thirds"), ("half", "halves"), ("full", "whole stops")]
KIT_KINDS = ("camera", "lens", "film", "meter")


def _number(label, low, high, placeholder=""):
    return forms.FloatField(
        min_value=low, max_value=high, required=False, label=label, widget=text_input(placeholder, decimal=True)
    )


DEVELOPED = [
    ("", "as each scene asks"),
    *((str(step), f"{format_development(step)} for the whole roll") for step in range(-2, 3)),
]


class CameraForm(ActForm):
    kind = forms.ChoiceField(choices=choices(KINDS), label="Medium")
    iso = forms.CharField(max_length=12, label="ISO", widget=text_input(inputmode="numeric"))
    increment = forms.ChoiceField(choices=STEPS, label="Camera steps")
    light = forms.ChoiceField(choices=list(LIGHT_NAMES.items()), label="Light")
    light_note = forms.CharField(max_length=120, required=False, label="In words", widget=text_input("sun, haze, lamp"))
    own_iso = forms.CharField(
        max_length=12,
        required=False,
        label="Film's own ISO, if rated otherwise",
        widget=text_input("as rated", inputmode="numeric"),
    )
    response = forms.ChoiceField(
        choices=[("", "colour sensor"), *choices(name for name in RESPONSES if name != "eye")],
        required=False,
        label="Sees like",
    )
    channel_mix = forms.ChoiceField(choices=choices(CHANNEL_MIXES), required=False, label="In-camera filter")
    focal_35mm = _number("Lens, mm in 35 mm terms", 4, 2000, "50")
    spot_deg = _number("Spot, degrees", 0.1, 30, "1 (default)")
    magnification = _number("Magnification close up", 0, 20, "0")
    calibration = CoreField(
        lambda text: parse_stops(text, "calibration"),
        label="Meter offset, stops",
        widget=text_input("0", decimal=True),
    )
    reciprocity = _number("Reciprocity exponent", 1, 2, "not known")
    through_filter = forms.BooleanField(required=False, label="Metered through the filter")

    ids = {
        "light_note": "light-note",
        "channel_mix": "mix",
        "focal_35mm": "focal",
        "spot_deg": "spot",
        "through_filter": "through",
    }

    def first(self, situation):
        document, medium = situation.document, situation.document.medium
        mix = medium.channel_mix if isinstance(medium.channel_mix, str) else "none"
        return {
            "kind": medium.kind,
            "iso": medium.iso,
            "increment": document.increment,
            "light": document.light,
            "light_note": document.light_note,
            "own_iso": medium.own_iso or "",
            "response": medium.response or ("general panchromatic" if medium.is_film else ""),
            "channel_mix": mix,
            "reciprocity": _plain(medium.reciprocity.exponent if medium.reciprocity else None),
            "focal_35mm": _plain(document.lens.focal_35mm),
            "magnification": _plain(document.lens.magnification or None),
            "spot_deg": _plain(None if document.meter.spot_deg == DEFAULT_SPOT_DEG else document.meter.spot_deg),
            "calibration": _plain(document.meter.calibration_stops or None),
            "through_filter": document.meter.through_filter,
        }

    def clean(self):
        data = super().clean()
        offset = data.get("calibration")
        if offset is not None and abs(offset) > MOST_OFFSET_STOPS:
            most = MOST_OFFSET_STOPS
            self.add_error("calibration", f"A meter's calibration offset is −{most} to {most} stops (got {offset:g}).")
        try:
            data["iso"] = parse_speed(data.get("iso", ""), data.get("increment") or "third").name
        except CoreError as refused:
            self.add_error("iso", str(refused))
        try:
            own = (data.get("own_iso") or "").strip()
            data["own_iso"] = parse_speed(own, data.get("increment") or "third").name if own else ""
        except CoreError as refused:
            self.add_error("own_iso", str(refused))
        return data

    def parts(self):
        """The parts of the document that this form decides; numbers the form does not show stay as they were."""
        data, document = self.cleaned_data, self.document
        meter = replace(
            document.meter,
            spot_deg=data["spot_deg"] or DEFAULT_SPOT_DEG,
            calibration_stops=data["calibration"] or 0.0,
            through_filter=data["through_filter"],
        )
        lens = replace(document.lens, focal_35mm=data["focal_35mm"], magnification=data["magnification"] or 0.0)
        return {
            "medium": self.medium(),
            "increment": data["increment"],
            "light": data["light"],
            "light_note": data["light_note"],
            "lens": lens,
            "meter": meter,
        }

    def medium(self):
        data, before = self.cleaned_data, self.document.medium
        kept = before if before.kind == data["kind"] else type(before)(kind=data["kind"])
        film, response = kept.is_film, data["response"] or None
        mix = data["channel_mix"] if not film and not response and data["channel_mix"] != "none" else None
        if not film and not response and isinstance(kept.channel_mix, tuple) and data["channel_mix"] == "none":
            mix = kept.channel_mix  # measured weights, which the form has no name for
        reciprocity = kept.reciprocity
        if not (reciprocity and reciprocity.table):
            reciprocity = ReciprocityPart(data["reciprocity"]) if film and data["reciprocity"] else None
        negative = kept.kind == "film"
        return replace(
            kept,
            iso=int(data["iso"]),
            response=response,
            channel_mix=mix,
            reciprocity=reciprocity,
            developed=before.developed if negative else None,
            own_iso=int(data["own_iso"]) if negative and data["own_iso"] and data["own_iso"] != data["iso"] else None,
        )


def _plain(value):
    return "" if value is None else f"{value:g}"


class DevelopForm(ActForm):
    """How the roll is developed; each choice carries the address of the picture that it would make."""

    developed = forms.ChoiceField(choices=DEVELOPED, required=False, label="Film is developed")

    def first(self, situation):
        medium = situation.document.medium
        return {"developed": "" if medium.developed is None else medium.developed}

    def step(self):
        return int(self.cleaned_data["developed"]) if self.cleaned_data["developed"] else None


def _with_views(form, situation):
    """The DevelopForm with what each choice would show, for a hand that goes through them."""
    brief = situation.brief

    def view(key):
        developed = replace(brief, medium=replace(brief.medium, developed=int(key) if key else None))
        return situation.grey_of(situation.rendering_of(plan_or_wait(developed)[0]))

    if situation.picture is not None and situation.plan is not None:
        views = {key: view(key) for key, _ in DEVELOPED}
        form.fields["developed"].widget.attrs["data-views"] = json.dumps(views)
    return form


class KitForm(ActForm):
    """Items of the kit by name; an empty one leaves its part as it is."""

    camera = forms.CharField(max_length=60, required=False, label="Camera from the kit")
    lens = forms.CharField(max_length=60, required=False, label="Lens from the kit")
    film = forms.CharField(max_length=60, required=False, label="Film from the kit")
    meter = forms.CharField(max_length=60, required=False, label="Meter from the kit")

    ids = {kind: f"kit-{kind}" for kind in KIT_KINDS}

    def __init__(self, data=None, document=None, situation=None):
        super().__init__(data, document, situation)
        for kind in KIT_KINDS if situation else ():
            names = choices(situation.kit_names[kind])
            first = ("", "as below" if names else "none in the kit")
            self.fields[kind].widget = forms.Select({"class": "form-select", "id": f"kit-{kind}"}, [first, *names])

    def first(self, situation):
        return {kind: getattr(situation.document.kit, kind) for kind in KIT_KINDS}

    def names(self):
        return {kind: self.cleaned_data[kind] for kind in KIT_KINDS if self.cleaned_data[kind]}


def camera_line(document):
    """Camera, film or file, speed and lens."""
    medium, kit = document.medium, document.kit
    said = [medium.name or medium.kind, f"ISO {medium.iso}"]
    if kit.camera:
        said.insert(0, kit.camera)
    if document.lens.focal_35mm is not None:
        said.append(kit.lens or f"{document.lens.focal_35mm:g} mm")
    return ", ".join(said)


def light_line(document):
    """The light in the chain, and as it was written down."""
    return ", ".join(filter(None, (LIGHT_NAMES[document.light], document.light_note)))


def _line(situation):
    document = situation.document
    setup = document.setup_in_use
    return {"camera": camera_line(document), "light": light_line(document), "setup": setup.name if setup else ""}


PART = Part(
    key="camera",
    title="Camera",
    order=110,
    line=_line,
    editor=lambda situation, forms, mark: {
        "form": forms["camera"],
        "kit": forms["kit"],
        "develop": _with_views(forms["develop"], situation) if situation.document.medium.kind == "film" else None,
    },
    acts={
        "develop": Act(
            DevelopForm,
            lambda scene, form, by: meansactions.develop(scene, by, form.step()),
        ),
        "kit": Act(KitForm, lambda scene, form, by: meansactions.use_kit(scene, by, form.names())),
        "camera": Act(
            CameraForm, lambda scene, form, by: actions.set_parts(scene, by, "camera and medium", **form.parts())
        ),
    },
)
