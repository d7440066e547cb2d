"""Measured colour patches for drills: paints, skin, cloth, leaves and papers whose spectra were read, and what film truly sees of them.

A drill asks about them by the desk's own chain, and only about those where the whole spectrum says the same: so an answer is right
either way. Source: HANDBOOK 7 and 18; the spectra are named in colour/tables/patch_spectra.csv.
"""

import math
from dataclasses import dataclass
from functools import cache

import numpy as np

from dimgrey.core.colour.chain import CHANNEL_MIXES, glass_chain, grey_of_colour
from dimgrey.core.colour.curves import response, transmittance
from dimgrey.core.colour.encoding import lightness_of_luminance, srgb_of_linear
from dimgrey.core.colour.luminance import LUMINANCE_WEIGHTS, MIDDLE_GREY
from dimgrey.core.colour.ownmix import hold_of, hue_deg, hue_name
from dimgrey.core.colour.spectra import illuminant, srgb_of_reflectance, table

RESPONSE, LIGHT = "general panchromatic", "D55"
FILTERS = tuple(CHANNEL_MIXES)
AGREED_STOPS = 0.12
"""How far the chain may lie from the whole spectrum in a patch that is asked about, stops: a third of what a drill asks at least."""
NEUTRAL_HOLD = 0.06
"""Below this share of saturation a patch is called grey."""
SHADES = ((30, "dark"), (50, "deep"), (68, "middle"), (82, "light"), (101, "pale"))
"""Words for L* below a limit."""


@dataclass(frozen=True)
class Patch:
    """One measured patch. name: how it looks, in words. hex: as a screen shows it. colour: linear sRGB. stops: filter -> stops from middle grey by the
    chain."""

    name: str
    hex: str
    colour: tuple
    stops: dict


def through(filter_name):
    """Names of the filters of a chain. filter_name: of FILTERS."""
    return () if filter_name == "none" else (filter_name,)


def spectral_stops(reflectance, filter_name):
    """Stops from middle grey of a reflectance, ``log2(sum(R I F S) / sum(I F S) / 0.18)``.

    reflectance: shape (71,), 0..1. filter_name: of FILTERS.
    """
    seen = illuminant(LIGHT) * transmittance(through(filter_name)) * response(RESPONSE)
    return math.log2(float((reflectance * seen).sum() / seen.sum()) / MIDDLE_GREY)


def _name(colour):
    lightness = float(lightness_of_luminance(sum(w * c for w, c in zip(LUMINANCE_WEIGHTS, colour, strict=True))))
    shade = next(word for limit, word in SHADES if lightness < limit)
    return f"{shade} {'grey' if hold_of(colour) < NEUTRAL_HOLD else hue_name(hue_deg(colour))} patch"


@cache
def measured():
    """name -> Patch of those that a screen can show and that chain and spectrum agree on through every filter; one of each name.

    >>> len(measured()) > 12
    True
    """
    found = {}
    for reflectance in table("patch_spectra").values():
        held = np.clip(reflectance, 0, 1)
        colour = srgb_of_reflectance(held)
        if colour.min() < 0 or colour.max() > 1:
            continue
        plain = tuple(colour.tolist())
        stops = {
            name: math.log2(grey_of_colour(glass_chain(RESPONSE, LIGHT, through(name)), plain) / MIDDLE_GREY)
            for name in FILTERS
        }
        if max(abs(stops[name] - spectral_stops(held, name)) for name in FILTERS) > AGREED_STOPS:
            continue
        coded = np.round(srgb_of_linear(colour) * 255).astype(int)
        made = Patch(_name(plain), "#" + "".join(f"{value:02x}" for value in coded), plain, stops)
        found.setdefault(made.name, made)
    return found
