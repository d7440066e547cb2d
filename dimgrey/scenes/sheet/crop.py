"""Crop: by its shape, or by its four edges when it was dragged."""

from dimgrey.core.acts.crop import WHOLE
from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part


def _first(situation):
    crop = situation.document.crop
    return {"ratio": crop.ratio, "upright": crop.upright, "guides": crop.guides} if crop else {"ratio": WHOLE}


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
    order=90,
    at_rest=True,
    holds=lambda situation: situation.document.crop.ratio if situation.document.crop else "",
    line=lambda situation: {"words": crop_line(situation)},
    editor=lambda situation, forms, mark: {"form": forms.of("crop")},
    shown=lambda situation: situation.picture is not None,
    acts={
        "crop": Look(
            _first, {"ratio": {"id": "crop-ratio"}, "upright": {"id": "crop-upright"}, "guides": {"id": "crop-guides"}}
        )
    },
)
