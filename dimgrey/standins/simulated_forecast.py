"""A stand-in forecast service: made-up weather by the hour, the same for one place and day whenever it is asked.

The interface is that of a real service: `hours(place, start_jd, count, tidal)` gives one Conditions per hour. Every
value is marked simulated. Tides follow moon and sun, so that springs and neaps come when they should.
"""

import math

import numpy as np

from dimgrey.core.sky import moon, sun
from dimgrey.core.sky.conditions import Conditions

TIDE_MOON_M, TIDE_SUN_M = 2.1, 0.7


class SimulatedForecast:
    """Made-up weather, smooth from hour to hour, with mist on some mornings."""

    simulated = True
    name = "simulated forecast"

    def hours(self, place, start_jd, count, tidal=False):
        """Conditions of `count` hours from a Julian date. place: Coordinates."""
        jd = start_jd + np.arange(count) / 24
        solar = jd + place.longitude_deg / 360  # so that mornings are mornings there
        cloud = self._between(place, solar, 1, lambda r: 100 * r.beta(0.6, 0.6))
        cloud = np.clip(cloud + 12 * np.sin(solar * 2 * np.pi * 5), 0, 100)
        wind = self._between(place, solar, 2, lambda r: r.gamma(2.0, 1.8))
        visibility = self._between(place, solar, 3, lambda r: r.uniform(8, 45))
        misty = np.array([self._draw(place, int(day), 4).random() < 0.3 for day in np.floor(solar - 0.5)])
        morning = np.abs((solar - 0.5) % 1 - 6 / 24) < 2.1 / 24
        calm = wind < 4.5
        visibility = np.where(misty & morning & calm, 0.4 + 0.1 * wind, visibility)
        rain = np.where((cloud > 90) & (visibility > 2), np.maximum(0, wind - 3) * 0.4, 0)
        tide = self._tide(jd, place) if tidal else [None] * count
        return tuple(
            Conditions(
                round(float(cloud[k])),
                round(float(visibility[k]), 1),
                round(float(wind[k]), 1),
                round(float(rain[k]), 1),
                None if tide[k] is None else round(float(tide[k]), 1),
                simulated=True,
            )
            for k in range(count)
        )

    @staticmethod
    def _draw(place, day, salt):
        cell = [round((place.latitude_deg + 90) * 10), round((place.longitude_deg + 180) * 10)]
        return np.random.default_rng([salt, day, *cell])

    def _between(self, place, days, salt, value):
        """A value per half day, joined smoothly (cosine)."""
        at = days * 2
        low = np.floor(at).astype(int)
        known = {k: value(self._draw(place, int(k), salt)) for k in range(int(low.min()), int(low.max()) + 2)}
        a, b = np.array([known[k] for k in low]), np.array([known[k + 1] for k in low])
        return a + (b - a) * (1 - np.cos((at - low) * math.pi)) / 2

    @staticmethod
    def _tide(jd, place):
        """Level above the mean: twice a day with the moon's and the sun's hour angle."""
        moon_hour = moon.moon_hour_angle(jd, place.longitude_deg)
        right_ascension, _ = sun.sun_equatorial(jd)
        sun_hour = sun.sidereal_time(jd, place.longitude_deg) - right_ascension
        return TIDE_MOON_M * np.cos(2 * moon_hour) + TIDE_SUN_M * np.cos(2 * sun_hour)


def forecast():
    """The forecast service in use."""
    return SimulatedForecast()
