"""Edges of shadows and the fall of light behind the subject: how hard a lamp is where it counts. Source: HANDBOOK 20."""

import math

from dimgrey.core.errors import require_positive

HARD_MM, SOFT_MM = 4.0, 20.0
NOSE_M = 0.035
"""How far the cheek lies behind the tip of the nose: where the edge of the nose's shadow is judged."""


def edge_width_m(size_m, distance_m, behind_m):
    """Width of a shadow's edge, ``D b / d``.

    size_m: of the lamp across the edge. distance_m: lamp to the edge that throws the shadow. behind_m: from there to where it falls.

    >>> edge_width_m(0.6, 1.5, 0.05)
    0.02
    """
    d = require_positive(distance_m, "distance_m", "A lamp on the edge throws no shadow.")
    return round(size_m * behind_m / d, 12)


def fall_off_stops(distance_m, deeper_m):
    """Stops lost from one distance of a lamp to one that lies deeper, ``2 log2((d + x) / d)``.

    >>> fall_off_stops(1.0, 1.0)
    2.0
    """
    d = require_positive(distance_m, "distance_m", "Write metres from the lamp.")
    return 2 * math.log2((d + deeper_m) / d)


def hardness(lamp, subject):
    """(width of the edge of the nose's shadow in metres, a word for it). lamp: Lamp. subject: (x, y, z) of the face."""
    width = edge_width_m(lamp.size_m, lamp.distance_m(subject), NOSE_M)
    word = "hard" if width * 1000 < HARD_MM else "soft" if width * 1000 > SOFT_MM else "between hard and soft"
    return width, word
