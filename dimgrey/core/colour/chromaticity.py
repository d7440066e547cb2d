"""Where a colour lies apart from its brightness, and tables over that: the one form in which every chain knows its greys.

``x = R / (R + G)``, ``y = B / (B + G)`` of linear sRGB, after a thousandth of R + G + B is added to each channel; light below 0
counts as none. So every colour has its place, black too, and a neutral lies in the middle at exactly 1/2, 1/2. For arrays of colours; onecolour.py has the same for one.
Source: HANDBOOK 18.
"""

from functools import lru_cache

import numpy as np

from dimgrey.core.colour.encoding import LUMINANCE_WEIGHTS
from dimgrey.core.colour.onecolour import FLOOR, NODES, WHOLE

FINE = 512
"""Steps of the fine places that pictures are looked up by: 16 between two nodes."""
BLOCK = 1 << 17


def lifted(linear):
    """Colours with the floor added. linear: shape (..., 3), linear sRGB. Returns the same shape, above 0."""
    c = np.maximum(np.asarray(linear, float), 0)
    return c + FLOOR * c.sum(axis=-1, keepdims=True) + 1e-30


def light_of(linear):
    """Luminance with the floor counted in, so that no colour has less than none; a neutral keeps its value. Shape (...)."""
    return lifted(linear) @ LUMINANCE_WEIGHTS / WHOLE


def places(linear):
    """(x, y) of colours, 0..1 each. linear: shape (..., 3). Returns two arrays of shape (...)."""
    r, g, b = np.moveaxis(lifted(linear), -1, 0)
    return r / (r + g), b / (b + g)


def colours_at(x, y):
    """A lifted colour at each place, scaled to the luminance 1; shape (..., 3)."""
    x, y = (np.clip(v, 1e-4, 1 - 1e-4) for v in (x, y))
    c = np.stack([x * (1 - y), (1 - x) * (1 - y), (1 - x) * y], axis=-1)
    return c / (c @ LUMINANCE_WEIGHTS)[..., None] * WHOLE


def unlifted(colours):
    """Colours before the floor was added, where light below 0 counts as none. Shape kept."""
    return np.maximum(colours - FLOOR / WHOLE * colours.sum(axis=-1, keepdims=True), 0)


def looked_up(table, linear):
    """Bilinear value of a table at colours. table: shape (33, 33), over x and y. linear: shape (..., 3). Returns shape (...)."""
    x, y = (v * (NODES - 1) for v in places(linear))
    i, j = (np.minimum(v.astype(int), NODES - 2) for v in (x, y))
    u, v = x - i, y - j
    low = (1 - v) * table[i, j] + v * table[i, j + 1]
    high = (1 - v) * table[i + 1, j] + v * table[i + 1, j + 1]
    return (1 - u) * low + u * high


@lru_cache(maxsize=1)
def fine_colours():
    """A colour at each fine place, the floor taken off and the luminance 1 with it, shape (513 * 513, 3), float32, read-only."""
    step = np.arange(FINE + 1) / FINE
    made = unlifted(colours_at(*np.meshgrid(step, step, indexing="ij")).reshape(-1, 3)).astype(np.float32)
    made.setflags(write=False)
    return made


def refined(table):
    """A table at every fine place, shape (513 * 513,), float32: bilinear between its nodes."""
    share = _shares()
    return (share @ table.astype(np.float32) @ share.T).ravel()


@lru_cache(maxsize=1)
def _shares():
    """How much of each node lies in each fine step along one side, shape (513, 33)."""
    at, step = np.linspace(0, 1, NODES), np.arange(FINE + 1) / FINE
    return np.stack([np.interp(step, at, node) for node in np.eye(NODES)], axis=1).astype(np.float32)


def light_and_places(planes):
    """(luminance, fine place) of a picture's pixels, float32 and int32. planes: linear sRGB, shape (3, ...). Each has shape (...)."""
    shape = planes.shape[1:]
    flat = planes.reshape(3, -1)
    light, place = np.empty(flat.shape[1], np.float32), np.empty(flat.shape[1], np.int32)
    kr, kg, kb = (np.float32(w / WHOLE) for w in LUMINANCE_WEIGHTS)
    for start in range(0, flat.shape[1], BLOCK):  # in parts, so that what is worked on stays small
        part = slice(start, start + BLOCK)
        r, g, b = np.maximum(flat[:, part], 0, dtype=np.float32)
        floor = (r + g + b) * np.float32(FLOOR) + np.float32(1e-30)
        r, g, b = r + floor, g + floor, b + floor
        here = (r / (r + g) * FINE + np.float32(0.5)).astype(np.int32)
        here *= FINE + 1
        here += (b / (b + g) * FINE + np.float32(0.5)).astype(np.int32)
        light[part], place[part] = r * kr + g * kg + b * kb, here
    return light.reshape(shape), place.reshape(shape)
