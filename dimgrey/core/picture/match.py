"""One picture laid over another: a plan's picture and what came of it, whatever its crop, its turn or its lens.

Features of both are compared, and the transform that most of them agree on is kept (Lowe 2004; Barath et al. 2020, in
OpenCV). A scan may be mirrored and may be a negative: each is tried. Places are fractions of width and height.
"""

from dataclasses import dataclass, replace
from itertools import product

import numpy as np

from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.declare import YES_NO, Shaped, exactly, key, number

SIDE = 700
"""Long side in pixels at which two pictures are compared."""
MOST_FEATURES = 900
NEAREST_TO_SECOND = 0.8
"""A feature counts when its best counterpart is so much nearer than the next (Lowe 2004, section 7.1)."""
REACH_PX = 4.0
FEWEST = 14
PLENTY = 60
"""So many agreeing features need no second look at mirrored and negative pictures."""
ALIKE = 0.25
"""Least correlation of local structure of two pictures that show one scene."""
STRAIGHT, UNUSUAL = 0.4, 0.2
"""The same without a transform to be found, and what being mirrored or a negative must add to it."""
LEAST_CONTRAST_L = 4.0
LEAST_SHARE, LARGEST_SCALE = 0.08, 6.0
_IDENTITY = ((1.0, 0.0, 0.0), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0))


@dataclass(frozen=True)
class Match(Shaped):
    """How a result lies over a plan's picture.

    matrix: three rows, from fractions of the plan's picture to fractions of the result. is_mirrored, is_negative: of the
    result. agreeing: features that agree. alike: correlation of local structure, -1..1. share: of the plan's picture
    that the result shows.
    """

    matrix: tuple = key(exactly(3, exactly(3, number())), _IDENTITY)
    is_mirrored: bool = key(YES_NO, False)
    is_negative: bool = key(YES_NO, False)
    agreeing: int = key(number(0, kind="integer"), 0)
    alike: float = key(number(), 1.0)
    share: float = key(number(), 1.0)

    @property
    def plain(self):
        """The same with plain numbers, to be kept."""
        return replace(self, matrix=tuple(tuple(float(each) for each in row) for row in self.matrix))

    def at(self, x, y):
        """Place in the result of a place (x, y) of the plan's picture; fractions, outside 0..1 where it is not shown."""
        u, v, w = np.asarray(self.matrix) @ (x, y, 1.0)
        return float(u / w), float(v / w)


def matched(planned, result):
    """Match of two pictures of one scene.

    planned, result: 8-bit greys, shape (h, w) each. Raises CoreError with the reason where nothing fits: the result is blank
    or shows another scene.

    Source: Lowe, Distinctive image features from scale-invariant keypoints, 2004; Barath et al., MAGSAC++, 2020.
    """
    _require_contrast(result)
    here, there = _small(planned), _small(result)
    features = _features(here)
    best = None
    for is_mirrored, is_negative in ((False, False), (False, True), (True, False), (True, True)):
        tried = _tried(here, features, there, is_mirrored, is_negative)
        if tried and (best is None or tried.agreeing > best.agreeing):
            best = tried
        if best and best.agreeing >= PLENTY:
            break
    best = best or _laid_straight(here, there)
    if best is None:
        raise CoreError(
            "This picture does not show the plan's scene, or too little of it. Match it by three points if it does.",
            parameter="result",
            code="another-scene",
        )
    return best


def by_points(planned, result, is_mirrored=False, is_negative=False):
    """Match from three pairs of places. planned, result: three (x, y) each. is_mirrored, is_negative: as the result is.

    Raises CoreError when the three lie on one line.
    """
    p = np.column_stack([np.asarray(planned, float), np.ones(3)])
    if (
        abs(np.linalg.det(p)) < 1e-3
        or abs(np.linalg.det(np.column_stack([np.asarray(result, float), np.ones(3)]))) < 1e-4
    ):
        raise CoreError(
            "The three points lie on one line. Choose them as a triangle.", parameter="points", code="points-line"
        )
    rows = np.linalg.solve(p, np.asarray(result, float)).T
    matrix = (*(tuple(map(float, row)) for row in rows), (0.0, 0.0, 1.0))
    return Match(matrix, is_mirrored, is_negative, agreeing=3, alike=1.0, share=_share(np.asarray(matrix)))


def laid(grey, match, size):
    """A result as it lies over the plan's picture.

    grey: shape (H, W), any numbers. match: Match. size: (width, height) of what comes back. Returns (float32 of shape
    (height, width), booleans of the same shape: where the result shows something).
    """
    import cv2

    width, height = size
    # Pixels of the plan's size -> fractions -> fractions of the result -> its pixels; centres of pixels are halves.
    down = np.array([[1 / width, 0, 0.5 / width], [0, 1 / height, 0.5 / height], [0, 0, 1]])
    up = np.array([[grey.shape[1], 0, -0.5], [0, grey.shape[0], -0.5], [0, 0, 1]])
    matrix = up @ np.asarray(match.matrix) @ down
    source = np.ascontiguousarray(grey, np.float32)
    over = cv2.warpPerspective(
        _shrunk(source, matrix),
        _shrinking(source, matrix) @ matrix,
        size,
        flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
    )
    inside = cv2.warpPerspective(
        np.ones(grey.shape, np.float32), matrix, size, flags=cv2.INTER_NEAREST | cv2.WARP_INVERSE_MAP
    )
    return over, inside > 0.5


def _scale_of(matrix):
    """How many pixels of the result one pixel of the plan covers, along a side."""
    return float(np.sqrt(max(abs(np.linalg.det(matrix[:2, :2])), 1e-12)))


def _shrinking(source, matrix):
    scale = 1 / max(_scale_of(matrix), 1.0)
    height, width = source.shape
    w, h = max(round(width * scale), 1), max(round(height * scale), 1)
    fx, fy = w / width, h / height
    return np.array([[fx, 0, 0.5 * fx - 0.5], [0, fy, 0.5 * fy - 0.5], [0, 0, 1]])


def _shrunk(source, matrix):
    """The result averaged down to about the plan's pixels, so that none of its own is skipped."""
    import cv2

    to = _shrinking(source, matrix)
    size = (max(round(source.shape[1] * to[0, 0]), 1), max(round(source.shape[0] * to[1, 1]), 1))
    return source if size == source.shape[::-1] else cv2.resize(source, size, interpolation=cv2.INTER_AREA)


def _require_contrast(grey):
    spread = np.ptp(np.percentile(np.asarray(grey, float), (2, 98))) / 2.55
    if spread < LEAST_CONTRAST_L:
        mean = float(np.mean(grey)) / 2.55
        said = "white" if mean > 90 else "black" if mean < 10 else "one grey"
        raise CoreError(
            f"The picture is {said} throughout: there is nothing in it that could be held against the plan.",
            parameter="result",
            code="result-blank",
        )


def _small(grey):
    """An 8-bit grey at the size of comparing, its local contrast evened out."""
    import cv2

    grey = np.ascontiguousarray(grey, np.uint8)
    scale = SIDE / max(grey.shape)
    if scale < 1:
        size = (max(round(grey.shape[1] * scale), 8), max(round(grey.shape[0] * scale), 8))
        grey = cv2.resize(grey, size, interpolation=cv2.INTER_AREA)
    return cv2.createCLAHE(3.0, (8, 8)).apply(grey)


def _features(grey):
    import cv2

    return cv2.SIFT_create(MOST_FEATURES, contrastThreshold=0.02).detectAndCompute(grey, None)


def _tried(here, features, there, is_mirrored, is_negative):
    """Match when the result is taken to be mirrored or a negative, or None."""
    import cv2

    turned = there[:, ::-1] if is_mirrored else there
    turned = np.ascontiguousarray(255 - turned if is_negative else turned)
    (points, told), (others, theirs) = features, _features(turned)
    if told is None or theirs is None or len(told) < FEWEST or len(theirs) < FEWEST:
        return None
    pairs = cv2.BFMatcher(cv2.NORM_L2).knnMatch(told, theirs, k=2)
    near = [two[0] for two in pairs if len(two) == 2 and two[0].distance < NEAREST_TO_SECOND * two[1].distance]
    if len(near) < FEWEST:
        return None
    a = np.float32([points[pair.queryIdx].pt for pair in near])
    b = np.float32([others[pair.trainIdx].pt for pair in near])
    found, agreed = cv2.findHomography(a, b, cv2.USAC_MAGSAC, REACH_PX, maxIters=4000, confidence=0.999)
    if found is None or agreed is None or int(agreed.sum()) < FEWEST:
        return None
    (h, w), (height, width) = here.shape, turned.shape
    matrix = np.diag([1 / width, 1 / height, 1]) @ found @ np.diag([w, h, 1])
    return _checked(here, turned, matrix, is_mirrored, is_negative, int(agreed.sum()))


def _checked(here, turned, matrix, is_mirrored, is_negative, agreeing):
    """Match of a transform to a turned picture, or None where it is impossible or the pictures differ under it."""
    share = _share(matrix)
    corners = _corners(matrix)
    if share < LEAST_SHARE or corners is None or not _is_convex(corners):
        return None
    sides = np.linalg.norm(np.roll(corners, -1, axis=0) - corners, axis=1)
    if sides.max() > LARGEST_SCALE or sides.min() < 1 / LARGEST_SCALE / 4:
        return None
    alike = _alike(here, turned, Match(tuple(map(tuple, matrix.tolist()))))
    if alike < ALIKE:
        return None
    whole = np.diag([-1.0, 1.0, 1.0]) @ matrix + np.array([[1.0], [0], [0]]) * matrix[2] if is_mirrored else matrix
    whole = whole / whole[2, 2]
    return Match(tuple(map(tuple, whole.tolist())), is_mirrored, is_negative, agreeing, alike, share)


def _corners(matrix):
    """Corners of the plan's picture in the result, shape (4, 2); None where they lie behind the lens."""
    ends = np.array([(0, 0, 1), (1, 0, 1), (1, 1, 1), (0, 1, 1)], float) @ matrix.T
    return None if (ends[:, 2] <= 1e-6).any() else ends[:, :2] / ends[:, 2:]


def _is_convex(corners):
    edges = np.roll(corners, -1, axis=0) - corners
    after = np.roll(edges, -1, axis=0)
    turns = edges[:, 0] * after[:, 1] - edges[:, 1] * after[:, 0]
    return bool((turns > 1e-4).all())


def _share(matrix):
    """Share of the plan's picture that lies within the result."""
    grid = np.linspace(0.02, 0.98, 25)
    points = np.array([(x, y, 1.0) for x, y in product(grid, grid)]) @ matrix.T
    inside = (points[:, 2] > 1e-6) & (points[:, :2] >= 0).all(axis=1) & (points[:, :2] <= points[:, 2:]).all(axis=1)
    return float(inside.mean())


def _alike(here, turned, match):
    """Correlation of two pictures' local structure where both show something, -1..1."""
    import cv2

    over, inside = laid(turned, match, here.shape[::-1])
    if inside.mean() < LEAST_SHARE / 2:
        return -1.0
    a, b = here.astype(np.float32), over

    def local(grey):
        blurred = cv2.GaussianBlur(grey, (0, 0), 12)
        return cv2.GaussianBlur(grey, (0, 0), 1.5) - blurred

    one, two = local(a)[inside], local(b)[inside]
    spread = float(one.std() * two.std())
    return float(((one - one.mean()) * (two - two.mean())).mean() / spread) if spread > 1e-6 else -1.0


def _laid_straight(here, there):
    """Match of pictures with one frame and too few features, such as mist: laid over each other as they are, or None."""
    if abs(here.shape[1] / here.shape[0] / (there.shape[1] / there.shape[0]) - 1) > 0.02:
        return None
    best, best_sure = None, STRAIGHT
    for is_mirrored, is_negative in product((False, True), (False, True)):
        turned = there[:, ::-1] if is_mirrored else there
        turned = np.ascontiguousarray(255 - turned if is_negative else turned)
        tried = _checked(here, turned, np.eye(3), is_mirrored, is_negative, 0)
        # What is mirrored or a negative must look a good deal more alike: a smooth picture has few marks to tell by.
        sure = tried.alike - UNUSUAL * (is_mirrored + is_negative) if tried else 0.0
        if sure > best_sure:
            best, best_sure = tried, sure
    return best
