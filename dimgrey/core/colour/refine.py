"""The refined chain: six terms instead of three weights, closer to what real objects do.

``G = sum(a_i p_i)`` with p = R, G, B, sqrt(RG), sqrt(GB), sqrt(BR): a root polynomial, so twice the light is twice the
grey. Fitted for each chain to the 99 measured objects of CIE 224:2017 and to nine skies, in the log domain, held near the
chain's three weights, with ``sum(a) = 1`` so that neutrals stay. The skies are there because blue objects reflect some
red and blue skies have none: without them red glass would darken a sky too little.
Source: Finlayson, Mackiewicz & Hurlbert 2015 (root-polynomial colour correction); objects of CIE 224:2017.
"""

from functools import cache

import numpy as np

from dimgrey.core.colour.spectra import srgb_of_reflectance, table

SKY_WEIGHT = 3
"""How many times each sky counts against an object."""
HELD = 1e-3
"""How strongly the six terms are held near the three weights."""
STEPS = 20
DARKEST = 1e-5
_WITHIN = np.linalg.svd(np.ones((1, 6)))[2][1:].T
"""Directions in which six terms can move while their sum stays, shape (6, 5)."""


@cache
def objects():
    """Reflectances of the 99 objects, shape (99, 71), and their linear sRGB, shape (99, 3); read-only."""
    spectra = np.stack(list(table("object_spectra").values()))
    colours = srgb_of_reflectance(spectra)
    for array in (spectra, colours):
        array.setflags(write=False)
    return spectra, colours


def terms_of(linear):
    """The six terms of colours. linear: shape (..., 3), linear sRGB; below 0 counts as 0. Returns shape (..., 6)."""
    c = np.maximum(np.asarray(linear, float), 0)
    r, g, b = np.sqrt(np.moveaxis(c, -1, 0))
    return np.concatenate([c, np.stack([r * g, g * b, b * r], axis=-1)], axis=-1)


def refined_terms(seen, weights):
    """Six terms of a chain, and how far objects stay from them.

    seen: what reaches film or sensor, ``I F S``, shape (71,). weights: the chain's three weights, sum 1.
    Returns (terms, residuals): shape (6,), sum 1; and shape (99,), stops by which each object's grey is off.
    """
    truth = np.log2(np.maximum(_fitted() @ seen / seen.sum(), DARKEST))
    given = _fitted_terms()
    start = np.concatenate([np.asarray(weights, float), np.zeros(3)])
    terms = start
    cost = _cost(given, terms, start, truth)
    for _ in range(STEPS):
        grey = np.maximum(given @ terms, DARKEST)
        off = np.log2(grey) - truth
        slope = given / grey[:, None] / np.log(2) @ _WITHIN
        pull = slope.T @ slope / len(off) + HELD * np.eye(5)
        step = _WITHIN @ np.linalg.solve(pull, -slope.T @ off / len(off) - HELD * _WITHIN.T @ (terms - start))
        for _ in range(12):  # a step that makes it worse is halved
            tried = _cost(given, terms + step, start, truth)
            if tried <= cost:
                break
            step = step / 2
        else:
            break
        done = cost - tried < 1e-9
        terms, cost = terms + step, tried
        if done:
            break
    return terms, (np.log2(np.maximum(given @ terms, DARKEST)) - truth)[: len(objects()[0])]


@cache
def _fitted():
    """Spectra that a chain is fitted to, the objects first, shape (n, 71)."""
    skies = np.stack(list(table("sky_spectra").values()))
    return np.concatenate([objects()[0], *[skies] * SKY_WEIGHT])


@cache
def _fitted_terms():
    return terms_of(srgb_of_reflectance(_fitted()))


def _cost(given, terms, start, truth):
    off = np.log2(np.maximum(given @ terms, DARKEST)) - truth
    return float(np.mean(off**2) + HELD * np.sum((terms - start) ** 2))


def expected_error_stops(residuals, colour, nearest=9):
    """How far the grey of a colour may be off: root mean square of its most similar objects' residuals, stops.

    residuals: from `refined_terms`. colour: linear sRGB. nearest: how many objects count. Similar means alike in chromaticity, not in brightness. A colour
    more saturated than any object is less sure still: the error grows with its distance from them.
    """
    _, colours = objects()
    here, there = _chromaticity(np.asarray(colour, float)), _chromaticity(colours)
    distance = np.linalg.norm(there - here, axis=-1)
    near = np.argsort(distance)[:nearest]
    return float(np.sqrt(np.mean(residuals[near] ** 2))) * (1 + float(distance[near[0]]) * 4)


def _chromaticity(colour):
    """(r, g) shares of linear light, which brightness leaves alone."""
    c = np.maximum(colour, 1e-6)
    return (c / c.sum(axis=-1, keepdims=True))[..., :2]
