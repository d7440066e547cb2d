"""Cautions of light that one makes: heat, mains, stands, flash before eyes, sources as bright as the sun, and flash past its sync time.

Source: HANDBOOK 14 and 20. Reminders of usual practice, never advice on law; local rules and qualified people decide.
"""

from dataclasses import dataclass

from dimgrey.core.cautions.registry import caution, rule
from dimgrey.core.errors import CoreError
from dimgrey.core.lamps.lamp import FLASH, LASTING, WINDOW
from dimgrey.core.lamps.lampexposure import Camera, require_sync
from dimgrey.core.lamps.subjects import LOWER_M, MIDDLES, SITTER

FRAME_M = (0.496, 0.62)
"""Width and height of the frame at a sitter."""
HIGH_M = 1.6
"""A stand that falls from here hurts."""
DAZZLING_LUX = 20000.0
"""At a face: direct sun gives some 100 000, open shade a tenth of it."""


@dataclass(frozen=True)
class LampCase:
    """What lamps are judged by. lamps: Lamp of each. subject: SITTER or TABLE. camera: exposure.Camera. camera_m: from the subject to it. ground_m:
    from the subject to the ground."""

    lamps: tuple
    subject: str
    camera: Camera
    camera_m: float = 2.0
    ground_m: float = 1.5

    @property
    def burning(self):
        return tuple(lamp for lamp in self.lamps if lamp.is_on)


def _lux_at_face(lamp, subject):
    return lamp.intensity / lamp.distance_m(MIDDLES[subject]) ** 2


@rule("lamps", {"hot-lamps": "a lasting lamp burns"}, grave=True)
def _hot(case):
    if any(lamp.kind == LASTING for lamp in case.burning):
        yield caution(
            "hot-lamps",
            "Hot lamps: keep cloth, paper and hair away, let them cool before you touch them, never leave them alone; keep mains and "
            "water apart, cables taped down. Local rules and qualified people decide.",
        )


@rule("lamps", {"flash-eyes": "a flash burns before a sitter"}, grave=True)
def _eyes(case):
    if case.subject == SITTER and any(lamp.kind == FLASH for lamp in case.burning):
        yield caution(
            "flash-eyes",
            "Flash before eyes: ask whether anybody is sensitive to flashing light, keep it well away from infants, do not fire it close to a face.",
        )


@rule("lamps", {"dazzling": "a lamp or window gives a sitter 20 000 lux or more"}, grave=True)
def _dazzling(case):
    for lamp in case.burning:
        if case.subject == SITTER and lamp.kind in (LASTING, WINDOW) and _lux_at_face(lamp, SITTER) >= DAZZLING_LUX:
            yield caution(
                "dazzling",
                f"{lamp.name} is as bright as the sun at the face: nobody looks into it, and for moments only.",
            )


@rule("lamps", {"stands": "a lamp stands at 1.6 m or higher"})
def _stands(case):
    if any(lamp.kind != WINDOW and lamp.height_m >= HIGH_M for lamp in case.burning):
        yield caution("stands", "High stands: a sandbag on each, legs spread, cables where nobody walks.")


@rule("lamps", {"lamp-in-frame": "a lamp stands in the picture of a sitter"})
def _in_frame(case):
    if case.subject != SITTER:
        return
    middle = MIDDLES[SITTER][2] - LOWER_M[SITTER]
    for lamp in case.burning:
        x, y, z = lamp.at
        if not -case.camera_m < y < case.ground_m:
            continue
        # The frame grows with the distance from the camera.
        grown = (case.camera_m + y) / case.camera_m
        reach = lamp.size_m / 2
        if abs(x) - reach < FRAME_M[0] / 2 * grown and abs(z - middle) - reach < FRAME_M[1] / 2 * grown:
            yield caution("lamp-in-frame", f"{lamp.name} stands in the picture: move it out to the side or up.")


@rule("lamps", {"flash-sync": "the time is shorter than a flash's sync time"})
def _sync(case):
    try:
        require_sync(case.camera, case.lamps)
    except CoreError as wrong:
        yield caution("flash-sync", str(wrong))
