"""Where a picture's blue sky is, pixel by pixel: found from its place, its colour and its smoothness, or drawn by hand.

Only a blue sky needs to be known: what is neutral, such as cloud and mist, has the same grey as sky and as object.
Source: HANDBOOK 18.
"""

import numpy as np

from dimgrey.core.colour.encoding import luminance

BLUE_STOPS = (0.2, 0.5)
"""log2(B/R) at which a colour begins to count as a sky's, and where it fully does."""
SMOOTH_STOPS = 0.12
"""Difference between neighbours, in a small copy, above which there is no open sky."""
TOP_SHARE = 0.04
"""Part of the height at the top edge that a sky reaches into."""
LEAST_SHARE = 0.004
"""Smaller finds are no sky: share of the picture."""
LIKE_STOPS = (0.7, 1.3)
"""Brightness against the sky around within which a pixel is sky, and beyond which it is none."""
STRIP = 64
"""Rows that are judged at a time."""


def _ramp(value, low, high):
    t = np.clip((value - low) / (high - low), 0, 1)
    return t * t * (3 - 2 * t)


def _blue(linear):
    """How much each colour may be a sky's, 0..1: more blue than red, with green between them."""
    r, g, b = (np.maximum(linear[..., k], 1e-6) for k in range(3))
    over_red, over_green = np.log2(b / r), np.log2(b / g)
    return _ramp(over_red, *BLUE_STOPS) * (over_green > 0) * _ramp(over_red - over_green, -0.15, 0.05)


def _open_sky(small):
    """The smooth blue that hangs together with the top edge, and pieces like it elsewhere; bool, shape (h, w)."""
    from scipy import ndimage

    height, width = small.shape[:2]
    light = np.log2(np.maximum(luminance(small), 1e-6))
    rough = ndimage.maximum_filter(light, 3) - ndimage.minimum_filter(light, 3)
    candidates = (_blue(small) > 0.5) & (rough < 2 * SMOOTH_STOPS)
    pieces, count = ndimage.label(candidates)
    if not count:
        return np.zeros((height, width), bool)
    sizes = np.bincount(pieces.ravel(), minlength=count + 1)
    at_top = np.unique(pieces[: max(1, round(height * TOP_SHARE))])
    at_top = at_top[(at_top > 0) & (sizes[at_top] >= LEAST_SHARE * height * width)]
    sky = np.isin(pieces, at_top)
    if not sky.any():
        return sky
    # Gaps between trees and chimneys do not touch the edge, but look like the sky at their height.
    rows = np.arange(height)
    known = np.flatnonzero(sky.any(axis=1))
    there = np.array([np.median(light[row][sky[row]]) for row in known])
    expected = np.interp(rows, known, there)[:, None]
    bottom = known[-1]
    for piece in set(range(1, count + 1)) - set(at_top.tolist()):
        here = pieces == piece
        if (
            sizes[piece] >= 12
            and np.median(np.abs(light - expected)[here]) < LIKE_STOPS[0] / 2
            and rows[here.any(axis=1)][0] <= bottom
        ):
            sky |= here
    return sky


def found(planes, small):
    """Share of each pixel that is blue sky, shape (h, w), uint8, 255 for all of it.

    planes: linear sRGB, shape (3, h, w). small: a small copy of it, shape (a, b, 3), as `tonemap.reduced` makes it.
    """
    from scipy import ndimage

    _, height, width = planes.shape
    sky = _open_sky(small)
    if not sky.any():
        return np.zeros((height, width), np.uint8)
    # The brightness that the sky has around each place, carried over what stands before it.
    light = np.log2(np.maximum(luminance(small), 1e-6))
    weight = ndimage.gaussian_filter(sky.astype(np.float32), 6)
    around = ndimage.gaussian_filter(np.where(sky, light, 0).astype(np.float32), 6) / np.maximum(weight, 1e-6)
    around[weight < 1e-3] = light[sky].mean()
    near = ndimage.gaussian_filter(ndimage.binary_dilation(sky, iterations=3).astype(np.float32), 1)
    near, around = enlarged(near, height, width), enlarged(around, height, width)
    share = np.zeros((height, width), np.uint8)
    rows = slice(0, int(np.flatnonzero((near > 0.2).any(axis=1))[-1]) + 1)
    for start in range(rows.start, rows.stop, STRIP):  # in strips, so that what is worked on stays small
        part = slice(start, min(start + STRIP, rows.stop))
        linear = np.moveaxis(planes[:, part], 0, -1).astype(np.float32)
        off = np.abs(np.log2(np.maximum(luminance(linear), 1e-6)) - around[part])
        share[part] = np.round(255 * _ramp(near[part], 0.2, 0.8) * (1 - _ramp(off, *LIKE_STOPS)) * _blue(linear))
    return share


def enlarged(array, height, width):
    """A small array at the size of a picture, bilinear. height, width: of the picture, pixels."""
    rows = (np.arange(height) + 0.5) * array.shape[0] / height - 0.5
    columns = (np.arange(width) + 0.5) * array.shape[1] / width - 0.5
    i, j = (np.clip(v.astype(int), 0, max(n - 2, 0)) for v, n in ((rows, array.shape[0]), (columns, array.shape[1])))
    u, v = (np.clip(a - b, 0, 1).astype(np.float32) for a, b in ((rows, i), (columns, j)))
    i1, j1 = np.minimum(i + 1, array.shape[0] - 1), np.minimum(j + 1, array.shape[1] - 1)
    wide = lambda k: array[k][:, j] * (1 - v) + array[k][:, j1] * v
    return (wide(i).T * (1 - u) + wide(i1).T * u).T.astype(np.float32)


def outlined(corners, height, width):
    """Share of each pixel that lies in an outline drawn by hand, shape (h, w), uint8.

    corners: (x, y) as fractions, as `outline.require_outline` gives them; () for none. height, width: of the picture, pixels.
    """
    from skimage.draw import polygon2mask

    if not corners:
        return np.zeros((height, width), np.uint8)
    inside = polygon2mask((height, width), [(y * height - 0.5, x * width - 0.5) for x, y in corners])
    return inside.astype(np.uint8) * 255
