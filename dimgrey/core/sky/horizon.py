"""The whole sky over a place as a strip, from the horizon to the zenith and once around: greys, polarizer, frames.

Angles in degrees; azimuths from north, clockwise. Source: the models of `dome` and `skytone`.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.picture.overhead import LONG_SIDE_MM, SHORT_SIDE_MM
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.sky import dome
from dimgrey.core.sky.conditions import AIRS
from dimgrey.core.sky.daylight import sunlit_ev100
from dimgrey.core.sky.skygreys import sky_greys
from dimgrey.core.sky.skyprint import SkyPrint
from dimgrey.core.sky.skytone import overcast_stops, sky_ev100
from dimgrey.core.sky.skyview import filter_stops

STEP_DEG = 2.0
POLARIZER_LEVELS = (1.0, 1.5, 2.0)
"""Stops from which the polarizer's strength is drawn, each denser than the one before."""
LINE_DEG = 6.0
"""Altitudes between the lines of the first of POLARIZER_LEVELS; the others stand between them."""
BORDER_POINTS = 8
DEEP_BAND_DEG = (15.0, 45.0)
"""Altitudes at which frames have their sky: where the deepest is looked for."""


def cells(first_azimuth_deg=0.0):
    """(altitudes, shape (45, 1), from the zenith down; azimuths, shape (1, 180)) of the middles of the strip's cells."""
    altitudes = np.arange(90 - STEP_DEG / 2, 0, -STEP_DEG)[:, None]
    return altitudes, (first_azimuth_deg + np.arange(STEP_DEG / 2, 360, STEP_DEG))[None, :]


@dataclass(frozen=True)
class SkyLight:
    """The light of a sky at one moment. sun: dome.Direction, above the horizon. air: "clear", "hazy" or "overcast"."""

    sun: dome.Direction
    air: str

    def gamma_deg(self, altitude_deg, azimuth_deg):
        """Angle of directions from the sun, shapes broadcast."""
        return dome.angle_between_deg(altitude_deg, azimuth_deg, self.sun.altitude_deg, self.sun.azimuth_deg)

    def polarizer_stops(self, altitude_deg, azimuth_deg, turned_deg=0.0):
        """What a polarizer takes from directions, 0 or negative stops, shapes broadcast. turned_deg: from crossed."""
        return dome.polarizer_stops(self.gamma_deg(altitude_deg, azimuth_deg), AIRS[self.air], turned_deg)


def strip_greys(light, printed, chain, daylight="D55", turned_deg=None, first_azimuth_deg=0.0):
    """8-bit greys that the sky would print, shape (45, 180), zenith first.

    light: SkyLight. printed: skyprint.SkyPrint of the means. chain, daylight: the Chain and its light, None leaves colour out.
    turned_deg: of a polarizer on the lens, None without. A closed sky is blank, whatever the means, as `overcast_stops` has it.
    """
    altitudes, around = cells(first_azimuth_deg)
    if light.air == "overcast":
        blank = np.minimum(overcast_stops(altitudes), MIDDLE)
        return np.broadcast_to(sky_greys(SkyPrint(None), blank), (altitudes.size, around.size))
    stops = sky_ev100(altitudes, light.gamma_deg(altitudes, around), light.sun.altitude_deg, light.air)
    stops = stops - sunlit_ev100(light.sun.altitude_deg) + filter_stops(light.air, chain, daylight)
    taken = 0.0 if turned_deg is None else light.polarizer_stops(altitudes, around, turned_deg)
    return sky_greys(printed, stops + taken)


def polarizer_lines(light):
    """(altitude, from azimuth, to azimuth) of level lines whose density shows what a polarizer takes; () where it takes little.

    light: SkyLight. A stretch over north ends at 360 and goes on at 0.
    """
    around = np.arange(0, 360 + STEP_DEG, STEP_DEG)
    lines = []
    for level, start, step in zip(POLARIZER_LEVELS, (3.0, 6.0, 1.5), (LINE_DEG, LINE_DEG, LINE_DEG / 2), strict=True):
        for altitude in np.arange(start, 90, step):
            strong = light.polarizer_stops(altitude, around) <= -level
            edges = np.nonzero(np.diff(np.concatenate([[False], strong, [False]])))[0].reshape(-1, 2)
            lines += [(float(altitude), float(around[a]), float(around[b - 1])) for a, b in edges if b - a > 1]
    return tuple(lines)


def frame_outline(heading_deg, tilt_deg, focal_35mm, upright=False):
    """Outline of a frame on the sky, upright where it is taller than wide: (azimuths, not turned back at 360; altitudes), shape (n,) each, from the top left clockwise."""
    along = np.linspace(-1, 1, BORDER_POINTS + 1)[:-1]
    one = np.ones_like(along)
    across, up = np.concatenate([along, one, -along, -one]), np.concatenate([one, -along, -one, along])
    width, height = (SHORT_SIDE_MM, LONG_SIDE_MM) if upright else (LONG_SIDE_MM, SHORT_SIDE_MM)
    altitude, turn = dome.directions(across, up, tilt_deg, focal_35mm, width, height)
    return heading_deg + turn, altitude


NOTICED_STOPS = 0.1


def deepest_turns_deg(sun_altitude_deg):
    """How far from the sun's azimuth a clear sky is darkest where frames have it: (180,), or (turn, 360 - turn) where both sides are
    deeper than the sky opposite the sun by a tenth of a stop. CIE sky type 12."""
    altitudes, around = np.meshgrid(np.arange(DEEP_BAND_DEG[0], DEEP_BAND_DEG[1] + 1, 5.0), np.arange(0, 181, 5.0))
    gamma = dome.angle_between_deg(altitudes, around, sun_altitude_deg, 0.0)
    stops = np.log2(dome.relative_luminance(altitudes, gamma, sun_altitude_deg)).min(axis=1)
    turn = float(around[int(np.argmin(stops)), 0])
    return (180.0,) if stops[-1] - stops.min() < NOTICED_STOPS else (turn, 360.0 - turn)


def strongest_polarizer(light, altitude_deg=20.0):
    """(stops, 0 or negative; azimuth) where a polarizer takes most at an altitude. light: SkyLight."""
    around = np.arange(0, 360, 5.0)
    stops = light.polarizer_stops(altitude_deg, around)
    most = int(np.argmin(stops))
    return float(stops[most]), float(around[most])
