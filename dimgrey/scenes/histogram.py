"""The hill over the tone ground: how much of the picture prints where, as a profile over the zones. Its histogram, in zones."""

import numpy as np

from dimgrey.core.picture.display import FIRST, LAST, index_stops
from dimgrey.core.planning.prints import falls_of
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.pictures import store

PER_ZONE = 6
"""Sixths of a zone: as fine as a third is written, twice."""
LOWEST, HIGHEST = -6, 16
"""Falls that are counted; what lies beyond stands at the ends."""
WIDTH, HEIGHT = 1100, 100
"""Units of the drawing: a hundred to a zone, from half a zone before 0 to half a zone past X."""


def fall_counts(situation):
    """Share of the picture in each sixth of a zone of fall, from -6 to 16; () without a picture or before a plan."""
    if situation.picture is None or situation.plan is None:
        return ()
    shown = situation.rendering
    try:
        counts = store.light_counts(situation.picture.path, shown.chain, shown.overhead, situation.crop)
    except store.PictureGone:
        return ()
    falls = index_stops() * shown.slope + shown.stops + MIDDLE - situation.plan.printing.lift
    bins = np.clip(np.floor((falls - LOWEST) * PER_ZONE).astype(int), 0, (HIGHEST - LOWEST) * PER_ZONE - 1)
    found = np.bincount(bins, counts[: LAST - FIRST], (HIGHEST - LOWEST) * PER_ZONE)
    return tuple(round(float(share), 5) for share in found / max(found.sum(), 1))


BRIGHTEST_SHARE = 0.01


def white_fall(counts):
    """Fall from which on the brightest hundredth of the picture lies, None without counts. counts: of `fall_counts`."""
    left = BRIGHTEST_SHARE
    for k in reversed(range(len(counts))):
        left -= counts[k]
        if left <= 0:
            return LOWEST + (k + 0.5) / PER_ZONE
    return None


def hill_path(situation, counts):
    """SVG path of the profile over the prints, closed at the ground; "" without counts. counts: of `fall_counts`."""
    if not counts:
        return ""
    falls = LOWEST + (np.arange(len(counts)) + 0.5) / PER_ZONE
    known = falls_of(situation.plan.printing, PER_ZONE)
    prints = np.interp(falls, known, np.arange(len(known)) / PER_ZONE)
    steps = 10 * PER_ZONE + 1
    heights = np.bincount(np.clip(np.round(prints * PER_ZONE).astype(int), 0, steps - 1), counts, steps)
    heights = np.convolve(np.pad(heights, 1, mode="edge"), (0.25, 0.5, 0.25), "valid")
    # The root keeps small areas visible beside a sky; a height is no share to be read off.
    heights = np.sqrt(heights / max(heights.max(), 1e-9)) * HEIGHT
    points = "L".join(f"{round((k / PER_ZONE + 0.5) * 100)} {HEIGHT - h:.1f}" for k, h in enumerate(heights))
    return f"M50 {HEIGHT}L{points}L1050 {HEIGHT}Z"
