"""The light map: a picture's light packed for the browser, which paints it with the core's own tables.

Each pixel has four bytes: its luminance as the upper half of a float32, and its place on the chromaticity tables as the two
features ``f = 4 tanh(log2(R/G) / 4)`` and the same of B/G, 32 steps to a unit from 128. Four planes follow each other, each as
differences from the pixel before, deflated (RFC 1950) behind a head of three 16-bit numbers: version, width, height.
Source: HANDBOOK 18 for the features; docs/decisions/023.
"""

import struct
import zlib

import numpy as np

from dimgrey.core.colour.chromaticity import colours_at, unlifted
from dimgrey.core.colour.encoding import LUMINANCE_WEIGHTS
from dimgrey.core.colour.measuredcolours import features_of
from dimgrey.core.errors import Unreadable
from dimgrey.core.picture.mapcodes import MIDDLE_STEP, STEPS

VERSION = 1
HEAD = struct.Struct("<3H")

SIDES = (500, 1000, 1600)
"""Longest sides that maps are made for: a phone's and a desk's picture."""
LEVEL = 6
"""Of deflate: higher ones take three times as long for two per cent."""


def packed(planes):
    """Bytes of the light map of a picture. planes: linear sRGB, shape (3, h, w)."""
    _, height, width = planes.shape
    out = np.empty((4, height * width), np.uint8)
    flat = planes.reshape(3, -1)
    for start in range(0, flat.shape[1], 1 << 17):  # in parts, so that what is worked on stays small
        part = slice(start, start + (1 << 17))
        linear = np.moveaxis(np.maximum(flat[:, part], 0, dtype=np.float32), 0, -1)
        light = np.maximum(linear @ LUMINANCE_WEIGHTS.astype(np.float32), np.float32(1e-12))
        upper = light.view(np.uint32) >> 16
        out[0, part], out[1, part] = upper >> 8, upper & 255
        codes = np.clip(np.round(features_of(linear) * STEPS) + MIDDLE_STEP, 0, 255)
        out[2, part], out[3, part] = codes[..., 0], codes[..., 1]
    return _deflated(out, width, height)


def packed_share(share):
    """Bytes of a plane of shares, 0 to 255, in the same form with one plane. share: uint8, shape (h, w)."""
    height, width = share.shape
    return _deflated(share.reshape(1, -1), width, height)


def _deflated(planes, width, height):
    differences = np.diff(planes, axis=1, prepend=np.uint8(0))
    return HEAD.pack(VERSION, width, height) + zlib.compress(differences.tobytes(), LEVEL)


def unpacked(data):
    """Planes of a map, uint8, shape (planes, h, w), as the browser reads them. Raises Unreadable."""
    try:
        version, width, height = HEAD.unpack_from(data)
        flat = np.frombuffer(zlib.decompress(data[HEAD.size :]), np.uint8)
        if version != VERSION:
            raise ValueError(version)
        return np.cumsum(flat.reshape(-1, height * width), axis=1, dtype=np.uint8).reshape(-1, height, width)
    except (ValueError, struct.error, zlib.error):
        raise Unreadable("This is not a light map.", code="light-map") from None


def colours_of(planes):
    """Linear sRGB that a map stands for, shape (h, w, 3): what the browser sees. planes: four, of `unpacked`."""
    upper = (planes[0].astype(np.uint32) << 24) | (planes[1].astype(np.uint32) << 16) | 0x8000
    light = upper.view(np.float32).astype(float)
    ratio = lambda code: (
        2.0 ** (4 * np.arctanh(np.clip((code.astype(float) - MIDDLE_STEP) / STEPS / 4, -0.9999, 0.9999)))
    )
    over = [ratio(plane) for plane in planes[2:]]
    x, y = (each / (1 + each) for each in over)
    return unlifted(colours_at(x, y)) * light[..., None]
