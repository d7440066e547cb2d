"""One subject in many lights: each picture under one crop and one exposure, with its range, its shadows, its parting and its mood in words.

So hours of a day, or days of a year, are compared by what the light does and not by what the camera set.
"""

import math
from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.judging.pick import subject_areas
from dimgrey.core.picture.measures import balance
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.sky.sunlight import light_from, shadow_azimuth_deg, shadow_length

RANGE_SHARES = (0.02, 0.98)
FLAT_STOPS, SOFT_STOPS, HARD_STOPS = 3.0, 5.0, 7.5
"""Ranges below which a light is flat, soft, and above which it is hard."""
LOW_DEG, HIGH_DEG = 15.0, 45.0
DARKEST = 2.0**-20
SIDES = (
    "away from you", "away to the right", "to the right", "towards you to the right", "towards you", "towards you to the left",
    "to the left", "away to the left",
)  # fmt: skip
"""Directions of shadows seen from the camera, every 45 degrees from along the view, clockwise."""
WANTED = {"front": "front", "side": "side", "back": "back"}


@dataclass(frozen=True)
class Sun:
    """Where the sun stood. azimuth_deg, altitude_deg: degrees; below the horizon it is negative."""

    azimuth_deg: float
    altitude_deg: float


@dataclass(frozen=True)
class Hour:
    """What one light does. range_stops: between the darkest and lightest 2 %. parting: zones between subject and the ground around it, + where
    the subject is lighter. key: stops over middle grey at which half of the picture lies. shadow: direction and length in words, "" without
    a sun. words: its mood. wants: codes of core.sky.wants.WANTS that name this light."""

    range_stops: float
    parting: float
    key: float
    shadow: str
    words: tuple
    wants: tuple


def stops_of(grey, middle_ev100, study_ev100):
    """Stops from middle grey of a picture's greys under the exposure of the study.

    grey: linear, 0.18 is the picture's own middle, any shape. middle_ev100: of that middle, None where the file does not say: it is then
    taken as it is. study_ev100: what all are exposed for.
    """
    own = np.log2(np.maximum(np.asarray(grey, float), DARKEST) / MIDDLE_GREY)
    return own if middle_ev100 is None or study_ev100 is None else own + middle_ev100 - study_ev100


def exposure_of(middles):
    """EV100 that all pictures of a study are shown at: the median of those that know theirs, None without any. middles: EV100 or None each."""
    known = [ev for ev in middles if ev is not None]
    return float(np.median(known)) if known else None


def hour_of(stops, subject, sun=None, heading_deg=None):
    """Hour of one picture.

    stops: from middle grey under the study's exposure, shape (h, w). subject: (x, y), fractions. sun: Sun or None. heading_deg: where the
    camera looks, None when not known.
    """
    low, high = np.quantile(stops, RANGE_SHARES)
    inside, around = subject_areas(stops.shape, subject)
    spread = float(high - low)
    side = light_from(heading_deg, sun.azimuth_deg, sun.altitude_deg) if sun and heading_deg is not None else ""
    return Hour(
        range_stops=round(spread, 2),
        parting=round(float(np.median(stops[inside]) - np.median(stops[around])), 2),
        key=round(float(np.median(stops)), 2),
        shadow=shadow_words(sun, heading_deg),
        words=_mood(spread, balance(np.clip(stops + MIDDLE, 0, 10)), sun, side),
        wants=_wants(sun, side, spread),
    )


def shadow_words(sun, heading_deg):
    """Where shadows fall and how long they are, seen from the camera; "" without a sun over the horizon.

    sun: Sun or None. heading_deg: where the camera looks, None when not known.
    """
    if sun is None or sun.altitude_deg <= 0:
        return ""
    times = shadow_length(1.0, sun.altitude_deg)
    long = "over 20×" if times > 20 else f"{times:.1f}×"
    if heading_deg is None:
        return f"{long} as long as things are high"
    turn = (shadow_azimuth_deg(sun.azimuth_deg) - heading_deg) % 360
    side = SIDES[round(turn / 45) % 8]
    return f"{side}, {long} as long as things are high"


def _mood(spread, found, sun, side):
    words = [
        "flat" if spread < FLAT_STOPS else "soft" if spread < SOFT_STOPS else "hard" if spread > HARD_STOPS else "full"
    ]
    black, dark, _, light, white = found.shares
    # One flat grey has no key, wherever it lies.
    if spread >= FLAT_STOPS and light + white >= 0.6 and black <= 0.03:
        words.append("high-key")
    elif spread >= FLAT_STOPS and black + dark >= 0.6:
        words.append("low-key")
    if sun is not None:
        if sun.altitude_deg <= -6:
            words.append("night")
        elif sun.altitude_deg <= 0:
            words.append("dusk")
        elif sun.altitude_deg < LOW_DEG and spread >= SOFT_STOPS:
            words.append("long shadows")
        if side == "back":
            words.append("against the light")
    return tuple(words)


def _wants(sun, side, spread):
    """Codes of the light that a new scene would ask for to have this again."""
    if sun is None:
        return ()
    if sun.altitude_deg <= -12:
        return ("night",)
    if sun.altitude_deg <= -3:
        return ("blue-hour",)
    if spread < FLAT_STOPS and sun.altitude_deg > 0:
        return ("overcast",)
    made = []
    if side in WANTED:
        made.append("side-low" if side == "side" and sun.altitude_deg < 20 else WANTED[side])
    if sun.altitude_deg < 10 and "side-low" not in made:
        made.append("low")
    elif sun.altitude_deg > HIGH_DEG:
        made.append("high")
    return tuple(made)


def in_order(suns, times):
    """Indices of pictures in the order of a day: by hour, then by the sun's height; those without a time come last.

    suns: Sun or None each. times: hour of the day, 0..24, or None each.
    """
    height = lambda k: suns[k].altitude_deg if suns[k] else math.inf
    return tuple(sorted(range(len(times)), key=lambda k: (times[k] is None, times[k] or 0.0, height(k), k)))
