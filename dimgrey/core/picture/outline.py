"""An outline drawn by hand on a picture: its corners as fractions of width and height, and its middle."""

import math

from dimgrey.core.errors import CoreError, OutOfRange, Unreadable

MOST_CORNERS = 60
"""As many as a scene file keeps."""


def middle_of(outline):
    """Middle of the area within an outline, (x, y) as fractions: its centroid; of a line, the mean of its corners.

    outline: corners as `require_outline` gives them.
    """
    x, y = zip(*outline, strict=True)
    following = [*outline[1:], outline[0]]
    cross = [a * d - c * b for (a, b), (c, d) in zip(outline, following, strict=True)]
    whole = math.fsum(cross)
    if abs(whole) < 1e-9:
        return math.fsum(x) / len(x), math.fsum(y) / len(y)
    middle = lambda k: (
        math.fsum((a[k] + b[k]) * c for a, b, c in zip(outline, following, cross, strict=True)) / (3 * whole)
    )
    return min(max(middle(0), 0.0), 1.0), min(max(middle(1), 0.0), 1.0)


def parse_outline(text):
    """Corners of an outline that a hand drew, sent as "x y,x y,…" in fractions. Raises CoreError."""
    try:
        corners = [tuple(map(float, corner.split())) for corner in text.split(",")]
        return require_outline((x, y) for x, y in corners)
    except CoreError:
        raise
    except ValueError:
        raise Unreadable("That is not an outline. Draw it again.", parameter="outline", code="outline") from None


def require_outline(corners):
    """Corners of an outline as fractions, rounded to a thousandth. Raises OutOfRange for fewer than three or too many."""
    corners = tuple(corners)
    if not all(math.isfinite(v) for corner in corners for v in corner):
        raise OutOfRange("The corners of an outline are fractions of the picture.", parameter="sky", code="outline")
    made = tuple((round(min(max(float(x), 0), 1), 3), round(min(max(float(y), 0), 1), 3)) for x, y in corners)
    if not len(set(made)) >= 3 or len(made) > MOST_CORNERS:
        raise OutOfRange(
            f"An outline has 3 to {MOST_CORNERS} corners (got {len(set(made))}).", parameter="sky", code="outline"
        )
    return made
