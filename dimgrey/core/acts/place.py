"""A tone placed on a zone, or so that it prints on one. What its school would not place becomes a “known tone”."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import MARK, As, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.document.edits import Refused
from dimgrey.core.planning.zones import format_zone, parse_zone


@dataclass(frozen=True, kw_only=True)
class Keys:
    """zone: in the terms of the plan's hold. print: instead of it, the print that the tone shall have."""

    mark: str = needed(MARK, "Tone")
    zone: float | None = given(As(parse_zone), None, "Zone")
    print: float | None = given(As(parse_zone))


def _edit(document, said, case):
    if said.zone is None and said.print is None:
        raise Refused("Say the zone, such as VII⅓ or 7.5.", parameter="zone", code="zone-missing")
    return edits.placed(document, said.mark, said.zone, said.print, case.read_as)


def _words(document, said):
    return (
        f"{said.mark} on {format_zone(said.zone)}"
        if said.print is None
        else f"{said.mark} prints {format_zone(said.print)}"
    )


VERB = Verb("place", "Place a tone on a zone", _edit, Keys, _words, ("read_as",), about="tones")
