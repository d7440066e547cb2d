"""A simulated spot meter, for places without a real one: it reads the light of a picture that has a scale in cd/m2.

It stands behind the interface that a real meter's driver would have: point it, and it answers with a reading.
"""

from dataclasses import dataclass
from typing import Protocol

import numpy as np

from dimgrey.core.measure.metering import LightScale, SpotReading, picture_hfov_deg, pixel_at, spot_radius_px
from dimgrey.core.picture.skyarea import outlined
from dimgrey.core.picture.spot import read_area, read_spot

NAME = "simulated spot meter"


@dataclass(frozen=True)
class MeterReading:
    """What a meter answers: EV100 of the mean light, of the 10th and 90th percentile, and the spot itself."""

    ev100: float
    low_ev100: float
    high_ev100: float
    spot: SpotReading

    @property
    def spread_stops(self):
        return self.high_ev100 - self.low_ev100


class Meter(Protocol):
    """A spot meter that can be pointed at a place in the scene."""

    def read(self, x: float, y: float, spot_deg: float) -> MeterReading:
        """Reading at fractions x, y of the picture's width and height with a spot of so many degrees."""


@dataclass(frozen=True)
class PictureMeter:
    """Reads a picture's light. linear: shape (h, w, 3). scale: from its stops to EV100. clip: where it ends, or None."""

    linear: np.ndarray
    scale: LightScale
    focal_35mm: float
    clip: float | None = None

    def radius_px(self, spot_deg):
        height, width = self.linear.shape[:2]
        return spot_radius_px(width, picture_hfov_deg(self.focal_35mm, width, height), spot_deg)

    def read(self, x, y, spot_deg):
        height, width = self.linear.shape[:2]
        spot = read_spot(self.linear, pixel_at(x, width), pixel_at(y, height), self.radius_px(spot_deg), self.clip)
        return self._answer(spot)

    def read_area(self, outline):
        """Reading of an area of the picture, as a sweep of the spot over all of it would give. outline: corners as fractions."""
        return self._answer(read_area(self.linear, outlined(outline, *self.linear.shape[:2]) > 0, self.clip))

    def _answer(self, spot):
        ev = lambda stops: self.scale.offset + self.scale.slope * stops
        return MeterReading(ev(spot.mean_stops), ev(spot.low_stops), ev(spot.high_stops), spot)
