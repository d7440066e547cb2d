"""A filter of the kit put in front of the lens, in place of one of its kind."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Named, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import meansedits
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.kituse import glass_of


@dataclass(frozen=True, kw_only=True)
class Keys:
    filter: str = needed(Named("filter"), "From the kit", missing="Choose a filter of the kit.")


def _edit(document, said, case):
    item = case.item("filter", said.filter)
    if item is None:
        raise Refused(f"The kit has no filter “{said.filter}” any more. Choose another.", code="kit-gone")
    return meansedits.with_glass(document, glass_of(item))


VERB = Verb("kit-filter", "Put a filter of the kit in front", _edit, Keys, "filter: {filter}", ("item",))
