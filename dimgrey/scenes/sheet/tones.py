"""Tones: what was read, where each falls, and an editor for each; tones by name, estimates and changes of the light."""

from django import forms

from dimgrey.core.document import wishing
from dimgrey.core.document.doubts import doubt_about
from dimgrey.core.document.readtones import glass_in_front, needs_texture
from dimgrey.core.document.tones import Reading
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_stops
from dimgrey.core.measure.readings import TYPED_KINDS, parse_reading
from dimgrey.core.measure.surfaces import surface_named
from dimgrey.core.picture.outline import parse_outline
from dimgrey.core.planning import explain
from dimgrey.core.planning.brief import ROLES
from dimgrey.core.planning.told import range_line
from dimgrey.core.planning.wishes import parse_wish
from dimgrey.core.planning.zones import ZONES
from dimgrey.core.sky.daylight import KINDS as DAYLIGHT
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm, MarkForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, choices, text_input

USUAL_NAMES = (
    "white wall", "shadow with texture", "skin", "sky", "cloud", "grass", "grey card", "snow",
)  # fmt: skip
MOST_SHIFT_STOPS = 10
DOUBT = "doubt"


class PinForm(ActForm):
    x = forms.FloatField(min_value=0, max_value=1)
    y = forms.FloatField(min_value=0, max_value=1)


class MovePinForm(MarkForm, PinForm):
    """A pin at another place."""


def read_text(text, document):
    """A reading of typed text. Raises ValidationError with the core's sentence."""
    try:
        return parse_reading(text, str(document.medium.iso), document.increment)
    except CoreError as refused:
        raise forms.ValidationError(str(refused), code=refused.code) from None


class ReadingForm(MarkForm):
    """One typed reading: EV, or shutter and aperture."""

    reading = forms.CharField(
        max_length=60,
        required=False,
        label="Meter says",
        widget=text_input("12⅓ or 1/125 f/8", autocomplete="off"),
    )
    kind = forms.ChoiceField(choices=choices(TYPED_KINDS), required=False)
    through = forms.BooleanField(required=False, label="through the filter")
    replace = forms.BooleanField(required=False)
    others = forms.BooleanField(required=False)
    sure = forms.BooleanField(required=False)

    def clean_reading(self):
        return read_text(self.cleaned_data["reading"], self.document)

    def clean(self):
        data = super().clean()
        if data.get("reading") and data.get("kind"):
            data["reading"]["kind"] = data["kind"]
        if data.get("reading") and data.get("through"):
            data["reading"]["through"] = glass_in_front(self.document)
        # What was typed in the field and sent later is kept as it is: nobody is there to answer.
        settled = data.get("replace") or data.get("others") or data.get("sure") or data.get("at")
        if data.get("reading") and data.get("mark") and not settled:
            question = doubt_about(self.document, data["mark"], Reading(**data["reading"]))
            if question:
                self.add_error("reading", forms.ValidationError(question, code=DOUBT))
        return data

    @property
    def doubted(self):
        """Whether the reading was asked about, so that the answers stand beside it."""
        return self.is_bound and self.has_error("reading", DOUBT)


class ReadingIndexForm(MarkForm):
    index = forms.IntegerField(min_value=0, max_value=1000)


class AddToneForm(ActForm):
    name = forms.CharField(
        max_length=60, required=False, label="Name", widget=text_input("lime wall", list="tone-names")
    )
    reading = forms.CharField(
        max_length=60, required=False, label="Reading", widget=text_input("12⅓ or 1/125 f/8", autocomplete="off")
    )

    ids = {"name": "add-name", "reading": "add-reading"}

    def clean_reading(self):
        text = self.cleaned_data["reading"].strip()
        return read_text(text, self.document) if text else None


class ToneForm(MarkForm):
    name = forms.CharField(max_length=60, label="Name", widget=text_input(list="tone-names"))
    role = forms.ChoiceField(choices=choices(ROLES), required=False, label="It is the")
    texture = forms.ChoiceField(choices=[("needed", "must stay"), ("free", "may go")], required=False, label="Texture")
    lit = forms.ChoiceField(
        choices=[("", "not said"), ("lit", "lit"), ("unlit", "unlit")], required=False, label="Light"
    )
    glare = forms.FloatField(
        min_value=0, max_value=2, required=False, label="Polarizer takes, stops", widget=text_input("0", decimal=True)
    )

    def described(self):
        """What was changed; a default that still stands is not written down as if it had been chosen."""
        data, tone = self.cleaned_data, self.document.tone(self.cleaned_data["mark"])
        found = {"name": data["name"]}
        if data["role"] and (tone is None or data["role"] != (tone.role or "other")):
            found["role"] = data["role"]
        shown = tone and ("needed" if needs_texture(tone, self.document) else "free")
        if data["texture"] and data["texture"] != shown:
            found["texture"] = data["texture"]
        if "lit" in self.data:
            found["lit"] = data["lit"] or None
        if "glare" in self.data:
            found["glare_stops"] = data["glare"] or 0.0
        return found


class AreaForm(ActForm):
    """The outline of a tone that is an area."""

    outline = CoreField(parse_outline, required=True, max_length=1200)


class GuessForm(ActForm):
    """A tone whose guessed name and role are taken; all tones without a mark."""

    mark = forms.CharField(max_length=2, required=False)


class ShiftForm(ActForm):
    """By how many stops the light changed."""

    stops = CoreField(
        lambda text: parse_stops(text, "stops"),
        required=True,
        label="The light changed by, stops",
        widget=text_input("-⅔", autocomplete="off"),
    )

    only = forms.ChoiceField(choices=[("", "every tone"), ("lit", "lit"), ("unlit", "unlit")], required=False)

    ids = {"stops": "light-change"}

    def clean_only(self):
        return self.cleaned_data["only"] or None

    def clean_stops(self):
        stops = self.cleaned_data["stops"]
        if not 0 < abs(stops) <= MOST_SHIFT_STOPS:
            raise forms.ValidationError(
                f"The light changes by up to {MOST_SHIFT_STOPS} stops, and by something (got {stops:g})."
            )
        return stops


class WishForm(MarkForm):
    """The print that a tone shall have; empty takes the wish back."""

    wish = CoreField(parse_wish, label="Shall print on", widget=text_input("II-III, at most I", autocomplete="off"))


class EstimateForm(ActForm):
    """A tone whose EV comes from the daylight guide."""

    name = forms.CharField(max_length=60, required=False)
    light = forms.ChoiceField(choices=choices(DAYLIGHT), label="No meter? Grey in")

    ids = {"light": "guide"}


def _line(situation):
    return {
        "tones": situation.tone_rows,
        "has_picture": situation.picture is not None,
        "range": range_line(situation.plan),
        "why_range": explain.why_range(situation.plan) if situation.plan else "",
        "usual_names": USUAL_NAMES,
        "guesses": any(tone.guessed for tone in situation.document.tones),
    }


def _editor(situation, forms, mark):
    """The editor of one tone, or without a mark that of new ones and of the light."""
    if not mark:
        return {"add": forms["add-tone"], "estimate": forms["estimate"]}
    tone = next(row for row in situation.tone_rows if row.mark == mark)
    described = ToneForm(situation=situation, document=situation.document)
    described.initial = {
        "name": tone.name,
        "role": tone.role,
        "texture": "needed" if tone.needs_texture else "free",
        "lit": tone.entry.lit or "",
        "glare": f"{tone.entry.glare_stops:g}" if tone.entry.glare_stops else "",
    }
    for name in ("name", "role", "texture", "lit", "glare"):
        described.fields[name].widget.attrs["id"] = f"{name}-{mark}"
    read = forms["read"]
    read.fields["reading"].widget.attrs["id"] = f"read-{mark}"
    shift = forms["shift"]
    shift.fields["stops"].widget.attrs["id"] = f"light-change-{mark}"
    wish = forms["wish"]
    wish.fields["wish"].widget.attrs["id"] = f"wish-{mark}"
    read.fields["through"].widget.attrs["id"] = f"through-{mark}"
    has_polarizer = any(glass.name == "polarizer" for glass in situation.document.filters)
    return {
        "glass": "" if situation.brief.medium.mixes_channels else glass_in_front(situation.document),
        "glare": has_polarizer and tone.role != "sky",
        "usual": _usual(tone, situation),
        "tone": tone,
        "read": read,
        "form": described,
        "zones": tuple(enumerate(ZONES)),
        "wish": wish,
        "shift": shift,
    }


def _usual(tone, situation):
    """Where a surface of this name usually goes, in words, "" when the name means none or is a guess."""
    surface = None if "name" in tone.entry.guessed else surface_named(tone.name, situation.own_surfaces)
    if surface is None:
        return ""
    zone, compensation = situation.words.surface(surface)
    return (
        f"{surface.name[:1].upper()}{surface.name[1:]} usually goes on {zone}, {compensation} from what the meter says."
    )


def _do(function, *names):
    return lambda scene, form, by: function(scene, by, *(form.cleaned_data[name] for name in names))


def _wish(scene, form, by):
    mark, span = form.cleaned_data["mark"], form.cleaned_data["wish"]
    return actions.change(scene, by, f"wish for {mark}", lambda document: wishing.with_wish(document, mark, span))


def _pin(scene, form, by):
    return actions.pin_tone(scene, by, form.cleaned_data["x"], form.cleaned_data["y"])


PART = Part(
    key="tones",
    title="Tones",
    order=30,
    line=_line,
    editor=_editor,
    opens="Add by name",
    acts={
        "pin": Act(PinForm, _pin, appends=True),
        "pin-area": Act(AreaForm, _do(actions.pin_area, "outline"), appends=True),
        "move-pin": Act(MovePinForm, _do(actions.move_pin, "mark", "x", "y")),
        "add-tone": Act(AddToneForm, _do(actions.add_tone, "name", "reading"), appends=True),
        "estimate": Act(EstimateForm, _do(actions.estimate_tone, "name", "light"), appends=True),
        "read": Act(ReadingForm, _do(actions.type_reading, "mark", "reading", "replace", "others"), appends=True),
        "wish": Act(WishForm, _wish),
        "unread": Act(ReadingIndexForm, _do(actions.drop_reading, "mark", "index")),
        "tone": Act(
            ToneForm,
            lambda scene, form, by: actions.describe_tone(scene, by, form.cleaned_data["mark"], **form.described()),
        ),
        "take-guess": Act(GuessForm, _do(actions.take_guesses, "mark")),
        "drop-tone": Act(MarkForm, _do(actions.drop_tone, "mark")),
        "shift": Act(ShiftForm, _do(actions.shift_light, "stops", "only")),
    },
)
