"""A light map that the phone makes of 8-bit pixels is the desk's, code by code; exposure data read without an image library."""

from fractions import Fraction

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.colour.encoding import linear_of_srgb, luminance
from dimgrey.core.measure.shotdata import shot_in
from dimgrey.core.picture import lightmap
from dimgrey.core.picture.phonemap import SHADES, live_tables, map_of_pixels
from tests import picturefiles


class PhoneMap(SimpleTestCase):
    def test_it_is_the_desks_map_of_the_same_pixels(self):
        rng = np.random.default_rng(5)
        pixels = rng.integers(0, 256, (30, 41, 4), np.uint8)
        pixels[:5], pixels[5:8] = 0, 255
        made = np.frombuffer(map_of_pixels(pixels.tobytes(), 41, 30), np.uint8).reshape(30, 41, 4)
        planes = np.moveaxis(linear_of_srgb(pixels[..., :3] / 255), -1, 0).astype(np.float32)
        there = np.moveaxis(lightmap.unpacked(lightmap.packed(planes)), 0, -1)
        upper = lambda codes: codes[..., 0].astype(int) * 256 + codes[..., 1]
        self.assertLessEqual(np.abs(upper(made) - upper(there)).max(), 1)
        self.assertLessEqual(np.abs(made[..., 2:].astype(int) - there[..., 2:]).max(), 1)
        self.assertGreater(np.mean(made == there), 0.999)

    def test_pixels_that_do_not_fit_are_refused(self):
        with self.assertRaisesMessage(ValueError, "2 x 2 pixels have 16 bytes (got 12)"):
            map_of_pixels(bytes(12), 2, 2)


class Live(SimpleTestCase):
    def test_tables_of_a_live_picture_are_those_of_a_still_one_at_the_middle_of_each_shade(self):
        light, codes = live_tables()
        step = 256 // SHADES
        for r, g, b in ((4, 4, 4), (252, 124, 60), (20, 204, 236)):
            still = map_of_pixels(bytes([r, g, b, 255]), 1, 1)
            at = 2 * ((r // step) * SHADES * SHADES + (g // step) * SHADES + b // step)
            self.assertEqual(still[2:], codes[at : at + 2])
            self.assertAlmostEqual(
                light[r] + light[256 + g] + light[512 + b],
                float(luminance(linear_of_srgb(np.array([r, g, b]) / 255))),
                places=9,
            )


class ShotInAFile(SimpleTestCase):
    def test_exposure_data_of_a_file(self):
        shot = shot_in(picturefiles.jpeg(exif=picturefiles.exif(Fraction(1, 128), 8, 100)))
        self.assertEqual((shot.time_s, shot.f_number, shot.iso, shot.warnings), (1 / 128, 8, 100, ()))
        self.assertAlmostEqual(shot.ev100, 13)

    def test_files_that_say_nothing(self):
        for data in (b"", b"no picture", picturefiles.jpeg(), picturefiles.jpeg(exif=picturefiles.exif())[:60]):
            self.assertIsNone(shot_in(data).ev100)
