"""The sky of a picture: found, drawn, darkened by polarizer and graduated glass."""

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.errors import CoreError
from dimgrey.core.picture import outline, skyarea
from dimgrey.core.picture.overhead import Overhead, Polarized
from dimgrey.core.picture.tonemap import reduced
from dimgrey.core.sky.dome import polarizer_stops

BLUE, BRICK, DOOR, CLOUD = (0.30, 0.45, 1.0), (0.30, 0.08, 0.06), (0.05, 0.09, 0.40), (1.6, 1.6, 1.6)


def scene(sky=BLUE, ground=BRICK, height=200, width=300):
    """Sky above, ground below, a cloud in the sky and a blue door in the wall; planes (3, h, w)."""
    rng = np.random.default_rng(2)
    picture = np.empty((height, width, 3), np.float32)
    fade = np.linspace(0.8, 1.3, height // 2)[:, None, None]
    picture[: height // 2] = np.asarray(sky) * fade
    picture[height // 2 :] = ground
    picture[20:50, 200:260] = CLOUD
    picture[130:180, 60:100] = DOOR
    picture *= rng.normal(1, 0.01, picture.shape)
    return np.ascontiguousarray(np.moveaxis(picture.astype(np.float32), -1, 0))


def found(planes):
    return skyarea.found(planes, reduced(planes)) / 255


class Finding(SimpleTestCase):
    def test_sky_is_found_and_cloud_door_and_wall_are_not(self):
        share = found(scene())
        self.assertGreater(share[5:90, :180].mean(), 0.95)
        for rows, columns in (
            (slice(25, 45), slice(205, 255)),
            (slice(135, 175), slice(65, 95)),
            (slice(185, 199), slice(0, 299)),
        ):
            self.assertLess(share[rows, columns].max(), 0.1)

    def test_the_edge_follows_what_stands_before_it(self):
        planes = scene()
        planes[:, 30:100, 140:160] = np.array(BRICK, np.float32)[:, None, None]
        share = found(planes)
        self.assertLess(share[40:90, 142:158].max(), 0.1)
        self.assertGreater(share[40:90, 120:138].min(), 0.8)

    def test_no_sky_in_a_room_a_blue_wall_below_and_a_white_sky(self):
        for planes in (scene(sky=(0.4, 0.4, 0.42)), scene(sky=(0.5, 0.5, 0.5), ground=BLUE), scene(sky=BRICK)):
            self.assertLess(found(planes).mean(), 0.01)

    def test_pictures_of_any_shape(self):
        for shape in ((3, 1, 1), (3, 5, 400), (3, 400, 5), (3, 60, 90)):
            planes = np.full(shape, 0.2, np.float32)
            planes[2] = 0.7
            self.assertEqual(found(planes).shape, shape[1:])

    def test_a_sky_over_the_whole_picture(self):
        planes = np.ones((3, 80, 120), np.float32) * np.array(BLUE, np.float32)[:, None, None]
        self.assertGreater(found(planes).mean(), 0.95)


class Drawing(SimpleTestCase):
    def test_an_outline_holds_what_lies_in_it(self):
        share = skyarea.outlined(((0.0, 0.0), (1.0, 0.0), (1.0, 0.5), (0.0, 0.5)), 100, 200)
        self.assertEqual(set(np.unique(share[:49])), {255})
        self.assertEqual(set(np.unique(share[52:])), {0})
        self.assertFalse(skyarea.outlined((), 10, 10).any())

    def test_bad_outlines(self):
        for corners in ((), ((0, 0), (1, 1)), ((0.5, 0.5),) * 9, [(k / 99, (k * 7 % 99) / 99) for k in range(61)]):
            with self.subTest(len(corners)), self.assertRaises(CoreError):
                outline.require_outline(corners)
        self.assertEqual(outline.require_outline(((-1, 0), (2, 0), (0.5, 9)))[0], (0.0, 0.0))


class Darkening(SimpleTestCase):
    UNDER = Polarized(35.0, 90.0, 0.0, 28.0, False, 0.8)

    def test_a_polarizer_acts_by_the_angle_from_the_sun(self):
        straight = float(self.UNDER.stops(0.5, 0.5))  # level, a quarter turn from a sun 35 degrees high
        self.assertAlmostEqual(straight, float(polarizer_stops(90, 0.8)), places=6)
        self.assertAlmostEqual(float(Polarized(0.0, 0.0, 0.0, 28.0, False, 0.8).stops(0.5, 0.5)), 0, places=6)

    def test_it_darkens_sky_and_nothing_else(self):
        share = np.zeros((60, 90), np.float32)
        share[:30] = 1
        left = Overhead(polarizer=self.UNDER).left(share, 60, 90)
        np.testing.assert_allclose(left[30:], 1)
        exact = np.exp2(self.UNDER.stops(*np.meshgrid((np.arange(90) + 0.5) / 90, (np.arange(60) + 0.5) / 60)))
        np.testing.assert_allclose(left[:30], exact[:30], rtol=0.02)

    def test_graduated_glass_sets_in_at_its_edge(self):
        left = Overhead(graduated=((2.0, 0.5),)).left(None, 100, 10)[:, 0]
        self.assertAlmostEqual(float(left[0]), 0.25, places=5)
        self.assertAlmostEqual(float(left[99]), 1.0, places=5)
        self.assertAlmostEqual(float(np.log2(left[50])), -1, delta=0.1)
