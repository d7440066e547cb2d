"""Where one colour lies apart from its brightness, and a chain's table looked up there, in plain numbers.

`chromaticity` and `known` do the same for arrays of colours; tests hold the two alike. Source: HANDBOOK 18.
"""

import math

from dimgrey.core.colour.luminance import LUMINANCE_WEIGHTS

FLOOR = 0.001
"""Share of R + G + B that is added to each channel, so that every colour has its place."""
NODES = 33
"""Nodes of a chain's table along x and along y."""
WHOLE = 1 + 3 * FLOOR
NEAR = 0.6
"""Distance of features within which an object tells how sure a colour is."""
FAR = 0.5
"""Weight of the objects of all colours beside those near."""
LEAST_ERROR, OF_SPREAD = 0.02, 0.88
"""Expected error of a colour that every object agrees on, stops; and the part of the root mean square that it is otherwise:
the least at which, through every chain, 68 in 100 colours that no table has seen lie within it and 95 within twice it."""


def lifted(colour):
    """A colour with the floor added, three numbers above 0. colour: linear sRGB, three numbers."""
    held = [max(float(c), 0.0) for c in colour]
    floor = FLOOR * math.fsum(held) + 1e-30
    return tuple(c + floor for c in held)


def weighed(colour, weights):
    """``w . c``. colour: three channels. weights: of each."""
    return math.fsum(w * float(c) for w, c in zip(weights, colour, strict=True))


def light_of(colour):
    """Luminance with the floor counted in, so that no colour has less than none; a neutral keeps its value."""
    return weighed(lifted(colour), LUMINANCE_WEIGHTS) / WHOLE


def colour_at(x, y):
    """A colour at a place of chromaticity, x and y 0..1, with the luminance 1 and the floor taken off; three numbers."""
    x, y = (min(max(v, 1e-4), 1 - 1e-4) for v in (x, y))
    mixed = (x * (1 - y), (1 - x) * (1 - y), (1 - x) * y)
    scale = WHOLE / weighed(mixed, LUMINANCE_WEIGHTS)
    floor = FLOOR / WHOLE * math.fsum(mixed) * scale
    return tuple(max(c * scale - floor, 0.0) for c in mixed)


def looked_up(nodes, colour):
    """Bilinear value of a chain's table at a colour. nodes: 33 * 33 numbers, x by y. colour: linear sRGB."""
    r, g, b = lifted(colour)
    x, y = r / (r + g) * (NODES - 1), b / (b + g) * (NODES - 1)
    i, j = min(int(x), NODES - 2), min(int(y), NODES - 2)
    u, v = x - i, y - j
    at = lambda row, column: nodes[row * NODES + column]
    low = (1 - v) * at(i, j) + v * at(i, j + 1)
    high = (1 - v) * at(i + 1, j) + v * at(i + 1, j + 1)
    return (1 - u) * low + u * high


def features_of(colour):
    """The two features by which objects are alike, ``4 tanh(log2(R/G) / 4)`` and the same of B/G."""
    r, g, b = lifted(colour)
    return 4 * math.tanh(math.log2(r / g) / 4), 4 * math.tanh(math.log2(b / g) / 4)


def expected_error(missed, objects, colour):
    """How far the grey of a colour may be off, stops: what the objects of its kind are missed by, and more where there are none.

    missed: stops for each measured object, as `Terms` has them. objects: their features, two numbers each in one row. colour:
    linear sRGB. Nine in ten colours lie within twice it.
    """
    red, blue = features_of(colour)
    squares = [stops * stops for stops in missed]
    near = [
        math.exp(-((red - objects[2 * k]) ** 2 + (blue - objects[2 * k + 1]) ** 2) / NEAR**2 / 2)
        for k in range(len(squares))
    ]
    everywhere = math.fsum(squares) / len(squares)
    # Where few objects are near, those farther away count with twice what they are missed by.
    spread = (math.fsum(n * s for n, s in zip(near, squares, strict=True)) + FAR * everywhere) / (math.fsum(near) + FAR)
    return math.hypot(LEAST_ERROR, OF_SPREAD * math.sqrt(spread))
