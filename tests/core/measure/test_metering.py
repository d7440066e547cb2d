"""The spot, several readings of a tone, and fitting a picture's light to readings."""

import math

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure import metering
from dimgrey.core.picture import spot
from dimgrey.core.picture.outline import middle_of


def flat(value, height=40, width=60):
    return np.full((height, width, 3), value, np.float32)


class Spot(SimpleTestCase):
    def test_radius_follows_the_angle(self):
        # 1 degree in a 60 degree, 1000 px wide picture: 500 * tan(0.5) / tan(30) = 7.558
        self.assertAlmostEqual(metering.spot_radius_px(1000, 60, 1), 7.558, places=3)

    def test_upright_pictures_have_the_narrow_side_across(self):
        self.assertAlmostEqual(metering.picture_hfov_deg(50, 1500, 1000), 39.598, places=2)
        self.assertAlmostEqual(metering.picture_hfov_deg(50, 1000, 1500), 26.991, places=2)

    def test_middle_grey_reads_nought(self):
        seen = spot.read_spot(flat(0.18), 30, 20, 5)
        self.assertAlmostEqual(seen.mean_stops, 0, places=6)
        self.assertFalse(seen.mixed)

    def test_linear_light_is_averaged_not_its_logarithm(self):
        picture = flat(0.02)
        picture[:, 30:] = 0.34
        seen = spot.read_spot(picture, 29, 20, 8)
        columns = np.arange(60)[None, :]
        inside = (columns - 29) ** 2 + (np.arange(40)[:, None] - 20) ** 2 <= 64
        share = (inside & (columns >= 30)).sum() / inside.sum()
        self.assertAlmostEqual(seen.mean_stops, math.log2((0.02 * (1 - share) + 0.34 * share) / 0.18), places=4)
        self.assertTrue(seen.mixed)
        self.assertAlmostEqual(seen.high_stops - seen.low_stops, math.log2(17), places=3)

    def test_a_spot_at_the_corner_reads_what_is_there(self):
        picture = flat(0.18)
        picture[0, 0] = 0.72
        self.assertAlmostEqual(spot.read_spot(picture, 0, 0, 0).mean_stops, 2, places=5)

    def test_black_has_a_floor_and_blank_is_told(self):
        self.assertAlmostEqual(spot.read_spot(flat(0), 5, 5, 3).mean_stops, math.log2(2**-24 / 0.18))
        self.assertEqual(spot.read_spot(flat(1.0), 5, 5, 3, clip=0.98).clipped, 1.0)

    def test_outside_is_refused(self):
        with self.assertRaises(OutOfRange):
            spot.read_spot(flat(0.18), 60, 5, 3)
        with self.assertRaises(OutOfRange):
            metering.pixel_at(1.2, 100)

    def test_fractions_meet_pixels(self):
        self.assertEqual([metering.pixel_at(x, 1500) for x in (0, 880 / 1500, 1)], [0, 880, 1499])


class Readings(SimpleTestCase):
    def test_the_mean_is_taken_in_ev_and_the_spread_shown(self):
        reading = metering.combined([12, 13, 12.5])
        self.assertEqual((reading.ev100, reading.spread_stops, reading.count), (12.5, 1, 3))
        self.assertFalse(reading.disagree)
        self.assertTrue(metering.combined([9, 12.4]).disagree)

    def test_compensation_is_the_zone_less_five(self):
        for zone, dial in ((7 + 1 / 3, 2 + 1 / 3), (3, -2), (5, 0)):
            self.assertAlmostEqual(metering.compensation_stops(zone), dial)


class LightScale(SimpleTestCase):
    def test_one_reading_fixes_the_offset(self):
        scale = metering.fit_light_scale([-1.0], [12.0], known_offset=14.0)
        self.assertEqual((scale.offset, scale.slope, scale.residuals), (13.0, 1.0, (0.0,)))

    def test_exif_alone_is_the_first_scale_and_nothing_is_none(self):
        self.assertEqual(metering.fit_light_scale([], [], 14.3).offset, 14.3)
        self.assertIsNone(metering.fit_light_scale([], []))

    def test_two_readings_give_the_contrast_of_a_tone_curve(self):
        scale = metering.fit_light_scale([-2, 2], [9, 15])
        self.assertAlmostEqual(scale.slope, 1.5)
        self.assertAlmostEqual(scale.offset, 12)

    def test_one_wrong_reading_in_four_does_not_bend_the_fit(self):
        stops = [-3, -1, 0, 1, 2]
        evs = [12 + 1.2 * s for s in stops]
        evs[1] += 5
        scale = metering.fit_light_scale(stops, evs)
        self.assertAlmostEqual(scale.slope, 1.2, delta=0.35)
        self.assertAlmostEqual(scale.worst_residual, 5, delta=1)

    def test_readings_of_one_tone_do_not_invent_a_slope(self):
        self.assertEqual(metering.fit_light_scale([0.1, 0.2], [12, 14]).slope, 1.0)

    @given(st.floats(0.5, 3), st.floats(-4, 18), st.lists(st.floats(-6, 4), min_size=2, max_size=8, unique=True))
    def test_an_exact_line_is_recovered(self, slope, offset, stops):
        scale = metering.fit_light_scale(stops, [offset + slope * s for s in stops])
        if max(stops) - min(stops) >= 0.5:
            self.assertAlmostEqual(scale.slope, slope, places=5)
            self.assertAlmostEqual(scale.offset, offset, places=5)


class Areas(SimpleTestCase):
    def test_an_area_is_the_mean_of_its_light_with_both_ends(self):
        linear = np.full((10, 10, 3), 0.18)
        linear[:, 5:] = 0.72
        inside = np.zeros((10, 10), bool)
        inside[2:8, 3:7] = True
        read = spot.read_area(linear, inside)
        self.assertAlmostEqual(read.mean_stops, np.log2(2.5))
        self.assertAlmostEqual(read.spread_stops, 2.0)
        self.assertAlmostEqual(sum(read.shares), 1.0)
        self.assertEqual(
            [k for k, share in enumerate(read.shares) if share], [16, 20], "0 and +2 stops, in halves from -8"
        )
        with self.assertRaisesRegex(OutOfRange, "smaller than a pixel"):
            spot.read_area(linear, np.zeros((10, 10), bool))

    def test_the_middle_of_an_outline_is_its_centroid(self):
        self.assertEqual(middle_of(((0, 0), (0.4, 0), (0.4, 0.2), (0, 0.2))), (0.2, 0.1))
        x, y = middle_of(((0, 0), (0.9, 0), (0, 0.9)))
        np.testing.assert_allclose((x, y), (0.3, 0.3))
        np.testing.assert_allclose(middle_of(((0.1, 0.1), (0.2, 0.2), (0.3, 0.3))), (0.2, 0.2))
