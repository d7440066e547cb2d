"""Pin a key tone in the picture: its light is read, it gets a letter and a fitting name."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Number, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits

NO_PICTURE = "This scene has no picture. Add the tone by its name instead."


@dataclass(frozen=True, kw_only=True)
class Keys:
    """Fractions of the picture's width and height."""

    x: float = needed(Number(0, 1))
    y: float = needed(Number(0, 1))


def _edit(document, said, case):
    case.require_picture(NO_PICTURE)
    seen = case.meter(document).read(said.x, said.y, document.meter.spot_deg)
    return edits.pinned(document, said.x, said.y, seen.spot, case.of_picture(document, seen))


VERB = Verb(
    "pin", "Pin a key tone in the picture and read its light", _edit, Keys, "pin a tone", ("meter",), appends=True
)
