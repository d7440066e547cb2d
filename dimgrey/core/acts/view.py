"""Where the camera looks and when, whether there is sky, and the light that is wanted."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import As, OneOf, Several, YesNo, given
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.document.model import View
from dimgrey.core.sky.clock import parse_clock
from dimgrey.core.sky.wants import WANTS, parse_heading, parse_tilt

LIGHTS = OneOf({code: want.label for code, want in WANTS.items()})


@dataclass(frozen=True, kw_only=True)
class Keys:
    heading: float | None = given(As(parse_heading), None, "Camera looks, degrees from north", "0 north, 90 east")
    tilt: float | None = given(As(parse_tilt), None, "Tilted up, degrees", "0")
    time: object = given(As(parse_clock), None, "Planned time", "16:40")
    sky: bool = given(YesNo(), False, "There is sky in the frame")
    lights: tuple = given(Several(LIGHTS), (), "Light it wants")


def _edit(document, said, case):
    clock = said.time.strftime("%H:%M") if said.time else ""
    view = View(said.heading, said.tilt, clock, said.sky)
    wanted = replace(document.wanted, lights=said.lights)
    return rescaled(document.with_(view=view, wanted=wanted), case.facts)


VERB = Verb("view", "Say where the camera looks and when", _edit, Keys, "view and light")
