"""Pin a key tone that is an area: all of its light is read, as a sweep of the meter would."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import As, needed
from dimgrey.core.acts.pin import NO_PICTURE
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.picture.outline import middle_of, parse_outline

MOST_LETTERS = 1200
"""Of an outline as it is sent: 60 corners of two fractions."""


@dataclass(frozen=True, kw_only=True)
class Keys:
    outline: tuple = needed(As(parse_outline, most=MOST_LETTERS), missing="Draw round the tone on the picture.")


def _edit(document, said, case):
    case.require_picture(NO_PICTURE)
    seen = case.meter(document).read_area(said.outline)
    reading = case.of_picture(document, seen)
    return edits.pinned(document, *middle_of(said.outline), seen.spot, reading, said.outline)


VERB = Verb("pin-area", "Pin a key tone that is an area", _edit, Keys, "pin an area", ("meter",), appends=True)
