"""The tone of a clear sky in the picture: its zone at the camera's heading and height, through filter and polarizer."""

import numpy as np

from dimgrey.core.measure.exposure import K_REFLECTED
from dimgrey.core.sky import dome
from dimgrey.core.sky.conditions import AIRS
from dimgrey.core.sky.daylight import sunlit_ev100
from dimgrey.core.sky.skyview import SkyPoint, SkyTone, filter_stops


def sky_tone(sun, directions, air="clear", chain=None, light="D55", turned_deg=None):
    """SkyTone of a clear or hazy sky.

    sun: dome.Direction of the sun, above the horizon. directions: from dome.frame_directions. air: "clear" or "hazy".
    chain: the medium's Chain; None leaves colour out. turned_deg: of a polarizer on the lens, None without. Overcast skies are bright without colour: use overcast_stops.
    """
    shift = filter_stops(air, chain, light)
    sunlit = sunlit_ev100(sun.altitude_deg)
    points = {}
    for name, at in directions.items():
        if at.altitude_deg <= 0:
            points[name] = None
            continue
        gamma = float(dome.angle_between_deg(at.altitude_deg, at.azimuth_deg, sun.altitude_deg, sun.azimuth_deg))
        ev = float(sky_ev100(at.altitude_deg, gamma, sun.altitude_deg, air))
        taken = 0.0 if turned_deg is None else float(dome.polarizer_stops(gamma, AIRS[air], turned_deg))
        points[name] = SkyPoint(gamma, ev, ev - sunlit + shift + taken, shift, taken)
    return SkyTone(points, air, sunlit)


def sky_ev100(altitude_deg, gamma_deg, sun_altitude_deg, air):
    """EV100 of points of a clear or hazy sky. altitude_deg, gamma_deg: of the points and from the sun, shapes broadcast."""
    zenith = dome.zenith_luminance_cd_m2(sun_altitude_deg, air)
    ratio = dome.relative_luminance(altitude_deg, gamma_deg, sun_altitude_deg)
    return np.log2(zenith * ratio * 100 / K_REFLECTED)


def overcast_stops(altitude_deg):
    """An overcast sky at altitudes against a grey card lying under it, in stops; the shape of altitude_deg.

    Source: CIE S 011:2003 type 1; under it a horizontal white reflects pi L / E = 7/9 of the zenith's luminance.
    """
    zenith_over_white = 9 / 7
    ratio = dome.relative_luminance(np.maximum(altitude_deg, 1), 60, 40, dome.OVERCAST)
    return np.log2(zenith_over_white * ratio / 0.18)
