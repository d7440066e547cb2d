"""Light on a scene: from the front, the side or behind; how long shadows are; which hours give what is wanted."""

import math
from dataclasses import dataclass

import numpy as np

from dimgrey.core.sky.conditions import OVERCAST_FROM
from dimgrey.core.sky.sun import RISE_DEG, stretches
from dimgrey.core.sky.wants import BACK_BELOW_DEG, FRONT_FROM_DEG, require_want


def shadow_length(height, sun_altitude_deg):
    """Length of a shadow on level ground, ``h / tan(altitude)``, in the unit of height; None while the sun is down.

    >>> round(shadow_length(2.0, 45.0), 6)
    2.0
    """
    if sun_altitude_deg <= 0:
        return None
    return height / math.tan(math.radians(sun_altitude_deg))


def shadow_azimuth_deg(sun_azimuth_deg):
    """Direction in which shadows fall, degrees from north."""
    return (sun_azimuth_deg + 180) % 360


def turn_deg(heading_deg, azimuth_deg):
    """Smallest angle between two directions, 0..180."""
    return np.abs((np.asarray(azimuth_deg) - heading_deg + 180) % 360 - 180)


def light_from(heading_deg, sun_azimuth_deg, sun_altitude_deg):
    """ "front", "side", "back" or "none" (the sun is down) for a camera that looks along heading_deg."""
    if sun_altitude_deg <= 0:
        return "none"
    turn = float(turn_deg(heading_deg, sun_azimuth_deg))
    if turn >= FRONT_FROM_DEG:
        return "front"
    return "back" if turn < BACK_BELOW_DEG else "side"


@dataclass(frozen=True)
class Sample:
    """Sky and weather along a time: arrays of shape (n,) each; turn_deg is None without a heading.

    hills_deg: how high the horizon stands where the sun is, 0 where it is flat.
    """

    altitude_deg: np.ndarray
    turn_deg: np.ndarray | None
    cloud_percent: np.ndarray
    visibility_km: np.ndarray
    moon_altitude_deg: np.ndarray
    moon_illuminated: np.ndarray
    hills_deg: np.ndarray | float = 0.0

    @property
    def up(self):
        """The sun stands over the horizon, hills and all."""
        return self.altitude_deg > np.where(np.asarray(self.hills_deg) > 0, self.hills_deg, RISE_DEG)

    @property
    def shining(self):
        """The sun throws shadows: up, and not behind a closed sky."""
        return self.up & (self.cloud_percent < OVERCAST_FROM)


def windows(codes, jd, sample, shortest_days=10 / 1440):
    """(start, end) in jd of each stretch in which every wanted light holds; () when they never meet.

    codes: of WANTS. sample: of light at each jd. shortest_days: of a stretch. A want that needs a heading is left out while there is none. Stretches under ten minutes are not worth a walk.
    """
    wanted = [require_want(code) for code in codes]
    usable = [want for want in wanted if not (want.needs_heading and sample.turn_deg is None)]
    if not usable:
        return ()
    holds = np.ones(len(jd), bool)
    for want in usable:
        holds &= want.holds(sample)
    return tuple(span for span in stretches(jd, holds) if span[1] - span[0] >= shortest_days)


def sun_near_frame(sun_altitude_deg, gamma_deg, half_diagonal_deg):
    """How far the sun is from the frame: degrees outside its corner circle, 0 when inside; None while it is down."""
    if sun_altitude_deg <= 0:
        return None
    return max(float(gamma_deg) - half_diagonal_deg, 0.0)
