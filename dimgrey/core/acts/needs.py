"""What aperture and time are chosen for: depth, motion, support."""

import math
from dataclasses import dataclass

from dimgrey.core.acts.keys import As, Number, OneOf, YesNo, given
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document.lightscale import rescaled
from dimgrey.core.document.model import MOTIONS, SUPPORTS, NeedsPart
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.readings import Length, parse_distance


def _distance(text, document):
    return parse_distance(text, document.needs.unit)


@dataclass(frozen=True, kw_only=True)
class Keys:
    near: float | None = given(As(_distance, knows=True), None, "Sharp from", "2 m")
    far: float | None = given(As(_distance, knows=True), None, "to", "infinity")
    motion: str = given(OneOf(MOTIONS, unsaid="does not matter"), "", "Motion")
    speed: float | None = given(Number(0, 1000), None, "Speed, m/s", "1.5 walking")
    distance: float | None = given(As(_distance, knows=True), None, "at", "10 m")
    support: str = given(OneOf(SUPPORTS), "", "Held by")
    shallow: bool = given(YesNo(), False, "Shallow depth")


def _edit(document, said, case):
    refused = lambda sentence: CoreError(sentence, parameter="near", code="depth")
    if (said.near is None) != (said.far is None):
        raise refused("Depth needs both a near and a far distance; far may be infinity.")
    if said.near is not None and not said.near < said.far:
        raise refused(f"The near distance must lie before the far one (got {said.near:g} and {said.far:g} m).")
    typed = {each.unit for each in (said.near, said.far, said.distance) if isinstance(each, Length)} - {""}
    needs = NeedsPart(
        near_m=_plain(said.near),
        far_m="infinity" if said.far == math.inf else _plain(said.far),
        speed_m_s=said.speed or 0.0,
        distance_m=_plain(said.distance),
        motion=said.motion,
        support=said.support,
        shallow=said.shallow,
        unit="ft" if "ft" in typed else "m" if typed else document.needs.unit,
    )
    return rescaled(document.with_(needs=needs), case.facts)


def _plain(length):
    """A Length as the number that a document keeps, to a tenth of a millimetre."""
    return None if length is None else round(float(length), 4)


VERB = Verb("needs", "Say what aperture and time are chosen for", _edit, Keys, "what matters")
