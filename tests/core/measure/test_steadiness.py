from django.test import SimpleTestCase

from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.handheld import handheld_limit_s, wind_shakes


class Steadiness(SimpleTestCase):
    def test_a_hand_holds_one_over_the_focal_length(self):
        self.assertEqual(handheld_limit_s(50), 1 / 50)
        self.assertEqual(handheld_limit_s(200, 2), 1 / 400)
        self.assertEqual(handheld_limit_s(100, 1, 3), 8 / 100)
        with self.assertRaises(OutOfRange):
            handheld_limit_s(0)

    def test_wind_shows_with_a_long_lens_at_middling_times_only(self):
        self.assertTrue(wind_shakes(8, 200, 1 / 8))
        for wind, focal, seconds in ((3, 200, 1 / 8), (8, 35, 1 / 8), (8, 200, 1 / 500), (8, 200, 30)):
            self.assertFalse(wind_shakes(wind, focal, seconds))
