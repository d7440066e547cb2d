"""Acts at the desk: a verb of the core with its form, the scene's surroundings, and what other rooms do when one is done.

An act carries the state it was made from, an id of its own and the time it was done at, so that it can be sent late, or
twice. What appends (readings, pins, frames) is taken whatever happened since; the rest is refused when it is stale.
"""

from collections.abc import Callable
from dataclasses import MISSING, dataclass, field, fields
from functools import cache
from typing import Any

from django import forms

from dimgrey.core.acts.case import Case
from dimgrey.core.acts.keys import As, Named, Number, OneOf, Sent, Several, Text, YesNo, read_key, said_of
from dimgrey.core.acts.verb import require_verb
from dimgrey.core.document.edits import Refused
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.measures import frame_stops
from dimgrey.kit.queries import item_named, setup_of
from dimgrey.kit.setups import scene_part
from dimgrey.outings.sky_over_scene import planned_sun_altitude
from dimgrey.pictures import store
from dimgrey.scenes import spotmeter
from dimgrey.scenes.queries import around_act
from dimgrey.web.forms import PlainForm, text_input


@dataclass(frozen=True)
class By:
    """Whose hand an act comes from: the state it saw, its id, when it was done. None for each that is not known."""

    stamp: int | None = None
    act: Any = None
    at: Any = None

    @classmethod
    def sent(cls, values, appends=False):
        """That of values as a page or a program sends them. Raises CoreError."""
        said = said_of(Sent, values)
        return cls(None if appends else said.stamp, said.act, said.at)


# --- what an act finds at the desk -----------------------------------------------------------------------------------------

_HANDS = {}


def when_done(verb, function):
    """Let a room do something of its own when an act is done. function: (scene, what was said, By, plainly) -> scene; plainly() does
    what the core does."""
    _HANDS[verb] = function


def hand_of(verb):
    """What is done for a verb beside the core's edit, None for nothing."""
    return _HANDS.get(verb)


@dataclass(frozen=True)
class DeskCase(Case):
    """A scene's surroundings at the desk: its picture, the person's kit, the sun over its outing."""

    scene: Any = None

    def polarized(self, document):
        return self.scene.polarized(document)

    def read_as(self, document):
        return self.scene.read_as(document)

    def meter(self, document):
        return spotmeter.meter_of(document, self.scene.picture)

    def frame_stops(self):
        picture = self.scene.picture
        found = frame_stops(store.small(picture.path), picture.clip)
        if found is None:
            sentence = "Hardly anything of this picture is neither black nor blank, so its light cannot be guessed. Type a reading at one pin."
            raise Refused(sentence, parameter="light", code="frame-lost")
        return found

    def item(self, kind, name):
        row = item_named(self.scene.owner_id, kind, name)
        return row.item if row else None

    def mixes(self, camera):
        row = item_named(self.scene.owner_id, "camera", camera)
        return row.measured.mixes if row else None

    def setup(self, number):
        row = setup_of(self.scene.owner, number)
        return scene_part(row) if row else None

    def sun_altitude(self, document):
        return planned_sun_altitude(self.scene.outing, document)

    def around(self, document, line):
        return around_act(self.scene, line) or (document, document)

    def place(self):
        return self.scene.picture.told_place if self.scene.picture else None


# --- forms -----------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Look:
    """How a part shows the form of an act. first: Situation -> what stands in its fields. attrs: key -> attributes of its widget."""

    first: Callable = lambda situation: {}
    attrs: dict = field(default_factory=dict)


class RuleField(forms.Field):
    """A field whose rule is that of an act's key. document: set by its form."""

    document = None

    def __init__(self, each):
        self.each, rule = each, each.metadata["rule"]
        super().__init__(required=False, label=each.metadata["label"] or None, widget=_widget_of(each, rule))

    def clean(self, value):
        try:
            return read_key(self.each, value, self.document)
        except CoreError as refused:
            raise forms.ValidationError(str(refused), code=refused.code) from None


def _widget_of(each, rule):
    label, hint = each.metadata["label"], each.metadata["hint"]
    if not label:
        return forms.HiddenInput()
    if isinstance(rule, YesNo):
        return forms.CheckboxInput()
    if isinstance(rule, Several):
        return forms.CheckboxSelectMultiple()
    if isinstance(rule, OneOf | Named):
        return forms.Select()
    if isinstance(rule, Text):
        return forms.Textarea({"rows": rule.lines}) if rule.lines > 1 else text_input(hint, maxlength=rule.most)
    is_figure = isinstance(rule, Number) or (isinstance(rule, As) and hint[:1].isdecimal())
    return text_input(hint, decimal=is_figure)


class ActForm(PlainForm):
    """The edge of an act: a field for each key of its verb. document: of the scene, for increments and defaults. look: Look of the
    part that shows it."""

    verb = None

    def __init__(self, data=None, document=None, situation=None, look=None):
        self.document, look = document if document is not None else situation.document, look or Look()
        super().__init__(data, initial=look.first(situation) if situation else None)
        for name, each in self.fields.items():
            each.document = self.document
            each.widget.attrs.update(look.attrs.get(name, {}))
            _offer(each, self.document, situation)

    @property
    def said(self):
        """What the act says, once the form is valid."""
        return self.verb.keys(**{each.name: self.cleaned_data[each.name] for each in fields(self.verb.keys)})


def _offer(shown, document, situation):
    """Give a field to choose from its choices."""
    rule = shown.each.metadata["rule"]
    if isinstance(shown.widget, forms.CheckboxSelectMultiple):
        shown.widget.choices = list(rule.of.named(document).items())
    elif isinstance(shown.widget, forms.Select) and isinstance(rule, Named):
        names = document.names if rule.kind == "tone" else situation.kit_names[rule.kind] if situation else ()
        unsaid = "choose" if shown.each.default is MISSING else "as below" if names else "none in the kit"
        first = () if rule.kind == "tone" else (("", unsaid),)
        shown.widget.choices = [*first, *((name, name) for name in names)]
    elif isinstance(shown.widget, forms.Select):
        unsaid = [("", rule.unsaid)] if rule.unsaid else []
        shown.widget.choices = [*unsaid, *rule.named(document).items()]


@cache
def form_of(verb):
    """The form class of a verb."""
    found = require_verb(verb)
    made = {each.name: RuleField(each) for each in fields(found.keys)}
    return type(f"{verb.title().replace('-', '')}Form", (ActForm,), {"verb": found, **made})
