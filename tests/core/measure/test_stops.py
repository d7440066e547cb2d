"""Marked and exact values, and the notations people write."""

import math

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.errors import CoreError
from dimgrey.core.measure import notation, stops

NOTATIONS = [
    # what is written, what it is exactly
    (notation.parse_time, "1/125", 2**-7),
    (notation.parse_time, "125", 2**-7),
    (notation.parse_time, '0.5"', 0.5),
    (notation.parse_time, "2s", 2),
    (notation.parse_time, "2 s", 2),
    (notation.parse_time, "1m30", 2**6.5),
    (notation.parse_time, "60s", 64),
    (notation.parse_time, "30s", 32),
    (notation.parse_time, "1 min 20 s", 2 ** (19 / 3)),
    (notation.parse_aperture, "f8", 8),
    (notation.parse_aperture, "f/8", 8),
    (notation.parse_aperture, "8", 8),
    (notation.parse_aperture, "F 11", 2**3.5),
    (notation.parse_aperture, "f/1.7", 2**0.75),
    (notation.parse_speed, "ISO 125", 100 * 2 ** (1 / 3)),
    (notation.parse_speed, "400", 400),
]

EVS = [
    ("EV 12.3", 12.3),
    ("12.3", 12.3),
    ("12,3", 12.3),
    ("12 1/3", 12 + 1 / 3),
    ("12⅓", 12 + 1 / 3),
    ("−⅔", -2 / 3),
    ("-2", -2),
    ("1/3", 1 / 3),
]

REFUSALS = [
    (notation.parse_time, "1/0", "Exposure time must be more than 0 s (got 1/0). For 1/125 s write 1/125."),
    (notation.parse_time, "0", "Exposure time must be more than 0 s (got 0). For 1/125 s write 1/125."),
    (notation.parse_time, "-2s", "Exposure time must be more than 0 s (got -2s). For 1/125 s write 1/125."),
    (notation.parse_time, "1/130", "1/130 is not a marked value. Nearest: 1/160 or 1/125."),
    (notation.parse_time, "soon", '“soon” is not a shutter time. Write 1/125, 0.5", 2s or 1m30.'),
    (notation.parse_time, "1000000000", "1000000000 is outside the scale, which runs from 1/16000 to 64 min."),
    (notation.parse_aperture, "f/7.5", "f/7.5 is not a marked value. Nearest: f/7.1 or f/8."),
    (notation.parse_aperture, "0", "An f-number must be more than 0 (got 0). Write f/8 or 8."),
    (notation.parse_aperture, "wide", "“wide” is not an aperture. Write f/8, f8 or 8."),
    (notation.parse_speed, "-100", "ISO speed must be more than 0 (got -100). Write 400."),
    (
        notation.parse_ev,
        "40",
        "EV 40 is outside what a meter reads in a scene (−6 to 20). Sunlit ground is about 15, a lamplit room 6.",
    ),
    (notation.parse_ev, "bright", "“bright” is not a number of stops. Write 12.3, 12 1/3 or 12⅓."),
    (notation.parse_ev, "12 1/0", "“12 1/0” divides by zero. Write 12 1/3 for twelve and a third."),
    (notation.parse_ev, "10^9", "“10^9” is not a number of stops. Write 12.3, 12 1/3 or 12⅓."),
]


class MarkedValues(SimpleTestCase):
    def test_marked_values_are_names_of_exact_ones(self):
        for parse, text, exact in NOTATIONS:
            with self.subTest(text=text):
                self.assertAlmostEqual(parse(text).exact, exact, places=9)

    def test_every_engraved_number_lies_close_to_its_exact_value(self):
        # Engraving rounds: in half steps 1/10 and 1/20 are the coarsest.
        for table, number, scale in (
            (stops.APERTURES, float, stops.aperture_stops),
            (stops.TIMES, notation._nominal_seconds, stops.time_stops),
            (stops.SPEEDS, float, stops.speed_stops),
        ):
            for increment, series in table.items():
                for marked in series:
                    with self.subTest(increment=increment, name=marked.name):
                        self.assertLess(abs(scale(number(marked.name)) - marked.stops), 0.18)

    def test_series_rise_in_equal_steps(self):
        for table in (stops.APERTURES, stops.TIMES, stops.SPEEDS):
            for increment, series in table.items():
                steps = {round(b.stops - a.stops, 9) for a, b in zip(series, series[1:], strict=False)}
                self.assertEqual(steps, {round(1 / stops.INCREMENTS[increment], 9)})

    def test_the_same_name_means_another_exact_value_on_a_camera_in_half_stops(self):
        self.assertAlmostEqual(notation.parse_aperture("13", "half").exact, 2 ** (7.5 / 2))
        self.assertAlmostEqual(notation.parse_aperture("13", "third").exact, 2 ** (22 / 6))
        self.assertAlmostEqual(notation.parse_time("1/20", "half").exact, 2**-4.5)

    def test_refusals_name_the_nearest_marked_value(self):
        for parse, text, sentence in REFUSALS:
            with self.subTest(text=text), self.assertRaises(CoreError) as refused:
                parse(text)
            with self.subTest(text=text):
                self.assertEqual(str(refused.exception), sentence)

    def test_ev_notations(self):
        for text, value in EVS:
            with self.subTest(text=text):
                self.assertAlmostEqual(notation.parse_ev(text), value)

    def test_thirds_and_halves_are_shown_as_fractions(self):
        cases = [(12.33, 3, "12⅓"), (-2 / 3, 3, "−⅔"), (0.05, 3, "0"), (6.5, 2, "6½"), (-0.1, 3, "0"), (16.98, 3, "17")]
        for value, divisions, text in cases:
            with self.subTest(value=value):
                self.assertEqual(stops.format_stops(value, divisions), text)
        self.assertEqual(stops.format_stops(2.33, signed=True), "+2⅓")

    def test_exact_times_are_rounded_for_reading(self):
        for seconds, text in [(5.24, "5.2 s"), (174, "2 min 54 s"), (0.004, "1/250 s"), (45, "45 s"), (7200, "2 h")]:
            with self.subTest(seconds=seconds):
                self.assertEqual(stops.format_seconds(seconds), text)

    @given(st.integers(min_value=-18, max_value=60))
    def test_what_is_shown_in_thirds_is_read_back(self, thirds):
        value = thirds / 3
        self.assertTrue(math.isclose(notation.parse_ev(stops.format_stops(value)), value, abs_tol=1e-9))

    @given(st.sampled_from(["full", "half", "third"]), st.data())
    def test_every_marked_name_is_read_back_on_its_own_scale(self, increment, data):
        time = data.draw(st.sampled_from(stops.TIMES[increment]))
        self.assertEqual(notation.parse_time(stops.format_time(time), increment), time)
        aperture = data.draw(st.sampled_from(stops.APERTURES[increment]))
        self.assertEqual(notation.parse_aperture(stops.format_aperture(aperture), increment), aperture)

    @given(st.text(max_size=40))
    def test_no_text_breaks_the_readers(self, text):
        for parse in (notation.parse_time, notation.parse_aperture, notation.parse_speed, notation.parse_ev):
            try:
                parse(text)
            except CoreError as refused:
                self.assertTrue(str(refused).endswith("."))
