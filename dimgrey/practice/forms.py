"""The edge of practice: answers as the page sends them."""

import math
import uuid

from django import forms
from django.utils import timezone
from django.utils.dateparse import parse_datetime

from dimgrey.core.practice.drills import KINDS
from dimgrey.web.forms import JsonField, PlainForm

MOST_ANSWERS, MOST_OFF = 400, 20.0


class AnswersForm(PlainForm):
    """Any number of answers, each with its id and its time."""

    answers = JsonField()

    def clean_answers(self):
        rows = self.cleaned_data["answers"]
        if not isinstance(rows, list) or not 0 < len(rows) <= MOST_ANSWERS:
            raise forms.ValidationError(f"Send 1 to {MOST_ANSWERS} answers.", code="answers")
        return [require_answer(row) for row in rows]


def require_answer(row):
    """One answer, checked: a dictionary as keep_answers takes it. Raises ValidationError."""
    try:
        at = parse_datetime(str(row["at"]))
        off, level = float(row["off"]), int(row["level"])
        made = {
            "act": uuid.UUID(str(row["act"])),
            "kind": row["kind"],
            "subject": row["subject"],
            "off": off,
            "is_right": row["is_right"],
            "in_stops": row["in_stops"],
            "level": level,
            "at": at,
        }
    except (KeyError, TypeError, ValueError, OverflowError):
        made = None
    is_good = (
        made is not None
        and made["kind"] in KINDS
        and isinstance(made["subject"], str)
        and 0 < len(made["subject"]) <= 60
        and math.isfinite(made["off"])
        and 0 <= made["off"] <= MOST_OFF
        and 0 <= made["level"] <= 4
        and isinstance(made["is_right"], bool)
        and isinstance(made["in_stops"], bool)
        and made["at"] is not None
        and timezone.is_aware(made["at"])
    )
    if not is_good:
        raise forms.ValidationError("One of the answers is not what a round gives.", code="answer")
    return made


class GiveForm(PlainForm):
    """What is given for a task, and the old scene that it is held against where the task asks for one."""

    result = forms.IntegerField(min_value=1, error_messages={"required": "Choose a picture that came of it."})
    scene = forms.IntegerField(required=False, min_value=1)


class SceneForm(PlainForm):
    """Which scene is shown."""

    scene = forms.IntegerField(required=False, min_value=1)


class BackForm(PlainForm):
    """Whether somebody comes back to the path instead of leaving it."""

    back = forms.CharField(required=False, max_length=3)
    from_home = forms.CharField(required=False, max_length=3)
