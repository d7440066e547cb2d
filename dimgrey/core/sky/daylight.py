"""A first EV100 without a meter, from the kind of light and the sun's altitude. Always an estimate.

Source: HANDBOOK 2, a measured year of daylight; the other rows are the usual exposure guide of the field.
"""

import re
from dataclasses import dataclass

import numpy as np

from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.exposure import C_FLAT
from dimgrey.core.measure.stops import with_unit

ALTITUDES = (10.0, 20.0, 30.0, 42.5, 57.5, 72.5)
"""Middles of the measured bands of sun altitude, degrees."""
FACING_SUN = (13.6, 14.7, 15.1, 15.2, 15.3, 15.3)
OVERCAST = (11.2, 12.3, 12.9, 13.5, 13.9, 14.1)
PER_HALVING = 1.1
"""Stops that daylight falls for each halving of the sun's altitude below the lowest measured band: with it the curve of a
sunlit card meets that of twilight at sunset within half a stop."""
LOWEST_DEG = 0.3
TWILIGHT_DEG = (-18.0, -12.0, -6.0, -0.83)
TWILIGHT_LUX = (6.51e-4, 8.31e-3, 3.40, 453.0)
"""Light of an open clear sky on level ground at the ends of the twilights and at sunset. Source: Brown, Natural Illumination
Charts (1952), as the handbooks of electro-optics repeat them."""
CLOUD_STOPS = 2.0
"""What a closed sky takes from twilight: as much as from daylight near sunset."""
BELOW_SUN = {"haze": 1.0, "bright cloud": 2.0, "open shade": 3.0}
"""Stops below a subject that faces the clear sun."""
FIXED = {"blue hour": 4.0, "full moon": -3.0}
KINDS = ("sun", "haze", "bright cloud", "overcast", "open shade", "low sun", "blue hour", "full moon")


@dataclass(frozen=True)
class Estimate:
    """EV100 to start from, and how it was reached. Good to about a stop."""

    ev100: float
    why: str


def daylight_ev100(kind, sun_altitude_deg=40.0):
    """Estimate for a kind of light; sun_altitude_deg counts where the light comes from the sun.

    Raises OutOfRange for a kind that is not in KINDS, and for daylight while the sun is below the horizon.

    >>> daylight_ev100("sun", 30).ev100
    15.1
    """
    if kind not in KINDS:
        raise OutOfRange(f"“{kind}” is not in the guide. Known: {', '.join(KINDS)}.", parameter="light", code="light")
    if kind in FIXED:
        return Estimate(FIXED[kind], f"{kind}: about EV {FIXED[kind]:g} on open land.")
    if sun_altitude_deg <= 0:
        raise OutOfRange(
            f"The sun is {-sun_altitude_deg:.0f} degrees below the horizon; there is no {kind}. Use blue hour or full moon.",
            parameter="light",
            code="sun-is-down",
        )
    if kind == "overcast":
        ev = float(_at_height(sun_altitude_deg, OVERCAST))
        return Estimate(ev, f"Overcast, level ground, sun {sun_altitude_deg:.0f}° high behind the cloud.")
    height = min(sun_altitude_deg, 8.0) if kind == "low sun" else sun_altitude_deg
    sun = sunlit_ev100(height)
    ev = sun - BELOW_SUN.get(kind, 0.0)
    less = f", {with_unit(f'{BELOW_SUN[kind]:g}')} less for {kind}" if kind in BELOW_SUN else ""
    return Estimate(ev, f"Facing the clear sun {height:.0f}° high: EV {sun:.1f}{less}.")


def sunlit_ev100(sun_altitude_deg):
    """EV100 of a grey card that faces the clear sun. sun_altitude_deg: a number above the horizon."""
    return float(_at_height(sun_altitude_deg, FACING_SUN))


def _at_height(sun_altitude_deg, measured):
    """A measured curve at any altitude above the horizon; below its lowest band it falls by PER_HALVING. Shape as given."""
    h = np.maximum(sun_altitude_deg, LOWEST_DEG)
    return np.interp(h, ALTITUDES, measured) + PER_HALVING * np.minimum(np.log2(h / ALTITUDES[0]), 0.0)


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
    sunlit = np.where(up, _at_height(altitude, FACING_SUN), np.nan)
    shade = np.where(up, np.fmax(sunlit - BELOW_SUN["open shade"], dusk), dusk)
    overcast = np.where(up, np.fmax(_at_height(altitude, OVERCAST), dusk - CLOUD_STOPS), dusk - CLOUD_STOPS)
    return CardLight(sunlit, shade, overcast)


@dataclass(frozen=True)
class Named:
    """A light that a note names, and the EV100 of diffuse things in it."""

    name: str
    range_ev100: tuple


NAMED = (
    ("moonlight", ("moon",), (-6, 0)),
    ("night", ("night", "lantern", "street lamp"), (-3, 9)),
    ("a room", ("room", "lamp light", "interior", "window"), (2, 17)),
    ("open shade", ("open shade", "shade"), (9, 14)),
    ("overcast", ("overcast", "cloud", "mist", "fog"), (9, 14.5)),
    ("sunlight", ("sun",), (11, 17)),
)
"""Plausible EV100 of textured things; HANDBOOK 2. A room has windows, through which the day is seen. The first name counts."""


def light_named(note):
    """Named of a note such as "sun from behind left", or None when it names no light. "Sun" next to others gives way."""
    return next((Named(name, bounds) for name, keys, bounds in NAMED if mentions(note, keys)), None)


def mentions(text, words):
    """Whether a text holds one of some words, as a word of its own or with a usual ending: "sunlit", not "mushrooms".

    >>> mentions("mushrooms in the sun", ("room",)), mentions("sunlit yard", ("sun",))
    (False, True)
    """
    return re.search(rf"\b(?:{'|'.join(words)})(?:s|y|ny|gy|light|lit|shine|fall)?\b", text, re.IGNORECASE) is not None
