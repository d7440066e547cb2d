"""Drawings over the picture: the tone map with its lost ends, twins, where the eye goes. Ready to draw; no rules of its own."""

from dataclasses import dataclass

import numpy as np
from contourpy import contour_generator
from django.utils.safestring import SafeString

from dimgrey.core.picture import contours, measures
from dimgrey.pictures import store
from dimgrey.scenes.greyview import measured_light, twin_lines

KINDS = ("twins", "eye", "sky")
"""Twins of the present view, where the eye goes, what is taken for sky."""


@dataclass(frozen=True)
class MapLabel:
    x: float
    y: float
    turn: float
    text: str


@dataclass(frozen=True)
class Drawing:
    """A drawing over the picture, width x height units; see templates/scenes/draw/*.svg."""

    width: float
    height: float
    lines: str = ""
    heavy_lines: str = ""
    labels: tuple = ()
    lost_shadows: str = ""
    lost_highlights: str = ""
    sky: str = ""
    twins: tuple = ()
    pulls: tuple = ()
    edges: tuple = ()
    alone: bool = False
    words: str = ""

    @property
    def scale(self):
        """Thousandths of the height to units of the drawing."""
        return f"{self.height / 1000:.4f}"


def _size(folder):
    height, width = store.small(folder).shape[:2]
    return 1000.0, 1000.0 * height / width


def contour_drawing(folder, shown, outer, alone=False):
    """The tone map of a picture: borders of zones with numerals, lost ends dotted and hatched."""
    width, height = _size(folder)
    made = contours.contours(shown.tone_map.zones_of(store.small_grey(folder, shown.chain, shown.overhead)), outer)
    scale = np.array([width, height])
    inside = [line for line in made.lines if line.border != HEAVY_BORDER]
    return Drawing(
        width,
        height,
        lines=_path(_whole_units(line.points * scale) for line in inside),
        heavy_lines=_path(_whole_units(line.points * scale) for line in made.lines if line.border == HEAVY_BORDER),
        labels=tuple(
            MapLabel(round(x.x * width), round(x.y * height), round(x.turn_deg), x.numeral) for x in made.labels
        ),
        lost_shadows=_path(_whole_units(ring * scale) + "Z" for ring in made.lost_shadows),
        lost_highlights=_path(_whole_units(ring * scale) + "Z" for ring in made.lost_highlights),
        alone=alone,
    )


NUMBERS = np.array([str(k) for k in range(4001)], object)
"""Whole units as text: a map has some ten thousand of them, and few drawings are taller than that."""
HEAVY_BORDER = 4.5
"""The border between IV and V, drawn heavier, as maps do with every fifth line."""


def _whole_units(points):
    """SVG path of points in whole units of the drawing; what follows M are lines."""
    whole = np.rint(points).astype(int).ravel()
    return "M" + " ".join(NUMBERS[whole].tolist() if whole.max() < len(NUMBERS) else map(str, whole.tolist()))


def _path(parts):
    """Paths of numbers as one, which has nothing in it that a template would have to escape: a map has 100 kB of them."""
    return SafeString("".join(parts))


def map_path(lines, width, height):
    """SVG path of contour lines in whole units of a drawing. lines: of core.picture.contours."""
    scale = np.array([width, height])
    return _path(_whole_units(line.points * scale) for line in lines)


def drawing_of(situation, kind):
    """Drawing of the present view. kind: one of KINDS. Raises PictureGone."""
    width, height = _size(situation.picture.path)
    if kind == "twins":
        found, words = twin_lines(situation)
        lines = [{**line.__dict__, "drawn_y": line.y * height / 1000} for line in found]
        return Drawing(width, height, twins=tuple(lines), words="" if found else words)
    if kind == "sky":
        return _sky_drawing(situation, width, height)
    light, c = situation.rendering.tone_map.lightness(*measured_light(situation)), situation.crop
    x = lambda fraction: (c.left + fraction * (c.right - c.left)) * width
    y = lambda fraction: (c.top + fraction * (c.bottom - c.top)) * height
    pulls = tuple(
        {"number": k, "x": round(x(p.x), 1), "y": round(y(p.y), 1), "r": round(14 + 26 * p.strength, 1)}
        for k, p in enumerate(measures.pulls(light), 1)
    )
    edges = tuple(_edge_box(edge.name, x, y) for edge in measures.bright_edges(light))
    return Drawing(width, height, pulls=pulls, edges=edges, words="" if pulls else measures.pull_words(()))


def _sky_drawing(situation, width, height):
    """The area that is taken for sky, hatched."""
    share = store.seen(situation.picture.path, situation.overhead).sky
    if share is None:
        return Drawing(width, height, words="Nothing in this picture is taken for sky.")
    inside = np.pad(share, 1)
    rings = contour_generator(z=inside).lines(0.5)
    scale = np.array([width / share.shape[1], height / share.shape[0]])
    return Drawing(
        width, height, sky="".join(_whole_units((ring - 0.5) * scale) + "Z" for ring in rings if len(ring) > 6)
    )


def _edge_box(name, x, y):
    w = measures.EDGE_WIDTH
    left, top, right, bottom = 0.0, 0.0, 1.0, 1.0
    if "edge" in name:
        side = name.split()[0]
        left, right = (0.25, 0.75) if side in ("top", "bottom") else (0, w) if side == "left" else (1 - w, 1)
        top, bottom = (0.25, 0.75) if side in ("left", "right") else (0, w) if side == "top" else (1 - w, 1)
    else:
        left, right = (0, 2 * w) if "left" in name else (1 - 2 * w, 1)
        top, bottom = (0, 2 * w) if "top" in name else (1 - 2 * w, 1)
    return {
        "x": round(x(left), 1),
        "y": round(y(top), 1),
        "width": round(x(right) - x(left), 1),
        "height": round(y(bottom) - y(top), 1),
    }
