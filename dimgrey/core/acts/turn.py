"""How far the polarizer is turned from the deepest sky."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Number, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import meansedits


@dataclass(frozen=True, kw_only=True)
class Keys:
    turned: float = needed(Number(0, 45), "Polarizer turned from the deepest sky, °")


VERB = Verb(
    "turn",
    "Turn the polarizer",
    lambda document, said, case: meansedits.with_glass_changed(document, "polarizer", turned_deg=said.turned),
    Keys,
    "turn the polarizer",
)
