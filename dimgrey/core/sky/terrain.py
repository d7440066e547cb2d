"""The line of hills and walls around a place: how high the horizon stands in each direction, as a person says it."""

import numpy as np

from dimgrey.core.errors import OutOfRange, Unreadable
from dimgrey.core.sky.wants import compass_point, parse_heading

HIGHEST_DEG = 80.0
MOST_POINTS = 36
HINT = "Write pairs such as: N 4, E 12, 200 8."


def parse_terrain(text):
    """((azimuth, altitude) in degrees, by azimuth) of a line written as "N 4, E 12, 200 8"; () for nothing. Raises CoreError.

    >>> parse_terrain("E 12, N 4")
    ((0.0, 4.0), (90.0, 12.0))
    """
    found = {}
    for pair in filter(None, (part.strip() for part in text.replace(";", ",").split(","))):
        words = pair.split()
        if len(words) != 2:
            raise Unreadable(f"“{pair}” is not a direction and a height. {HINT}", parameter="terrain", code="terrain")
        found[parse_heading(words[0]) % 360] = _height(words[1])
    if len(found) > MOST_POINTS:
        raise OutOfRange(
            f"A line of hills has at most {MOST_POINTS} points (got {len(found)}).", parameter="terrain", code="terrain"
        )
    return tuple(sorted(found.items()))


def _height(word):
    try:
        height = float(word.rstrip("°"))
    except ValueError:
        raise Unreadable(f"“{word}” is not a height in degrees. {HINT}", parameter="terrain", code="terrain") from None
    if not 0 <= height <= HIGHEST_DEG:
        raise OutOfRange(
            f"A horizon stands 0 to {HIGHEST_DEG:g} degrees high (got {height:g}).", parameter="terrain", code="terrain"
        )
    return height


def format_terrain(terrain):
    """The line as it is written: "N 4, E 12, 200 8". terrain: as parse_terrain gives it."""
    return ", ".join(f"{_direction(azimuth)} {height:g}" for azimuth, height in terrain)


def _direction(azimuth_deg):
    point = compass_point(azimuth_deg)
    return point if parse_heading(point) == azimuth_deg else f"{azimuth_deg:g}"


def terrain_deg(terrain, azimuth_deg):
    """Altitude of the horizon in directions, degrees, straight between the points; 0 without any. terrain: as parse_terrain
    gives it. azimuth_deg: a number or an array, whose shape comes back.

    >>> float(terrain_deg(((0.0, 4.0), (90.0, 12.0)), 45.0))
    8.0
    """
    if not terrain:
        return np.zeros_like(np.asarray(azimuth_deg, float))
    around, heights = zip(*terrain, strict=True)
    return np.interp(azimuth_deg, around, heights, period=360)
