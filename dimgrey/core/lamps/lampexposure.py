"""What lamps add up to: lux, the f-number of flash with ambient light, ratios, and the zone of a surface in that light.

Light adds in lux; a flash gives lux seconds whatever the time, lasting light gives ``E t``. A surface of reflectance rho sends ``L = rho E / pi``.
Source: HANDBOOK 2 and 20; ISO 2720:1974 for both meters.
"""

import math
from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange, require_positive
from dimgrey.core.measure.exposure import C_FLAT, K_REFLECTED

LEAST_LUX_S = 1e-9
"""Below this there is no light; it keeps logarithms finite."""


@dataclass(frozen=True)
class Camera:
    """How the camera is set. f_number, exposure_time_s, iso. sync_time_s: the shortest time at which a flash lights the whole frame."""

    f_number: float = 8.0
    exposure_time_s: float = 1 / 128
    iso: float = 100.0
    sync_time_s: float = 1 / 128

    @property
    def setting_ev100(self):
        return math.log2(self.f_number**2 / self.exposure_time_s) - math.log2(self.iso / 100)


@dataclass(frozen=True)
class Light:
    """What falls on a surface. lasting_lux: of lamps that burn. flash_lux_s: of flashes, lux seconds."""

    lasting_lux: float = 0.0
    flash_lux_s: float = 0.0

    def __add__(self, other):
        return Light(self.lasting_lux + other.lasting_lux, self.flash_lux_s + other.flash_lux_s)

    def lux_seconds(self, exposure_time_s):
        """All that falls during an exposure, ``H = E t + H_flash``."""
        return self.lasting_lux * exposure_time_s + self.flash_lux_s


def incident_ev100(light, exposure_time_s, c=C_FLAT):
    """EV100 that an incident meter gives for an exposure of that time, flash counted in: ``log2(H / t * 100 / C)``.

    >>> round(incident_ev100(Light(2500.0), 1 / 128), 3)
    9.966
    """
    time = require_positive(exposure_time_s, "exposure_time_s", "For 1/125 s write 1/125.")
    return math.log2(max(light.lux_seconds(time), LEAST_LUX_S) / time * 100 / c)


def flash_f_number(light, exposure_time_s, iso=100.0, c=C_FLAT):
    """f-number that an incident flash meter gives, ambient light of that time counted in: ``N**2 = H S / C``.

    >>> round(flash_f_number(Light(flash_lux_s=250 * 64 / 100), 1 / 128), 3)
    8.0
    """
    return math.sqrt(max(light.lux_seconds(exposure_time_s), LEAST_LUX_S) * iso / c)


def tone_ev100(light, reflectance, exposure_time_s, k=K_REFLECTED):
    """EV100 that a spot meter gives of a surface, ``log2(rho H / (pi t) * 100 / K)``.

    light: Light on it. reflectance: 0..1. A flash counts as if it had lasted the whole time.
    """
    luminance = reflectance * light.lux_seconds(exposure_time_s) / exposure_time_s / math.pi
    return math.log2(max(luminance, LEAST_LUX_S) * 100 / k)


def zone(light, reflectance, camera):
    """Fall of a surface: ``5 + EV(tone) - EV(setting)``. light: Light on it. reflectance: 0..1. camera: Camera."""
    return 5.0 + tone_ev100(light, reflectance, camera.exposure_time_s) - camera.setting_ev100


def require_sync(camera, lamps):
    """Raise OutOfRange where the shutter is too short for the flashes that burn. camera: Camera. lamps: Lamp of each."""
    flashes = [lamp.name for lamp in lamps if lamp.is_flash and lamp.is_on]
    if flashes and camera.exposure_time_s < camera.sync_time_s * (1 - 1e-6):
        raise OutOfRange(
            f"At this time the shutter is never wholly open: {', '.join(flashes)} lights a part of the frame. "
            f"Set 1/{1 / camera.sync_time_s:.0f} s or longer.",
            parameter="exposure_time_s",
            code="flash-sync",
        )


def pause_s(lamp, recycle_s):
    """Seconds until a flash is ready again, in the share of its full power that it gave: ``t 2**stops``. lamp: Lamp. recycle_s: after full power."""
    return recycle_s * 2.0**lamp.stops
