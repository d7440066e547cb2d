"""A scale for the light of a picture without exposure data, from the light it was taken in: a guess, and told as one.

The log mean of the frame, without its blocked and burnt parts, is taken for what a meter would have set it by: the guide's EV100 for that
light and the sun's height. Source: HANDBOOK 2, the daylight guide.
"""

from dimgrey.core.document.model import TakenIn
from dimgrey.core.sky.daylight import INDOORS_EV100, TAKEN_IN, daylight_ev100

USUAL_SUN_ALTITUDE_DEG = 40.0
"""Where the sun is taken to stand while date or place is missing, or it is down."""


def guessed(light, frame_stops, sun_altitude_deg=None):
    """TakenIn of a picture.

    light: one of TAKEN_IN. frame_stops: log mean of the frame against linear 0.18. sun_altitude_deg: None where it is not known.

    >>> guessed("sun", -1.0).ev100
    16.18
    """
    kind = TAKEN_IN[light]
    height = sun_altitude_deg if sun_altitude_deg is not None and sun_altitude_deg > 0 else USUAL_SUN_ALTITUDE_DEG
    ev100 = daylight_ev100(kind, height).ev100 if kind else INDOORS_EV100
    return TakenIn(light, round(ev100 - frame_stops, 2))
