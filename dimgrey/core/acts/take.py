"""A proposal of aperture, speed and neutral density that is taken."""

from dataclasses import dataclass, replace

from dimgrey.core.acts.keys import As, Number, given, needed
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.document.means import GlassPart
from dimgrey.core.measure.notation import parse_aperture, parse_speed
from dimgrey.core.measure.stops import written_aperture


@dataclass(frozen=True, kw_only=True)
class Keys:
    aperture: object = needed(As(parse_aperture))
    iso: object = needed(As(parse_speed))
    nd: float | None = given(Number(0, 20))


def _edit(document, said, case):
    others = tuple(glass for glass in document.filters if glass.name != "nd")
    nd = (GlassPart("nd", stops=said.nd),) if said.nd else ()
    made = document.with_(
        camera=replace(document.camera, shutter=None, aperture=written_aperture(said.aperture)),
        medium=replace(document.medium, iso=int(said.iso.name)),
        filters=(*others, *nd),
    )
    return rescaled(made, case.facts)


VERB = Verb("take", "Take the proposed aperture and speed", _edit, Keys, "proposed setting")
