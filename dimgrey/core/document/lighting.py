"""The document's keys of a light plan: lamps, subject, what it is made of, and what its places are wished to be. Every key once."""

from dataclasses import dataclass

from dimgrey.core.lamps.lamp import HIGHEST_M, KINDS, MOST_FACE_M, MOST_LAMPS, MOST_M
from dimgrey.core.lamps.subjects import GROUND_WISHES, SITTER, TABLE
from dimgrey.core.measure.readings import FOOT_M
from dimgrey.core.shapes.declare import YES_NO, Shaped, key, many, needed, number, one_of, text, written

NAME = text(40)
STOPS = number(-12, 12)
UNITS = {"m": "metres", "ft": "feet"}
MOST_WISHES, MOST_BOUND, MOST_KEPT = 8, 40, 3


def shown_length(metres, unit):
    """Metres as fields in a unit show them. unit: "m" or "ft"."""
    return round(metres / (FOOT_M if unit == "ft" else 1.0), 2)


def in_metres(length, unit):
    """What was typed, in metres. length: in the unit. unit: "m" or "ft"."""
    return round(length * (FOOT_M if unit == "ft" else 1.0), 4)


@dataclass(frozen=True)
class LampPart(Shaped):
    """One lamp; as core.lamps.lamp.Lamp has it."""

    name: str = needed(text(40, least=1))
    kind: str = key(one_of(*KINDS), "lasting")
    angle_deg: float = key(number(-180, 180), 45.0, about="Around the subject from the camera, to its right above 0.")
    away_m: float = key(number(0, MOST_M), 1.5)
    height_m: float = key(number(0, HIGHEST_M), 1.8)
    width_m: float = key(number(0, MOST_FACE_M), 0.0)
    face_m: float = key(number(0, MOST_FACE_M), 0.0, about="Height of what shines.")
    is_round: bool = key(YES_NO, False)
    strength: float = key(
        number(0, 10000000),
        1000.0,
        about="Lasting: lux at 1 m. Flash: guide number in metres at ISO 100. Window: lux on its pane. Reflector: its share.",
    )
    stops: float = key(STOPS, 0.0)
    least_stops: float = key(STOPS, -7.0)
    most_stops: float = key(STOPS, 0.0)
    grid_deg: float = key(number(0, 80), 0.0)
    is_flagged: bool = key(YES_NO, False)
    is_on: bool = key(YES_NO, True)
    follows_sky: bool = key(
        YES_NO, False, about="Of a window: its strength is that of the open sky at the scene's time."
    )


@dataclass(frozen=True)
class LightWishPart(Shaped):
    """What a place shall be: on a zone, or so many zones over another place."""

    place: str = needed(text(20))
    zone: float = needed(number(-10, 10))
    over: str = key(text(20), "")


@dataclass(frozen=True)
class LitTonePart(Shaped):
    """A tone of the scene and the place of the light plan that has its light: a lamp that changes moves what it lights."""

    tone: str = needed(text(60))
    place: str = needed(text(20))


@dataclass(frozen=True)
class KeptLampsPart(Shaped):
    """Lamps as they were kept under a name, to be compared with those in use."""

    name: str = needed(text(40, least=1))
    lamps: tuple = many(LampPart, MOST_LAMPS)


@dataclass(frozen=True)
class LightingPart(Shaped):
    """A light plan. skin, hair, clothes, ground: names of core.lamps.reflectances. ambient_lux: of the room. aperture, shutter: as people write them,
    for a scene that has no plan yet."""

    subject: str = key(one_of(SITTER, TABLE), SITTER)
    skin: str = key(NAME, "pale skin")
    hair: str = key(NAME, "brown hair")
    clothes: str = key(NAME, "grey wool")
    ground: str = key(NAME, "dark grey paper")
    is_bold: bool = key(YES_NO, False, about="The clothes have a bold pattern.")
    ground_wish: str = key(one_of(*GROUND_WISHES), "part", about="What the ground is to do with hair and shoulder.")
    ground_m: float = key(number(0.3, 10), 1.5, about="From the subject to the ground behind it.")
    camera_m: float = key(number(0.5, 10), 2.0)
    ambient_lux: float = key(number(0, 100000), 0.0)
    aperture: float | str = key(written(16), "f/8")
    shutter: float | str = key(written(16), "1/125")
    sync_s: float = key(number(0.0001, 1), 1 / 128, about="The shortest time at which a flash lights the whole frame.")
    recycle_s: float = key(number(0.1, 60), 3.0, about="Seconds that a flash needs after full power.")
    unit: str = key(one_of(*UNITS), "m")
    lamps: tuple = many(LampPart, MOST_LAMPS)
    wishes: tuple = many(LightWishPart, MOST_WISHES)
    lit: tuple = many(LitTonePart, MOST_BOUND)
    kept: tuple = many(KeptLampsPart, MOST_KEPT)
