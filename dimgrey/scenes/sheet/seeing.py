"""Greys: what the grey picture does - balance, eye, twins, parting - and what leaves for other programs."""

from django import forms

from dimgrey.pictures.store import PictureGone
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.exports import EXPORTS
from dimgrey.scenes.seeing import seeing_of
from dimgrey.scenes.sheet.part import Part


class PairForm(ActForm):
    a = forms.CharField(max_length=60, label="Must part")
    b = forms.CharField(max_length=60, label="from")

    ids = {"a": "pair-a", "b": "pair-b"}

    def __init__(self, data=None, document=None, situation=None):
        super().__init__(data, document, situation)
        if situation:
            names = situation.document.names
            for field, order in (("a", names), ("b", reversed(names))):
                listed = [(name, name) for name in order]
                self.fields[field].widget = forms.Select({"class": "form-select", "id": f"pair-{field}"}, listed)


def _editor(situation, forms, mark):
    exports = tuple((name, label) for name, (label, _) in EXPORTS.items())
    try:
        seen = seeing_of(situation)
    except PictureGone as missing:
        return {"gone": str(missing)}
    return {"seen": seen, "pair": forms["pair"], "chosen_pairs": situation.document.pairs, "exports": exports}


PART = Part(
    key="seeing",
    title="Greys",
    order=60,
    editor=_editor,
    opens="Read it",
    shown=lambda situation: situation.picture is not None,
    acts={
        "pair": Act(
            PairForm,
            lambda scene, form, by: actions.add_pair(scene, by, form.cleaned_data["a"], form.cleaned_data["b"]),
        ),
        "unpair": Act(ActForm, lambda scene, form, by: actions.set_parts(scene, by, "suggested pairs", pairs=())),
    },
)
