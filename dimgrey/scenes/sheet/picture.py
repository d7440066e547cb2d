"""Picture: how its light got its scale, what its file warns of, and another one in its place."""

from django import forms

from dimgrey.core.document.lightscale import guessed_light
from dimgrey.core.measure.stops import counted_stops
from dimgrey.core.sky.daylight import TAKEN_IN, error_of
from dimgrey.scenes.acts import Look
from dimgrey.scenes.forms import ACCEPT
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import PlainForm


class PictureForm(PlainForm):
    picture = forms.FileField(allow_empty_file=True, label="Picture", widget=forms.FileInput({"accept": ACCEPT}))


def scale_line(situation):
    """How the picture's light got its scale, and how well typed readings agree with it."""
    facts, scale = situation.facts, situation.scale
    if facts is None:
        return ""
    if facts.simulated_light:
        return "Made-up light in cd/m²; the ring is a simulated spot meter."
    if scale is None:
        return (
            "The picture's light has no scale yet: say which light it was taken in, or type a meter reading at one pin."
        )
    count, light = len(scale.residuals), guessed_light(situation.document)
    if facts.absolute:
        source = "The picture carries its scale in cd/m²."
    elif count == 0 and light and facts.middle_grey_ev100 is None:
        return (
            f"A guess from “{light}”, good to {counted_stops(error_of(light))}; a typed reading at a pin corrects it."
        )
    elif count == 0:
        source = "Estimate from the picture's own exposure data; a typed reading at a pin corrects it."
    elif count == 1:
        source = "Scale set by one typed reading."
    else:
        source = f"Scale fitted to {count} typed readings, contrast ×{scale.slope:.2f}."
    if count > 1 or (facts.absolute and count):
        return f"{source} Worst residual {scale.worst_residual:.1f} stop."
    return source


def may_be_guessed(situation):
    """Whether the picture's light has no scale of its own."""
    facts = situation.facts
    return facts is not None and not facts.absolute and facts.middle_grey_ev100 is None


def asks_light(situation):
    """The lights that a picture may have been taken in, asked for in the picture itself while its light has no scale; () else."""
    return tuple(TAKEN_IN) if may_be_guessed(situation) and situation.scale is None else ()


def _line(situation):
    picture = situation.picture
    return {"words": scale_line(situation), "warnings": tuple(picture.warnings)} if picture else {}


PART = Part(
    key="picture",
    title="Picture",
    order=140,
    at_rest=True,
    line=_line,
    editor=lambda situation, acts, mark: {
        "form": PictureForm(),
        "light": acts.of("taken-in") if may_be_guessed(situation) else None,
    },
    opens=lambda situation: "Another" if situation.picture else "Add one",
    acts={"taken-in": Look(attrs={"light": {"id": "taken-in"}})},
)
