"""The frame of a bracket that a file was taken with."""

import math

from dimgrey.core.measure.exposure import ev100
from dimgrey.frames.forms import kept_setting

NEAR_STOPS = 0.4
"""A file belongs to the frame of a bracket whose exposure its data come so close to."""


def taken_with(frames, decoded, place):
    """The frame that a file was taken with: by its exposure, else by its place. place: of the file among those that came."""
    shot = decoded.shot
    if shot.f_number and shot.time_s and shot.iso:
        given = ev100(shot.f_number, shot.time_s, shot.iso)
        nearest = min(frames, key=lambda each: abs(_ev(each) - given))
        if abs(_ev(nearest) - given) <= NEAR_STOPS:
            return nearest
    return frames[min(place, len(frames) - 1)]


def _ev(frame):
    given = kept_setting(frame).ev100
    return math.inf if given is None else given
