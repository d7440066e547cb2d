"""Another way to place, and what it aims at."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import OneOf, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.planning.schools import SCHOOLS

UNDER = {
    "0": "as metered",
    "0.3333": "a third under",
    "2": "two stops under",
    "2 lifted": "two under, lifted later",
}
HOLDS_NAMED = {
    "usual": "as fits",
    "before filter": "before the filter (classic)",
    "after filter": "after the filter",
    "in the print": "in the print",
}


@dataclass(frozen=True, kw_only=True)
class Keys:
    """A key that is left out leaves what it is about as it was."""

    school: str = needed(
        OneOf(lambda document: {key: school.name for key, school in SCHOOLS.items()}),
        "School",
        missing="Say which school.",
    )
    hold: str | None = given(OneOf(HOLDS_NAMED), None, "The zone is held")
    white: str | None = given(OneOf({"textured": "keep texture", "pure": "pure white"}), None, "Whites")
    shadows: str | None = given(OneOf({"full": "keep detail", "empty": "black shapes"}), None, "Shadows")
    under: str | None = given(OneOf(UNDER), None, "Exposure")


def under_stops(row):
    """Stops of a row of UNDER."""
    return float(row.split()[0])


def _edit(document, said, case):
    targets = {name: getattr(said, name) for name in ("white", "shadows") if getattr(said, name)}
    if said.hold:
        targets["hold"] = None if said.hold == "usual" else said.hold
    if said.under:
        targets |= {"under_stops": round(under_stops(said.under), 4), "lifted": said.under.endswith("lifted")}
    return edits.with_school(document, said.school, targets, case.read_as)


VERB = Verb("school", "Choose how to place", _edit, Keys, "school: {school}", ("read_as",))
