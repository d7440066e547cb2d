"""A first EV100 without a meter, from the kind of light and the sun's altitude. Always an estimate.

Source: HANDBOOK 2, a measured year of daylight; the other rows are the usual exposure guide of the field.
"""

import math
import re
from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.interpolation import straight_between
from dimgrey.core.measure.stops import with_unit

ALTITUDES = (10.0, 20.0, 30.0, 42.5, 57.5, 72.5)
"""Middles of the measured bands of sun altitude, degrees."""
FACING_SUN = (13.6, 14.7, 15.1, 15.2, 15.3, 15.3)
OVERCAST = (11.2, 12.3, 12.9, 13.5, 13.9, 14.1)
PER_HALVING = 1.1
"""Stops that daylight falls for each halving of the sun's altitude below the lowest measured band: with it the curve of a
sunlit card meets that of twilight at sunset within half a stop."""
LOWEST_DEG = 0.3
BELOW_SUN = {"haze": 1.0, "bright cloud": 2.0, "open shade": 3.0}
"""Stops below a subject that faces the clear sun."""
FIXED = {"blue hour": 4.0, "full moon": -3.0}
KINDS = ("sun", "haze", "bright cloud", "overcast", "open shade", "low sun", "blue hour", "full moon")


TAKEN_IN = {"sun": "sun", "haze": "haze", "cloud": "bright cloud", "shade": "open shade", "indoors": ""}
"""The light that a picture was taken in, in a word -> its row of the guide, "" where the sun has no part in it."""
INDOORS_EV100 = 8.0
OUTDOORS_ERROR, INDOORS_ERROR = 1.0, 2.0
"""Stops that the log mean of a frame in such a light is good to."""


def error_of(light):
    """Stops that a guess from one of TAKEN_IN is good to."""
    return OUTDOORS_ERROR if TAKEN_IN[light] else INDOORS_ERROR


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
        ev = at_height(sun_altitude_deg, OVERCAST)
        return Estimate(ev, f"Overcast, level ground, sun {sun_altitude_deg:.0f}° high behind the cloud.")
    height = min(sun_altitude_deg, 8.0) if kind == "low sun" else sun_altitude_deg
    sun = sunlit_ev100(height)
    ev = sun - BELOW_SUN.get(kind, 0.0)
    less = f", {with_unit(f'{BELOW_SUN[kind]:g}')} less for {kind}" if kind in BELOW_SUN else ""
    return Estimate(ev, f"Facing the clear sun {height:.0f}° high: EV {sun:.1f}{less}.")


def sunlit_ev100(sun_altitude_deg):
    """EV100 of a grey card that faces the clear sun. sun_altitude_deg: a number above the horizon."""
    return at_height(sun_altitude_deg, FACING_SUN)


def at_height(sun_altitude_deg, measured):
    """A measured curve at an altitude above the horizon; below its lowest band it falls by PER_HALVING. measured: EV100 at
    ALTITUDES."""
    h = max(sun_altitude_deg, LOWEST_DEG)
    return straight_between(h, ALTITUDES, measured) + PER_HALVING * min(math.log2(h / ALTITUDES[0]), 0.0)


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
