"""Where the sun is, and when it rises, sets and stands low.

Source: Meeus, Astronomical Algorithms (2nd ed. 1998), ch. 12 (sidereal time), 13 (coordinates), 16 (refraction) and 25
(the sun's place, lower accuracy, 0.01 degree). Refraction by Saemundsson (1986), the inverse of Bennett (1982), for
1010 hPa and 10 degrees C. Years 1900 to 2100.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.sky.wants import LOW_SUN_DEG

RISE_DEG = -0.8333
"""True altitude of the sun's centre at rise and set: half a diameter and the refraction at the horizon (USNO)."""
THRESHOLDS = {"sun": RISE_DEG, "civil": -6.0, "nautical": -12.0, "astronomical": -18.0}
STEP_DAYS = 4 / 1440


@dataclass(frozen=True)
class Body:
    """Altitude above the horizon and azimuth from north, clockwise, in degrees; arrays keep their shape.

    altitude_deg is as seen, refraction included; true_altitude_deg is without it.
    """

    altitude_deg: np.ndarray
    azimuth_deg: np.ndarray
    true_altitude_deg: np.ndarray


def sun_position(jd, latitude_deg, longitude_deg):
    """The sun as seen from a place.

    jd: Julian dates of UTC, any shape. latitude_deg north, longitude_deg east. Returns Body of that shape.

    >>> at = sun_position(2451545.0, 51.5, 0.0)
    >>> round(float(at.altitude_deg), 1), round(float(at.azimuth_deg), 1)
    (15.5, 179.2)
    """
    right_ascension, declination = sun_equatorial(jd)
    return horizontal(jd, right_ascension, declination, latitude_deg, longitude_deg)


def sun_equatorial(jd):
    """Right ascension and declination of the sun in radians, apparent place; shape of jd. Meeus ch. 25."""
    longitude = np.radians(sun_longitude_deg(jd))
    return equatorial(longitude, 0.0, obliquity(jd))


def centuries(jd):
    """Julian centuries since the year 2000."""
    return (np.asarray(jd, float) - 2451545.0) / 36525


def sun_longitude_deg(jd):
    """Apparent ecliptic longitude of the sun, degrees."""
    t = centuries(jd)
    anomaly = np.radians(357.52911 + 35999.05029 * t - 0.0001537 * t**2)
    centre = (
        (1.914602 - 0.004817 * t) * np.sin(anomaly)
        + (0.019993 - 0.000101 * t) * np.sin(2 * anomaly)
        + 0.000289 * np.sin(3 * anomaly)
    )
    node = np.radians(125.04 - 1934.136 * t)
    return (280.46646 + 36000.76983 * t + 0.0003032 * t**2 + centre - 0.00569 - 0.00478 * np.sin(node)) % 360


def obliquity(jd):
    """Obliquity of the ecliptic in radians, corrected for nutation."""
    t = centuries(jd)
    return np.radians(23.439291 - 0.0130042 * t + 0.00256 * np.cos(np.radians(125.04 - 1934.136 * t)))


def equatorial(longitude, latitude, tilt):
    """Right ascension and declination from ecliptic longitude, latitude and the tilt of the axis, radians. Meeus ch. 13."""
    y = np.sin(longitude) * np.cos(tilt) - np.tan(latitude) * np.sin(tilt)
    right_ascension = np.arctan2(y, np.cos(longitude))
    declination = np.arcsin(np.sin(latitude) * np.cos(tilt) + np.cos(latitude) * np.sin(tilt) * np.sin(longitude))
    return right_ascension, declination


def sidereal_time(jd, longitude_deg):
    """Local mean sidereal time in radians. Meeus ch. 12."""
    days = np.asarray(jd, float) - 2451545.0
    t = days / 36525
    return np.radians((280.46061837 + 360.98564736629 * days + 0.000387933 * t**2 + longitude_deg) % 360)


def horizontal(jd, right_ascension, declination, latitude_deg, longitude_deg, parallax_rad=0.0):
    """Body from an apparent right ascension and declination in radians; parallax lowers the altitude (only the moon's matters)."""
    phi = np.radians(latitude_deg)
    hour = sidereal_time(jd, longitude_deg) - right_ascension
    sine = np.sin(phi) * np.sin(declination) + np.cos(phi) * np.cos(declination) * np.cos(hour)
    altitude = np.arcsin(np.clip(sine, -1, 1))
    azimuth = np.degrees(
        np.arctan2(
            -np.cos(declination) * np.sin(hour),
            np.sin(declination) * np.cos(phi) - np.cos(declination) * np.cos(hour) * np.sin(phi),
        )
    )
    true = np.degrees(altitude - parallax_rad * np.cos(altitude))
    return Body(true + refraction_deg(true), azimuth % 360, true)


def refraction_deg(true_altitude_deg):
    """How much the air lifts a body, degrees. Saemundsson (1986) in Meeus 16.4; none below -1 degree."""
    h = np.asarray(true_altitude_deg, float)
    held = np.maximum(h, -1.0)
    lift = 1.02 / np.tan(np.radians(held + 10.3 / (held + 5.11))) / 60
    return np.where(h < -1, 0.0, np.maximum(lift, 0.0))


# --- the day -------------------------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class Crossing:
    """When a body passes an altitude in a stretch of time. state: "crosses", "never" (stays below) or "all day"."""

    rising: tuple
    setting: tuple
    state: str


def crossings(jd, altitude_deg, threshold_deg):
    """Crossing of an altitude curve through a threshold.

    jd, altitude_deg: the curve, shape (n,), close enough to be straight between samples; times to a few seconds.
    """
    over = np.asarray(altitude_deg) - threshold_deg
    if np.all(over < 0):
        return Crossing((), (), "never")
    if np.all(over >= 0):
        return Crossing((), (), "all day")
    at = np.nonzero((over[:-1] < 0) != (over[1:] < 0))[0]
    times = jd[at] + (jd[at + 1] - jd[at]) * over[at] / (over[at] - over[at + 1])
    up = over[at] < 0
    return Crossing(tuple(times[up].tolist()), tuple(times[~up].tolist()), "crosses")


def stretches(jd, holds):
    """(start, end) of each stretch of a sampled time in which `holds` is true; ends lie half a step beyond samples.

    jd: shape (n,), evenly spaced. holds: booleans, shape (n,).
    """
    flags = np.concatenate([[False], np.asarray(holds, bool), [False]])
    edges = np.nonzero(flags[1:] != flags[:-1])[0].reshape(-1, 2)
    half = (jd[1] - jd[0]) / 2 if len(jd) > 1 else 0.0
    return tuple((float(max(jd[a] - half, jd[0])), float(min(jd[b - 1] + half, jd[-1]))) for a, b in edges)


@dataclass(frozen=True)
class SunDay:
    """The sun over one local day.

    jd, altitude_deg, azimuth_deg: the curve, shape (n,), every four minutes from midnight to midnight.
    crossings: "sun", "civil", "nautical", "astronomical" -> Crossing. low: stretches of low sun, (start, end) in jd.
    noon: jd of the highest sun.
    """

    jd: np.ndarray
    altitude_deg: np.ndarray
    azimuth_deg: np.ndarray
    crossings: dict
    low: tuple
    noon: float

    @property
    def highest_deg(self):
        return float(self.altitude_deg.max())


def sun_day(start_jd, end_jd, latitude_deg, longitude_deg):
    """SunDay between two Julian dates (see clock.day_bounds)."""
    jd = np.linspace(start_jd, end_jd, round((end_jd - start_jd) / STEP_DAYS) + 1)
    sun = sun_position(jd, latitude_deg, longitude_deg)
    found = {name: crossings(jd, sun.true_altitude_deg, limit) for name, limit in THRESHOLDS.items()}
    low = (sun.true_altitude_deg > RISE_DEG) & (sun.altitude_deg < LOW_SUN_DEG)
    noon = float(jd[int(np.argmax(sun.altitude_deg))])
    risen = crossings(jd, sun.true_altitude_deg, RISE_DEG)
    ends = (*risen.rising, *risen.setting)
    # Low sun begins and ends as the sun rises and sets, not at the sample beside it.
    met = lambda at: min((end for end in ends if abs(end - at) < STEP_DAYS), key=lambda end: abs(end - at), default=at)
    stretched = tuple((met(start), met(end)) for start, end in stretches(jd, low))
    return SunDay(jd, sun.altitude_deg, sun.azimuth_deg, found, stretched, noon)
