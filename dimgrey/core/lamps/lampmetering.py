"""What meters say of lamps: the light before the subject as a dome weighs it, and the strength of a lamp that was read.

Source: ISO 2720:1974 for the constants, HANDBOOK 20 for the two readings of a lamp.
"""

import re

import numpy as np

from dimgrey.core.errors import CoreError
from dimgrey.core.lamps.illuminance import illuminance, intensities
from dimgrey.core.lamps.lamp import FLASH, LASTING, WINDOW
from dimgrey.core.lamps.lampexposure import Light
from dimgrey.core.measure.exposure import C_FLAT, illuminance_lux
from dimgrey.core.measure.notation import parse_aperture

FLAT_TO_CAMERA = (0.0, -1.0, 0.0)
"""Which way a meter before the subject looks: at the camera."""


def dome_weight(towards):
    """Share of a light that a dome takes which looks at the camera, ``(1 + cos) / 2`` and 0 from behind, where whoever holds it shades it.

    towards: unit vector to the light. A flat disc would take the cosine, and of light from the side next to nothing.

    >>> dome_weight((0.0, -1.0, 0.0)), dome_weight((1.0, 0.0, 0.0)), round(dome_weight((1.0, -1e-9, 0.0)), 3)
    (1.0, 0.0, 0.5)
    """
    faces = float(np.dot(towards, FLAT_TO_CAMERA))
    return (1 + faces) / 2 if faces > 0 else 0.0


def light_before(lamps, middle, ambient_lux=0.0):
    """exposure.Light before a subject as a dome that looks at the camera weighs it.

    lamps: Lamp of each. middle: (x, y, z) of the subject, metres. ambient_lux: of the room, from everywhere.
    """
    light = Light(ambient_lux)
    for lamp, (burning, flashed) in zip(lamps, intensities(lamps, middle), strict=True):
        towards = np.subtract(lamp.at, middle) / lamp.distance_m(middle)
        share = float(illuminance(lamp, middle, [middle], [towards], intensity=1.0)[0]) * dome_weight(towards)
        light += Light(burning * share, flashed * share)
    return light


def strength_for(reading, lamp, middle, camera):
    """The strength at which a lamp gives what a meter at the subject, pointed at it, reads of it alone.

    reading: "f/8" of a flash, "EV 9" or "500 lx" of another. lamp: Lamp, placed as it will stand. middle: (x, y, z) of the subject.
    camera: exposure.Camera. Raises CoreError for a reflector, for what is no reading, and where it does not reach the subject.
    """
    if lamp.kind not in (LASTING, FLASH, WINDOW):
        raise _refused("A reflector is not read by itself: give the share that it gives back.")
    away = np.subtract(lamp.at, middle)
    towards = tuple(float(each) for each in away / np.linalg.norm(away))
    per_one = float(illuminance(lamp, middle, [middle], [towards])[0])
    wanted = _read(reading, lamp, camera)
    if per_one <= 0:
        raise _refused("From there it does not reach the subject.")
    # Light grows with the square of a guide number.
    return round((wanted / per_one) ** (0.5 if lamp.is_flash else 1.0), 4)


def _read(reading, lamp, camera):
    """Lux of a reading, lux seconds of a flash: ``H = N**2 C / S``."""
    text = reading.strip().lower()
    if lamp.is_flash:
        return parse_aperture(reading).exact ** 2 * C_FLAT / camera.iso
    lux = re.fullmatch(r"([\d.]+)\s*(?:lx|lux)", text)
    if lux:
        return float(lux.group(1))
    ev = re.fullmatch(r"(?:ev\s*)?(-?[\d.]+)", text)
    if not ev:
        raise _refused(f"“{reading}” is no reading of this lamp. Write EV 9 or 500 lx; for a flash f/8.")
    return illuminance_lux(float(ev.group(1)))


def _refused(sentence):
    return CoreError(sentence, parameter="reading", code="reading")
