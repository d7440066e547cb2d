"""Cautions: what plan, picture and sky warn of, and the ways out that one act takes."""

from django import forms

from dimgrey.scenes import meansactions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import choices

TAKEN_BY_ONE_ACT = ("graduated", "contrast", "bracket", "let-go")


class RemedyForm(ActForm):
    code = forms.ChoiceField(choices=choices(TAKEN_BY_ONE_ACT))


def _line(situation):
    ways = tuple((remedy, remedy.code in TAKEN_BY_ONE_ACT) for remedy in situation.remedies)
    return {"cautions": situation.cautions, "ways_out": ways}


PART = Part(
    key="cautions",
    title="Cautions",
    order=120,
    line=_line,
    opens="",
    shown=lambda situation: bool(situation.cautions),
    acts={
        "remedy": Act(
            RemedyForm, lambda scene, form, by: meansactions.take_remedy(scene, by, form.cleaned_data["code"])
        )
    },
)
