"""One tone pulled lighter or darker by the own mix of a raw file."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import As, Named, YesNo, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import meansedits
from dimgrey.core.measure.notation import parse_stops


@dataclass(frozen=True, kw_only=True)
class Keys:
    """follow: the other tones follow the curve; else it holds them."""

    tone: str = needed(Named("tone"), "Pull")
    stops: float = needed(
        As(lambda text: parse_stops(text, "stops")), "lighter by, stops", "-1", "Say by how many stops."
    )
    follow: bool = given(YesNo(), False, "others follow")


VERB = Verb(
    "bend",
    "Pull a tone in the own mix of a raw file",
    lambda document, said, case: meansedits.with_bend(document, said.tone, said.stops, not said.follow),
    Keys,
    "pull {tone}",
)
