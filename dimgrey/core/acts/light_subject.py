"""What is lit, before what, and how the camera is set while the scene has no plan."""

from dataclasses import dataclass

from dimgrey.core.acts.keys import As, Number, OneOf, YesNo, given, needed
from dimgrey.core.acts.lit import NEEDS, lamp_edit
from dimgrey.core.acts.verb import Verb
from dimgrey.core.document import lightplan
from dimgrey.core.document.lighting import GROUND_WISHES, UNITS, in_metres
from dimgrey.core.lamps.reflectances import CLOTH, GROUND, HAIR, SKIN, of_kind
from dimgrey.core.lamps.subjects import SITTER, TABLE
from dimgrey.core.measure.notation import parse_aperture, parse_time
from dimgrey.core.measure.stops import format_aperture, format_time

LENGTH = Number(0.1, 33)
AS_SAID = ("subject", "skin", "hair", "clothes", "is_bold", "ground", "ground_wish", "ambient_lux")
LENGTHS = {"ground_away": "ground_m", "camera_away": "camera_m"}


def _surfaces(kind):
    return OneOf(lambda document: tuple(surface.name for surface in of_kind(kind)))


@dataclass(frozen=True, kw_only=True)
class Keys:
    subject: str = needed(OneOf((SITTER, TABLE)), "Subject")
    skin: str = needed(_surfaces(SKIN), "Skin")
    hair: str = needed(_surfaces(HAIR), "Hair")
    clothes: str = needed(_surfaces(CLOTH), "Clothes")
    is_bold: bool = given(YesNo(), False, "bold pattern")
    ground: str = needed(_surfaces(GROUND), "Ground")
    ground_wish: str = needed(OneOf(GROUND_WISHES), "Hair and shoulder shall")
    ground_away: float = needed(LENGTH, "Ground behind it")
    camera_away: float = needed(LENGTH, "Camera before it")
    ambient_lux: float = needed(Number(0, 100000), "Light of the room, lux")
    aperture: str | None = given(As(lambda text: format_aperture(parse_aperture(text))), None, "Aperture")
    shutter: str | None = given(As(lambda text: format_time(parse_time(text))), None, "Time")
    unit_of_length: str = needed(OneOf(UNITS), "Lengths in")


def _change(document, said, case):
    fields = {name: getattr(said, name) for name in AS_SAID}
    fields |= {field: in_metres(getattr(said, key), document.lighting.unit) for key, field in LENGTHS.items()}
    fields |= {name: getattr(said, name) for name in ("aperture", "shutter") if getattr(said, name)}
    return lightplan.with_subject(document, **fields, unit=said.unit_of_length)


VERB = Verb("light-subject", "Say what is lit, before what", lamp_edit(_change), Keys, "subject", NEEDS)
