"""The difference of two pictures in zones, as a survey map: lines of equal difference, and no hue."""

from dataclasses import replace

import numpy as np

from dimgrey.core.measure.stops import format_stops
from dimgrey.core.picture.contours import contours, smoothed

LEVELS = (-3.0, -2.0, -1.0, -0.5, 0.5, 1.0, 2.0, 3.0)
"""Zones at which a line is drawn: from half a zone, which is seen, to three."""
SMOOTHING_PX = 3.0


def difference_map(planned, seen, inside):
    """ToneMapDrawing of ``seen - planned``; the numeral of a line is the difference in zones.

    planned, seen: prints in zones, shape (h, w). inside: booleans, where `seen` shows something; elsewhere there is no difference.
    """
    off = np.where(inside, np.clip(seen, 0, 10) - np.clip(planned, 0, 10), 0.0)
    drawn = contours(smoothed(off, SMOOTHING_PX), outer=(-99.0, 99.0), smoothing_px=0, borders=LEVELS, words=_words)
    return replace(drawn, lost_shadows=(), lost_highlights=())


def _words(level):
    return format_stops(level, 2, signed=True)
