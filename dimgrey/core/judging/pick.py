"""Which of near-identical frames: what tells them apart at the subject, at the ends, at the horizon, and an order with its reasons.

Sharpness is the variance of the Laplacian within the subject's area at equal size (Pech-Pacheco et al. 2000). Lines are found as segments
(Grompone von Gioi et al. 2010, in OpenCV). The order is a proposal: each part of its cost can be read beside the picture.
"""

import math
from dataclasses import dataclass

import numpy as np

from dimgrey.core.picture.measures import lost_shares, place_of, pulls
from dimgrey.core.picture.tonemap import zones_of_lightness
from dimgrey.core.shapes.declare import Shaped, key, needed, number, or_none, several, text

FEWEST, MOST = 2, 12
SUBJECT_REACH = 0.07
"""Half the width of the subject's area, of the picture's width, where nobody drew one."""
STEADY_PX = 1.0
"""Blur before sharpness is measured, so that the grain of resampling does not count."""
SAID_SHARPNESS, SAID_LOST, SAID_PARTING, SAID_TILT_DEG, SAID_LEAN_DEG = 0.1, 0.005, 0.3, 0.4, 1.0
"""Differences that are worth a word: share of sharpness, share of the picture, zones, degrees."""
LEAST_LINES = 0.5
"""Length of lines near an axis, of the picture's width, from which its tilt is told."""
AXIS_DEG, LONG_LINE = 12.0, 0.06
MOVED_ZONES, MOVED_SHARE = 0.7, 0.004
PLACES = (("upper left", "top", "upper right"), ("left", "middle", "right"), ("lower left", "bottom", "lower right"))
LOST_COST, PULL_COST, TILT_COST, MOVED_SMOOTHING_PX = 12.0, 0.3, 0.15, 2.5


@dataclass(frozen=True)
class Look(Shaped):
    """What one frame shows. sharpness: at the subject, any unit. lost_black, lost_white: shares. parting: zones between subject and the
    ground around it. first_pull: place of the subject among the pulls, 1 for the first, None for none. tilt_deg: of the horizon, + is
    down at the right; lean_deg: by how much verticals fall together, + is towards the top; None where too few lines tell.
    moved: places where it differs from the first."""

    sharpness: float = needed(number())
    lost_black: float = needed(number())
    lost_white: float = needed(number())
    parting: float = needed(number())
    first_pull: int | None = key(or_none(number(kind="integer")))
    tilt_deg: float | None = key(or_none(number()))
    lean_deg: float | None = key(or_none(number()))
    moved: tuple = key(several(text(30), most=20), ())


@dataclass(frozen=True)
class Place:
    """A frame's place in the proposed order. index: of the frame. cost: 0 is best in everything. reasons: in words."""

    index: int
    cost: float
    reasons: tuple


def look_at(lightness, subject, own=None):
    """Look of a frame.

    lightness: L*, shape (h, w), laid over the first frame. subject: (x, y), fractions. own: L* of the frame as it was taken, for its lines; the
    same where it was not turned.
    """
    from scipy.ndimage import gaussian_filter, laplace

    inside, around = subject_areas(lightness.shape, subject)
    fine = laplace(gaussian_filter(np.asarray(lightness, float), STEADY_PX, mode="nearest"), mode="nearest")
    zones = np.clip(zones_of_lightness(lightness), 0, 10)
    black, white = lost_shares(lightness)
    tilt, lean = lines_of(lightness if own is None else own)
    return Look(
        sharpness=float(np.sqrt(fine[inside].var())),
        lost_black=black,
        lost_white=white,
        parting=abs(float(np.median(zones[inside]) - np.median(zones[around]))),
        first_pull=place_of(pulls(lightness), *subject),
        tilt_deg=tilt,
        lean_deg=lean,
    )


def subject_areas(size, subject, reach=SUBJECT_REACH):
    """(booleans of the subject's area, of the ground around it), shape size each. size: (h, w). subject: (x, y). reach: of the width."""
    height, width = size
    rows, columns = np.ogrid[:height, :width]
    away = np.hypot(columns - subject[0] * width, rows - subject[1] * height) / width
    return away <= reach, (away > 1.4 * reach) & (away <= 2.4 * reach)


def lines_of(lightness):
    """(tilt, falling together of verticals) in degrees, each None where too few lines tell it.

    lightness: L*, shape (h, w). The tilt is that of upright lines in the middle of the picture; walls that run into the distance bend
    level ones. Without upright lines the level ones tell it.
    """
    import cv2

    grey = np.ascontiguousarray(np.clip(np.asarray(lightness) * 2.55, 0, 255), np.uint8)
    found = cv2.createLineSegmentDetector().detect(grey)[0]
    if found is None:
        return None, None
    x1, y1, x2, y2 = found.reshape(-1, 4).T
    length = np.hypot(x2 - x1, y2 - y1) / grey.shape[1]
    angle = np.degrees(np.arctan2(y2 - y1, x2 - x1))
    flat = (angle + 90) % 180 - 90
    upright = (angle % 180) - 90
    long = length > LONG_LINE
    middle, lean = _upright(upright, (x1 + x2) / 2 / grey.shape[1], length, long & (np.abs(upright) < AXIS_DEG))
    return _tilt(flat, length, long & (np.abs(flat) < AXIS_DEG)) if middle is None else middle, lean


def _tilt(flat, length, near):
    if length[near].sum() < LEAST_LINES:
        return None
    return round(_weighted_median(flat[near], length[near]), 2)


def _upright(upright, x, length, near):
    """(angle of upright lines in the middle, difference of it between left and right edge), from a straight line through those that agree."""
    if length[near].sum() < LEAST_LINES or np.ptp(x[near]) < 0.3:
        return None, None
    keep, weight = near, np.sqrt(length)
    for _ in range(4):
        slope, start = np.polyfit(x[keep], upright[keep], 1, w=weight[keep])
        off = np.abs(upright - slope * x - start)
        keep = near & (off <= max(2 * float(np.median(off[near])), 0.1))
    return round(float(start + slope / 2), 2), round(float(slope), 2)


def _weighted_median(values, weights):
    order = np.argsort(values)
    total = np.cumsum(weights[order])
    return float(values[order][np.searchsorted(total, total[-1] / 2)])


def moved_places(first, other, inside):
    """Places in words where two frames differ, the largest first. first, other: L*, shape (h, w), one over the other. inside: where both
    show something. A difference of the whole exposure is none."""
    from scipy.ndimage import gaussian_filter, label

    off = zones_of_lightness(other) - zones_of_lightness(first)
    off = gaussian_filter(np.where(inside, np.clip(off, -6, 6), 0.0), MOVED_SMOOTHING_PX, mode="nearest")
    if inside.any():
        off = np.where(inside, off - np.median(off[inside]), 0.0)
    areas, count = label(np.abs(off) > MOVED_ZONES)
    if not count:
        return ()
    sizes = np.bincount(areas.ravel())[1:]
    height, width = off.shape
    found = []
    for k in np.argsort(-sizes):
        if sizes[k] < MOVED_SHARE * off.size:
            break
        rows, columns = np.nonzero(areas == k + 1)
        name = PLACES[min(int(rows.mean() * 3 / height), 2)][min(int(columns.mean() * 3 / width), 2)]
        if name not in found:
            found.append(name)
    return tuple(found)


def ordered(looks):
    """Place of each frame, the best first. looks: Look of each, at least one."""
    best = max(look.sharpness for look in looks) or 1.0
    least = min(look.lost_black + look.lost_white for look in looks)
    most = max(look.parting for look in looks)
    places = [_placed(k, look, best, least, most, looks) for k, look in enumerate(looks)]
    return tuple(sorted(places, key=lambda place: (round(place.cost, 4), place.index)))


def _placed(index, look, best, least, most, looks):
    share = look.sharpness / best
    lost = look.lost_black + look.lost_white - least
    parting = max(min(most, 2.0) - look.parting, 0.0)
    cost = math.log2(1 / max(share, 1e-3)) + LOST_COST * lost + 0.5 * parting
    cost += PULL_COST * (look.first_pull != 1) + TILT_COST * min(abs(look.tilt_deg or 0.0), 4)
    return Place(index, cost, tuple(_reasons(look, share, lost, parting, looks)))


def _reasons(look, share, lost, parting, looks):
    """What speaks for and against a frame beside the others."""
    sharpest = sorted((each.sharpness for each in looks), reverse=True)
    if share >= 1 and len(looks) > 1 and sharpest[1] < (1 - SAID_SHARPNESS) * sharpest[0]:
        yield "sharpest at the subject"
    elif share < 1 - SAID_SHARPNESS:
        yield f"{(1 - share) * 100:.0f} % less sharp at the subject"
    if lost > SAID_LOST:
        end = "white" if look.lost_white >= look.lost_black else "black"
        yield f"{lost * 100:.1f} % more lost, mostly {end}"
    if parting > SAID_PARTING:
        yield f"subject parts {parting:.1f} zones less from its ground"
    pulled = [each.first_pull == 1 for each in looks]
    if any(pulled) and not all(pulled):
        yield "the eye goes to the subject first" if look.first_pull == 1 else "the eye goes elsewhere first"
    if look.tilt_deg is not None and abs(look.tilt_deg) >= SAID_TILT_DEG:
        yield f"horizon {abs(look.tilt_deg):.1f}° down at the {'right' if look.tilt_deg > 0 else 'left'}"
    if look.lean_deg is not None and abs(look.lean_deg) >= SAID_LEAN_DEG:
        yield f"verticals fall together {abs(look.lean_deg):.1f}° towards the {'top' if look.lean_deg > 0 else 'bottom'}"
    if look.moved:
        yield f"differs from the first at the {', '.join(look.moved)}"
