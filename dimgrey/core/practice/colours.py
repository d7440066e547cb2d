"""Colours that drills ask about, made up or measured, with the words for them; and their greys through filters, by the same chain as the desk's."""

import math
from functools import lru_cache

from dimgrey.core.colour.chain import glass_chain, grey_of_colour
from dimgrey.core.colour.luminance import MIDDLE_GREY, linear_of_hex
from dimgrey.core.practice.measured import LIGHT, RESPONSE, measured, through

COLOURS = {
    "brick": "#9c5844", "ivy leaf": "#3f5b2e", "blue door": "#35568c", "lime wall": "#e6e0d2", "slate": "#5b6270", "clay pot": "#b4683f",
    "moss": "#6d7a2f", "rust": "#8a3f22", "straw": "#d9c078", "poppy": "#c02a24", "sky": "#7fa6d6", "plum glaze": "#5b2f4f",
    "copper glaze": "#3f8f83", "ochre wall": "#c8963c", "fresh grass": "#7fa23c", "tanned skin": "#c08f6e", "old oak": "#8a7457",
    "lilac": "#a58fc4", "wet coal": "#26272a", "pink tile": "#dba3a0",
}  # fmt: skip


def pool_of(rng):
    """Names of the colours that one question draws from: made-up ones, or measured ones. rng: random.Random."""
    return tuple(rng.choice((COLOURS, measured())))


def hex_of(name):
    """How a screen shows a colour. name: of a pool."""
    return COLOURS.get(name) or measured()[name].hex


@lru_cache(maxsize=1024)
def stops_of(name, filter_name="none"):
    """Stops from middle grey of a colour through a filter of FILTERS. name: of a pool.

    >>> stops_of("lime wall") > stops_of("brick") > stops_of("wet coal")
    True
    """
    if name not in COLOURS:
        return measured()[name].stops[filter_name]
    grey = grey_of_colour(glass_chain(RESPONSE, LIGHT, through(filter_name)), linear_of_hex(COLOURS[name]))
    return math.log2(max(grey, 1e-6) / MIDDLE_GREY)
