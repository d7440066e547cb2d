"""What a view does with the sky of its picture: which pixels are sky, and what a polarizer takes there."""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.filters import graduated_share
from dimgrey.core.picture import skyarea
from dimgrey.core.sky import dome

LONG_SIDE_MM, SHORT_SIDE_MM = 36.0, 24.0
FIELD = (61, 91)
"""Rows and columns that the polarizer's effect is computed at; between them it is straight, within a hundredth of a stop."""


@dataclass(frozen=True)
class Polarized:
    """A polarizer before a frame under a clear or hazy sky.

    altitude_deg, turn_deg: of the sun, and its azimuth from the camera's heading. tilt_deg: of the camera. focal_35mm: of
    its lens. upright: the frame is taller than wide. p_max: of the air, as conditions.AIRS. turned_deg: away from the crossed position.
    """

    altitude_deg: float
    turn_deg: float
    tilt_deg: float
    focal_35mm: float
    upright: bool
    p_max: float
    turned_deg: float = 0.0

    def stops(self, x, y):
        """What it takes from the sky at fractions of width and height, from the top left; 0 or negative stops, any shape."""
        width, height = (SHORT_SIDE_MM, LONG_SIDE_MM) if self.upright else (LONG_SIDE_MM, SHORT_SIDE_MM)
        altitude, azimuth = dome.directions(
            2 * np.asarray(x, float) - 1, 1 - 2 * np.asarray(y, float), self.tilt_deg, self.focal_35mm, width, height
        )
        gamma = dome.angle_between_deg(altitude, azimuth, self.altitude_deg, self.turn_deg)
        return dome.polarizer_stops(gamma, self.p_max, self.turned_deg)


@dataclass(frozen=True)
class Overhead:
    """outline: None for the sky that is found in the picture, () for none, else corners as fractions. polarizer: Polarized, or
    None without one and where the sun's place is not known. graduated: (stops, edge from the top) of each graduated filter."""

    outline: tuple | None = None
    polarizer: Polarized | None = None
    graduated: tuple = ()

    @property
    def darkens(self):
        """Whether it takes light from a part of the picture."""
        return self.polarizer is not None or bool(self.graduated)

    def share(self, planes, small):
        """Share of each pixel that is sky, uint8, shape (h, w). planes, small: as skyarea.found wants them."""
        if self.outline is None:
            return skyarea.found(planes, small)
        return skyarea.outlined(self.outline, *planes.shape[1:])

    def polarized_stops(self, height, width):
        """What the polarizer takes from a sky at each pixel, 0 or negative, float32, shape (h, w); needs one.

        height, width: of the picture, pixels.
        """
        rows, columns = FIELD
        x, y = np.meshgrid((np.arange(columns) + 0.5) / columns, (np.arange(rows) + 0.5) / rows)
        return skyarea.enlarged(self.polarizer.stops(x, y), height, width)

    def left(self, share, height, width):
        """Factors that polarizer and graduated filters leave of the light of each pixel, float32, shape (h, w) or (h, 1).

        share: how much of each pixel is sky, 0..1, or None. height, width: of the picture, pixels.
        """
        y = (np.arange(height) + 0.5) / height
        taken = sum((stops * graduated_share(y, edge) for stops, edge in self.graduated), np.zeros(height))
        left = np.exp2(-taken).astype(np.float32)[:, None]
        if self.polarizer is None or share is None:
            return left
        return left * (1 + share * (np.exp2(self.polarized_stops(height, width)) - 1))


NO_SKY = Overhead(outline=())
