"""A light map of 8-bit sRGB pixels, in plain numbers: what a phone paints a picture from that the desk has not seen yet.

The desk's own (lightmap.py) is made of the file in full and takes its place when the picture is home. Source: HANDBOOK 18.
"""

import math
import sys
from array import array

from dimgrey.core.colour.luminance import LUMINANCE_WEIGHTS, linear_of_channel
from dimgrey.core.colour.onecolour import features_of
from dimgrey.core.picture.mapcodes import BYTES, MIDDLE_STEP, STEPS

LEAST = 1e-12


def map_of_pixels(pixels, width, height):
    """The four bytes of each pixel, as a light map unpacked has them. pixels: R, G, B and one more byte each. width, height: of
    the picture. Raises ValueError where they do not fit.

    >>> map_of_pixels(bytes([128, 128, 128, 255]), 1, 1).hex()
    '3e5d8080'
    """
    if len(pixels) != BYTES * width * height:
        raise ValueError(f"{width} x {height} pixels have {BYTES * width * height} bytes (got {len(pixels)}).")
    linear = [linear_of_channel(k / 255) for k in range(256)]
    kr, kg, kb = ([weight * value for value in linear] for weight in LUMINANCE_WEIGHTS)
    reds, greens, blues = pixels[0::4], pixels[1::4], pixels[2::4]
    light = array("f", (max(kr[r] + kg[g] + kb[b], LEAST) for r, g, b in zip(reds, greens, blues, strict=True)))
    if sys.byteorder == "big":
        light.byteswap()
    upper = light.tobytes()
    known, codes = {}, bytearray(2 * width * height)
    at = 0
    for colour in zip(reds, greens, blues, strict=True):
        made = known.get(colour)
        if made is None:
            made = known[colour] = _codes([linear[channel] for channel in colour])
        codes[at : at + 2] = made
        at += 2
    out = bytearray(BYTES * width * height)
    out[0::4], out[1::4], out[2::4], out[3::4] = upper[3::4], upper[2::4], codes[0::2], codes[1::2]
    return bytes(out)


SHADES = 32
"""Steps of red, green and blue at which the codes of a live picture are tabulated: one level in eight."""


def live_tables():
    """What turns a camera's live 8-bit pixels into a map by looking up: (light of each value of red, green and blue, in this order, 768
    numbers; two codes for each of 32 x 32 x 32 shades, bytes).

    Coarser than `map_of_pixels`, by at most four levels of a channel: a live picture is an estimate anyway.
    """
    linear = [linear_of_channel(k / 255) for k in range(256)]
    light = [weight * value for weight in LUMINANCE_WEIGHTS for value in linear]
    middle = [linear_of_channel((k + 0.5) * 256 / SHADES / 255) for k in range(SHADES)]
    codes = b"".join(_codes((r, g, b)) for r in middle for g in middle for b in middle)
    return light, codes


def _codes(linear):
    """The two codes of a colour's features."""
    return bytes(min(max(math.floor(f * STEPS + 0.5) + MIDDLE_STEP, 0), 255) for f in features_of(linear))
