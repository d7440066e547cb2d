"""Cautions: what plan, picture and sky warn of. Ways out of it are the judge's, beside the intent."""

from dimgrey.scenes.sheet.part import Part


def _line(situation):
    return {"cautions": situation.cautions}


PART = Part(
    key="cautions",
    title="Cautions",
    order=120,
    line=_line,
    opens="",
    shown=lambda situation: bool(situation.cautions),
)
