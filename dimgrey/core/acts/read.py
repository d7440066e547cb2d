"""A reading of a tone, typed as the meter shows it. One far from the others is asked about before it counts."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import MARK, As, OneOf, YesNo, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.document.doubts import doubt_about
from dimgrey.core.document.tonebriefing import glass_in_front
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.readings import TYPED_KINDS, parse_reading

DOUBT = "doubt"
"""Code of the refusal that is a question."""
READING = As(lambda text, document: parse_reading(text, str(document.medium.iso), document.increment), knows=True)


@dataclass(frozen=True, kw_only=True)
class Keys:
    """replace: earlier typed readings go. others: the light changed, and every other tone moves along. sure: a doubt was answered."""

    mark: str = needed(MARK)
    reading: dict = needed(
        READING, "Meter says", "12⅓ or 1/125 f/8", "Type a reading: an EV such as 12⅓, or 1/125 f/8."
    )
    kind: str | None = given(OneOf(TYPED_KINDS), None)
    through: bool = given(YesNo(), False, "through the filter")
    replace: bool = given(YesNo(), False)
    others: bool = given(YesNo(), False)
    sure: bool = given(YesNo(), False)


def _edit(document, said, case):
    reading = case.typed(said.reading)
    if said.kind:
        reading = replace(reading, kind=said.kind)
    if said.through:
        reading = replace(reading, through=glass_in_front(document))
    if not (said.replace or said.others or said.sure or case.settled):
        question = doubt_about(document, said.mark, reading)
        if question:
            raise CoreError(question, parameter="reading", code=DOUBT)
    if said.others:
        return edits.with_light_from(document, said.mark, reading)
    return edits.with_reading(document, said.mark, reading, said.replace, case.facts)


VERB = Verb("read", "Keep a reading of a tone", _edit, Keys, "read {mark}", appends=True)
