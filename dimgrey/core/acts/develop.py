"""The roll developed by a step for all its frames, or as each scene asks."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import OneOf, YesNo, given
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.edits import Refused
from dimgrey.core.planning.development import format_development

STEPS = tuple(range(-2, 3))


@dataclass(frozen=True, kw_only=True)
class Keys:
    """sheets: each sheet is developed by itself, longer too."""

    developed: int | None = given(
        OneOf(
            {step: f"{format_development(step)} for the whole roll" for step in STEPS},
            unsaid="shorter where a scene asks",
        ),
        None,
        "Film is developed",
    )
    sheets: bool = given(YesNo(), False, "each sheet by itself, longer too")


def _edit(document, said, case):
    if document.medium.kind != "film":
        raise Refused("Only negative film is developed longer or shorter.", code="not-film")
    return document.with_(medium=replace(document.medium, developed=said.developed, by_sheet=said.sheets))


VERB = Verb("develop", "Say how the roll is developed", _edit, Keys, "development")
