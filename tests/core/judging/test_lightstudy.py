"""One subject in many lights: one exposure, range, shadows, parting, mood, and the order of a day."""

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.judging.lightstudy import Sun, exposure_of, hour_of, in_order, shadow_words, stops_of


def scene(spread=6.0, key=0.0, subject=2.0):
    """Stops of a wall that runs from dark to light, with a subject in its middle."""
    field = np.tile(np.linspace(-spread / 2, spread / 2, 300), (200, 1)) + key
    rows, columns = np.ogrid[:200, :300]
    field[np.hypot(columns - 150, rows - 100) <= 21] = key + subject
    return field


class OneExposure(SimpleTestCase):
    def test_pictures_are_shown_at_the_median_of_what_they_know(self):
        self.assertEqual(exposure_of([15.0, 12.0, None, 9.0]), 12.0)
        self.assertIsNone(exposure_of([None, None]))
        grey = np.array([0.18, 0.36])
        np.testing.assert_allclose(stops_of(grey, 15.0, 12.0), [3, 4])
        np.testing.assert_allclose(stops_of(grey, None, 12.0), [0, 1])


class TheHour(SimpleTestCase):
    def test_range_parting_and_key_are_measured(self):
        found = hour_of(scene(6.0, -1.0, 2.0), (0.5, 0.5))
        self.assertAlmostEqual(found.range_stops, 6 * 0.96, delta=0.2)
        self.assertAlmostEqual(found.parting, 2.0, delta=0.1)
        self.assertAlmostEqual(found.key, -1.0, delta=0.1)
        self.assertEqual(found.shadow, "")

    def test_the_mood_is_named_from_range_key_and_sun(self):
        for stops, sun, words in (
            (scene(2.0, subject=0.5), None, ("flat",)),
            (scene(2.0, -2.0, 0.5), None, ("flat",)),
            (scene(4.0), None, ("soft",)),
            (scene(6.0), Sun(120, 8), ("full", "long shadows")),
            (scene(6.0), Sun(120, 15), ("full",)),
            (scene(9.0), Sun(120, 50), ("hard",)),
            (scene(3.5, 3.0, 1.0), None, ("soft", "high-key")),
            (scene(6.0, -4.0), Sun(300, -8), ("full", "low-key", "night")),
            (scene(4.0, 0.0), Sun(300, -1), ("soft", "dusk")),
        ):
            with self.subTest(words=words):
                self.assertEqual(hour_of(stops, (0.5, 0.5), sun).words, words)
        self.assertIn("against the light", hour_of(scene(), (0.5, 0.5), Sun(95, 30), 90.0).words)

    def test_the_light_that_a_new_scene_would_ask_for(self):
        for sun, heading, wants in (
            (Sun(180, 12), 90.0, ("side-low",)), (Sun(180, 30), 90.0, ("side",)), (Sun(270, 50), 90.0, ("front", "high")),
            (Sun(92, 8), 90.0, ("back", "low")), (Sun(92, 8), None, ("low",)), (Sun(92, -5), None, ("blue-hour",)), (Sun(92, -20), None, ("night",)),
            (None, 90.0, ()),
        ):  # fmt: skip
            with self.subTest(sun=sun, heading=heading):
                self.assertEqual(hour_of(scene(), (0.5, 0.5), sun, heading).wants, wants)
        self.assertEqual(hour_of(scene(2.0, subject=0.3), (0.5, 0.5), Sun(180, 30), 90.0).wants, ("overcast",))


class Shadows(SimpleTestCase):
    def test_they_are_told_as_seen_from_the_camera(self):
        # The camera looks north (0 degrees). A sun in the south throws shadows away from it, one in the west to the right.
        for azimuth, words in (
            (180, "away from you"),
            (270, "to the right"),
            (90, "to the left"),
            (0, "towards you"),
            (225, "away to the right"),
            (45, "towards you to the left"),
        ):
            self.assertTrue(shadow_words(Sun(azimuth, 45), 0.0).startswith(words + ","), azimuth)
        self.assertEqual(shadow_words(Sun(180, 45), 0.0), "away from you, 1.0× as long as things are high")

    def test_without_a_heading_their_length_alone_and_without_a_sun_nothing(self):
        self.assertEqual(shadow_words(Sun(180, 26.565), None), "2.0× as long as things are high")
        self.assertEqual(shadow_words(Sun(180, 1), None), "over 20× as long as things are high")
        self.assertEqual((shadow_words(None, 0.0), shadow_words(Sun(10, 0), 0.0)), ("", ""))


class TheDay(SimpleTestCase):
    def test_pictures_go_by_hour_then_by_the_suns_height_and_unknown_ones_come_last(self):
        suns = [Sun(0, 40), None, Sun(0, 10), Sun(0, 5)]
        self.assertEqual(in_order(suns, [12.0, None, 8.0, 12.0]), (2, 3, 0, 1))
