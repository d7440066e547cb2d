"""Encodings of light: values worked by hand from the standards, on both sides of each join."""

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.colour import encoding


class Lightness(SimpleTestCase):
    def test_worked_values(self):
        # CIE 15: L* = 116 Y^(1/3) - 16; below Y = 0.008856 it is 903.3 Y.
        for y, l_star in ((0.0, 0.0), (0.001, 0.9033), (0.008, 7.2264), (0.009, 8.129), (0.1842, 50.0), (1.0, 100.0)):
            self.assertAlmostEqual(float(encoding.lightness_of_luminance(y)), l_star, places=2)
            self.assertAlmostEqual(float(encoding.luminance_of_lightness(l_star)), y, places=4)

    def test_both_ways_meet_everywhere(self):
        l_star = np.linspace(0, 100, 1001)
        back = encoding.lightness_of_luminance(encoding.luminance_of_lightness(l_star))
        np.testing.assert_allclose(back, l_star, atol=1e-9)


class Srgb(SimpleTestCase):
    def test_worked_values(self):
        # IEC 61966-2-1: 12.92 Y up to 0.0031308, then 1.055 Y^(1/2.4) - 0.055.
        for linear, encoded in (
            (0.0, 0.0),
            (0.002, 0.02584),
            (0.0031, 0.04005),
            (0.0032, 0.04132),
            (0.18, 0.46136),
            (1.0, 1.0),
        ):
            self.assertAlmostEqual(float(encoding.srgb_of_linear(linear)), encoded, places=4)
            self.assertAlmostEqual(float(encoding.linear_of_srgb(encoded)), linear, places=4)
