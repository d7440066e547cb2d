"""The light of a day on three grey cards: facing the sun, in open shade, under a closed sky. Always an estimate.

Source: HANDBOOK 2 for day; TWILIGHT_LUX for dusk.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.measure.exposure import C_FLAT
from dimgrey.core.sky.daylight import BELOW_SUN, FACING_SUN, OVERCAST, at_height

TWILIGHT_DEG = (-18.0, -12.0, -6.0, -0.83)
TWILIGHT_LUX = (6.51e-4, 8.31e-3, 3.40, 453.0)
"""Light of an open clear sky on level ground at the ends of the twilights and at sunset. Source: Brown, Natural Illumination
Charts (1952), as the handbooks of electro-optics repeat them."""
CLOUD_STOPS = 2.0
"""What a closed sky takes from twilight: as much as from daylight near sunset."""


@dataclass(frozen=True)
class CardLight:
    """EV100 of a grey card through a day, shape (n,) each: facing the clear sun (NaN while it is down), in open shade, and lying
    under a closed sky. In twilight shade is the open sky's light. NaN where it is too dark to say: below -18 degrees."""

    sunlit: np.ndarray
    shade: np.ndarray
    overcast: np.ndarray


def card_light(sun_altitude_deg):
    """CardLight for altitudes of the sun, shape (n,), degrees. An estimate, good to about a stop.

    Source: HANDBOOK 2 for day; TWILIGHT_LUX for dusk, an incident reading of it with C = 250.

    >>> light = card_light(np.array([30.0, -6.0, -20.0]))
    >>> light.sunlit.round(1).tolist(), light.shade.round(1).tolist()
    ([15.1, nan, nan], [12.1, 0.4, nan])
    """
    altitude = np.asarray(sun_altitude_deg, float)
    up = altitude > 0
    lux = np.exp2(np.interp(altitude, TWILIGHT_DEG, np.log2(TWILIGHT_LUX)))
    dusk = np.where(altitude < TWILIGHT_DEG[0], np.nan, np.log2(lux * 100 / C_FLAT))
    sunlit = np.where(up, _heights(altitude, FACING_SUN), np.nan)
    shade = np.where(up, np.fmax(sunlit - BELOW_SUN["open shade"], dusk), dusk)
    overcast = np.where(up, np.fmax(_heights(altitude, OVERCAST), dusk - CLOUD_STOPS), dusk - CLOUD_STOPS)
    return CardLight(sunlit, shade, overcast)


def _heights(altitudes, measured):
    return np.array([at_height(each, measured) for each in altitudes.ravel()]).reshape(altitudes.shape)
