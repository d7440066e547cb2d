"""What an archive says, checked value by value: each function gives what it was given, or raises CoreError."""

import math
import uuid

from django.utils.dateparse import parse_datetime

from dimgrey.core.errors import CoreError

MOST_LETTERS = 500


def row_by_uid(model, person, uid):
    """A person's row of a model by its uid as text, None for none."""
    return model.objects.owned_by(person).filter(uid=uuid.UUID(uid)).first() if uid else None


def moment(text):
    """A moment from its text, None for none."""
    return parse_datetime(text) if text else None


def refuse(what):
    """Refuse what stands there."""
    raise CoreError(f"{what} is not what was written there.", code="archive")


def number(value):
    """A finite number."""
    if isinstance(value, bool) or not isinstance(value, int | float) or not math.isfinite(value):
        refuse(f"the number {value!r:.30}")
    return value


def text(value, most=MOST_LETTERS):
    """A text of at most so many letters."""
    return value if isinstance(value, str) and len(value) <= most else refuse(f"the text {value!r:.30}")


def as_kind(kind, value):
    """A value of a kind: bool, str or float."""
    if kind is bool:
        return value if isinstance(value, bool) else refuse(f"{value!r:.30}")
    return text(value) if kind is str else number(value)


def keys(data, wanted):
    """A dictionary with the wanted keys, each of its kind. wanted: name -> kind."""
    if not isinstance(data, dict):
        refuse(f"{data!r:.30}")
    return {name: as_kind(kind, data[name]) for name, kind in wanted.items()}
