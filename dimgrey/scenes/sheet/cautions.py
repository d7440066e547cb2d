"""Cautions: what plan, picture and sky warn of. Ways out of it are the judge's, beside the intent."""

from dimgrey.scenes.sheet.part import Part


def _line(situation):
    """Each caution with its first sentence, and what else it says."""
    split = (caution.text.partition(". ") for caution in situation.cautions)
    told = zip(situation.cautions, split, strict=True)
    return {
        "cautions": tuple(
            {"code": caution.code, "head": f"{head}." if more else head, "more": more}
            for caution, (head, _, more) in told
        )
    }


PART = Part(
    key="cautions",
    title="Cautions",
    order=40,
    line=_line,
    opens="",
    shown=lambda situation: bool(situation.cautions),
)
