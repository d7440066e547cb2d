"""Crop: by its shape, or by its four edges when it was dragged."""

from django import forms

from dimgrey.core.document.model import CropPart
from dimgrey.core.picture.crop import RATIOS, largest_crop, require_crop
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import choices

FREE_BOX = (0.1, 0.1, 0.9, 0.9)
WHOLE_BOX = (0.0, 0.0, 1.0, 1.0)


class CropForm(ActForm):
    ratio = forms.ChoiceField(choices=[("whole", "whole picture"), *choices((*RATIOS, "free"))], label="Shape")
    upright = forms.BooleanField(required=False, label="upright")
    guides = forms.ChoiceField(choices=choices(("none", "thirds", "golden")), required=False, label="Guide lines")
    left = forms.FloatField(required=False)
    top = forms.FloatField(required=False)
    right = forms.FloatField(required=False)
    bottom = forms.FloatField(required=False)

    ids = {"ratio": "crop-ratio", "upright": "crop-upright", "guides": "crop-guides"}

    def first(self, situation):
        crop = situation.document.crop
        return {"ratio": crop.ratio, "upright": crop.upright, "guides": crop.guides} if crop else {"ratio": "whole"}

    def crop(self, picture_ratio):
        """The CropPart for a picture of a ratio (width over height), or None for the whole. Raises OutOfRange."""
        data, before = self.cleaned_data, self.document.crop
        if data["ratio"] == "whole":
            return None
        edges = [data[key] for key in ("left", "top", "right", "bottom")]
        if None not in edges:
            found = require_crop(*edges)
        elif data["ratio"] == "free":
            found = require_crop(*(before.box if before else FREE_BOX))
        else:
            left, top, right, bottom = before.box if before else WHOLE_BOX
            centre = ((left + right) / 2, (top + bottom) / 2)
            found = largest_crop(data["ratio"], picture_ratio, data["upright"], centre)
        guides = data["guides"] or (before.guides if before else "none")
        return CropPart((found.left, found.top, found.right, found.bottom), data["ratio"], data["upright"], guides)


def crop_line(situation):
    crop = situation.document.crop
    if not crop:
        return "Whole picture"
    left, top, right, bottom = crop.box
    shape = crop.ratio + (" upright" if crop.upright else "")
    return f"{shape}, {(right - left) * 100:.0f} × {(bottom - top) * 100:.0f} % of the picture"


PART = Part(
    key="crop",
    title="Crop",
    order=70,
    line=lambda situation: {"words": crop_line(situation)},
    editor=lambda situation, forms, mark: {"form": forms["crop"]},
    shown=lambda situation: situation.picture is not None,
    acts={"crop": Act(CropForm, lambda scene, form, by: actions.crop_picture(scene, by, form.crop))},
)
