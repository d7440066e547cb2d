"""The sky all around: its greys, the polarizer, frames on it, hills before it, and the light of a grey card."""

import math
from dataclasses import replace

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.colour.chain import glass_chain
from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.document.model import Document, PlacePart, View
from dimgrey.core.errors import CoreError
from dimgrey.core.planning.prints import Printing
from dimgrey.core.sky import dome, horizon
from dimgrey.core.sky.cardlight import card_light
from dimgrey.core.sky.conditions import Conditions
from dimgrey.core.sky.daylight import daylight_ev100, sunlit_ev100
from dimgrey.core.sky.framesky import frame_sky
from dimgrey.core.sky.skygreys import sky_greys
from dimgrey.core.sky.skyprint import SkyPrint, sky_print
from dimgrey.core.sky.skytone import sky_tone
from dimgrey.core.sky.sunlight import Sample
from dimgrey.core.sky.terrain import format_terrain, parse_terrain, terrain_deg
from tests.core.cautions.test_exposure import SHADOW, planned

SUN = dome.Direction(40.0, 180.0)
CLEAR = horizon.SkyLight(SUN, "clear")
PAN = glass_chain("general panchromatic", "D55", ())
RED = glass_chain("general panchromatic", "D55", ("red",))


def at(greys, altitude_deg, azimuth_deg):
    """Grey of the cell of a strip that holds a direction."""
    altitudes, around = horizon.cells()
    row = int(np.argmin(np.abs(altitudes.ravel() - altitude_deg)))
    return int(greys[row, int(np.argmin(np.abs(around.ravel() - azimuth_deg % 360)))])


class Strip(SimpleTestCase):
    def test_it_runs_from_the_zenith_to_the_horizon_and_once_around(self):
        greys = horizon.strip_greys(CLEAR, SkyPrint(None), PAN)
        self.assertEqual((greys.shape, greys.dtype), ((45, 180), np.uint8))
        altitudes, around = horizon.cells(180.0)
        self.assertEqual((altitudes[0, 0], altitudes[-1, 0], around[0, 0], around[0, -1]), (89, 1, 181, 539))

    def test_it_is_palest_at_the_sun_and_deepest_away_from_it(self):
        greys = horizon.strip_greys(CLEAR, SkyPrint(None), PAN)
        self.assertGreater(at(greys, 40, 180), at(greys, 40, 90))
        self.assertGreater(at(greys, 2, 0), at(greys, 40, 0))

    def test_two_sides_are_deepest_under_a_low_sun_and_the_opposite_one_under_a_high_one(self):
        one, other = horizon.deepest_turns_deg(8.0)
        self.assertEqual(one + other, 360.0)
        self.assertTrue(90 <= one <= 140)
        for altitude in range(20, 65, 5):
            self.assertEqual(horizon.deepest_turns_deg(float(altitude)), (180.0,))

    def test_red_and_a_polarizer_darken_it_and_a_blue_filter_does_not(self):
        plain, red, blue, crossed = (
            at(horizon.strip_greys(CLEAR, SkyPrint(None), chain, turned_deg=glass), 25, 90)
            for chain, glass in ((PAN, None), (RED, None), (glass_chain("general panchromatic", "D55", ("blue",)), None), (PAN, 0.0))
        )  # fmt: skip
        self.assertLess(red, plain)
        self.assertLess(crossed, plain)
        self.assertGreater(blue, plain)

    def test_a_frame_prints_its_sky_in_the_greys_of_the_strip(self):
        result = planned(SHADOW)
        points = dome.frame_directions(330, 12, 35)
        for air in ("clear", "hazy"):
            tone = sky_tone(SUN, points, air, RED)
            printed = sky_print(result, tone)
            greys = horizon.strip_greys(horizon.SkyLight(SUN, air), printed, RED)
            for name in ("upper", "left", "right"):
                shown = int(sky_greys(printed, np.array([tone.points[name].stops]))[0])
                self.assertAlmostEqual(at(greys, *vars(points[name]).values()), shown, delta=3, msg=(air, name))

    def test_a_closed_sky_is_the_same_all_around_whatever_is_on_the_lens(self):
        closed = horizon.SkyLight(SUN, "overcast")
        greys = horizon.strip_greys(closed, SkyPrint(None), RED, turned_deg=0.0)
        self.assertTrue((greys == greys[:, :1]).all())
        self.assertGreater(greys[0, 0], greys[-1, 0], "brighter above")
        self.assertEqual(horizon.polarizer_lines(closed), ())

    def test_greys_are_those_of_the_print_curve(self):
        printed = SkyPrint(None, 5.0)
        self.assertEqual(
            sky_greys(printed, np.array([0.0, 2.0])).tolist(), grey8_of_lightness(np.array([50.0, 76.0])).tolist()
        )
        self.assertAlmostEqual(printed.print(2.0), 7.0)
        pushed = SkyPrint(planned(SHADOW), 6.0, 0.5)
        self.assertAlmostEqual(pushed.print(-1.0), Printing().print(5.5).zone)


class Polarizer(SimpleTestCase):
    def test_lines_stand_where_it_takes_that_much(self):
        lines = horizon.polarizer_lines(CLEAR)
        self.assertTrue(lines)
        for altitude, start, end in lines:
            middle = (start + end) / 2
            self.assertLessEqual(float(CLEAR.polarizer_stops(altitude, middle)), -1.0)
            self.assertGreater(float(CLEAR.gamma_deg(altitude, middle)), 50)

    def test_haze_leaves_few_and_the_strongest_is_at_a_right_angle(self):
        hazy = horizon.SkyLight(SUN, "hazy")
        self.assertLess(len(horizon.polarizer_lines(hazy)), len(horizon.polarizer_lines(CLEAR)))
        stops, there = horizon.strongest_polarizer(CLEAR)
        self.assertAlmostEqual(stops, -2.32, places=1)
        self.assertAlmostEqual(float(CLEAR.gamma_deg(20, there)), 90, delta=3)


class Frames(SimpleTestCase):
    def test_a_frame_has_its_true_size_and_heading(self):
        around, altitude = horizon.frame_outline(350, 0, 35)
        wide = 2 * math.degrees(math.atan(18 / 35))
        self.assertAlmostEqual(around.max() - around.min(), wide, places=6)
        self.assertAlmostEqual((around.max() + around.min()) / 2, 350)
        self.assertAlmostEqual(altitude.max(), math.degrees(math.atan(12 / 35)), places=6)
        self.assertAlmostEqual(altitude[0], -altitude[-horizon.BORDER_POINTS])

    def test_upright_and_tilted(self):
        _, level = horizon.frame_outline(0, 0, 35)
        _, upright = horizon.frame_outline(0, 0, 35, upright=True)
        _, tilted = horizon.frame_outline(0, 20, 35)
        self.assertGreater(upright.max(), level.max())
        self.assertAlmostEqual(tilted.max(), level.max() + 20, places=6)


class Hills(SimpleTestCase):
    def test_a_line_is_read_and_written(self):
        line = parse_terrain("200 8; N 4,E 12")
        self.assertEqual(line, ((0.0, 4.0), (90.0, 12.0), (200.0, 8.0)))
        self.assertEqual(format_terrain(line), "N 4, E 12, 200 8")
        self.assertEqual(parse_terrain(format_terrain(line)), line)
        self.assertEqual(parse_terrain(""), ())
        for bad, words in (("N", "not a direction and a height"), ("N x", "not a height in degrees"), ("N 81", "0 to 80"), ("N -1", "0 to 80"), ("Q 3", "not a number of degrees"), (",".join(f"{k} 1" for k in range(37)), "at most 36")):  # fmt: skip
            with self.subTest(bad), self.assertRaisesRegex(CoreError, words):
                parse_terrain(bad)

    def test_it_runs_straight_between_its_points_and_over_north(self):
        line = ((90.0, 10.0), (270.0, 20.0))
        self.assertEqual(terrain_deg(line, np.array([90, 180, 0, 315])).tolist(), [10, 15, 15, 17.5])
        self.assertEqual(float(terrain_deg((), 12.0)), 0.0)

    def test_behind_a_hill_there_is_no_sun_and_nothing_warns_of_it(self):
        place = PlacePart(51.4, -5.2, "", "2027-09-01", "UTC")
        document = Document(view=View(heading_deg=249.0, tilt_deg=10.0, time="16:50"))
        open_sky = frame_sky(document, place, Conditions(), 35.0)
        self.assertEqual((open_sky.light, open_sky.sun_gap_deg, open_sky.sun_is_hidden), ("back", 0.0, False))
        lower, higher = open_sky.sun_altitude_deg - 0.5, open_sky.sun_altitude_deg + 0.5
        behind = frame_sky(document, replace(place, hills=((0.0, higher),)), Conditions(), 35.0)
        self.assertEqual((behind.light, behind.shadow, behind.sun_gap_deg), ("none", None, None))
        self.assertTrue(behind.sun_is_hidden)
        over = frame_sky(document, replace(place, hills=((0.0, lower),)), Conditions(), 35.0)
        self.assertEqual((over.light, over.sun_gap_deg), ("back", 0.0))

    def test_wanted_sun_waits_for_the_hill(self):
        flat = lambda hills: Sample(np.array([-0.5, 5.0]), None, *[np.zeros(2)] * 4, hills).up.tolist()
        self.assertEqual(flat(0.0), [True, True], "refraction counts")
        self.assertEqual(flat(np.array([4.0, 4.0])), [False, True])
        self.assertEqual(flat(np.array([0.0, 6.0])), [True, False])


class CardLight(SimpleTestCase):
    def test_twilight_has_its_published_light(self):
        light = card_light(np.array([-0.83, -6.0, -12.0, -18.0, -18.1]))
        np.testing.assert_allclose(light.shade[:4], np.log2(np.array([453, 3.40, 8.31e-3, 6.51e-4]) / 2.5), atol=1e-9)
        self.assertTrue(np.isnan(light.shade[4]) and np.isnan(light.sunlit).all())
        np.testing.assert_allclose(light.overcast[:4], light.shade[:4] - 2)

    def test_day_is_the_guide(self):
        light = card_light(np.array([5.0, 20.0, 42.5]))
        self.assertEqual(light.sunlit.tolist(), [sunlit_ev100(a) for a in (5.0, 20.0, 42.5)])
        self.assertEqual(light.overcast[1], daylight_ev100("overcast", 20.0).ev100)
        self.assertAlmostEqual(light.sunlit[1] - light.shade[1], 3.0)

    def test_no_curve_jumps_at_sunset(self):
        altitudes = np.arange(-2, 12, 0.05)
        light = card_light(altitudes)
        for curve in (light.shade, light.overcast):
            self.assertLess(np.abs(np.diff(curve)).max(), 0.35)
            self.assertTrue((np.diff(curve) >= -1e-9).all(), "more sun is never darker")
        up = altitudes > 0.2
        self.assertTrue((light.sunlit[up] >= light.shade[up]).all())
        self.assertLess(daylight_ev100("overcast", 1.0).ev100, daylight_ev100("overcast", 8.0).ev100)
