"""Cautions: what plan, picture and sky warn of, and the ways out that one act takes."""

from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part

TAKEN_BY_ONE_ACT = ("graduated", "contrast", "bracket", "let-go")


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
    acts={"remedy": Look()},
)
