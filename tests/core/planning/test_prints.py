"""Fall and print: the curve against an independent one, worked values, and the way back."""

import random

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st
from scipy.interpolate import PchipInterpolator

from dimgrey.core.picture import display
from dimgrey.core.picture.tonemap import zones_of_lightness
from dimgrey.core.planning.media import medium
from dimgrey.core.planning.prints import (
    FILE_CURVE,
    PRINT_CURVE,
    Printing,
    curve_for,
    print_of_lightness,
    shown_lightness,
)

KINDS = st.sampled_from(["film", "slide", "digital raw", "digital file"])


class Curve(SimpleTestCase):
    def test_it_is_the_curve_of_the_pictures(self):
        for curve in (PRINT_CURVE, FILE_CURVE):
            grid = np.arange(-8, 8, 0.037)
            ours = [shown_lightness(float(s), curve) for s in grid]
            np.testing.assert_allclose(ours, display.lightness(grid, curve), atol=1e-10)

    def test_any_rising_or_turning_curve_is_joined_as_the_published_method_has_it(self):
        rng = random.Random(8)
        for k in range(60):
            count = rng.randint(3, 8)
            x = sorted(rng.sample(range(-40, 40), count))
            y = [rng.randint(0, 100) for _ in x] if k % 2 else sorted(rng.sample(range(100), count))
            reference = PchipInterpolator(x, y)
            for at in np.linspace(x[0], x[-1], 37):
                self.assertAlmostEqual(shown_lightness(float(at), (tuple(x), tuple(y))), float(reference(at)), places=8)

    def test_the_ends_of_the_paper(self):
        for l_star, zone, beyond in (
            (2.9, 0, -1),
            (3.0, 0, 0),
            (3.1, 0.0195, 0),
            (50, 5, 0),
            (98.9, 9.96, 0),
            (99, 10, 0),
            (99.1, 10, 1),
        ):
            found = print_of_lightness(l_star)
            self.assertAlmostEqual(found.zone, zone, delta=0.02)
            self.assertEqual(found.beyond, beyond, l_star)

    def test_pictures_and_tones_read_a_lightness_alike(self):
        for l_star in (3.0, 10.0, 37.3, 50.0, 83.6, 99.0):
            self.assertAlmostEqual(float(zones_of_lightness(l_star)), print_of_lightness(l_star).zone, places=4)
        np.testing.assert_allclose(zones_of_lightness([1.0, 100.0]), [-2.0, 11.0], atol=1e-6)


class Prints(SimpleTestCase):
    def test_worked_values(self):
        # HANDBOOK 16: a wall placed on VII would print on V⅔ at N-2; a file's VII has L* 84, between VII (76) and VIII (87).
        self.assertAlmostEqual(Printing("film", -2).print(7.0).zone, 5 + 2 / 3, places=6)
        self.assertAlmostEqual(Printing("digital file").print(7.0).zone, 7.7, places=2)
        self.assertEqual(Printing("film").print(10.4).zone, 10)
        self.assertEqual((Printing("film").print(10.4).beyond, Printing("film").print(-0.1).beyond), (1, -1))
        self.assertEqual(Printing("digital file").print(9.0).beyond, 1)
        self.assertEqual(Printing("film", lift=2.0).print(5.0).zone, 7.0)

    @given(KINDS, st.floats(0.5, 9.5), st.integers(-2, 2), st.floats(-1, 1), st.floats(-1, 1), st.floats(0, 2))
    def test_the_way_back(self, kind, zone, step, contrast, highlights, lift):
        film = kind == "film"
        tone = (contrast, highlights, 0.0) if kind == "digital file" else (0.0, 0.0, 0.0)
        printing = Printing(kind, step if film else 0, tone, lift)
        fall = printing.fall_for(zone)
        # The sensor's white may be jumped to; short of it the print is met.
        if zone < 9 or kind in ("film", "slide"):
            self.assertAlmostEqual(printing.print(fall).zone, zone, delta=0.01)

    @given(KINDS, st.floats(-3, 13), st.floats(0.01, 3), st.floats(-1, 1))
    def test_more_light_is_never_a_darker_print(self, kind, fall, more, contrast):
        printing = Printing(kind, 0, (contrast, 0.0, 0.0) if kind == "digital file" else (0.0, 0.0, 0.0))
        self.assertGreaterEqual(printing.lightness(fall + more) + 1e-9, printing.lightness(fall))

    def test_limits_stand_where_they_print(self):
        self.assertEqual(medium("film").prints_of((3.0, 7.0)), (3.0, 7.0))
        low, high = medium("digital file").prints_of((0.0, 7.7))
        self.assertEqual((low, round(high, 6)), (0.0, 9.0))
        self.assertIs(curve_for("slide"), PRINT_CURVE)
        self.assertIs(curve_for("digital raw"), FILE_CURVE)
