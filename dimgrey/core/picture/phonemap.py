"""A light map of 8-bit sRGB pixels, in plain numbers: what a phone paints a picture from that the desk has not seen yet.

The desk's own (lightmap.py) is made of the file in full and takes its place when the picture is home. Source: HANDBOOK 18.
"""

import math
import sys
from array import array

from dimgrey.core.colour.light import LUMINANCE_WEIGHTS, linear_of_channel
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


def _codes(linear):
    """The two codes of a colour's features."""
    return bytes(min(max(math.floor(f * STEPS + 0.5) + MIDDLE_STEP, 0), 255) for f in features_of(linear))
