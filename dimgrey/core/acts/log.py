"""A frame was exposed: it stands in the log with its plan, and changes nothing of the scene."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import ID, As, Text, given
from dimgrey.core.acts.verb import Verb
from dimgrey.core.errors import NotPlaced
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_time
from dimgrey.core.planning.planwords import plan_or_wait


@dataclass(frozen=True, kw_only=True)
class Keys:
    """What was really set; a key that is left out is as planned. token: makes a double click one frame."""

    shutter: object = given(As(parse_time), None, "Shutter", "as planned")
    aperture: object = given(As(parse_aperture), None, "Aperture", "as planned")
    iso: object = given(As(parse_speed), None, "ISO", "as planned")
    note: str = given(Text(500), "", "Note")
    token: str | None = given(ID)


def _edit(document, said, case):
    result, wait = plan_or_wait(case.read_as(document))
    if result is None:
        raise NotPlaced(wait, parameter="placing", code="nothing-placed")
    return document


def _words(document, said):
    return " ".join(["frame", *(each.name for each in (said.shutter, said.aperture) if each)])


VERB = Verb("log", "Log a frame", _edit, Keys, _words, ("read_as",), appends=True, about="log")
