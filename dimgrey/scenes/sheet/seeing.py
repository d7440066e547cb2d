"""Greys: what the grey picture does - balance, eye, twins, parting - and what leaves for other programs."""

from dimgrey.pictures.store import PictureGone
from dimgrey.scenes.acts import Look
from dimgrey.scenes.exports import EXPORTS
from dimgrey.scenes.greyview import seeing_of
from dimgrey.scenes.sheet.part import Part


def _pair(form):
    """The form with the tones the other way round in its second field, so that two alike are not the first to be offered."""
    form.fields["b"].widget.choices = list(reversed(form.fields["b"].widget.choices))
    return form


def _editor(situation, acts, mark):
    exports = tuple((name, label) for name, (label, _) in EXPORTS.items())
    try:
        seen = seeing_of(situation)
    except PictureGone as missing:
        return {"gone": str(missing)}
    return {"seen": seen, "pair": _pair(acts.of("pair")), "chosen_pairs": situation.document.pairs, "exports": exports}


PART = Part(
    key="seeing",
    title="Greys",
    order=120,
    at_rest=True,
    editor=_editor,
    opens="Read it",
    shown=lambda situation: situation.picture is not None,
    acts={"pair": Look(attrs={"a": {"id": "pair-a"}, "b": {"id": "pair-b"}}), "unpair": Look()},
)
