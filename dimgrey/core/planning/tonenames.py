"""What a tone that was just sighted may be: offered in its editor, where more than its colour speaks for it.

Names from colour alone were right in 4 of 11 trials (a face was "cloud", snow "white wall", a leaf "skin"), so they are not offered
any more: what is left goes by brightness, and for a sky by its place too. Until somebody names it, a tone is called by its letter.
"""

import colorsys
from dataclasses import dataclass

from dimgrey.core.sky.daylight import mentions

INDOOR_WORDS = ("window", "room", "lamp", "interior", "indoor", "inside")
BLACK_STOPS, DEEP_STOPS, GLARE_STOPS = -5.0, -2.5, 3.5
"""Stops from the scene's middle grey: below the first nothing has texture, below the second a shadow is deep, above the last it glares."""
SKY_HUES, LEAST_SATURATION, SKY_HEIGHT = (185, 265), 0.35, 0.45


@dataclass(frozen=True)
class Suggestion:
    """A name for a tone, and the role that usually goes with it."""

    name: str
    role: str


def suggestions(colour, stops, height_fraction, light="D55", light_note="", taken=()):
    """Up to three names with their roles for a tone; () where only its colour could say.

    light, light_note: of the scene. colour: linear sRGB. stops: from middle grey of the scene. height_fraction: 0 at the top of the picture, 1 at the
    bottom. taken: names already used, which are left out. Returns a tuple of Suggestion.
    """
    indoors = light == "A" or mentions(light_note, INDOOR_WORDS)
    found = [Suggestion(*pair) for pair in _by_light(stops, indoors)]
    if not indoors and height_fraction < SKY_HEIGHT and _is_blue(colour):
        found.insert(0, Suggestion("blue sky", "sky"))
    return tuple(each for each in found if each.name not in taken)[:3]


def is_beyond_texture(stops):
    """Whether a tone lies so far from the middle grey that nobody expects texture there."""
    return stops < BLACK_STOPS or stops > GLARE_STOPS


def _by_light(stops, indoors):
    if stops < BLACK_STOPS:
        return (("black opening", "other"), ("deep shadow", "shadow"))
    if stops < DEEP_STOPS:
        return (("shadow with texture", "shadow"), ("dark corner", "shadow"))
    if stops > GLARE_STOPS:
        return (
            (("bare light", "other"), ("window", "other"))
            if indoors
            else (("glare", "other"), ("bright cloud", "highlight"))
        )
    return ()


def _is_blue(colour):
    peak = max(max(colour), 1e-9)
    hue, saturation, _ = colorsys.rgb_to_hsv(*(max(c, 0) / peak for c in colour))
    return SKY_HUES[0] <= hue * 360 <= SKY_HUES[1] and saturation >= LEAST_SATURATION
