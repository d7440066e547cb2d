"""A tone of the scene bound to the light of a place, so that a lamp that changes moves its reading."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Named, Text, given, needed
from dimgrey.core.acts.lit import NEEDS, lit_plan, require_lighting
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan
from dimgrey.core.document.edits import Refused


@dataclass(frozen=True, kw_only=True)
class Keys:
    """place: "" for none."""

    tone: str = needed(Named("tone"))
    place: str = given(Text(20), "")


def _edit(document, said, case):
    require_lighting(document)
    if said.tone not in document.names:
        raise Refused("There is no such tone.", code="no-tone")
    if said.place and said.place not in lit_plan(document, case).place_names:
        raise Refused("That place is not in this picture.", code="no-place")
    return lightplan.bound(document, said.tone, said.place)


VERB = Verb("light-bind", "Bind a tone to the light of a place", _edit, Keys, "light of {tone}", NEEDS)
