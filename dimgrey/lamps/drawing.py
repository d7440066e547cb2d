"""The light plan drawn from above and from the side: places on the drawing, in centimetres of the room."""

import math
from dataclasses import dataclass

CM = 100
LEAST_HALF_M, MARGIN_M, DRAWN_HALF_M = 1.6, 0.45, 12.0
LEAST_FACE = 14


@dataclass(frozen=True)
class Drawn:
    """One lamp on the drawing. number: from 1. x, y: from above; side_x, side_y: from the side. turn_deg: of its face, so that it looks at the subject.
    half: of its face. label: in words; spoken: for who listens; label_y: how far below."""

    number: int
    lamp: object
    x: float
    y: float
    turn_deg: float
    side_x: float
    side_y: float
    side_turn_deg: float
    half: float
    side_half: float
    label: str
    spoken: str
    label_y: float


@dataclass(frozen=True)
class Drawing:
    """Both drawings. box, side_box: viewBox of each. lamps: Drawn of each. camera: before the subject. ground: of the drawing from above; wall: the same from the side."""

    box: str
    side_box: str
    half: float
    top: float
    bottom: float
    lamps: tuple
    camera: float
    ground: float
    wall: float
    middle_up: float
    grid: tuple
    is_table: bool


def drawing_of(lit, label):
    """Drawing of a LitScene. label: (number, Lamp) -> words beside it."""
    lamps = lit.lamps
    reach = max([abs(lamp.at[0]) for lamp in lamps] + [abs(lamp.at[1]) for lamp in lamps] + [LEAST_HALF_M])
    half = min(max(reach, lit.lighting.camera_m, lit.lighting.ground_m) + MARGIN_M, DRAWN_HALF_M)
    drawn = tuple(_drawn(k, lamp, lit.view.middle, label) for k, lamp in enumerate(lamps, 1))
    tall = max([lamp.height_m for lamp in lamps] + [2.2]) + 0.3
    steps = range(-math.floor(half), math.floor(half) + 1)
    return Drawing(
        box=f"{-half * CM:.0f} {-half * CM:.0f} {2 * half * CM:.0f} {2 * half * CM:.0f}",
        side_box=f"{-half * CM:.0f} {-tall * CM:.0f} {2 * half * CM:.0f} {(tall + 0.15) * CM:.0f}",
        half=half * CM,
        top=-tall * CM,
        bottom=0.15 * CM,
        lamps=drawn,
        camera=lit.view.away_m * CM,
        ground=-lit.lighting.ground_m * CM,
        wall=lit.lighting.ground_m * CM,
        middle_up=-lit.view.middle[2] * CM,
        grid=tuple(step * CM for step in steps),
        is_table=lit.lighting.subject != "sitter",
    )


def _drawn(number, lamp, middle, label):
    x, y, z = lamp.at
    rise = math.degrees(math.atan2(lamp.height_m - middle[2], lamp.away_m or 1e-6))
    behind = 1 if y > 0 else -1
    return Drawn(
        number=number,
        lamp=lamp,
        x=round(x * CM, 1),
        # Up on the drawing is away from the camera.
        y=round(-y * CM, 1),
        turn_deg=round(-lamp.angle_deg, 1),
        side_x=round(y * CM, 1),
        side_y=round(-z * CM, 1),
        side_turn_deg=round(-rise * behind, 1),
        half=max(lamp.width_m * CM / 2, LEAST_FACE / 2),
        side_half=max((lamp.width_m if lamp.is_round else lamp.face_m) * CM / 2, LEAST_FACE / 2),
        label=label(number, lamp),
        spoken=f"{number} {label(number, lamp)}: {lamp.angle_deg:.0f} degrees, {lamp.away_m:g} metres along the floor",
        label_y=round(max(lamp.width_m * CM / 2 * abs(math.sin(math.radians(lamp.angle_deg))), 0) + 30, 1),
    )
