"""Measured patches: what a drill says of them is what their whole spectrum says, with film, filter and light written here anew."""

import math

import colour
import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.colour.spectra import WAVELENGTH_NM, table
from dimgrey.core.practice.measured import AGREED_STOPS, FILTERS, measured

EDGES = {"yellow": (495, 9, 0.90), "orange": (555, 7, 0.90), "red": (600, 6, 0.88)}
"""Long-pass filters of the handbook: edge, width, top."""


def rise(nm, middle, width):
    return 1 / (1 + np.exp(-(nm - middle) / width))


def film(nm):
    """General panchromatic film of the handbook."""
    bump = lambda middle, width: np.exp(-(((nm - middle) / width) ** 2) / 2)
    return (
        rise(nm, 395, 8) * rise(-nm, -640, 6) * (1 + 0.35 * bump(420, 40) + 0.25 * bump(600, 30) - 0.30 * bump(505, 22))
    )


def glass(nm, name):
    if name == "none":
        return np.ones_like(nm)
    if name == "green":
        return 0.66 * rise(nm, 500, 9) * rise(-nm, -565, 9)
    if name == "blue":
        return 0.58 * rise(nm, 400, 10) * rise(-nm, -485, 10)
    edge, width, top = EDGES[name]
    return top * rise(nm, edge, width)


class MeasuredPatches(SimpleTestCase):
    def test_the_spectrum_says_the_same_of_each_through_every_filter(self):
        nm = WAVELENGTH_NM
        daylight = colour.SDS_ILLUMINANTS["D55"].copy().align(colour.SpectralShape(380, 730, 5)).values
        spectra = [np.clip(each, 0, 1) for each in table("patch_spectra").values()]
        self.assertGreater(len(measured()), 24)
        for patch in measured().values():
            for name in FILTERS:
                seen = daylight * film(nm) * glass(nm, name)
                stops = [math.log2((each @ seen) / seen.sum() / 0.18) for each in spectra]
                nearest = min(abs(each - patch.stops[name]) for each in stops)
                self.assertLess(nearest, AGREED_STOPS + 0.01, (patch.name, name))

    def test_a_screen_can_show_each_and_words_tell_them_apart(self):
        for name, patch in measured().items():
            self.assertEqual(name, patch.name)
            self.assertTrue(min(patch.colour) >= 0 and max(patch.colour) <= 1, name)
            self.assertRegex(patch.hex, "^#[0-9a-f]{6}$")

    def test_a_grey_stays_where_it_is_and_a_blue_goes_down_with_red(self):
        greys = [patch for name, patch in measured().items() if "grey" in name]
        self.assertGreaterEqual(len(greys), 3)
        for patch in greys:
            self.assertLess(max(patch.stops.values()) - min(patch.stops.values()), 0.2, patch.name)
        blue = measured()["deep blue patch"].stops
        self.assertLess(blue["red"], blue["none"] - 0.5)
        self.assertGreater(blue["blue"], blue["none"] + 0.5)
