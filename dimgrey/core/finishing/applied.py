"""A finishing plan applied to a picture: end points, curve, areas with soft edges, edge burn, grain. Arrays."""

import numpy as np

from dimgrey.core.finishing.finishingplan import END_SHARES, curve_at, stretched_curve
from dimgrey.core.picture.display import lightness
from dimgrey.core.picture.tonemap import zones_of_lightness
from dimgrey.core.planning.prints import PRINT_CURVE
from dimgrey.core.planning.zones import MIDDLE

PAPER = (float(PRINT_CURVE[1][0]), float(PRINT_CURVE[1][-1]))
"""L* of the paper's black and white."""
TABLE = np.linspace(0, 100, 2049)
GRAIN_L, GRAIN_PX = 5.0, 0.8


def end_points(shown):
    """(black, white): L* of a picture at END_SHARES. shown: L*, any shape."""
    low, high = np.quantile(np.asarray(shown, float), END_SHARES)
    return float(low), float(high)


def global_table(finish):
    """(L* in, zone out) of end points and curve, 2049 steps: what every pixel goes through before its areas."""
    stretched = (TABLE - finish.black) / (finish.white - finish.black)
    zones = zones_of_lightness(PAPER[0] + np.clip(stretched, 0, 1) * (PAPER[1] - PAPER[0]))
    steps, curve = np.linspace(0, 10, 401), stretched_curve(finish)
    led = np.array([curve_at(curve, float(zone)) for zone in steps])
    return TABLE, np.interp(zones, steps, led)


def finished(shown, finish, rng=None):
    """L* of a finished picture, before its crop.

    shown: L* as it came out, shape (h, w). finish: Finish. rng: numpy Generator for the grain, None for none. Returns float32, shape (h, w).
    """
    shown = np.asarray(shown, np.float32)
    zones = np.interp(shown, *global_table(finish)).astype(np.float32)
    zones += local_stops(finish, *shown.shape)
    steps = np.linspace(-2, 12, 1121)
    made = np.interp(zones, steps, lightness(np.clip(steps, 0, 10) - MIDDLE, PRINT_CURVE)).astype(np.float32)
    if finish.grain and rng is not None:
        made += _grain(made, finish.grain, rng)
    return np.clip(made, 0, 100)


def local_stops(finish, height, width):
    """Stops that areas and edge of a Finish add to each pixel, shape (height, width), float32; 0 everywhere for none."""
    total = np.zeros((height, width), np.float32)
    for area in finish.areas:
        total += area.stops * area_share(area, height, width)
    if finish.edge_stops:
        total += finish.edge_stops * edge_share(finish.edge_width, finish.crop, height, width)
    return total


def area_share(area, height, width):
    """How much each pixel belongs to an area, 0..1, its edge as soft as its feather says; shape (height, width), float32."""
    import cv2

    mask = np.zeros((height, width), np.uint8)
    corners = np.round(np.array(area.outline) * (width, height)).astype(np.int32)
    cv2.fillPoly(mask, [corners], 255)
    blur = area.feather * width / 2
    if blur >= 0.5:
        # A wide blur is made on a small copy: nobody sees the difference of a soft edge.
        step = max(1, int(blur / 8))
        small = cv2.resize(mask, (max(width // step, 1), max(height // step, 1)), interpolation=cv2.INTER_AREA)
        small = cv2.GaussianBlur(
            small.astype(np.float32), (0, 0), max(blur / step, 0.3), borderType=cv2.BORDER_REPLICATE
        )
        return cv2.resize(small, (width, height), interpolation=cv2.INTER_LINEAR) / np.float32(255)
    return mask.astype(np.float32) / np.float32(255)


def edge_share(edge_width, crop, height, width):
    """How much each pixel belongs to the edges of the crop, 1 at the edge and 0 inside, smooth; shape (height, width), float32."""
    left, top, right, bottom = crop
    x = (np.arange(width, dtype=np.float32) + 0.5) / width
    y = (np.arange(height, dtype=np.float32) + 0.5) / height
    across = np.minimum(x - left, right - x)
    down = np.minimum(y - top, bottom - y) * height / width
    away = np.minimum(across[None, :], down[:, None]) / edge_width
    share = np.clip(1 - away, 0, 1)
    return (share * share * (3 - 2 * share)).astype(np.float32)


def _grain(shown, amount, rng):
    from scipy.ndimage import gaussian_filter

    noise = gaussian_filter(rng.normal(size=shown.shape).astype(np.float32), GRAIN_PX, mode="wrap")
    noise /= noise.std() or 1.0
    return noise * GRAIN_L * amount * np.sqrt(np.clip(shown * (100 - shown), 0, None)) / 50


def cropped(array, crop):
    """The part of an array that a crop leaves, at least a pixel. array: shape (h, w). crop: left, top, right, bottom."""
    height, width = array.shape[:2]
    left, top, right, bottom = crop
    rows = slice(int(round(top * height)), max(int(round(bottom * height)), int(round(top * height)) + 1))
    columns = slice(int(round(left * width)), max(int(round(right * width)), int(round(left * width)) + 1))
    return array[rows, columns]
