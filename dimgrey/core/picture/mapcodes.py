"""The four bytes of a pixel in a light map, and the spot read from them, in plain numbers: lightmap.py has the same for arrays.

The phone has no other picture of the light; the desk reads its own, in full, when what was sighted comes home.
"""

import math
import struct

from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.colour.onecolour import colour_at
from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.metering import SHARES_FROM, SHARES_PER_STOP, SHARES_TO, SpotReading

STEPS, MIDDLE_STEP = 32, 128
"""Steps of a chromaticity feature to a unit, and the code of a neutral."""
LEAST_LIGHT = 2.0**-24
"""The least linear value that is told from black."""
BYTES = 4


def colour_of(code):
    """Linear sRGB, three numbers, and luminance that a pixel's four bytes stand for. code: bytes of length 4."""
    light = struct.unpack(">f", bytes((code[0], code[1], 0x80, 0)))[0]
    x, y = (_place(each) for each in (code[2], code[3]))
    return tuple(c * light for c in colour_at(x, y)), light


def _place(code):
    feature = min(max((code - MIDDLE_STEP) / STEPS / 4, -0.9999), 0.9999)
    ratio = 2.0 ** (4 * math.atanh(feature))
    return ratio / (1 + ratio)


def spot_of_codes(codes, width, column, row, radius_px, clip=None):
    """SpotReading of a disc in a piece of a light map, as `spot.read_spot` reads the picture itself.

    codes: four bytes a pixel, row by row. width: of the piece, pixels. column, row: the centre, from the piece's corner.
    radius_px: of the disc. clip: linear value at which the picture ends, or None. Raises OutOfRange for a centre outside.
    """
    height = len(codes) // BYTES // width
    if not (0 <= column < width and 0 <= row < height):
        raise OutOfRange("The spot lies outside the picture.", parameter="at", code="spot-outside")
    reach = max(radius_px, 0.0) + 1e-6
    seen = [
        colour_of(codes[BYTES * (y * width + x) :][:BYTES])
        for y in range(height)
        for x in range(width)
        if (x - column) ** 2 + (y - row) ** 2 <= reach**2
    ]
    light = sorted(max(each, LEAST_LIGHT) for _, each in seen)
    stops = [math.log2(each / MIDDLE_GREY) for each in light]
    mean = math.fsum(light) / len(light)
    clipped = sum(max(colour) >= clip for colour, _ in seen) / len(seen) if clip else 0.0
    return SpotReading(
        mean_stops=math.log2(mean / MIDDLE_GREY),
        low_stops=_percentile(stops, 0.1),
        high_stops=_percentile(stops, 0.9),
        colour=tuple(math.fsum(colour[k] for colour, _ in seen) / len(seen) for k in range(3)),
        clipped=clipped,
        shares=_shares(stops),
    )


def _percentile(ordered, share):
    """A percentile of sorted stops, straight in light between two of them."""
    at = share * (len(ordered) - 1)
    k = min(int(at), len(ordered) - 2) if len(ordered) > 1 else 0
    if len(ordered) == 1:
        return ordered[0]
    low, high = 2.0 ** ordered[k], 2.0 ** ordered[k + 1]
    return math.log2(low + (at - k) * (high - low))


def _shares(stops):
    """Share of each half stop."""
    counts = [0] * round((SHARES_TO - SHARES_FROM) * SHARES_PER_STOP)
    for each in stops:
        counts[min(max(int((each - SHARES_FROM) * SHARES_PER_STOP), 0), len(counts) - 1)] += 1
    return tuple(round(count / len(stops), 4) for count in counts)
