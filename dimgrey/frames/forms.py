"""The edge of the log: actual settings, a note, a CSV file."""

import uuid

from django import forms
from django.db import transaction
from django.forms.models import model_to_dict
from django.utils import timezone

from dimgrey.core.document.onroll import DEVELOPMENTS
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_time
from dimgrey.core.measure.setting import SET, Setting
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.frames.actions import log_frame, strike_frame
from dimgrey.frames.queries import LISTED, SORTS, every_frame_of
from dimgrey.scenes.actions import CLOCK_SLACK, is_done
from dimgrey.scenes.acts import form_of, when_done
from dimgrey.web.forms import CoreField, PlainForm, text_input


def _set(parse, label, placeholder=""):
    return CoreField(parse, label=label, widget=text_input(placeholder, maxlength=24))


class SettingsForm(PlainForm):
    """What was really set; an empty field keeps what it was."""

    shutter = _set(parse_time, "Shutter")
    aperture = _set(parse_aperture, "Aperture")
    iso = _set(parse_speed, "ISO")
    exposed = forms.DateTimeField(
        required=False,
        label="Exposed, by the clocks of the place",
        widget=forms.DateTimeInput({"type": "datetime-local", "step": 60}, format="%Y-%m-%dT%H:%M"),
        error_messages={"invalid": "Write day and time, such as 2026-09-01 15:50."},
    )
    note = forms.CharField(max_length=500, required=False, label="Note")

    def __init__(self, *args, zone=None, **kwargs):
        super().__init__(*args, **kwargs)
        self.zone = zone

    def setting(self):
        """The Setting that was typed."""
        return Setting(*(self.cleaned_data.get(name) for name in SET))

    def clean_exposed(self):
        """The moment as an aware datetime; None where nothing was typed. A time that clocks skip or repeat is the first that fits."""
        typed = self.typed.exposed
        if typed is None or self.zone is None:
            return None
        moment = typed.replace(tzinfo=self.zone)
        if moment > timezone.now() + CLOCK_SLACK:
            raise forms.ValidationError("That time has not come yet.", code="time-ahead")
        return moment

    @classmethod
    def of(cls, frame, data=None, zone=None):
        """The form of a logged frame. zone: of its place, in which its time is shown and corrected."""
        local = frame.exposed_at.astimezone(zone).replace(tzinfo=None) if zone else None
        first = {**{key: getattr(frame, key) for key in SET}, "note": frame.note, "exposed": local}
        return cls(data, initial=first, zone=zone)


class StruckForm(PlainForm):
    """What was struck out on the page before, as the address says it."""

    struck = forms.UUIDField()


class SeveralForm(PlainForm):
    """Frames that were ticked, and what is to be done with them."""

    ACTS = {"strike": "Strike out", "roll": "Put on roll"}

    frames = forms.TypedMultipleChoiceField(coerce=int, error_messages={"required": "Tick the frames first."})
    act = forms.ChoiceField(choices=list(ACTS.items()))
    roll = forms.IntegerField(min_value=1, max_value=1_000_000, required=False, label="Roll")

    def __init__(self, data, known):
        super().__init__(data)
        self.fields["frames"].choices = [(pk, pk) for pk in known]


def kept_setting(frame):
    """The Setting of a frame, with None where nobody can read what stands there."""
    kept = SettingsForm({key: getattr(frame, key) for key in SET})
    kept.is_valid()
    return kept.setting()


def logged(scene, said, by=None):
    """The frame that a “log” says, logged once for its token or its act. Raises NotPlaced without a plan."""
    token = (by and by.act) or said.token or uuid.uuid4()
    return log_frame(
        scene.owner, scene, token, Setting(said.aperture, said.shutter, said.iso), said.note, by.at if by else None
    )


def _log(scene, said, by, plainly):
    logged(scene, said, by)
    return scene


@transaction.atomic
def _strike_out(scene, said, by, plainly):
    if not is_done(scene.owner_id, by.act) and not said.line.isdecimal():
        strike_frame(every_frame_of(scene.owner).filter(scene=scene), said.line, by.act)
    return plainly()


def foot_context(situation, problem):
    """What the foot of the desk shows: the form, and why it was refused."""
    refused = problem if problem and problem.part == "log" else None
    form = refused.form if refused and refused.form is not None else form_of("log")(situation=situation)
    plan = situation.plan
    exposure = plan and {"shutter": format_time(plan.given), "aperture": format_aperture(plan.aperture)}
    return {"form": form, "problem": refused, "exposure": exposure}


when_done("log", _log)
when_done("strike-out", _strike_out)


class CsvForm(PlainForm):
    file = forms.FileField(allow_empty_file=True)


class ChosenForm(PlainForm):
    """Which frames the list shows, and in which order."""

    words = forms.CharField(required=False, max_length=80, label="Words in title or note", widget=text_input())
    roll = forms.IntegerField(required=False, min_value=1, label="Roll", widget=text_input(inputmode="numeric"))
    sort = forms.ChoiceField(required=False, label="In order of", choices=[(name, name) for name in SORTS])
    page = forms.IntegerField(required=False, min_value=1, widget=forms.HiddenInput)

    def __init__(self, data, columns):
        super().__init__(data)
        for name in LISTED:
            if columns[name]:
                field = forms.ChoiceField(required=False, choices=[("", "any"), *((v, v) for v in columns[name])])
                field.label, field.widget.attrs["class"] = name.capitalize(), "form-select"
                self.fields[name] = field

    def wanted(self):
        """(what is wanted, order, page). What was not understood is left out, and its field says so."""
        self.is_valid()
        wanted = {name: value for name, value in self.cleaned_data.items() if value}
        return wanted, wanted.pop("sort", "newest"), wanted.pop("page", 1)


class RollForm(PlainForm):
    """A roll of film: how it is rated and developed."""

    ids = {"film": "roll-film", "rated": "roll-rated", "development": "roll-development", "note": "roll-note"}
    film = forms.CharField(
        max_length=60, label="Film, as the scenes name it", error_messages={"required": "Name the film."}
    )
    rated = CoreField(
        parse_speed,
        required=True,
        label="Rated at ISO",
        error_messages={"required": "Write the speed it is rated at, such as 400."},
    )
    development = forms.ChoiceField(
        required=False,
        label="Development of the whole roll",
        choices=[("", "not decided"), *((d, d) for d in DEVELOPMENTS)],
    )
    note = forms.CharField(max_length=200, required=False, label="Note")

    @classmethod
    def of(cls, roll, data=None):
        """The form of a roll."""
        return cls(data, initial=model_to_dict(roll, fields=cls.ids))

    def told(self):
        """What was said of the roll beside its film."""
        said = {name: value for name, value in self.cleaned_data.items() if name != "film"}
        return said | {"rated": self.typed.rated.name}


class PlaceForm(PlainForm):
    """A frame's place on a roll."""

    ids = {"roll": "on-roll", "roll_number": "roll-place"}
    roll = forms.IntegerField(required=False, min_value=1, label="On roll", widget=text_input(inputmode="numeric"))
    roll_number = forms.IntegerField(
        required=False,
        min_value=1,
        max_value=999,
        label="Frame of the roll",
        widget=text_input("next", inputmode="numeric"),
    )
