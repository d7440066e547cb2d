"""Sky in the picture: where it was found, or drawn by hand, or that there is none; it is looked at as daylight."""

from django import forms

from dimgrey.core.document.model import SKY_AREAS, SkyPart
from dimgrey.core.picture.outline import parse_outline
from dimgrey.pictures import store
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, choices

LITTLE = 0.005


class SkyForm(ActForm):
    area = forms.ChoiceField(choices=choices(SKY_AREAS), label="The sky is")
    outline = CoreField(parse_outline, max_length=1200)

    ids = {"area": "sky-area"}

    def first(self, situation):
        return {"area": situation.document.sky.area}

    def sky(self):
        """The SkyPart. An outline stays in the document while another way is chosen, so that it can be taken up again."""
        outline = self.cleaned_data["outline"] or self.document.sky.outline
        return SkyPart(self.cleaned_data["area"], outline)

    def clean(self):
        data = super().clean()
        if self.has_error("outline"):  # the hand drew it, so there is no field to say it at
            self.add_error("area", self.errors["outline"][0])
        elif data.get("area") == "drawn" and not data.get("outline") and not self.document.sky.outline:
            self.add_error("area", "Press “Draw it” and draw round the sky on the picture.")
        return data


def sky_line(situation):
    """Where the sky of the picture is, in words."""
    area = situation.document.sky.area
    if area == "none":
        return "None: every colour is looked at as an object"
    try:
        share = store.seen(situation.picture.path, situation.overhead).sky
    except store.PictureGone:
        return "The picture’s file is missing"
    part = 0.0 if share is None else float((share > 0.5).mean())
    if part < LITTLE:
        return "No blue sky found" if area == "found" else "Drawn by hand, hardly anything"
    return f"{'Found' if area == 'found' else 'Drawn by hand'}: {part * 100:.0f} % of the picture"


PART = Part(
    key="sky",
    title="Sky area",
    order=72,
    line=lambda situation: {"words": sky_line(situation)},
    editor=lambda situation, forms, mark: {"form": forms["sky"]},
    opens="Mend",
    shown=lambda situation: situation.picture is not None,
    acts={"sky": Act(SkyForm, lambda scene, form, by: actions.set_parts(scene, by, "sky area", sky=form.sky()))},
)
