"""The painter's tables in plain numbers, for where NumPy is not: greys of light, and stops of a chain over chromaticity.

`display.display_table` and `greys.chain_nodes` are the same for the desk; tests hold them alike. Of the looks, the plain and the hard one are made here.
"""

import math
import struct
from functools import lru_cache

from dimgrey.core.colour.chainterms import terms_of
from dimgrey.core.colour.luminance import MIDDLE_GREY, channel_of_lightness
from dimgrey.core.colour.onecolour import NODES, colour_at
from dimgrey.core.colour.ownmix import moved_stops
from dimgrey.core.planning.prints import Printing
from dimgrey.core.planning.zones import MIDDLE

FIRST, LAST = 0x3380, 0x4780
"""Upper halves of the float32 of 2**-24 and 2**16: between them lies all light that is told apart."""
HARD_SLOPE = 4.0
"""Contrast of a hard squeeze about L* 50."""
REACH = 16.0
"""Stops from middle grey beyond which every curve has come to its end, steepest setup and longest development included."""


def grey8(l_star):
    """8-bit sRGB value of a neutral grey of lightness L*. Source: CIE 15:2004; IEC 61966-2-1:1999."""
    encoded = channel_of_lightness(l_star)
    return round(min(max(encoded, 0.0), 1.0) * 255)


@lru_cache(maxsize=1)
def _index_stops():
    """Stops from middle grey of the table indices FIRST..LAST, each at its middle."""
    middles = (struct.unpack("<f", struct.pack("<I", (k << 16) | 0x8000))[0] for k in range(FIRST, LAST))
    return tuple(math.log2(light / MIDDLE_GREY) for light in middles)


@lru_cache(maxsize=16)
def grey_table(kind="film", step=0, tone=(0.0, 0.0, 0.0), slope=1.0, hard=False):
    """Greys of light at the indices FIRST..LAST, bytes: what the painter looks up when nothing is added to the light.

    kind: of the medium. step: of the film's development. tone: of a setup. slope: of the picture's light. hard: squeezed, with
    contrast far past any print.
    """
    printing = Printing(kind, step, tuple(tone))
    squeezed = lambda l_star: min(max(50 + (l_star - 50) * HARD_SLOPE, 0.0), 100.0) if hard else l_star
    shown = lambda stops: grey8(squeezed(printing.lightness(MIDDLE + slope * stops)))
    ends = {side: shown(side * REACH) for side in (-1, 1)}
    return bytes(ends[1 if stops > 0 else -1] if abs(stops) > REACH else shown(stops) for stops in _index_stops())


def node_stops(chain):
    """Stops that a chain adds at the nodes of chromaticity, 33 * 33 numbers: to the luminance for glass, to its weights for a mix."""
    if chain.through:
        return terms_of(chain.through).nodes
    if not chain.bends:
        return [0.0] * NODES**2
    steps = [k / (NODES - 1) for k in range(NODES)]
    return [moved_stops(chain.bends, colour_at(x, y)) for x in steps for y in steps]
