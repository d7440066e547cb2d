"""The sky as a surface of light: how bright each direction is, how polarized, and what a polarizer takes there.

Sources: CIE S 011:2003 (sky types 1 and 12), Kittler and Darula (1998) for the zenith's luminance, Rayleigh's law for
polarization with the maximum scaled to the air.
"""

import math
from dataclasses import dataclass

import numpy as np

CLEAR = (-1.0, -0.32, 10.0, -3.0, 0.45)
OVERCAST = (4.0, -0.70, 0.0, -1.0, 0.0)
"""CIE S 011 parameters a, b, c, d, e of sky type 12 (clear) and 1 (overcast)."""
TURBIDITY = {"clear": 3.0, "hazy": 6.0}
HIGHEST_SUN_DEG = 65.0
"""Above this the zenith formula no longer holds; the sun is taken at this altitude there."""


def angle_between_deg(altitude_deg, azimuth_deg, sun_altitude_deg, sun_azimuth_deg):
    """Angle between a direction and the sun, ``cos g = sin hs sin h + cos hs cos h cos dA``, degrees 0..180."""
    h, hs = np.radians(altitude_deg), np.radians(sun_altitude_deg)
    turn = np.radians(np.asarray(azimuth_deg) - sun_azimuth_deg)
    cosine = np.sin(hs) * np.sin(h) + np.cos(hs) * np.cos(h) * np.cos(turn)
    return np.degrees(np.arccos(np.clip(cosine, -1, 1)))


def relative_luminance(altitude_deg, gamma_deg, sun_altitude_deg, sky=CLEAR):
    """Luminance of a point of the sky over that of the zenith, ``f(g) phi(Z) / (f(Zs) phi(0))``.

    altitude_deg: of the point, above 0. gamma_deg: its angle from the sun. sky: CLEAR or OVERCAST. Shapes broadcast.
    Source: CIE S 011:2003, equations 1 to 4.

    >>> round(float(relative_luminance(90, 60, 30)), 6)
    1.0
    """
    a, b, c, d, e = sky
    altitude = np.maximum(np.asarray(altitude_deg, float), 0.1)
    gradation = (1 + a * np.exp(b / np.sin(np.radians(altitude)))) / (1 + a * math.exp(b))

    def indicatrix(angle_deg):
        angle = np.radians(angle_deg)
        return 1 + c * (np.exp(d * angle) - math.exp(d * math.pi / 2)) + e * np.cos(angle) ** 2

    return gradation * indicatrix(gamma_deg) / indicatrix(90 - np.asarray(sun_altitude_deg, float))


def zenith_luminance_cd_m2(sun_altitude_deg, air="clear"):
    """Luminance of a clear zenith, ``(1.376 Tv - 1.81) tan h + 0.38`` kcd/m2 with Tv 3 (clear) or 6 (hazy).

    sun_altitude_deg: above 0; above 65 the formula is held there. Source: Kittler and Darula (1998).
    """
    h = np.radians(np.clip(sun_altitude_deg, 0.0, HIGHEST_SUN_DEG))
    return 1000 * ((1.376 * TURBIDITY[air] - 1.81) * np.tan(h) + 0.38)


def polarization(gamma_deg, p_max):
    """Degree of polarization of skylight, ``Pmax sin2 g / (1 + cos2 g)``, 0..1 (Rayleigh)."""
    gamma = np.radians(gamma_deg)
    return p_max * np.sin(gamma) ** 2 / (1 + np.cos(gamma) ** 2)


def polarizer_stops(gamma_deg, p_max, turned_deg=0.0):
    """What a polarizer takes from that sky against neutral ground, ``log2(1 - P cos 2t)``: 0 or negative stops, 0 at 45 degrees.

    turned_deg: t, how far it is turned from the crossed position, 0..45 (Malus' law for the polarized part).

    >>> round(float(polarizer_stops(90, 0.8)), 2)
    -2.32
    """
    return np.log2(1 - polarization(gamma_deg, p_max) * crossed_share(turned_deg))


def crossed_share(turned_deg):
    """How much of a crossed polarizer's effect is left, ``cos 2t``: 1 crossed, 0 at 45 degrees."""
    return max(math.cos(math.radians(2 * turned_deg)), 0.0)


# --- the frame -------------------------------------------------------------------------------------------------------------

FRAME_POINTS = {
    "centre": (0, 0), "upper": (0, 0.6), "left": (-1, 0), "right": (1, 0), "top": (0, 1), "bottom": (0, -1),
    "top left": (-1, 1), "top right": (1, 1), "bottom left": (-1, -1), "bottom right": (1, -1),
}  # fmt: skip


"""Points of the frame as fractions from its centre to its edges; "upper" is where sky usually is."""


@dataclass(frozen=True)
class Direction:
    """Altitude and azimuth of a point of the frame in degrees."""

    altitude_deg: float
    azimuth_deg: float


def directions(across, up, tilt_deg, focal_mm, width_mm, height_mm):
    """(altitude, azimuth from the heading) in degrees in which points of a frame look, any shape.

    across, up: -1..1 from the centre to the edges. tilt_deg: of the optical axis. Sizes in mm. A level camera without shift;
    the axis is rotated up by the tilt.
    """
    x, y = across * width_mm / 2 / focal_mm, up * height_mm / 2 / focal_mm
    tilt = math.radians(tilt_deg)
    forward = math.cos(tilt) - y * math.sin(tilt)
    height = math.sin(tilt) + y * math.cos(tilt)
    return np.degrees(np.arctan2(height, np.hypot(x, forward))), np.degrees(np.arctan2(x, forward))


def frame_direction(across, up, heading_deg, tilt_deg, focal_mm, width_mm, height_mm):
    """Direction in which one point of a frame looks, turned to the heading. across, up and the others: as in `directions`."""
    altitude, turn = directions(across, up, tilt_deg, focal_mm, width_mm, height_mm)
    return Direction(float(altitude), (heading_deg + float(turn)) % 360)


def frame_directions(heading_deg, tilt_deg, focal_mm, width_mm=36.0, height_mm=24.0):
    """Direction of the centre, the edges and the corners of a frame, by name."""
    return {
        name: frame_direction(across, up, heading_deg, tilt_deg, focal_mm, width_mm, height_mm)
        for name, (across, up) in FRAME_POINTS.items()
    }
