"""Twins: neighbouring areas whose colours differ and whose greys do not.

Areas are superpixels (SLIC, Achanta et al. 2012); colours differ by CIEDE2000 (CIE 142-2001), greys by L*.
Source of the limits: HANDBOOK 8.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.encoding import srgb_of_linear
from dimgrey.core.colour.ownmix import hue_deg, hue_name

COLOURS_DIFFER = 20.0
GREYS_ALIKE_L = 5.0
AREAS = 220
COMPACTNESS = 12.0
PARTED_L = 8.0
"""A way that brings twins this far apart in L* parts them."""
MOST_TWINS = 8
SHORTEST_BORDER = 6
COLOURLESS, COMPLEMENTARY_DEG = 0.25, 140.0
"""Part of its light by which a colour's strongest third must exceed its weakest; turn of hue from which two stand opposite each other."""


@dataclass(frozen=True)
class Areas:
    """A picture in areas: labels, shape (h, w), 0..n-1; mean linear sRGB, shape (n, 3); Lab, shape (n, 3); pairs of
    neighbours, shape (m, 2), and the length of their border in pixels, shape (m,)."""

    labels: np.ndarray
    colours: np.ndarray
    lab: np.ndarray
    pairs: np.ndarray
    borders: np.ndarray


@dataclass(frozen=True)
class Twins:
    """Two areas (numbers of Areas), how far apart their colours and greys are, and their weight, the worst first."""

    a: int
    b: int
    colour_difference: float
    lightness_difference: float
    weight: float


def areas_of(linear, count=AREAS):
    """Areas of a small picture. linear: shape (h, w, 3), linear sRGB with middle grey at 0.18. count: at most."""
    from skimage.color import rgb2lab
    from skimage.segmentation import slic

    shown = _encoded(linear)
    lab = rgb2lab(shown)
    labels = slic(
        lab,
        n_segments=count,
        compactness=COMPACTNESS,
        convert2lab=False,
        start_label=0,
        channel_axis=-1,
        enforce_connectivity=True,
    )
    number = int(labels.max()) + 1
    size = np.bincount(labels.ravel(), minlength=number)
    mean = lambda values: (
        np.stack([np.bincount(labels.ravel(), values[..., k].ravel(), number) for k in range(3)], -1) / size[:, None]
    )
    colours = mean(np.asarray(linear, float))
    pairs, borders = _neighbours(labels)
    return Areas(labels, colours, rgb2lab(_encoded(colours)[None])[0], pairs, borders)


def light_of(areas, linear, sky=None):
    """Light and share of sky of each area in a view: (linear, shape (n, 3), sky, shape (n,) or None).

    linear, sky: of the small picture that the areas were found in, as tonemap.Seen.
    """
    labels = areas.labels.ravel()
    size = np.bincount(labels, minlength=len(areas.colours))
    mean = lambda values: np.bincount(labels, np.asarray(values, float).ravel(), len(areas.colours)) / size
    return np.stack([mean(linear[..., k]) for k in range(3)], axis=-1), None if sky is None else mean(sky)


def colour_words(linear):
    """Two colours by name: "red and green, which are complementary", "two greys". linear: shape (2, 3)."""
    names, hues = [], []
    for colour in np.asarray(linear, float):
        strength = (colour.max() - colour.min()) / max(colour.max(), 1e-9)
        hues.append(hue_deg(tuple(colour)) if strength > COLOURLESS else None)
        names.append("grey" if hues[-1] is None else hue_name(hues[-1]))
    if None in hues:
        return "two greys" if hues == [None, None] else " and ".join(names)
    apart = abs((hues[0] - hues[1] + 180) % 360 - 180)
    if names[0] == names[1]:
        return f"two shades of {names[0]}"
    return " and ".join(names) + (", which are complementary" if apart >= COMPLEMENTARY_DEG else "")


def _encoded(linear):
    """sRGB 0..1 of linear light, what shines brighter than white pulled down in its own hue."""
    c = np.maximum(np.asarray(linear, float), 0)
    c = c / np.maximum(c.max(axis=-1, keepdims=True), 1)
    return srgb_of_linear(c)


def _neighbours(labels):
    """Pairs of touching areas, each once, and how many pixel borders they share."""
    across = np.stack([labels[:, :-1].ravel(), labels[:, 1:].ravel()], -1)
    down = np.stack([labels[:-1].ravel(), labels[1:].ravel()], -1)
    touching = np.concatenate([across, down])
    touching = np.sort(touching[touching[:, 0] != touching[:, 1]], axis=1)
    if not len(touching):
        return np.empty((0, 2), int), np.empty(0, int)
    return np.unique(touching, axis=0, return_counts=True)


def twins(areas, lightness, count=MOST_TWINS):
    """Twins of a picture, the worst first; () when there are none.

    areas: of `areas_of`. count: at most. lightness: L* of each area's mean colour through the chain, shape (n,).
    A pair weighs its border times how alike the greys are times how different the colours.
    """
    from skimage.color import deltaE_ciede2000

    if not len(areas.pairs):
        return ()
    a, b = areas.pairs.T
    colour = deltaE_ciede2000(areas.lab[a], areas.lab[b])
    grey = np.abs(lightness[a] - lightness[b])
    weight = areas.borders * (1 - grey / GREYS_ALIKE_L) * colour
    alike = (colour > COLOURS_DIFFER) & (grey < GREYS_ALIKE_L) & (areas.borders >= SHORTEST_BORDER)
    ranked = sorted(np.nonzero(alike)[0].tolist(), key=lambda k: -weight[k])[:count]
    return tuple(Twins(int(a[k]), int(b[k]), float(colour[k]), float(grey[k]), float(weight[k])) for k in ranked)


def outline(areas, numbers):
    """Outline of the areas with some numbers together, as rings of fractions of width and height."""
    from contourpy import contour_generator

    inside = np.pad(np.isin(areas.labels, numbers).astype(float), 1)
    height, width = areas.labels.shape
    rings = contour_generator(z=inside).lines(0.5)
    return [(ring - 0.5) / (width, height) for ring in rings if len(ring) > 4]
