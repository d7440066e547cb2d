"""From a bias to a changed item: which number changes, which way, and by how much."""

from django.test import SimpleTestCase

from dimgrey.core.document import kit
from dimgrey.core.results.applying import change_for, headroom_of, minutes_factor


def item(kind, **values):
    return kit.item_of(kind, "mine", kit.check(kind, values))


class Changes(SimpleTestCase):
    def test_lighter_results_mean_a_low_meter_a_faster_film_and_a_smaller_factor(self):
        for kind, values, mean, changed in (
            ("meter", {"calibration_stops": 0.0}, 1 / 3, {"calibration_stops": 0.33}),
            ("meter", {"calibration_stops": -0.2}, -0.3, {"calibration_stops": -0.5}),
            ("film", {"iso": "125"}, 1 / 3, {"iso": "160"}),
            ("film", {"iso": "400"}, -2 / 3, {"iso": "250"}),
            ("filter", {"factor": 4.0}, 0.5, {"factor": 2.83}),
            ("filter", {"glass": "nd", "stops": 3.0}, -0.4, {"stops": 3.4}),
            ("filter", {}, -0.5, {"factor": 4.24}),
        ):
            with self.subTest(kind=kind, mean=mean):
                made = change_for(item(kind, **values), mean, computed_factor=3.0)
                self.assertEqual(made.values, changed)
                self.assertTrue(made.words)

    def test_words_say_before_and_after(self):
        self.assertEqual(
            change_for(item("meter"), 1 / 3).words,
            "It reads 0.33 stop low: its calibration offset goes from +0.00 to +0.33.",
        )
        self.assertIn("from 125 to 160", change_for(item("film", iso="125"), 0.3).words)

    def test_what_has_no_number_of_its_own_is_said_and_not_changed(self):
        made = change_for(item("camera"), 2 / 3)
        self.assertEqual((made.values, "dial −⅔ of compensation" in made.words), ({}, True))
        self.assertEqual(change_for(item("film"), 0.1).values, {}, "the marked speed stays")
        self.assertEqual(change_for(item("filter"), 0.5).values, {})

    def test_changed_values_are_an_item_still(self):
        values = kit.check("film", {"iso": "100", "development": "N-1 8 +1/3, N 10, N+1 13"})
        made = change_for(item("film", **values), 0.2, "contrast")
        self.assertEqual(kit.check("film", {**values, **made.values})["development"], made.values["development"])

    def test_development_times_follow_the_films_own_table(self):
        # N+1 prints with a slope of 4/3 and takes 13 minutes, N 10: log(1.3)/log(4/3) = 0.912; back from +20 %: 1.2^-0.912 = 0.847.
        self.assertAlmostEqual(minutes_factor([(0, 10.0), (1, 13.0)], 0.2), 0.8468, places=3)
        self.assertGreater(minutes_factor([(0, 10.0), (1, 13.0)], -0.2), 1.2)
        made = change_for(item("film", development="N 10"), 0.2, "contrast")
        self.assertEqual(made.values, {})
        self.assertIn("Turn its contrast down by about 57 %", change_for(item("camera"), 0.2, "contrast").words)


class Headroom(SimpleTestCase):
    def test_tones_on_both_sides_tell_where_white_begins(self):
        points = [(k / 4, k / 4 > 2.6) for k in range(4, 16)]
        self.assertAlmostEqual(headroom_of(points), 2.625, places=2)
        self.assertEqual(headroom_of([*points, (1.2, True)]), 2.62, "one that strays does not move it")

    def test_too_few_one_sided_or_contradicting_tones_tell_nothing(self):
        self.assertIsNone(headroom_of([(2.0, False), (3.0, True)]))
        self.assertIsNone(headroom_of([(k / 4, False) for k in range(12)]))
        self.assertIsNone(headroom_of([(k / 4, k % 2 == 0) for k in range(12)]))
        self.assertIsNone(headroom_of([(0.0, False)] * 4 + [(3.0, True)] * 4), "they lie too far apart")
