"""EV, luminance, and the pairs that give one exposure. Values by hand from N, t and S."""

import math

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.errors import CoreError, OutOfRange
from dimgrey.core.measure import exposure, longexposure, notation, optics, stops
from dimgrey.core.measure.readings import parse_reading

EV100 = [
    ("16", "1/125", "100", 15.0),
    ("8", "1/60", "400", 10.0),
    ("11", "1/250", "125", 14.667),
    ("22", "4s", "64", 7.667),
    ("2", "1/15", "1600", 2.0),
]


class ExposureValues(SimpleTestCase):
    def test_ev100_of_marked_settings(self):
        for f, t, s, ev in EV100:
            with self.subTest(f=f, t=t, s=s):
                value = exposure.ev100(
                    notation.parse_aperture(f).exact, notation.parse_time(t).exact, notation.parse_speed(s).exact
                )
                self.assertAlmostEqual(value, ev, places=3)

    def test_ev_15_is_4096_candelas(self):
        self.assertAlmostEqual(exposure.luminance_cd_m2(15), 4096)
        self.assertAlmostEqual(exposure.luminance_cd_m2(15, k=14) / 4096, 2**0.1635, places=3)

    def test_incident_and_reflected_agree_on_15_7_percent(self):
        reflectance = math.pi * exposure.luminance_cd_m2(10) / exposure.illuminance_lux(10)
        self.assertAlmostEqual(reflectance, 0.157, places=3)

    def test_zero_and_negative_are_refused_with_the_way_out(self):
        with self.assertRaises(OutOfRange) as refused:
            exposure.exposure_value(8, 0)
        self.assertEqual(
            str(refused.exception), "Exposure time s must be more than 0 (got 0). For 1/125 s write 1/125."
        )
        self.assertEqual(refused.exception.parameter, "exposure_time_s")

    @given(st.floats(0.7, 90), st.floats(1e-4, 4000), st.floats(6, 100000))
    def test_one_stop_of_aperture_costs_one_ev(self, n, t, s):
        self.assertAlmostEqual(exposure.ev100(n * 2**0.5, t, s), exposure.ev100(n, t, s) + 1, places=6)

    @given(st.floats(-6, 20), st.sampled_from([25, 100, 125, 400, 3200]), st.sampled_from(["full", "half", "third"]))
    def test_every_pair_gives_the_exposure_within_half_a_step(self, ev, iso, increment):
        for pair in exposure.combinations(ev, iso, increment):
            given_ev = exposure.ev100(pair.aperture.exact, pair.shutter.exact, iso)
            self.assertAlmostEqual(ev - given_ev, pair.rounding_stops, places=6)
            self.assertLessEqual(abs(pair.rounding_stops), 0.5 / stops.INCREMENTS[increment] + 1e-9)

    def test_pairs_stay_within_the_camera(self):
        limits = exposure.Limits(2.0, 16.0, 2**-10, 1.0)
        pairs = exposure.combinations(12, 100, "third", limits)
        self.assertEqual((pairs[0].aperture.name, pairs[-1].aperture.name), ("2", "16"))
        self.assertEqual(exposure.combinations(20, 3200, "third", limits), ())


class LongExposures(SimpleTestCase):
    def test_exponent_1_26(self):
        film = longexposure.reciprocity(1.26)
        for t, corrected in ((4, 5.7), (15, 30.3), (60, 174), (0.5, 0.5)):
            with self.subTest(t=t):
                self.assertAlmostEqual(longexposure.corrected_seconds(t, film), corrected, delta=corrected * 0.01)

    def test_a_table_is_met_at_its_rows_and_between_them(self):
        film = longexposure.reciprocity(table=[(1, 1), (10, 30), (100, 900)])
        self.assertAlmostEqual(longexposure.corrected_seconds(10, film), 30)
        self.assertAlmostEqual(longexposure.corrected_seconds(10**0.5, film), 30**0.5)
        self.assertAlmostEqual(longexposure.corrected_seconds(1000, film), 27000)
        late = longexposure.Reciprocity(1.5, 2.0)
        self.assertEqual([longexposure.corrected_seconds(t, late) for t in (1.0, 2.0, 8.0)], [1.0, 2.0, 16.0])
        self.assertEqual(longexposure.corrected_seconds(0.25, film), 0.25)

    def test_a_table_that_falls_is_refused(self):
        for table in ([(1, 1), (10, 5)], [(10, 30), (1, 1)], [(0, 1), (2, 3)]):
            with self.subTest(table=table), self.assertRaises(CoreError):
                longexposure.reciprocity(table=table)

    @given(st.floats(0.01, 3000), st.floats(1, 2))
    def test_a_corrected_time_is_never_shorter(self, t, p):
        self.assertGreaterEqual(longexposure.corrected_seconds(t, longexposure.reciprocity(p)), t * (1 - 1e-12))

    def test_life_size_costs_two_stops(self):
        self.assertEqual(optics.bellows_stops(0), 0)
        self.assertEqual(optics.bellows_stops(1), 2)


class WrittenReadings(SimpleTestCase):
    def test_ev_or_a_pair_in_any_order(self):
        cases = [
            ("13⅓", {"ev100": 13.3333}),
            ("EV 9", {"ev100": 9.0}),
            ("1/125 f/8", {"shutter": "1/125", "aperture": "f/8", "iso": "100"}),
            ("f8 125", {"shutter": "1/125", "aperture": "f/8", "iso": "100"}),
            ("f/11 2s ISO 400", {"shutter": "2s", "aperture": "f/11", "iso": "400"}),
        ]
        for text, reading in cases:
            with self.subTest(text=text):
                self.assertEqual(parse_reading(text), reading)

    def test_half_a_reading_is_refused_with_the_other_half(self):
        for text, sentence in [
            ("1/125", "“1/125” is a time without an aperture. Write 1/125 f/8, or an EV."),
            ("f/8", "“f/8” has an aperture but no time. Write 1/125 f/8."),
            ("", "Type a reading: an EV such as 12⅓, or 1/125 f/8."),
            ("1/0 f/8", "Exposure time must be more than 0 s (got 1/0). For 1/125 s write 1/125."),
        ]:
            with self.subTest(text=text), self.assertRaises(CoreError) as refused:
                parse_reading(text)
            with self.subTest(text=text):
                self.assertEqual(str(refused.exception), sentence)

    def test_a_pair_that_no_scene_gives_is_refused(self):
        with self.assertRaises(OutOfRange):
            parse_reading("1/8000 f/32 ISO 25")
