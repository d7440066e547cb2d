"""Sun, moon, sky and polarizer against an independent ephemeris, the standard's figures, and hand calculation."""

import math
from dataclasses import replace
from datetime import UTC, date, datetime, time, timedelta

import ephem
import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.colour.chain import glass_chain
from dimgrey.core.document.model import Document, PlacePart, View
from dimgrey.core.document.tones import ToneEntry
from dimgrey.core.errors import CoreError, OutOfRange
from dimgrey.core.sky import clock, dome, framesky, moon, skytone, skyview, sunlight, wants
from dimgrey.core.sky.conditions import AIRS, Conditions
from dimgrey.core.sky.daylight import daylight_ev100
from dimgrey.core.sky.sun import crossings, refraction_deg, sun_day, sun_position

PLACES = {
    "polar north": (78.2, 15.6),
    "north": (59.9, 10.7),
    "temperate": (51.45, -2.62),
    "tropic": (1.3, 103.8),
    "south": (-33.9, 18.4),
    "far south": (-54.8, -68.3),
    "polar south": (-77.8, 166.7),
}
DAYS = [datetime(y, m, d, h, tzinfo=UTC) for y in (1951, 2000, 2026, 2074) for m, d in ((1, 3), (3, 20), (6, 21), (11, 25)) for h in (2, 9, 16, 21)]  # fmt: skip


def observer(latitude, longitude, moment, pressure=0):
    there = ephem.Observer()
    there.lat, there.lon, there.elevation = str(latitude), str(longitude), 0
    there.pressure, there.temp = pressure, 10
    there.date = moment.strftime("%Y/%m/%d %H:%M:%S")
    return there


class SunAndMoon(SimpleTestCase):
    def test_the_sun_stands_where_an_ephemeris_puts_it_within_a_fiftieth_of_a_degree(self):
        worst = 0.0
        for name, (latitude, longitude) in PLACES.items():
            for moment in DAYS:
                body = ephem.Sun(observer(latitude, longitude, moment))
                ours = sun_position(clock.julian_date(moment), latitude, longitude)
                apart = dome.angle_between_deg(
                    ours.true_altitude_deg, ours.azimuth_deg, math.degrees(body.alt), math.degrees(body.az)
                )
                worst = max(worst, float(apart))
                with self.subTest(place=name, moment=moment):
                    self.assertLess(apart, 0.02)
        self.assertGreater(worst, 0, "the two were not computed by the same code")

    def test_refraction_follows_the_ephemeris_near_the_horizon(self):
        moment = datetime(2026, 6, 21, 3, 0, tzinfo=UTC)
        for minutes in range(50, 200, 15):
            at = moment + timedelta(minutes=minutes)
            body = ephem.Sun(observer(51.45, -2.62, at, 1010))
            ours = sun_position(clock.julian_date(at), 51.45, -2.62)
            if math.degrees(body.alt) < 0.3:
                continue  # the ephemeris lifts bodies below the horizon as well; nobody sees them
            self.assertAlmostEqual(float(ours.altitude_deg), math.degrees(body.alt), delta=0.08)
        # Bennett (1982): 29 arc minutes at the apparent horizon, 1 at 45 degrees.
        self.assertAlmostEqual(float(refraction_deg(45)) * 60, 1.0, delta=0.05)

    def test_the_moon_and_its_phase_follow_the_ephemeris(self):
        for name, (latitude, longitude) in PLACES.items():
            for moment in DAYS:
                body = ephem.Moon(observer(latitude, longitude, moment))
                ours = moon.moon_at(clock.julian_date(moment), latitude, longitude)
                with self.subTest(place=name, moment=moment):
                    true = float(ours.altitude_deg) - float(refraction_deg(math.degrees(body.alt)))
                    self.assertAlmostEqual(true, math.degrees(body.alt), delta=0.3)
                    self.assertAlmostEqual(float(ours.illuminated), body.phase / 100, delta=0.01)

    def test_phases_have_their_names(self):
        for fraction, waxing, name in ((0, True, "new moon"), (0.2, True, "waxing crescent"), (0.5, False, "last quarter"),
                                       (0.8, False, "waning gibbous"), (1, True, "full moon")):  # fmt: skip
            self.assertEqual(moon.phase_name(fraction, waxing), name)
        for fraction, name in ((0.029, "new moon"), (0.031, "waning crescent"), (0.439, "waning crescent"), (0.441, "last quarter"),
                               (0.559, "last quarter"), (0.561, "waning gibbous"), (0.969, "waning gibbous"), (0.971, "full moon")):  # fmt: skip
            self.assertEqual(moon.phase_name(fraction, False), name)


class TheDay(SimpleTestCase):
    def day(self, latitude, longitude, when, zone="UTC"):
        return sun_day(*clock.day_bounds(when, clock.zone_named(zone)), latitude, longitude)

    def test_rise_and_set_follow_the_ephemeris_within_a_minute(self):
        for name in ("temperate", "tropic", "south"):
            latitude, longitude = PLACES[name]
            for when in (date(2026, 3, 20), date(2026, 6, 21), date(2026, 11, 25)):
                there = observer(latitude, longitude, datetime.combine(when, time(0), tzinfo=UTC))
                there.horizon = "-0:50"
                expected = {
                    "rising": there.next_rising(ephem.Sun(), use_center=True),
                    "setting": there.next_setting(ephem.Sun(), use_center=True),
                }
                found = self.day(latitude, longitude, when).crossings["sun"]
                for kind, moment in expected.items():
                    ours = clock.moment_of(getattr(found, kind)[0])
                    difference = abs((ours - moment.datetime().replace(tzinfo=UTC)).total_seconds())
                    with self.subTest(place=name, when=when, kind=kind):
                        self.assertLess(difference, 60)

    def test_polar_days_and_nights_are_values(self):
        summer, winter = self.day(78.2, 15.6, date(2026, 6, 21)), self.day(78.2, 15.6, date(2026, 12, 21))
        self.assertEqual(summer.crossings["sun"].state, "all day")
        self.assertEqual(winter.crossings["sun"].state, "never")
        self.assertEqual(winter.low, ())
        self.assertEqual(self.day(-77.8, 166.7, date(2026, 12, 21)).crossings["sun"].state, "all day")
        self.assertEqual(self.day(59.9, 10.7, date(2026, 6, 21)).crossings["astronomical"].state, "all day")

    def test_a_local_day_is_as_long_as_its_clocks_make_it(self):
        zone = clock.zone_named("Europe/Lisbon")
        for when, hours in ((date(2026, 3, 29), 23), (date(2026, 10, 25), 25), (date(2026, 5, 1), 24)):
            start, end = clock.day_bounds(when, zone)
            self.assertAlmostEqual((end - start) * 24, hours, places=6)

    def test_skipped_and_repeated_times_are_said(self):
        zone = clock.zone_named("Europe/Lisbon")
        moment, note = clock.local_moment(date(2026, 3, 29), time(1, 30), zone)
        self.assertEqual((moment.strftime("%H:%M"), note), ("02:30", "Clocks skip 01:30 on this day; 02:30 is meant."))
        moment, note = clock.local_moment(date(2026, 10, 25), time(1, 30), zone)
        self.assertEqual(moment.utcoffset(), timedelta(hours=1))
        self.assertIn("comes twice", note)
        self.assertEqual(clock.local_moment(date(2026, 5, 1), time(1, 30), zone)[1], "")

    def test_crossings_lie_between_samples(self):
        jd = np.linspace(0, 1, 11)
        found = crossings(jd, np.sin(jd * 2 * np.pi) * 10, 5.0)
        self.assertAlmostEqual(found.rising[0], math.asin(0.5) / (2 * math.pi), delta=0.01)
        self.assertAlmostEqual(found.setting[0], 0.5 - math.asin(0.5) / (2 * math.pi), delta=0.01)

    def test_refusals(self):
        for call, sentence in (
            (lambda: clock.parse_day("2300-01-01"), "The sky is computed for the years 1900 to 2100 (got 2300)."),
            (lambda: clock.parse_day("soon"), "“soon” is not a date. Write 2026-11-25."),
            (lambda: clock.parse_clock("25:00"), "“25:00” is not a time of day. Write 16:40."),
            (lambda: clock.zone_named("Mars/Crater"), "“Mars/Crater” is not a time zone. Write one like Europe/Lisbon or UTC."),
        ):  # fmt: skip
            with self.subTest(sentence), self.assertRaises(CoreError) as caught:
                call()
            self.assertEqual(str(caught.exception), sentence)

    def test_times_of_day_as_people_write_them(self):
        for text in ("16:40", "1640", "16.40", "16:40h"):
            self.assertEqual(clock.parse_clock(text), time(16, 40))
        self.assertEqual(clock.parse_clock("7"), time(7))


class Dome(SimpleTestCase):
    def test_the_angle_between_is_the_great_circle(self):
        for a, b, expected in (
            ((30, 90), (30, 90), 0),
            ((0, 0), (0, 180), 180),
            ((90, 5), (20, 200), 70),
            ((45, 0), (45, 90), 60),
        ):
            self.assertAlmostEqual(float(dome.angle_between_deg(*a, *b)), expected, places=4)

    def test_the_standard_overcast_sky_is_three_times_brighter_at_the_zenith(self):
        # CIE S 011 type 1 is close to the classic (1 + 2 sin h) / 3 sky: 1/3 at the horizon, 2/3 at 30 degrees.
        for altitude, classic in ((90, 1.0), (30, 2 / 3), (3, 0.37)):
            value = float(dome.relative_luminance(altitude, 80, 40, dome.OVERCAST))
            self.assertAlmostEqual(value, classic, delta=0.06)

    def test_the_clear_sky_by_hand(self):
        # h 45, Z 45, g 90, hs 30: phi = (1 - exp(-.32/.70711)) / (1 - exp(-.32)); f(90) = 1; f(Zs 60) = 1 + 10(e^-pi - e^-1.5pi) + .45/4.
        phi = (1 - math.exp(-0.32 / math.sin(math.pi / 4))) / (1 - math.exp(-0.32))
        f_sun = 1 + 10 * (math.exp(-math.pi) - math.exp(-1.5 * math.pi)) + 0.45 * 0.25
        self.assertAlmostEqual(float(dome.relative_luminance(45, 90, 30)), phi / f_sun, places=9)

    def test_a_clear_sky_is_deepest_well_away_from_the_sun(self):
        altitudes, azimuths = np.meshgrid(np.arange(5, 90, 5), np.arange(0, 360, 5))
        for sun in (20, 40, 55):
            gamma = dome.angle_between_deg(altitudes, azimuths, sun, 180)
            deepest = float(gamma.ravel()[np.argmin(dome.relative_luminance(altitudes, gamma, sun))])
            self.assertTrue(70 <= deepest <= 110, deepest)

    def test_crossed_polarizer_on_a_clear_sky(self):
        for gamma, stops in ((90, -2.3), (60, -0.9), (30, -0.2), (0, 0.0), (180, 0.0)):
            self.assertAlmostEqual(float(dome.polarizer_stops(gamma, 0.8)), stops, delta=0.06)
        self.assertEqual(float(dome.polarizer_stops(90, AIRS["overcast"])), 0.0)

    def test_a_polarizer_that_is_turned_away_takes_less_and_nothing_at_45_degrees(self):
        """By hand: P 0.8 at a right angle, log2(1 - 0.8 cos 45) = -1.203 at 22.5 degrees from crossed."""
        self.assertAlmostEqual(float(dome.polarizer_stops(90, 0.8, 22.5)), -1.203, places=3)
        self.assertEqual(float(dome.polarizer_stops(90, 0.8, 0)), float(dome.polarizer_stops(90, 0.8)))
        self.assertAlmostEqual(float(dome.polarizer_stops(90, 0.8, 45)), 0.0)

    def test_frame_points_look_where_the_lens_does(self):
        at = dome.frame_directions(90, 0, 50)
        self.assertEqual((at["centre"].altitude_deg, at["centre"].azimuth_deg), (0, 90))
        self.assertAlmostEqual(
            at["right"].azimuth_deg - at["left"].azimuth_deg, 2 * math.degrees(math.atan(18 / 50)), places=6
        )
        self.assertAlmostEqual(at["top"].altitude_deg, math.degrees(math.atan(12 / 50)), places=6)
        up = dome.frame_directions(350, 30, 24)
        self.assertAlmostEqual(up["centre"].altitude_deg, 30, places=9)
        self.assertAlmostEqual(up["top"].altitude_deg, 30 + math.degrees(math.atan(12 / 24)), places=9)
        # Corners are as far from the axis as half the diagonal says.
        corner = up["top right"]
        gap = dome.angle_between_deg(30, 350, corner.altitude_deg, corner.azimuth_deg)
        self.assertAlmostEqual(float(gap), math.degrees(math.atan(math.hypot(18, 12) / 24)), places=6)


class LightOnAScene(SimpleTestCase):
    def test_front_side_and_back(self):
        for heading, sun, altitude, expected in ((0, 180, 30, "front"), (0, 90, 30, "side"), (0, 350, 30, "back"), (10, 300, 30, "side"), (0, 180, -1, "none")):  # fmt: skip
            self.assertEqual(sunlight.light_from(heading, sun, altitude), expected)

    def test_shadows_are_as_long_as_things_at_45_degrees(self):
        self.assertAlmostEqual(sunlight.shadow_length(3, 45), 3)
        self.assertAlmostEqual(sunlight.shadow_length(1, 26.565), 2, places=3)
        self.assertIsNone(sunlight.shadow_length(1, 0))
        self.assertEqual(sunlight.shadow_azimuth_deg(200), 20)

    def sample(self, **given):
        n = 24
        values = {
            "altitude_deg": np.full(n, 15.0),
            "turn_deg": np.full(n, 90.0),
            "cloud_percent": np.zeros(n),
            "visibility_km": np.full(n, 30.0),
            "moon_altitude_deg": np.full(n, -10.0),
            "moon_illuminated": np.zeros(n),
            **given,
        }
        return np.arange(n) / 24, sunlight.Sample(**values)

    def test_each_want_holds_where_its_light_is_and_not_elsewhere(self):
        for code, right, wrong in (
            ("side-low", {}, {"altitude_deg": np.full(24, 30.0)}),
            ("side", {}, {"turn_deg": np.full(24, 170.0)}),
            ("front", {"turn_deg": np.full(24, 170.0)}, {}),
            ("back", {"turn_deg": np.full(24, 10.0)}, {"cloud_percent": np.full(24, 100.0)}),
            ("low", {"altitude_deg": np.full(24, 5.0)}, {}),
            ("high", {"altitude_deg": np.full(24, 50.0)}, {}),
            ("cloud", {"cloud_percent": np.full(24, 40.0)}, {}),
            ("overcast", {"cloud_percent": np.full(24, 95.0)}, {}),
            ("mist", {"visibility_km": np.full(24, 0.5)}, {}),
            ("blue-hour", {"altitude_deg": np.full(24, -6.0)}, {}),
            ("night", {"altitude_deg": np.full(24, -20.0)}, {}),
            ("moon", {"altitude_deg": np.full(24, -20.0), "moon_altitude_deg": np.full(24, 30.0), "moon_illuminated": np.ones(24)}, {}),
        ):  # fmt: skip
            with self.subTest(code):
                self.assertEqual(len(sunlight.windows([code], *self.sample(**right))), 1)
                self.assertEqual(sunlight.windows([code], *self.sample(**wrong)), ())
        self.assertEqual(set(wants.WANTS), {"side-low", "side", "front", "back", "low", "high", "cloud", "overcast", "mist", "blue-hour", "night", "moon"})  # fmt: skip

    def test_wants_must_hold_together_and_heading_wants_wait_for_a_heading(self):
        jd, sample = self.sample(cloud_percent=np.repeat([0.0, 40.0], 12))
        (span,) = sunlight.windows(["side", "cloud"], jd, sample)
        self.assertAlmostEqual(span[0], 11.5 / 24)
        jd, sample = self.sample(turn_deg=None)
        self.assertEqual(sunlight.windows(["side"], jd, sample), ())
        with self.assertRaises(OutOfRange):
            sunlight.windows(["glow"], jd, sample)


class SkyTone(SimpleTestCase):
    sun = dome.Direction(40.0, 180.0)

    def tone(self, heading, **more):
        return skytone.sky_tone(self.sun, dome.frame_directions(heading, 15, more.pop("focal", 35)), **more)

    def test_a_clear_sky_away_from_the_sun_lies_near_a_zone_below_sunlit_grey(self):
        self.assertTrue(3.5 < self.tone(0).zone(self.tone(0).main) < 5)
        self.assertLess(self.tone(0).main.stops, self.tone(180).main.stops)

    def test_red_and_polarizer_take_it_down_and_haze_lifts_it(self):
        plain = self.tone(0).main.stops
        red = self.tone(0, chain=glass_chain("general panchromatic", "D55", ("red",))).main
        self.assertLess(red.filter_stops, -0.3)
        crossed = self.tone(90, turned_deg=0.0).main
        self.assertLess(crossed.polarizer_stops, -1)
        self.assertAlmostEqual(crossed.stops - self.tone(90).main.stops, crossed.polarizer_stops)
        self.assertGreater(self.tone(0, air="hazy").main.stops, plain)

    def test_the_setting_moves_the_zone_stop_for_stop(self):
        tone = self.tone(0)
        self.assertAlmostEqual(tone.zone(tone.main, tone.sunlit_ev100), 5 + tone.main.stops)
        self.assertAlmostEqual(tone.zone(tone.main, tone.sunlit_ev100 + 1), 4 + tone.main.stops)

    def test_below_the_horizon_there_is_no_sky(self):
        tone = skytone.sky_tone(self.sun, dome.frame_directions(0, 0, 35))
        self.assertIsNone(tone.points["bottom"])
        self.assertIsNotNone(tone.points["top"])

    def test_the_sky_colour_is_daylight_of_25000_kelvin_under_sunlight(self):
        import colour

        def rgb(kelvin):
            xyz = colour.xy_to_XYZ(colour.temperature.CCT_to_xy_CIE_D(kelvin))
            return colour.XYZ_to_RGB(xyz, "sRGB", apply_cctf_encoding=False, chromatic_adaptation_transform=None)

        np.testing.assert_allclose(skyview.SKY_COLOUR, rgb(25000) / rgb(5500), atol=0.03)

    def test_an_overcast_sky_is_blank_above_a_grey_card(self):
        self.assertTrue(1.8 < skytone.overcast_stops(20) < skytone.overcast_stops(80) < 3)


class Daylight(SimpleTestCase):
    def test_the_measured_year(self):
        for kind, altitude, ev in (("sun", 10, 13.6), ("sun", 20, 14.7), ("sun", 70, 15.3), ("overcast", 30, 12.9), ("open shade", 42.5, 12.2), ("full moon", -20, -3)):  # fmt: skip
            self.assertAlmostEqual(daylight_ev100(kind, altitude).ev100, ev, places=6)

    def test_a_sun_that_is_down_gives_no_daylight(self):
        with self.assertRaisesMessage(OutOfRange, "The sun is 5 degrees below the horizon; there is no sun."):
            daylight_ev100("sun", -5)
        with self.assertRaises(OutOfRange):
            daylight_ev100("disco")


class Weather(SimpleTestCase):
    def test_the_air_follows_cloud_and_haze(self):
        self.assertEqual(Conditions(cloud_percent=95).air, "overcast")
        self.assertEqual(Conditions(visibility_km=8).air, "hazy")
        self.assertEqual(Conditions().air, "clear")
        self.assertIn("mist, 0.5 km", Conditions(visibility_km=0.5).words())
        self.assertIn("tide −1.2 m", Conditions(tide_m=-1.2).words())


class SkyInTheFrame(SimpleTestCase):
    def test_it_is_said_or_a_tone_is_one(self):
        tone = lambda role: Document(tones=(ToneEntry(name="a", role=role),))
        self.assertEqual([framesky.has_sky(d) for d in (Document(), tone("subject"), tone("sky"), Document(view=View(sky=True)))],
                         [False, False, True, True])  # fmt: skip


class PlannedMoments(SimpleTestCase):
    def test_place_day_and_time_are_all_needed(self):
        place = PlacePart(51.5, -3.2, date="2027-06-21", zone="Europe/Lisbon")
        moment, note = framesky.planned_moment(place, View(time="12:00"))
        self.assertAlmostEqual(moment, clock.julian_date(datetime(2027, 6, 21, 11, tzinfo=UTC)), places=6)
        self.assertEqual(note, "")
        for lacking, view in ((None, View(time="12:00")), (place, View()), (replace(place, date=""), View(time="12:00")),
                              (replace(place, date="2027-13-40"), View(time="12:00"))):  # fmt: skip
            self.assertEqual(framesky.planned_moment(lacking, view), (None, ""))
