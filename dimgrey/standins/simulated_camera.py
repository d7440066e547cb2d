"""A simulated digital camera, for places without a real one: it looks at a scene's light through its own curve.

It stands behind the interface that a real camera's driver would have: live view, exposure lock, shots, brackets. Its
curve is its own and hidden from the rest of the application; a card series shows it (core.calibration).
"""

import io
import zlib
from dataclasses import dataclass
from datetime import datetime
from typing import Protocol

import numpy as np
from PIL import Image
from PIL.Image import Exif

from dimgrey.core.camera.setups import Setup
from dimgrey.core.colour.chain import CHANNEL_MIXES
from dimgrey.core.colour.encoding import grey8_of_lightness, luminance
from dimgrey.core.colour.greys import grey_of
from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.measure.exposure import exposure_time_s
from dimgrey.core.picture.display import lightness_through
from dimgrey.core.picture.measures import lost_shares
from dimgrey.core.planning.prints import FILE_CURVE

NAME = "simulated camera"
FAULTS = (-1, -2 / 3, 2 / 3, 1)


def hidden_fault(name):
    """Stops by which a film or camera of that name gives more light than is set: made up, the same every time, to be found by comparing."""
    return FAULTS[zlib.crc32(name.encode()) % len(FAULTS)]


@dataclass(frozen=True)
class CameraSetting:
    """A manual setting: exact f-number, time in seconds, ISO."""

    f_number: float
    time_s: float
    iso: float

    @property
    def ev100(self):
        return float(np.log2(self.f_number**2 / self.time_s) - np.log2(self.iso / 100))


@dataclass(frozen=True)
class Live:
    """One look through the camera: 8-bit grey, histogram of 32 bins summing to 1, and the shares that are lost."""

    grey: np.ndarray
    histogram: tuple
    lost_black: float
    lost_white: float


@dataclass(frozen=True)
class Shot:
    """A taken picture: the JPEG with the setup baked in and its data, and scene-linear light when a raw file was asked for."""

    jpeg: bytes
    linear: np.ndarray | None
    setting: CameraSetting
    name: str


@dataclass(frozen=True)
class LensGlass:
    """What is on the lens. stops: light it takes from everything. chain: from colour to grey of a medium that sees coloured glass
    as it is, None for a colour sensor. sky: share of each pixel that is sky, shape (h, w), or None. polarized: stops that a
    polarizer at its strongest takes from each pixel, shape (h, w), None where the sun's place is not known. left: factors that
    graduated filters leave of each row, shape (h, 1), or None."""

    stops: float = 0.0
    chain: object = None
    sky: np.ndarray | None = None
    polarized: np.ndarray | None = None
    left: np.ndarray | None = None


class Camera(Protocol):
    """A camera that can be told what to do."""

    def live(self, setup: Setup, setting: CameraSetting, polarizer: float) -> Live: ...

    def shoot(self, setup: Setup, setting: CameraSetting, polarizer: float, now: datetime) -> Shot: ...


class SimulatedCamera:
    """Looks at linear light with a scale.

    linear: shape (h, w, 3), with middle grey at 0.18. middle_ev100: EV100 of that middle grey in the scene. glass: what is on
    its lens. fault_stops: light that reaches the picture beyond what is set. curve: stops and L* of the camera's own file, steeper or softer than the default; None for the default.
    """

    name = NAME
    simulated = True

    def __init__(self, linear, middle_ev100, curve=None, mixes=CHANNEL_MIXES, glass=None, fault_stops=0.0):
        self._glass = glass or LensGlass()
        self._linear = np.asarray(linear, np.float32)
        if self._glass.left is not None:
            self._linear = self._linear * self._glass.left[..., None]
        self._middle = float(middle_ev100)
        self._fault = fault_stops
        self._curve = curve or FILE_CURVE
        self._mixes = mixes
        self._locked = None

    def metered(self, compensation=0.0):
        """EV100 that its whole-frame meter sets, compensation dialled in (+ gives more light)."""
        if self._locked is not None:
            return self._locked - compensation
        mean = float(np.mean(luminance(self._linear)))
        return self._middle + float(np.log2(max(mean, 1e-6) / MIDDLE_GREY)) - self._glass.stops - compensation

    def lock(self, on=True):
        """Hold the present metered exposure, or let it go."""
        self._locked = self.metered() if on else None

    def setting(self, ev100, f_number, iso):
        """CameraSetting for an EV100 at an aperture and speed."""
        return CameraSetting(f_number, exposure_time_s(ev100, f_number, iso), iso)

    def _grey(self, setup, exposure, polarizer):
        if self._glass.chain is None:
            light = self._linear @ np.asarray(self._mixes[setup.filter], np.float32)
        else:
            light = grey_of(self._glass.chain, self._linear, self._glass.sky)
        stops = np.log2(np.maximum(light, 1e-7) / MIDDLE_GREY) + self._middle - exposure.ev100 - self._glass.stops
        stops = stops + self._fault
        stops = stops - polarizer * self._sky()
        if setup.protection_stops:
            stops = np.where(stops > 0, stops * 3.3 / (3.3 + setup.protection_stops), stops)
        return lightness_through(stops, setup.tone, self._curve)

    def _sky(self):
        """How strongly a polarizer acts on each pixel, stops at full turn: on what is blue, as skylight is."""
        if self._glass.polarized is not None:
            return self._glass.polarized
        c = np.maximum(self._linear, 1e-6)
        blue = np.clip((c[..., 2] / c.sum(axis=-1) - 0.40) / 0.15, 0, 1)
        return 1.6 * blue

    def live(self, setup, exposure, polarizer=0.0):
        """What the screen on its back shows. polarizer: 0 (off) to 1 (turned to its strongest)."""
        l_star = self._grey(setup, exposure, polarizer)
        counts, _ = np.histogram(l_star, 32, (0, 100))
        return Live(
            grey8_of_lightness(l_star),
            tuple(float(n) / l_star.size for n in counts),
            *lost_shares(l_star),
        )

    def shoot(self, setup, exposure, polarizer=0.0, now=None, name="DG0001"):
        """Take a picture. The JPEG is grey with the setup in it; raw light comes along unless only a file was asked for."""
        buffer = io.BytesIO()
        grey = self.live(setup, exposure, polarizer).grey
        Image.fromarray(grey).save(buffer, "JPEG", quality=95, exif=_exif(exposure, now))
        linear = (
            None
            if setup.file == "in-camera"
            else self._linear * np.float32(2.0 ** (self._middle - exposure.ev100 - self._glass.stops + self._fault))
        )
        return Shot(buffer.getvalue(), linear, exposure, name)

    def bracket(self, setup, exposure, offsets, polarizer=0.0, now=None):
        """One shot for each offset in stops (+ is over), by shutter."""
        return tuple(
            self.shoot(
                setup,
                CameraSetting(exposure.f_number, exposure.time_s * 2.0**k, exposure.iso),
                polarizer,
                now,
                f"DG{n:04d}",
            )
            for n, k in enumerate(offsets, 1)
        )

    def card_series(self, setup, stops=range(-5, 5)):
        """(offset, L* of an evenly lit grey card) of a series around its metered exposure; the frames calibration wants."""
        card = lightness_through(np.array(list(stops), float), setup.tone, self._curve)
        return tuple(zip(map(float, stops), card.tolist(), strict=True))


def _exif(exposure, now):
    made = Exif()
    made[0x010F], made[0x0110] = "Dimgrey", NAME
    if now:
        made[0x0132] = now.strftime("%Y:%m:%d %H:%M:%S")
    shot = made.get_ifd(0x8769)
    shot[0x829A] = float(exposure.time_s)
    shot[0x829D] = round(float(exposure.f_number), 2)
    shot[0x8827] = round(exposure.iso)
    return made
