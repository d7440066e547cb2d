"""Acts: one verb, one form, one thing done to a scene. Parts of the sheet bring theirs; rooms above may add some.

An act carries the state it was made from, an id of its own and the time it was done at, so that it can be sent late, or
twice. What appends (readings, pins, frames) is taken whatever happened since; the rest is refused when it is stale.
"""

from dataclasses import dataclass
from typing import Any

from django import forms

from dimgrey.web.forms import PlainForm


@dataclass(frozen=True)
class By:
    """Whose hand an act comes from: the state it saw, its id, when it was done. None for each that is not known."""

    stamp: int | None = None
    act: Any = None
    at: Any = None


class ActForm(PlainForm):
    """The edge of an act. document: of the scene, for increments and defaults."""

    stamp = forms.IntegerField(min_value=0, required=False, widget=forms.HiddenInput)
    act = forms.UUIDField(required=False, widget=forms.HiddenInput)
    at = forms.DateTimeField(required=False, widget=forms.HiddenInput)

    def __init__(self, data=None, document=None, situation=None):
        self.document = document if document is not None else situation.document
        super().__init__(data, initial=self.first(situation) if situation else None)

    def first(self, situation):
        """What stands in the fields before anything is typed."""
        return {}

    @property
    def increment(self):
        return self.document.increment

    def by(self, appends=False):
        data = self.cleaned_data
        return By(None if appends else data.get("stamp"), data.get("act"), data.get("at"))


class MarkForm(ActForm):
    """An act on one tone."""

    mark = forms.RegexField(r"^[A-Z]{1,2}$", widget=forms.HiddenInput)


@dataclass(frozen=True)
class Act:
    """form: reads the request. do: (scene, form, by) -> scene. appends: never stale. part: where a refusal is shown."""

    form: type
    do: Any
    appends: bool = False
    part: str = ""
