"""Sky in the picture: where it was found, or drawn by hand, or that there is none; it is looked at as daylight."""

from dimgrey.pictures import store
from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part

LITTLE = 0.005


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
    order=130,
    at_rest=True,
    holds=lambda situation: {"found": "", "none": "none"}.get(situation.document.sky.area, "drawn"),
    line=lambda situation: {"words": sky_line(situation)},
    editor=lambda situation, forms, mark: {"form": forms.of("sky")},
    opens="Mend",
    shown=lambda situation: situation.picture is not None,
    acts={"sky": Look(lambda situation: {"area": situation.document.sky.area}, {"area": {"id": "sky-area"}})},
)
