"""One lamp: where it stands, how large its face is, what it gives, and how strong that is.

Places are (x, y, z) in metres: x to the camera's right, y away from the camera, z up from the floor; the subject stands at x = y = 0.
Source: HANDBOOK 20; the guide number is that of ISO 1230:2007.
"""

import math
from dataclasses import dataclass

from dimgrey.core.errors import CoreError, OutOfRange
from dimgrey.core.measure.exposure import C_FLAT

LASTING, FLASH, WINDOW, REFLECTOR = "lasting", "flash", "window", "reflector"
KIND_WORDS = {LASTING: "lasting lamp", FLASH: "flash", WINDOW: "window", REFLECTOR: "reflector"}
KINDS = tuple(KIND_WORDS)
MOST_LAMPS = 12
LEAST_M, MOST_M = 0.2, 30.0
"""From the middle of the subject to a lamp: nearer it stands in it, farther no small studio reaches."""
MOST_FACE_M, HIGHEST_M = 6.0, 12.0
WINDOW_SHARE = 0.8
"""What a clean pane lets through."""


@dataclass(frozen=True)
class Lamp:
    """One lamp.

    name: in words. kind: of KINDS. angle_deg: around the subject from the camera, to its right above 0; 180 is behind. away_m: along the floor from
    the subject. height_m: of its middle above the floor. width_m, face_m: width and height of what shines; 0 is a bare point. is_round: a disc of
    that width. strength: lasting, lux at 1 m; flash, guide number in metres at ISO 100 and full power; window, lux on its pane; reflector,
    share that it gives back. stops: below (-) that strength. grid_deg: half angle beyond which its grid lets nothing through, 0 for none.
    is_flagged: a flag keeps it off the ground. is_on: it burns. follows_sky: a
    window, whose strength is that of the open sky at the time of the scene.
    """

    name: str
    kind: str = LASTING
    angle_deg: float = 45.0
    away_m: float = 1.5
    height_m: float = 1.8
    width_m: float = 0.0
    face_m: float = 0.0
    is_round: bool = False
    strength: float = 1000.0
    stops: float = 0.0
    least_stops: float = -7.0
    most_stops: float = 0.0
    grid_deg: float = 0.0
    is_flagged: bool = False
    is_on: bool = True
    follows_sky: bool = False

    @property
    def at(self):
        """Its place, (x, y, z) in metres."""
        turned = math.radians(self.angle_deg)
        return self.away_m * math.sin(turned), -self.away_m * math.cos(turned), self.height_m

    @property
    def size_m(self):
        """Its larger side; the diameter of a disc."""
        return max(self.width_m, 0.0 if self.is_round else self.face_m)

    @property
    def area_m2(self):
        """Area of its face, 0 for a point."""
        return math.pi / 4 * self.width_m**2 if self.is_round else self.width_m * self.face_m

    @property
    def is_flash(self):
        return self.kind == FLASH

    def distance_m(self, to):
        """Metres to a place. to: (x, y, z)."""
        return math.dist(self.at, to)

    @property
    def intensity(self):
        """What it gives along its axis at its present power: candela, for a flash candela seconds; a reflector's follows from what it gets.

        Lasting: ``I = E d**2`` with E at 1 m. Flash: ``I t = GN**2 C / 100`` with C of a flat meter. Window: a face of
        luminance E / pi.
        """
        given = 2.0**self.stops
        if self.kind == FLASH:
            return self.strength**2 * C_FLAT / 100 * given
        if self.kind == WINDOW:
            return self.strength * WINDOW_SHARE * self.area_m2 / math.pi * given
        return self.strength * given if self.kind == LASTING else 0.0


def require_lamp(lamp, subject):
    """The lamp, checked: raises OutOfRange or CoreError that names what is wrong and what to do. subject: (x, y, z) of its middle."""
    if lamp.kind not in KINDS:
        raise CoreError(f"A lamp is {', '.join(KINDS)} (got {lamp.kind}).", parameter="kind", code="lamp-kind")
    numbers = (lamp.angle_deg, lamp.away_m, lamp.height_m, lamp.width_m, lamp.face_m, lamp.strength, lamp.stops)
    if not all(math.isfinite(value) for value in numbers):
        raise OutOfRange(f"{lamp.name}: every figure must be a number.", parameter="away_m", code="lamp-number")
    distance = lamp.distance_m(subject)
    if distance < LEAST_M:
        raise OutOfRange(
            f"{lamp.name} stands in the subject ({distance:.2f} m from its middle). Move it {LEAST_M} m away or farther.",
            parameter="away_m",
            code="lamp-inside",
        )
    if distance > MOST_M or not 0 <= lamp.height_m <= HIGHEST_M:
        raise OutOfRange(
            f"{lamp.name}: a lamp stands up to {MOST_M:g} m away and 0 to {HIGHEST_M:g} m high (got {distance:.1f} m, {lamp.height_m:g} m high).",
            parameter="away_m",
            code="lamp-far",
        )
    _require_face(lamp, distance)
    _require_strength(lamp)
    return lamp


def _require_face(lamp, distance):
    if not 0 <= lamp.width_m <= MOST_FACE_M or not 0 <= lamp.face_m <= MOST_FACE_M:
        raise OutOfRange(f"{lamp.name}: its face is 0 to {MOST_FACE_M:g} m.", parameter="width_m", code="lamp-face")
    if lamp.kind in (WINDOW, REFLECTOR) and not lamp.area_m2:
        raise OutOfRange(
            f"{lamp.name}: a {lamp.kind} needs its width and height.", parameter="width_m", code="lamp-face"
        )
    if lamp.size_m / 2 >= distance and lamp.size_m:
        raise OutOfRange(
            f"{lamp.name} is larger than its distance: its face reaches into the subject. Move it beyond {lamp.size_m / 2:.2f} m.",
            parameter="width_m",
            code="lamp-inside",
        )


def _require_strength(lamp):
    if not 0 < lamp.strength < 1e7 or (lamp.kind == REFLECTOR and lamp.strength > 1):
        raise OutOfRange(
            f"{lamp.name}: a reflector gives back a share of 0 to 1."
            if lamp.kind == REFLECTOR
            else f"{lamp.name}: its strength must be more than 0.",
            parameter="strength",
            code="lamp-strength",
        )
    if not lamp.least_stops <= lamp.stops <= lamp.most_stops:
        raise OutOfRange(
            f"{lamp.name} goes from {lamp.least_stops:+g} to {lamp.most_stops:+g} stops (got {lamp.stops:+g}). Move it instead, or take another.",
            parameter="stops",
            code="lamp-power",
        )


def require_lamps(lamps, subject):
    """The lamps as a tuple, each checked. Raises OutOfRange for too many. subject: (x, y, z) of its middle."""
    if len(lamps) > MOST_LAMPS:
        raise OutOfRange(
            f"At most {MOST_LAMPS} lamps (got {len(lamps)}): nobody sees more than that apart.",
            parameter="lamps",
            code="lamps-many",
        )
    return tuple(require_lamp(lamp, subject) for lamp in lamps)


def strength_of_reading(kind, reading, distance_m, iso=100.0):
    """Strength of a lamp from one incident reading. kind: LASTING with lux, or FLASH with the f-number at that ISO. distance_m: to the meter.

    >>> strength_of_reading("flash", 8, 2.0), strength_of_reading("lasting", 500, 2.0)
    (16.0, 2000.0)
    """
    if not reading > 0 or not distance_m > 0:
        raise OutOfRange("A reading and its distance must be more than 0.", parameter="strength", code="lamp-strength")
    if kind == FLASH:
        return reading * distance_m * math.sqrt(100 / iso)
    return reading * distance_m**2
