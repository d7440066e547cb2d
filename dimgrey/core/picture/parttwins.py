"""Which filter or mix brings two colours of a picture apart that print alike."""

import numpy as np

from dimgrey.core.picture.tonemap import ToneMap
from dimgrey.core.picture.twins import PARTED_L


def part_twins(lab_pair_colours, candidates, kind, stops=0.0, slope=1.0, sky=None):
    """Choices that bring two colours apart, best first: (name, L* apart). () when none does.

    lab_pair_colours: two linear sRGB colours. candidates: (name, Chain). stops, slope: the exposure of the
    view. sky: how much of each is sky, or None.
    """
    found = []
    for name, chain in candidates:
        a, b = ToneMap(chain, stops, slope, kind).lightness(np.asarray(lab_pair_colours), sky)
        if abs(a - b) >= PARTED_L:
            found.append((name, float(abs(a - b))))
    return tuple(sorted(found, key=lambda each: -each[1]))
