"""A reading of a tone, typed as the meter shows it. One far from the others is asked about before it counts."""

import re
from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import MARK, As, OneOf, YesNo, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import edits
from dimgrey.core.document.doubts import doubt_about
from dimgrey.core.document.tonebriefing import glass_in_front, tone_ev
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_stops, require_ev
from dimgrey.core.measure.readings import TYPED_KINDS, parse_reading
from dimgrey.core.measure.stops import format_stops

DOUBT = "doubt"
"""Code of the refusal that is a question."""
_AGAINST = re.compile(
    r"(?P<stops>[+\-−]?\s*[\d.,⅓½⅔/ ]+?)\s*(?:stops?)?\s*(?:on|against|over|from|vs\.?)\s*(?P<mark>[A-Z]{1,2})"
)
_UNDER = re.compile(r"(?P<stops>[\d.,⅓½⅔/ ]+?)\s*(?:stops?)?\s*(?:under|below)\s*(?P<mark>[A-Z]{1,2})")


def typed_reading(text, document):
    """A reading as a meter shows it: an EV, a time at an aperture and perhaps a speed, or stops against another tone, "+1⅓ on A"."""
    written = str(text).strip()
    for pattern, sign in ((_AGAINST, 1), (_UNDER, -1)):
        match = pattern.fullmatch(written)
        if match:
            return _beside(document, match["mark"], sign * parse_stops(match["stops"], "reading"), written)
    return parse_reading(written, str(document.medium.iso), document.increment)


def _beside(document, mark, stops, written):
    tone = document.tone(mark)
    ev = None if tone is None else tone_ev(tone, document)
    if ev is None:
        raise CoreError(
            f"“{written[:24]}” counts from tone {mark}, which has no reading. Read {mark} first, or type an EV.",
            parameter="reading",
            code="reading-beside",
        )
    return {"ev100": round(require_ev(ev + stops), 4), "note": f"{format_stops(stops, signed=True)} against {mark}"}


READING = As(typed_reading, knows=True)


@dataclass(frozen=True, kw_only=True)
class Keys:
    """replace: earlier typed readings go. others: the light changed, and every other tone moves along. sure: a doubt was answered."""

    mark: str = needed(MARK)
    reading: dict = needed(
        READING, "Meter says", "12⅓, 1/125 f/8 or +2 on A", "Type a reading: an EV such as 12⅓, or 1/125 f/8."
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
