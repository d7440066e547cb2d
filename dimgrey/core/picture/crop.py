"""The crop: which part of the frame is meant. Fractions of width and height, from the top left corner."""

from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange

RATIOS = {"1:1": 1.0, "5:4": 5 / 4, "4:3": 4 / 3, "3:2": 3 / 2, "16:9": 16 / 9}
SMALLEST = 0.02
GOLDEN = (5**0.5 - 1) / 2


@dataclass(frozen=True)
class Crop:
    """left, top, right, bottom as fractions 0..1."""

    left: float = 0.0
    top: float = 0.0
    right: float = 1.0
    bottom: float = 1.0

    @property
    def is_whole(self):
        return (self.left, self.top, self.right, self.bottom) == (0.0, 0.0, 1.0, 1.0)

    def of(self, array):
        """The part of a picture, shape (h, w, ...); at least one pixel."""
        height, width = array.shape[:2]
        x0, y0 = min(int(self.left * width), width - 1), min(int(self.top * height), height - 1)
        x1, y1 = max(round(self.right * width), x0 + 1), max(round(self.bottom * height), y0 + 1)
        return array[y0:y1, x0:x1]

    def holds(self, x, y):
        """Whether a point of the picture lies in it."""
        return self.left <= x <= self.right and self.top <= y <= self.bottom


EDGES = tuple(Crop.__dataclass_fields__)
"""Their names, from the left around the top."""


def require_crop(left, top, right, bottom):
    """A Crop with an area from left, top, right and bottom as fractions. Raises OutOfRange with what to do."""
    edges = (left, top, right, bottom)
    if not all(-1e-6 <= edge <= 1 + 1e-6 for edge in edges):
        raise OutOfRange("A crop lies within the picture: its edges are 0 to 1.", parameter="crop", code="crop-outside")
    if right - left < SMALLEST or bottom - top < SMALLEST:
        raise OutOfRange(
            f"The crop has no area left; each side must keep {SMALLEST * 100:g} % of the picture.",
            parameter="crop",
            code="crop-empty",
        )
    return Crop(*(round(min(max(edge, 0.0), 1.0), 5) for edge in edges))


def largest_crop(ratio, picture_ratio, upright=False, centre=(0.5, 0.5)):
    """The largest crop of a shape around a point.

    ratio: one of RATIOS. picture_ratio: width over height of the picture. upright: turn the shape. centre: fractions.
    """
    if ratio not in RATIOS:
        raise OutOfRange(f"“{ratio}” is not a shape. Known: {', '.join(RATIOS)}.", parameter="crop", code="crop-ratio")
    wanted = (1 / RATIOS[ratio] if upright else RATIOS[ratio]) / picture_ratio
    width, height = (1.0, 1 / wanted) if wanted >= 1 else (wanted, 1.0)
    left = min(max(centre[0] - width / 2, 0), 1 - width)
    top = min(max(centre[1] - height / 2, 0), 1 - height)
    return require_crop(left, top, left + width, top + height)


def guide_lines(kind):
    """Fractions of guide lines across a crop: "thirds" or "golden"."""
    return (1 / 3, 2 / 3) if kind == "thirds" else (1 - GOLDEN, GOLDEN)
