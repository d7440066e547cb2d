"""Aperture or shutter to lead with; the other follows."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import OneOf, Text, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_aperture, parse_time
from dimgrey.core.measure.stops import written_aperture, written_time

LEADS = {"aperture": (parse_aperture, written_aperture), "shutter": (parse_time, written_time)}


@dataclass(frozen=True, kw_only=True)
class Keys:
    lead: str = needed(OneOf(tuple(LEADS)))
    value: str = needed(
        Text(24), "Or choose the time", "1/60", "Write a time such as 1/60, or an aperture such as f/8."
    )


def _edit(document, said, case):
    parse, written = LEADS[said.lead]
    try:
        value = written(parse(said.value, document.increment))
    except CoreError as refused:
        refused.parameter = "value"
        raise
    leads = {**dict.fromkeys(LEADS), said.lead: value}
    return rescaled(document.with_(camera=replace(document.camera, **leads)), case.facts)


VERB = Verb("setting", "Lead with an aperture or a time", _edit, Keys, "{value}")
