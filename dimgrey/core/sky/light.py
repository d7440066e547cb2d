"""Light on a scene: from the front, the side or behind; how long shadows are; which hours give what is wanted."""

import math
from dataclasses import dataclass

import numpy as np

from dimgrey.core.errors import OutOfRange, Unreadable
from dimgrey.core.sky.conditions import OVERCAST_FROM
from dimgrey.core.sky.sun import LOW_SUN_DEG, RISE_DEG, stretches

FRONT_FROM_DEG = 135.0
"""Angle between heading and sun above which the sun is behind the camera and lights the front of things."""
BACK_BELOW_DEG = 45.0


POINTS = ("N", "NNE", "NE", "ENE", "E", "ESE", "SE", "SSE", "S", "SSW", "SW", "WSW", "W", "WNW", "NW", "NNW")


def compass_point(azimuth_deg):
    """ "SSW" for 200 degrees."""
    return POINTS[round(azimuth_deg / 22.5) % 16]


def parse_heading(text):
    """Degrees from north, clockwise, from "250", "250°" or a compass point such as "WSW". Raises CoreError.

    >>> parse_heading("WSW")
    247.5
    """
    word = text.strip().upper()
    if word in POINTS:
        return POINTS.index(word) * 22.5
    return _degrees(text, 0, 360, "A heading", "Write 250 or WSW.", "heading")


def parse_tilt(text):
    """Degrees above the horizon that the camera is tilted, -90..90. Raises CoreError."""
    return _degrees(text, -90, 90, "A tilt", "Write 10 for ten degrees up.", "tilt")


def _degrees(text, low, high, what, hint, parameter):
    try:
        value = float(text.strip().rstrip("°").replace("−", "-").replace(",", "."))
    except ValueError:
        raise Unreadable(
            f"“{text.strip()}” is not a number of degrees. {hint}", parameter=parameter, code=parameter
        ) from None
    if not low <= value <= high:
        raise OutOfRange(
            f"{what} is {low} to {high} degrees (got {value:g}). {hint}", parameter=parameter, code=parameter
        )
    return value


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


@dataclass(frozen=True)
class Want:
    """A kind of light that a scene may ask for. needs_heading: whether it depends on where the camera looks."""

    label: str
    holds: callable
    needs_heading: bool = False
    weather: bool = False


WANTS = {
    "side-low": Want("side light below 20°", lambda s: s.shining & (s.altitude_deg < 20) & _side(s), True, True),
    "side": Want("side light", lambda s: s.shining & _side(s), True, True),
    "front": Want("sun behind me", lambda s: s.shining & (s.turn_deg >= FRONT_FROM_DEG), True, True),
    "back": Want("against the light", lambda s: s.shining & (s.turn_deg < BACK_BELOW_DEG), True, True),
    "low": Want("low sun, long shadows", lambda s: s.shining & (s.altitude_deg < LOW_SUN_DEG), False, True),
    "high": Want("high sun, short shadows", lambda s: s.shining & (s.altitude_deg > 45), False, True),
    "cloud": Want(
        "cloud behind the subject",
        lambda s: (s.altitude_deg > 5) & (s.cloud_percent >= 20) & (s.cloud_percent <= 75),
        False,
        True,
    ),
    "overcast": Want("overcast", lambda s: (s.altitude_deg > 0) & (s.cloud_percent >= OVERCAST_FROM), False, True),
    "mist": Want("mist", lambda s: (s.altitude_deg > -4) & (s.visibility_km < 2), False, True),
    "blue-hour": Want("blue hour", lambda s: (s.altitude_deg < -3) & (s.altitude_deg > -9)),
    "night": Want("night", lambda s: s.altitude_deg < -12),
    "moon": Want(
        "moonlight",
        lambda s: (s.altitude_deg < -12) & (s.moon_altitude_deg > 10) & (s.moon_illuminated > 0.6) & (s.cloud_percent < 60),
        False,
        True,
    ),
}  # fmt: skip


def _side(sample):
    return (sample.turn_deg >= BACK_BELOW_DEG) & (sample.turn_deg < FRONT_FROM_DEG)


def require_want(code):
    """The code itself. Raises OutOfRange for one that is not in WANTS."""
    if code not in WANTS:
        raise OutOfRange(f"“{code}” is not a kind of light. Known: {', '.join(WANTS)}.", parameter="wants", code="want")
    return WANTS[code]


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
