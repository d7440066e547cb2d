"""What holds a picture together: the space that is left empty, and the lines that lead.

Line segments after Grompone von Gioi et al. 2010, in OpenCV. A place is empty where its lightness hardly changes over a part of the picture that
the eye takes at once.
"""

from dataclasses import dataclass

import numpy as np

EVEN_L, WINDOW, LEAST_AREA = 3.0, 1 / 24, 0.02
"""A place is even when lightness spreads less than this over a window of that part of the width; smaller areas than that share are left out."""
LONG_LINE, MOST_LINES = 0.12, 14
"""A line leads from that part of the width on; so many are drawn."""


@dataclass(frozen=True)
class Emptiness:
    """share: of the picture that is empty. inside: booleans, shape (h, w). lightness: mean L* of it, None where there is none."""

    share: float
    inside: np.ndarray
    lightness: float | None


@dataclass(frozen=True)
class Leading:
    """lines: (x1, y1, x2, y2) as fractions, the longest first. meet: (x, y) where most of them run together, within the picture, or None."""

    lines: tuple
    meet: tuple | None


def empty_space(shown):
    """Emptiness of a picture. shown: L*, shape (h, w)."""
    from scipy.ndimage import label, uniform_filter

    field = np.asarray(shown, float)
    size = max(int(field.shape[1] * WINDOW), 3)
    mean = uniform_filter(field, size, mode="nearest")
    spread = np.sqrt(np.maximum(uniform_filter(field**2, size, mode="nearest") - mean**2, 0))
    areas, count = label(spread < EVEN_L)
    sizes = np.bincount(areas.ravel(), minlength=count + 1)
    large = [k for k in range(1, count + 1) if sizes[k] >= LEAST_AREA * field.size]
    inside = np.isin(areas, large)
    return Emptiness(float(inside.mean()), inside, float(field[inside].mean()) if inside.any() else None)


def leading_lines(shown):
    """Leading of a picture. shown: L*, shape (h, w)."""
    import cv2

    grey = np.ascontiguousarray(np.clip(np.asarray(shown) * 2.55, 0, 255), np.uint8)
    found = cv2.createLineSegmentDetector().detect(grey)[0]
    if found is None:
        return Leading((), None)
    ends = found.reshape(-1, 4) / np.array([grey.shape[1], grey.shape[0]] * 2)
    length = np.hypot((ends[:, 2] - ends[:, 0]), (ends[:, 3] - ends[:, 1]) * grey.shape[0] / grey.shape[1])
    order = [k for k in np.argsort(-length) if length[k] >= LONG_LINE][:MOST_LINES]
    lines = tuple(tuple(float(v) for v in ends[k]) for k in order)
    return Leading(lines, _meeting(lines))


def _meeting(lines):
    """Where slanting lines run together, least squares over their distances; None for fewer than three, or outside the picture."""
    normals, offsets = [], []
    for x1, y1, x2, y2 in lines:
        along = np.array([x2 - x1, y2 - y1])
        along = along / np.hypot(*along)
        if min(abs(along)) < 0.12:
            continue  # level and upright lines lead nowhere in particular
        normal = np.array([-along[1], along[0]])
        normals.append(normal)
        offsets.append(normal @ (x1, y1))
    if len(normals) < 3:
        return None
    at, *_ = np.linalg.lstsq(np.array(normals), np.array(offsets), rcond=None)
    off = np.abs(np.array(normals) @ at - offsets)
    is_inside = bool((at > -0.05).all() and (at < 1.05).all())
    return (round(float(at[0]), 3), round(float(at[1]), 3)) if is_inside and float(np.median(off)) < 0.05 else None
