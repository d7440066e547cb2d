"""The tone of a clear sky in the picture: its zone at the camera's heading and height, through filter and polarizer."""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.chain import glass_chain, tone_shift_stops
from dimgrey.core.measure.exposure import K_REFLECTED
from dimgrey.core.planning.zones import zone_of
from dimgrey.core.sky import dome
from dimgrey.core.sky.daylight import sunlit_ev100

SKY_COLOUR = (0.61, 1.02, 2.32)
"""Linear sRGB of daylight of 25,000 K (CIE 15:2004, daylight locus) where D55 sunlight is neutral: a clear sky's blue."""
HAZE_COLOUR = (0.95, 1.0, 1.12)


@dataclass(frozen=True)
class SkyPoint:
    """One point of the frame. stops: from sunlit middle grey as the medium sees it, filter and polarizer included.

    filter_stops, polarizer_stops: their parts. None below the horizon, where there is no sky.
    """

    gamma_deg: float
    ev100: float
    stops: float
    filter_stops: float
    polarizer_stops: float


@dataclass(frozen=True)
class SkyTone:
    """The sky in the frame: a SkyPoint or None by name of the frame's points, and what follows from them."""

    points: dict
    air: str
    sunlit_ev100: float

    @property
    def seen(self):
        return {name: point for name, point in self.points.items() if point}

    @property
    def main(self):
        """The upper middle of the frame, where sky usually is; the top when the camera looks down; None without sky."""
        return self.points["upper"] or self.points["top"] or next(iter(self.seen.values()), None)

    @property
    def polarizer_spread_stops(self):
        """Difference of the polarizer's darkening across the frame, 0 with less than two points of sky."""
        taken = [point.polarizer_stops for point in self.seen.values()]
        return max(taken) - min(taken) if len(taken) > 1 else 0.0

    def zone(self, point, setting_ev100=None):
        """Zone of a point: on a setting, or with sunlit middle grey on V when no setting is known."""
        if setting_ev100 is None:
            return 5 + point.stops
        return zone_of(self.sunlit_ev100, setting_ev100) + point.stops


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
        taken = 0.0 if turned_deg is None else float(dome.polarizer_stops(gamma, dome.P_MAX[air], turned_deg))
        points[name] = SkyPoint(gamma, ev, ev - sunlit + shift + taken, shift, taken)
    return SkyTone(points, air, sunlit)


def filter_stops(air, chain, light):
    """How far a chain moves a sky of that air against the meter, stops. chain: Chain or None for no colour. light: its name."""
    colour = SKY_COLOUR if air == "clear" else HAZE_COLOUR
    return tone_shift_stops(chain, colour, glass_chain("eye", light, ()), sky=True) if chain else 0.0


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
