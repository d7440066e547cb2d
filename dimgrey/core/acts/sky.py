"""Where the sky of the picture is: as it is found, drawn by hand, or none."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import As, OneOf, given, needed
from dimgrey.core.acts.pin_area import MOST_LETTERS
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.document.model import SKY_AREAS, SkyPart
from dimgrey.core.picture.outline import parse_outline


@dataclass(frozen=True, kw_only=True)
class Keys:
    area: str = needed(OneOf(SKY_AREAS), "The sky is")
    outline: tuple | None = given(As(parse_outline, most=MOST_LETTERS))


def _edit(document, said, case):
    # An outline stays in the document while another way is chosen, so that it can be taken up again.
    outline = said.outline or document.sky.outline
    if said.area == "drawn" and not outline:
        sentence = "Press “Draw it” and draw round the sky on the picture."
        raise Refused(sentence, parameter="area", code="sky-undrawn")
    return rescaled(document.with_(sky=SkyPart(said.area, outline)), case.facts)


VERB = Verb("sky", "Say where the sky of the picture is", _edit, Keys, "sky area")
