"""The own mix of a raw file: a closed curve over hue, bent by tones."""

import math

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.colour import ownmix
from dimgrey.core.colour.chain import mixed_chain, noise_gain_of
from dimgrey.core.colour.chromaticity import light_and_places
from dimgrey.core.colour.greys import fine_gains, grey_of
from dimgrey.core.errors import CoreError

BRICK, IVY, SKY, WALL = (0.30, 0.06, 0.05), (0.086, 0.228, 0.057), (0.10, 0.17, 0.45), (0.5, 0.5, 0.49)
TONES = {"brick": BRICK, "ivy": IVY, "sky": SKY, "wall": WALL}


class Curves(SimpleTestCase):
    def test_hues_are_those_of_the_colour_circle(self):
        for hue, colour in ((0, (1, 0, 0)), (60, (1, 1, 0)), (120, (0, 1, 0)), (180, (0, 1, 1)), (240, (0, 0, 1))):
            self.assertAlmostEqual(ownmix.hue_deg(colour), hue, places=6)
        self.assertEqual(
            [ownmix.hue_name(h) for h in (0, 358, 30, 240, 200)], ["red", "red", "red-yellow", "blue", "cyan-blue"]
        )

    def test_a_neutral_never_moves(self):
        chain = mixed_chain("none", ((0.0, 2.0), (120.0, 1.5), (240.0, -2.0)))
        for grey in (0.01, 0.18, 3.0):
            self.assertAlmostEqual(float(grey_of(chain, (grey,) * 3)), grey, places=9)

    def test_the_curve_is_closed_smooth_and_held(self):
        points = ((10.0, 2.0), (200.0, -1.0), (300.0, 1.0))
        hues = np.arange(0, 720, 0.5)
        curve = np.array([ownmix.curve_at(points, hue) for hue in hues])
        np.testing.assert_allclose(curve[:720], curve[720:], atol=1e-9)
        self.assertLess(np.abs(np.diff(curve)).max(), 0.04)
        self.assertLessEqual(np.abs(curve).max(), 2)
        for hue, stops in points:
            self.assertAlmostEqual(ownmix.curve_at(points, hue), stops, delta=0.01)

    def test_the_pulled_tone_moves_and_the_others_hold(self):
        points = ownmix.bent(TONES, "sky", -0.8)
        chain, plain = mixed_chain("none", points), mixed_chain("none")
        moved = {n: math.log2(float(grey_of(chain, c)) / float(grey_of(plain, c))) for n, c in TONES.items()}
        self.assertAlmostEqual(moved["sky"], -0.8, delta=0.03)
        for name in ("brick", "ivy", "wall"):
            self.assertAlmostEqual(moved[name], 0, delta=0.05)

    def test_others_follow_where_they_are_let(self):
        near = {"sky": SKY, "door": (0.05, 0.05, 0.35)}
        followed = mixed_chain("none", ownmix.bent(near, "door", 0.7, hold=False))
        self.assertGreater(float(grey_of(followed, SKY)), 1.1 * float(grey_of(mixed_chain("none"), SKY)))

    def test_a_second_pull_keeps_the_first(self):
        first = ownmix.bent(TONES, "sky", -0.8)
        chain, plain = mixed_chain("none", ownmix.bent(TONES, "brick", 0.5, points=first)), mixed_chain("none")
        moved = {n: math.log2(float(grey_of(chain, c)) / float(grey_of(plain, c))) for n, c in TONES.items()}
        self.assertAlmostEqual(moved["brick"], 0.5, delta=0.05)
        self.assertAlmostEqual(moved["sky"], -0.8, delta=0.08)

    def test_what_cannot_be_is_said(self):
        cases = (
            ("mix-one-hue", {"brick": BRICK, "clay": (0.28, 0.075, 0.05)}, "brick", 0.8),
            ("mix-pale", TONES, "wall", 0.5),
            ("mix-short", {"skin": (0.45, 0.28, 0.20)}, "skin", 1.5),
            ("mix-far", TONES, "sky", 2.5),
            ("mix-far", TONES, "sky", float("nan")),
        )
        for code, tones, name, stops in cases:
            with self.subTest(code, name=name), self.assertRaises(CoreError) as refused:
                ownmix.bent(tones, name, stops)
            self.assertEqual(refused.exception.code, code)
        for points in (((10, 3),), ((-5, 1),), ((10, 1), (10.2, 0))):
            with self.subTest(points), self.assertRaises(CoreError):
                ownmix.require_points(points)

    def test_lightening_costs_noise_and_darkening_none(self):
        base = noise_gain_of(mixed_chain("none"))
        self.assertAlmostEqual(noise_gain_of(mixed_chain("none", ((240.0, -2.0),))), base, delta=0.05)
        self.assertAlmostEqual(noise_gain_of(mixed_chain("none", ((240.0, 1.0),))), 2 * base, delta=0.05)

    @given(st.lists(st.floats(0.03, 1), min_size=3, max_size=3))
    def test_pictures_look_it_up_as_tones_do(self, colour):
        chain = mixed_chain("none", ((20.0, 0.8), (230.0, -1.2)))
        light, place = light_and_places(np.array(colour, np.float32).reshape(3, 1))
        shown = float(light[0]) * float(fine_gains(chain)[place[0]])
        self.assertAlmostEqual(math.log2(shown), math.log2(float(grey_of(chain, colour))), delta=0.06)
