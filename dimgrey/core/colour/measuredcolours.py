"""What measured objects teach: the grey of a colour as a table over its chromaticity, for any chain.

``log2 G = log2 Y + T(x, y)``: T is a Gaussian process over ``4 tanh(log2(R/G) / 4)`` and ``4 tanh(log2(B/G) / 4)``, fitted to
measured reflectances, to halves of two of them (an area of a picture is seldom one paint) and to smooth, saturated spectra
that no object needs to have, which hold it sane beyond them. A neutral is held at 0. The fit is linear in what the objects
show, so one matrix, made once, serves every chain: glass, stacks and a user's own filter alike. docs/decisions/021.
Source: HANDBOOK 18; objects of CIE 224:2017 and the patches of tables/patch_spectra.csv. No chart that tests use is among them.
"""

from dataclasses import dataclass
from functools import cache

import numpy as np

from dimgrey.core.colour.chromaticity import colours_at, lifted, light_of
from dimgrey.core.colour.onecolour import NODES
from dimgrey.core.colour.spectra import WAVELENGTH_NM, sigmoid, srgb_of_reflectance, table

LENGTH, SIZE = 1.5, 0.7
"""Over what distance of the two features greys are alike, and how far they go, stops."""
NOISE, NOISE_OF_HALVES, NOISE_OF_SMOOTH = 0.15, 0.3, 0.5
"""How far each may be off the table, stops: two objects of one colour seldom have one grey."""
DARKEST = 1e-5


@dataclass(frozen=True)
class Known:
    """spectra: shape (n, 71), the m measured ones first. light: their luminance, (n,). features: of the m, (m, 2).
    to_nodes: what makes a table of what they show, (33 * 33, n). left_out: what makes of it, for each of the m, by how much
    a fit without it would miss it, (m, n)."""

    spectra: np.ndarray
    light: np.ndarray
    features: np.ndarray
    to_nodes: np.ndarray
    left_out: np.ndarray


def measured():
    """Reflectances of the 194 measured objects, shape (194, 71)."""
    return np.concatenate([np.stack(list(table(name).values())) for name in ("object_spectra", "patch_spectra")])


def smooth_spectra():
    """Saturated colours as smooth pass and stop bands, shape (40, 71)."""
    low, high, width = 0.03, 0.7, 20
    made = []
    for start in (0, 430, 470, 510, 550, 590):
        for end in (470, 510, 550, 590, 630, 1000):
            if end - start < 40 or (start, end) == (0, 1000):
                continue
            band = sigmoid((WAVELENGTH_NM - start) / width) * sigmoid((end - WAVELENGTH_NM) / width)
            made.append(low + (high - low) * band)
            if start > 0 and end < 1000:
                made.append(low + (high - low) * (1 - band))
    return np.array(made)


def features_of(linear):
    """The two features of colours, shape (..., 2). linear: shape (..., 3)."""
    r, g, b = np.moveaxis(lifted(linear), -1, 0)
    return 4 * np.tanh(np.stack([np.log2(r / g), np.log2(b / g)], axis=-1) / 4)


def _alike(a, b, length):
    return np.exp(-((a[:, None] - b[None]) ** 2).sum(axis=-1) / length**2 / 2)


@cache
def known():
    """The Known, made once: 30 ms."""
    objects = np.maximum(measured(), 1e-3)
    halves = (objects + np.roll(objects, 37, axis=0)) / 2  # 37: none of them is half of a neighbour in its own series
    smooth = smooth_spectra()
    spectra = np.concatenate([objects, halves, smooth])
    noise = np.repeat([NOISE, NOISE_OF_HALVES, NOISE_OF_SMOOTH, 1e-4], [len(objects), len(halves), len(smooth), 1])
    colours = srgb_of_reflectance(spectra)
    features = np.concatenate([features_of(colours), [[0.0, 0.0]]])  # the last is the neutral, which shows 0
    inverse = np.linalg.inv(SIZE**2 * _alike(features, features, LENGTH) + np.diag(noise**2))
    step = np.linspace(0, 1, NODES)
    nodes = features_of(colours_at(*np.meshgrid(step, step, indexing="ij")).reshape(-1, 3))
    m, n = len(objects), len(spectra)
    return Known(
        spectra,
        light_of(colours),
        features[:m],
        (SIZE**2 * _alike(nodes, features, LENGTH) @ inverse)[:, :n],
        inverse[:m, :n] / np.diag(inverse)[:m, None],
    )


def _shown(seen):
    """log2 of grey over luminance of each known spectrum. seen: ``I F S``, shape (71,)."""
    k = known()
    return np.log2(np.maximum(k.spectra @ seen / seen.sum(), DARKEST) / k.light)


def table_of(seen):
    """T of a chain, stops, shape (33, 33) over x and y, read-only. seen: what reaches film or sensor, ``I F S``, (71,)."""
    made = (known().to_nodes @ _shown(seen)).reshape(NODES, NODES)
    made[NODES // 2, NODES // 2] = 0.0
    made.setflags(write=False)
    return made


def missed_of(seen):
    """Stops by which each measured object would be missed by a table made without it, shape (194,)."""
    return known().left_out @ _shown(seen)
