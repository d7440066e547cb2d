"""Where the moon is and how much of it shines, for night work.

Source: Meeus, Astronomical Algorithms (2nd ed. 1998), ch. 47 with its largest terms (longitude to about 0.05 degree)
and ch. 48 (illuminated fraction). Parallax in altitude is applied, since it lowers the moon by up to a degree.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.sky.sun import centuries, equatorial, horizontal, obliquity, sidereal_time, sun_longitude_deg

# D, M, M', F multipliers; longitude in 1e-6 degree, distance in m. Meeus table 47.A, its largest terms.
_LONGITUDE = (
    (0, 0, 1, 0, 6288774, -20905355), (2, 0, -1, 0, 1274027, -3699111), (2, 0, 0, 0, 658314, -2955968),
    (0, 0, 2, 0, 213618, -569925), (0, 1, 0, 0, -185116, 48888), (0, 0, 0, 2, -114332, -3149),
    (2, 0, -2, 0, 58793, 246158), (2, -1, -1, 0, 57066, -152138), (2, 0, 1, 0, 53322, -170733),
    (2, -1, 0, 0, 45758, -204586), (0, 1, -1, 0, -40923, -129620), (1, 0, 0, 0, -34720, 108743),
    (0, 1, 1, 0, -30383, 104755), (2, 0, 0, -2, 15327, 10321), (0, 0, 1, 2, -12528, 0), (0, 0, 1, -2, 10980, 79661),
    (4, 0, -1, 0, 10675, -34782), (0, 0, 3, 0, 10034, -23210), (4, 0, -2, 0, 8548, -21636),
)  # fmt: skip
# Latitude in 1e-6 degree. Meeus table 47.B, its largest terms.
_LATITUDE = (
    (0, 0, 0, 1, 5128122), (0, 0, 1, 1, 280602), (0, 0, 1, -1, 277693), (2, 0, 0, -1, 173237), (2, 0, -1, 1, 55413),
    (2, 0, -1, -1, 46271), (2, 0, 0, 1, 32573), (0, 0, 2, 1, 17198), (2, 0, 1, -1, 9266), (0, 0, 2, -1, 8822),
)  # fmt: skip
EARTH_RADIUS_KM = 6378.14


@dataclass(frozen=True)
class Moon:
    """altitude_deg (as seen), azimuth_deg, illuminated fraction 0..1, and whether it grows; shape of jd."""

    altitude_deg: np.ndarray
    azimuth_deg: np.ndarray
    illuminated: np.ndarray
    waxing: np.ndarray


def moon_at(jd, latitude_deg, longitude_deg):
    """The moon as seen from a place. jd: Julian dates of UTC. Returns Moon of that shape."""
    longitude, latitude, distance_km = _ecliptic(jd)
    place = equatorial(longitude, latitude, obliquity(jd))
    seen = horizontal(jd, *place, latitude_deg, longitude_deg, np.arcsin(EARTH_RADIUS_KM / distance_km))
    away = longitude - np.radians(sun_longitude_deg(jd))
    elongation = np.arccos(np.cos(latitude) * np.cos(away))
    return Moon(seen.altitude_deg, seen.azimuth_deg, (1 - np.cos(elongation)) / 2, np.sin(away) > 0)


def moon_hour_angle(jd, longitude_deg):
    """Hour angle of the moon in radians, which tides follow."""
    longitude, latitude, _ = _ecliptic(jd)
    return sidereal_time(jd, longitude_deg) - equatorial(longitude, latitude, obliquity(jd))[0]


def _ecliptic(jd):
    """Ecliptic longitude and latitude of the moon in radians, and its distance in km. Meeus ch. 47."""
    t = centuries(jd)
    mean = 218.3164477 + 481267.88123421 * t - 0.0015786 * t**2
    d = np.radians(297.8501921 + 445267.1114034 * t - 0.0018819 * t**2)
    m = np.radians(357.5291092 + 35999.0502909 * t)
    m_moon = np.radians(134.9633964 + 477198.8675055 * t + 0.0087414 * t**2)
    f = np.radians(93.2720950 + 483202.0175233 * t - 0.0036539 * t**2)
    longitude, distance_km = mean, 385000.56
    for kd, km, kmm, kf, size, reach in _LONGITUDE:
        angle = kd * d + km * m + kmm * m_moon + kf * f
        longitude = longitude + size * 1e-6 * np.sin(angle)
        distance_km = distance_km + reach * 1e-3 * np.cos(angle)
    latitude = 0.0
    for kd, km, kmm, kf, size in _LATITUDE:
        latitude = latitude + np.radians(size * 1e-6) * np.sin(kd * d + km * m + kmm * m_moon + kf * f)
    return np.radians(longitude % 360), latitude, distance_km


def phase_name(illuminated, waxing):
    """The moon's phase in words. illuminated: share, 0..1. waxing: towards full.

    >>> phase_name(0.5, True)
    'first quarter'
    """
    if illuminated < 0.03:
        return "new moon"
    if illuminated > 0.97:
        return "full moon"
    if 0.44 <= illuminated <= 0.56:
        return "first quarter" if waxing else "last quarter"
    shape = "crescent" if illuminated < 0.5 else "gibbous"
    return f"{'waxing' if waxing else 'waning'} {shape}"
