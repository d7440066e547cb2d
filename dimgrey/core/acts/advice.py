"""What a proposal for the means says, as the bench shows it."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import Text, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import meansedits
from dimgrey.core.document.edits import Refused


@dataclass(frozen=True, kw_only=True)
class Keys:
    """code: of the proposal."""

    code: str = needed(Text(40))


def _edit(document, said, case):
    proposal = next((each for each in case.advice(document) if each.code == said.code), None)
    if proposal is None:
        raise Refused("That advice no longer fits this plan.", code="no-advice")
    return meansedits.with_advice(document, proposal)


VERB = Verb("advice", "Take a proposal for the means", _edit, Keys, "advice: {code}", ("advice",))
