"""What an act says: its keys, each with the rule that reads it, for the desk's form, the phone and programs alike.

Keys are the fields of a frozen dataclass. A value comes as people write it or as a program sends it; each rule takes both, and
refuses in a sentence that a form shows under its field.
"""

import math
from collections.abc import Callable
from dataclasses import MISSING, dataclass, field, fields
from datetime import datetime
from typing import Any

from dimgrey.core.errors import CoreError, OutOfRange, Unreadable
from dimgrey.core.shapes.moments import id_of, moment

ON = ("on", "true", "1", "yes")
MOST_LETTERS = 60
"""Of a value that one of the core's notations reads, as long as none of them is."""


def given(rule, default=None, label="", hint="", empty=MISSING):
    """A key that may be left out. rule: what it may hold. label, hint: of its field on a page; without a label it is hidden.

    empty: what it is where it was sent with nothing in it; left out, the default too.
    """
    return field(default=default, metadata={"rule": rule, "label": label, "hint": hint, "empty": empty})


def needed(rule, label="", hint="", missing=""):
    """A key that must be said. rule, label, hint: as in `given`. missing: the sentence where it is not said."""
    return field(metadata={"rule": rule, "label": label, "hint": hint, "missing": missing})


@dataclass(frozen=True)
class Text:
    """Words. most: characters. lines: of a field on a page."""

    most: int
    lines: int = 1

    def read(self, value, name, document):
        text = str(value).strip()
        if len(text) > self.most:
            raise OutOfRange(f"{name}: at most {self.most} characters (got {len(text)}).", code="too-long")
        if "\0" in text:
            raise Unreadable(f"{name}: holds a character that is none.", code="letters")
        return text


@dataclass(frozen=True)
class Number:
    """A number. low, high: its limits, themselves allowed."""

    low: float
    high: float

    def read(self, value, name, document):
        try:
            number = float(value)
        except (TypeError, ValueError):
            raise Unreadable(f"{name}: must be a number (got {value!s:.24}).", code="number") from None
        if not (math.isfinite(number) and self.low <= number <= self.high):
            raise OutOfRange(f"{name}: must be {self.low:g} to {self.high:g} (got {value!s:.24}).", code="number")
        return number


@dataclass(frozen=True)
class Whole(Number):
    """A whole number."""

    def read(self, value, name, document):
        number = super().read(value, name, document)
        if number != int(number):
            raise Unreadable(f"{name}: must be a whole number (got {value!s:.24}).", code="number")
        return int(number)


@dataclass(frozen=True)
class YesNo:
    """On or off; a form sends nothing for off."""

    def read(self, value, name, document):
        return value if isinstance(value, bool) else str(value).strip().lower() in ON


@dataclass(frozen=True)
class OneOf:
    """One of some words. words: tuple of them, or word -> how a page names it, or a function of the document that gives either.

    unsaid: how a page names the choice of none, "" where one must be chosen. as_number: kept as a whole number.
    """

    words: Any
    unsaid: str = ""
    as_number: bool = False

    def named(self, document):
        """word -> how a page names it."""
        words = self.words(document) if callable(self.words) else self.words
        return dict(words) if isinstance(words, dict) else {word: word for word in words}

    def read(self, value, name, document):
        words = {str(word): word for word in self.named(document)}
        if str(value) not in words:
            raise CoreError(f"{name}: must be {either(list(words))} (got {value!s:.40}).", code="not-one-of")
        return words[str(value)]


@dataclass(frozen=True)
class Several:
    """Some of some words. of: OneOf."""

    of: OneOf

    def read(self, value, name, document):
        each = value if isinstance(value, list | tuple) else str(value).split(",")
        return tuple(self.of.read(word, name, document) for word in each)


@dataclass(frozen=True)
class As:
    """What one of the core's notations reads. parse: text -> value, or with `knows` (text, document) -> value."""

    parse: Callable
    knows: bool = False
    most: int = MOST_LETTERS

    def read(self, value, name, document):
        text = value if isinstance(value, str) else f"{value:.10g}" if isinstance(value, float) else str(value)
        if len(text) > self.most:
            raise OutOfRange(f"{name}: at most {self.most} characters (got {len(text)}).", code="too-long")
        return self.parse(text, document) if self.knows else self.parse(text)


@dataclass(frozen=True)
class Named:
    """The name of something that the photographer has. kind: of the kit, "tone" of the scene, or "setup" by its number."""

    kind: str
    most: int = 60

    def read(self, value, name, document):
        return Text(self.most).read(value, name, document)


def _mark(text):
    if not (1 <= len(text) <= 2 and text.isascii() and text.isalpha() and text.isupper()):
        raise Unreadable(f"A tone has a letter, A to Z (got {text:.10}).", code="mark")
    return text


MARK = As(_mark, most=10)
"""The letter of a tone."""


ID = As(id_of)
"""The id of an act, or of a form that counts once."""


@dataclass(frozen=True, kw_only=True)
class Sent:
    """What every act may bring beside its keys. stamp: the state that it was made from. act: its id. at: when it was done."""

    stamp: int | None = given(Whole(0, 2**31))
    act: str | None = given(ID)
    at: datetime | None = given(As(moment))


def sent_verb(values):
    """The verb that values name, as a page or a program sends them; None where they name none."""
    return values.get("verb")


def sent_id(values):
    """The id of an act as it was sent, None for none."""
    return values.get("act")


NO_KEYS = dataclass(frozen=True, kw_only=True)(
    type("NoKeys", (), {"__doc__": "An act that says nothing beside its verb."})
)


def either(words):
    """ "film, slide or raw"."""
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} or {words[-1]}"


def spoken_name(each):
    """What sentences call a key: its label, else its name."""
    label = each.metadata["label"].partition(",")[0] or each.name.replace("_", " ")
    return label[:1].upper() + label[1:]


def read_key(each, value, document):
    """The value of a key; its default for nothing. each: a field of dataclasses. value: as sent. document: of the scene, for its steps.

    Raises CoreError that names the key.
    """
    name = spoken_name(each)
    if value is None or (isinstance(value, str) and not value.strip()) or value in ((), []):
        if value is not None and each.metadata.get("empty", MISSING) is not MISSING:
            return each.metadata["empty"]
        if each.default is MISSING:
            raise CoreError(
                each.metadata.get("missing") or f"{name}: missing.", parameter=each.name, code="key-missing"
            )
        return each.default
    try:
        return each.metadata["rule"].read(value, name, document)
    except CoreError as refused:
        refused.parameter = each.name
        raise


def said_of(keys, values, document=None):
    """What an act says: an instance of its keys. values: name -> as sent; others than its keys are not looked at. Raises CoreError."""
    return keys(**{each.name: read_key(each, values.get(each.name), document) for each in fields(keys)})
