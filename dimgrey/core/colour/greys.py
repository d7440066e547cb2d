"""From colour to grey for whole pictures: what chain.py does for one colour, for arrays of them.

Source: HANDBOOK 7 and 18.
"""

import math
from functools import lru_cache

import numpy as np

from dimgrey.core.colour.chain import DARKEST_GREY, LEAST_SKY
from dimgrey.core.colour.chainterms import terms_of
from dimgrey.core.colour.chromaticity import colours_at, fine_colours, light_of, looked_up, refined, unlifted
from dimgrey.core.colour.onecolour import NODES
from dimgrey.core.colour.ownmix import MOST_STOPS, WIDTH, bumps


def table_of(through):
    """Stops that a glass chain adds to the luminance at each node of chromaticity, shape (33, 33). through: of a Chain."""
    return np.frombuffer(terms_of(through).nodes).reshape(NODES, NODES)


def moved_stops(points, linear):
    """Stops that a curve over hue lightens colours by, below 0 darkens; `ownmix.moved_stops` for many.

    points: (hue in degrees, stops) each. linear: shape (..., 3). Returns shape (...).
    """
    c = np.maximum(np.asarray(linear, float), 0)
    hold = (1 - c.min(axis=-1) / np.maximum(c.max(axis=-1), 1e-9)) ** 2
    if not points:
        return np.zeros_like(hold)
    r, g, b = np.moveaxis(c, -1, 0)
    hues = np.arctan2(math.sqrt(3) / 2 * (g - b), r - (g + b) / 2)
    known, weights = (np.asarray(column) for column in bumps(tuple(points)))
    near = np.exp((np.cos(hues[..., None] - np.radians(known)) - 1) / WIDTH**2)
    return np.clip(near @ weights, -MOST_STOPS, MOST_STOPS) * hold


def grey_of(chain, linear, sky=None):
    """Grey that the chain sees.

    linear: shape (..., 3), linear sRGB. sky: how much of each colour is sky, 0..1, of shape (...) or one number; None for
    none. Returns shape (...). Never below 0, but for a channel mix, where light below 0 counts as it is.
    """
    linear = np.asarray(linear, float)
    if chain.through is None:
        return _mixed_grey(chain, linear)
    seen = light_of(linear)
    grey = seen * np.exp2(looked_up(table_of(chain.through), linear))
    if sky is None or not np.any(sky):
        return grey
    return grey + np.asarray(sky) * (_sky_grey(chain, linear, seen) - grey)


def _mixed_grey(chain, linear):
    grey = linear @ np.asarray(chain.weights)
    return grey * np.exp2(moved_stops(chain.bends, linear)) if chain.bends else grey


def _sky_grey(chain, linear, seen):
    return np.maximum(np.maximum(linear, 0) @ np.asarray(terms_of(chain.through).sky), seen * LEAST_SKY)


@lru_cache(maxsize=16)
def fine_gains(chain, sky=False):
    """Grey over luminance of every fine place of chromaticity, shape (513 * 513,), float32, read-only: a picture's table.

    sky: the gains of skies instead of those of objects.
    """
    # The luminance of the fine colours is 1, so that their grey is the gain.
    if chain.through is None:
        gains = _mixed_grey(chain, fine_colours())
    elif sky:
        gains = np.maximum(fine_colours() @ np.asarray(terms_of(chain.through).sky, np.float32), LEAST_SKY)
    else:
        gains = np.exp2(refined(table_of(chain.through)))
    gains = np.maximum(gains, DARKEST_GREY).astype(np.float32)
    gains.setflags(write=False)
    return gains


def chain_nodes(chain):
    """Stops that a chain adds at the nodes of chromaticity, shape (33, 33): to the luminance for glass, to its three weights for a mix."""
    if chain.through:
        return table_of(chain.through)
    step = np.linspace(0, 1, NODES)
    return moved_stops(chain.bends, unlifted(colours_at(*np.meshgrid(step, step, indexing="ij"))))


def plain_grey_of(chain, linear):
    """Grey by the three weights alone, ``G = w . c``. linear: shape (..., 3). Returns shape (...)."""
    return np.asarray(linear) @ np.asarray(chain.weights)
