"""What a view does with the sky of its picture: which pixels are sky, and what a polarizer takes there."""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.picture import skyarea
from dimgrey.core.sky import dome

LONG_SIDE_MM, SHORT_SIDE_MM = 36.0, 24.0
FIELD = (13, 19)
"""Rows and columns that the polarizer's effect is computed at; between them it is straight, within a hundredth of a stop."""


@dataclass(frozen=True)
class Polarized:
    """A crossed polarizer before a frame under a clear or hazy sky.

    altitude_deg, turn_deg: of the sun, and its azimuth from the camera's heading. tilt_deg: of the camera. focal_35mm: of
    its lens. upright: the frame is taller than wide. p_max: of the air, as dome.P_MAX.
    """

    altitude_deg: float
    turn_deg: float
    tilt_deg: float
    focal_35mm: float
    upright: bool
    p_max: float

    def stops(self, x, y):
        """What it takes from the sky at fractions of width and height, from the top left; 0 or negative stops, any shape."""
        width, height = (SHORT_SIDE_MM, LONG_SIDE_MM) if self.upright else (LONG_SIDE_MM, SHORT_SIDE_MM)
        altitude, azimuth = dome.directions(
            2 * np.asarray(x, float) - 1, 1 - 2 * np.asarray(y, float), self.tilt_deg, self.focal_35mm, width, height
        )
        gamma = dome.angle_between_deg(altitude, azimuth, self.altitude_deg, self.turn_deg)
        return dome.polarizer_stops(gamma, self.p_max)


@dataclass(frozen=True)
class Overhead:
    """outline: None for the sky that is found in the picture, () for none, else corners as fractions. polarizer: Polarized, or
    None without one and where the sun's place is not known."""

    outline: tuple | None = None
    polarizer: Polarized | None = None

    def share(self, planes, small):
        """Share of each pixel that is sky, uint8, shape (h, w). planes, small: as skyarea.found wants them."""
        if self.outline is None:
            return skyarea.found(planes, small)
        return skyarea.outlined(self.outline, *planes.shape[1:])

    def darkened(self, height, width):
        """What the polarizer leaves of a sky's light at each pixel, factors, float32, shape (h, w); needs one."""
        rows, columns = FIELD
        x, y = np.meshgrid((np.arange(columns) + 0.5) / columns, (np.arange(rows) + 0.5) / rows)
        return np.exp2(skyarea.enlarged(self.polarizer.stops(x, y), height, width))


NO_SKY = Overhead(outline=())
