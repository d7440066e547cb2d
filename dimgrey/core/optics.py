"""Light that the lens loses close up."""

import math


def bellows_stops(magnification):
    """Light lost by focusing close, ``2 log2(1 + m)`` stops; 0 at infinity (m = 0), 2 at life size (m = 1).

    Source: Kingslake, Lenses in Photography: effective aperture N (1 + m) for a symmetrical lens.
    """
    return 2 * math.log2(1 + magnification)
