"""The kinds of light that a scene may ask for, and where a camera looks, as people write it. Plain Python: the document knows them.

What holds along a day is found by `light`, from samples of sky and weather.
"""

from collections.abc import Callable
from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange, Unreadable
from dimgrey.core.sky.conditions import OVERCAST_FROM

LOW_SUN_DEG = 10.0
"""Altitude below which the sun counts as low: long shadows, warm light. Source: HANDBOOK 9."""
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


@dataclass(frozen=True)
class Want:
    """A kind of light that a scene may ask for. needs_heading: whether it depends on where the camera looks."""

    label: str
    holds: Callable
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
