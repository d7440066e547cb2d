"""Bracket: several frames around the plan, and which of them holds which tone."""

from django import forms

from dimgrey.core.document.model import BracketPart
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.brackets import COUNTS, ORDERS, require_bracket
from dimgrey.core.measure.notation import parse_stops
from dimgrey.core.measure.stops import format_stops, format_time
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, choices, text_input

USUAL_STEP = 1.0


class BracketForm(ActForm):
    """Count, step and order of a bracket; no count takes it away."""

    count = forms.TypedChoiceField(
        choices=[("", "none"), *choices(COUNTS)], coerce=int, empty_value=None, required=False, label="Frames"
    )
    step = CoreField(
        lambda text: parse_stops(text, "bracket"), label="Stops apart", widget=text_input("1", decimal=True)
    )
    order = forms.ChoiceField(choices=choices(ORDERS), required=False, label="Order")

    ids = {"count": "bracket-count", "step": "bracket-step", "order": "bracket-order"}

    def first(self, situation):
        part = situation.document.bracket
        return {"count": part.count, "step": format_stops(part.step), "order": part.order} if part else {}

    def clean(self):
        data = super().clean()
        if data.get("count"):
            try:
                self.found = require_bracket(
                    data["count"], data.get("step") or USUAL_STEP, data.get("order") or ORDERS[0]
                )
            except CoreError as refused:
                raise forms.ValidationError(str(refused)) from None
        return data

    def bracket(self):
        if not self.cleaned_data["count"]:
            return None
        return BracketPart(self.found.count, round(self.found.step, 4), self.found.order)


def bracket_lines(situation):
    """The frames of the bracket: offset, time, what each holds, and the zones it holds well. () without one."""
    result = situation.plan
    if result is None:
        return ()
    low, high = result.brief.medium.dependable
    return tuple(
        {
            "offset": format_stops(frame.offset_stops, signed=True) if frame.offset_stops else "0",
            "shutter": format_time(frame.shutter),
            "holds": ", ".join(frame.holds) or "no tone well",
            "zones": (low - frame.offset_stops, high - frame.offset_stops),
        }
        for frame in result.bracket_frames
    )


PART = Part(
    key="bracket",
    title="Bracket",
    order=100,
    line=lambda situation: {"words": ", ".join(frame["shutter"] for frame in bracket_lines(situation)) or "None"},
    editor=lambda situation, forms, mark: {"form": forms["bracket"], "frames": bracket_lines(situation)},
    shown=lambda situation: situation.plan is not None,
    acts={
        "bracket": Act(
            BracketForm, lambda scene, form, by: actions.set_parts(scene, by, "bracket", bracket=form.bracket())
        )
    },
)
