"""Colours that drills ask about, made up, with the words for them; and their greys through filters, by the same chain as the desk's."""

import math

from dimgrey.core.colour.chain import glass_chain, grey_of_colour
from dimgrey.core.colour.light import MIDDLE_GREY, linear_of_hex

COLOURS = {
    "brick": "#9c5844", "ivy leaf": "#3f5b2e", "blue door": "#35568c", "lime wall": "#e6e0d2", "slate": "#5b6270", "clay pot": "#b4683f",
    "moss": "#6d7a2f", "rust": "#8a3f22", "straw": "#d9c078", "poppy": "#c02a24", "sky": "#7fa6d6", "plum glaze": "#5b2f4f",
    "copper glaze": "#3f8f83", "ochre wall": "#c8963c", "fresh grass": "#7fa23c", "tanned skin": "#c08f6e", "old oak": "#8a7457",
    "lilac": "#a58fc4", "wet coal": "#26272a", "pink tile": "#dba3a0",
}  # fmt: skip
RESPONSE, LIGHT = "general panchromatic", "D55"
FILTERS = ("none", "yellow", "orange", "red", "green", "blue")


def chain_of(filter_name):
    """Chain of common film in daylight through a filter of FILTERS."""
    return glass_chain(RESPONSE, LIGHT, () if filter_name == "none" else (filter_name,))


def stops_of(name, filter_name="none"):
    """Stops from middle grey of a colour through a filter. name: of COLOURS.

    >>> stops_of("lime wall") > stops_of("brick") > stops_of("wet coal")
    True
    """
    grey = grey_of_colour(chain_of(filter_name), linear_of_hex(COLOURS[name]))
    return math.log2(max(grey, 1e-6) / MIDDLE_GREY)
