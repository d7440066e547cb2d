"""From light to the screen, profiles, and the one direction of imports."""

import struct
from pathlib import Path

import numpy as np
from django.test import SimpleTestCase
from PIL import ImageCms

from dimgrey.core.colour import profile
from dimgrey.core.colour.chain import mixed_chain
from dimgrey.core.colour.chromaticity import light_and_places
from dimgrey.core.colour.greys import fine_gains
from dimgrey.core.errors import Unreadable
from dimgrey.core.picture import display
from dimgrey.core.planning.prints import FILE_CURVE, PRINT_CURVE

ROOT = Path(__file__).resolve().parents[3]


class ThroughASetup(SimpleTestCase):
    def test_what_the_sensor_clips_is_white_however_soft_the_setup(self):
        soft = display.lightness_through(np.array([0.0, 2.0, 3.3, 5.0]), (-1, -1, -1))
        self.assertAlmostEqual(soft[0], 50)
        self.assertAlmostEqual(soft[1], float(display.lightness(2 * 0.65 * 0.65, FILE_CURVE)))
        self.assertEqual(soft[2:].tolist(), [100, 100])


class Curves(SimpleTestCase):
    def test_the_curves_meet_their_published_points(self):
        for curve in (PRINT_CURVE, FILE_CURVE):
            np.testing.assert_allclose(display.lightness(curve[0], curve), curve[1])

    def test_lightness_never_falls_as_light_rises(self):
        for curve in (PRINT_CURVE, FILE_CURVE):
            shown = display.lightness(np.linspace(-12, 8, 2001), curve)
            self.assertTrue((np.diff(shown) >= 0).all())

    def test_middle_grey_is_119_on_the_screen(self):
        # L* 50 has Y = 0.1842, which sRGB encodes as 118.9.
        self.assertEqual(int(display.grey8_of_lightness(50.0)), 119)

    def test_a_picture_of_known_stops_is_shown_within_one_level_of_the_exact_curve(self):
        stops = np.linspace(-9, 6, 4000)
        light = (0.18 * 2**stops).astype(np.float32)
        pixels, gains = light_and_places(np.stack([light, light, light])), fine_gains(mixed_chain((0.2, 0.7, 0.1)))
        for exposure, slope, curve in (
            (0, 1, PRINT_CURVE),
            (1.37, 1, FILE_CURVE),
            (-2, 1.4, PRINT_CURVE),
        ):
            with self.subTest(exposure=exposure):
                shown, index = display.grey_picture(*pixels, gains, display.display_table(exposure, slope, curve))
                exact = display.grey8_of_lightness(display.lightness(stops * slope + exposure, curve)).astype(int)
                self.assertLessEqual(np.abs(shown.astype(int) - exact).max(), 1)
                np.testing.assert_array_equal(
                    display.toned(index, display.display_table(exposure, slope, curve)), shown
                )

    def test_development_presses_highlights_and_leaves_shadows(self):
        plain, less = display.display_table(0.0), display.display_table(0.0, development=-2)
        at = lambda table, stops: int(display.toned(np.array([_index(stops)]), table)[0])
        self.assertEqual(at(plain, -3), at(less, -3))
        self.assertAlmostEqual(at(less, 4), at(plain, 2), delta=1)  # N-2: IX prints on VII

    def test_black_negative_and_endless_light_have_a_grey(self):
        pixels = light_and_places(np.array([[0, -1, 6e4, 1e30]], np.float32).repeat(3, axis=0))
        with np.errstate(invalid="ignore"):
            shown, _ = display.grey_picture(
                *pixels, fine_gains(mixed_chain((0.2, 0.7, 0.1))), display.display_table(0.0)
            )
        black, white = (int(display.grey8_of_lightness(ends)) for ends in (3.0, 99.0))
        self.assertEqual(shown.tolist(), [black, black, white, white])

    def test_colours_keep_their_lightness_and_fade_to_white(self):
        linear = np.array([[[0.18, 0.18, 0.18], [0.4, 0.05, 0.02], [40, 8, 1]]], np.float32)
        shown = display.colour_picture(linear)
        self.assertTrue((np.abs(shown[0, 0].astype(int) - 119) <= 1).all())
        self.assertGreater(shown[0, 1, 0], shown[0, 1, 1])
        self.assertGreater(shown[0, 2].min(), 200)


def _index(stops):
    return int(np.float32(0.18 * 2**stops).view(np.uint32) >> 16)


class Profiles(SimpleTestCase):
    def test_srgb_needs_no_matrix(self):
        data = ImageCms.ImageCmsProfile(ImageCms.createProfile("sRGB")).tobytes()
        read = profile.matrix_profile(data)
        self.assertIsNone(read.matrix)
        np.testing.assert_allclose(read.tables(256)[0], profile.linear_of_srgb(np.linspace(0, 1, 256)), atol=2e-4)

    def test_a_wide_gamut_is_converted_and_keeps_white(self):
        read = profile.matrix_profile(wide_gamut_profile())
        np.testing.assert_allclose(read.matrix @ np.ones(3), 1, atol=0.01)
        red = read.matrix @ np.array([1.0, 0, 0])
        self.assertGreater(red[0], 1.1)  # more red than sRGB holds
        self.assertAlmostEqual(float(read.tables(3)[0][1]), 0.5**2.2, places=2)

    def test_bytes_that_are_no_profile_are_refused(self):
        for data in (
            b"",
            b"x" * 200,
            wide_gamut_profile()[:140],
            wide_gamut_profile().replace(b"rXYZ", b"zzzz", 1)[:300],
        ):
            with self.subTest(length=len(data)), self.assertRaises(Unreadable):
                profile.matrix_profile(data)


def wide_gamut_profile():
    """A matrix profile with wider primaries than sRGB and gamma 2.2, written by hand after ICC.1, clauses 7 and 10."""
    xyz = lambda *v: b"XYZ \0\0\0\0" + struct.pack(">3i", *(round(x * 65536) for x in v))
    gamma = b"curv\0\0\0\0" + struct.pack(">IH", 1, round(2.2 * 256)) + b"\0\0"
    tags = {
        b"rXYZ": xyz(0.6097, 0.3111, 0.0195),
        b"gXYZ": xyz(0.2053, 0.6257, 0.0609),
        b"bXYZ": xyz(0.1492, 0.0632, 0.7446),
        b"wtpt": xyz(0.9642, 1.0, 0.8249),
        b"rTRC": gamma, b"gTRC": gamma, b"bTRC": gamma,
    }  # fmt: skip
    offset = 128 + 4 + 12 * len(tags)
    table, body = struct.pack(">I", len(tags)), b""
    for name, data in tags.items():
        table += struct.pack(">4sII", name, offset + len(body), len(data))
        body += data
    size = offset + len(body)
    head = (
        struct.pack(">I4sI4s4s4s", size, b"lcms", 0x02400000, b"mntr", b"RGB ", b"XYZ ")
        + b"\0" * 12
        + b"acsp"
        + b"\0" * 28
    )
    head += struct.pack(">3i", 63190, 65536, 54061) + b"\0" * 48
    return head + table + body
