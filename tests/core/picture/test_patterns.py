"""Empty space and leading lines of made-up and demo pictures."""

import numpy as np
from django.test import SimpleTestCase
from scipy.ndimage import gaussian_filter

from dimgrey.core.picture.composition import empty_space, leading_lines
from dimgrey.core.results.samples import lightness_of_falls
from tests.reference.shots import demo_plan


def rays(at=(0.7, 0.4), count=6):
    """Dark lines from the left edge towards one place."""
    height, width = 400, 600
    rows, columns = np.mgrid[:height, :width].astype(float)
    field = np.full((height, width), 70.0)
    x, y = at[0] * width, at[1] * height
    for start in np.linspace(-0.4, 1.4, count) * height:
        away = np.abs((y - start) * columns - x * (rows - start)) / np.hypot(y - start, x)
        field[(away < 3) & (columns < x)] = 20
    return gaussian_filter(field, 0.7)


class Empty(SimpleTestCase):
    def test_an_even_half_is_empty_and_a_busy_half_is_not(self):
        rng = np.random.default_rng(1)
        field = np.full((200, 300), 80.0)
        field[:, 150:] = rng.normal(50, 15, (200, 150))
        found = empty_space(field)
        self.assertAlmostEqual(found.share, 0.48, delta=0.03)
        self.assertAlmostEqual(found.lightness, 80, delta=0.5)
        self.assertFalse(found.inside[:, 200:].any())

    def test_noise_has_none_and_small_even_spots_do_not_count(self):
        rng = np.random.default_rng(2)
        field = rng.normal(50, 15, (200, 300))
        self.assertEqual((empty_space(field).share, empty_space(field).lightness), (0.0, None))
        field[50:75, 50:75] = 50
        self.assertEqual(empty_space(field).share, 0.0)

    def test_the_sky_over_the_kiln_is_empty(self):
        plan = demo_plan("a_kiln_and_sky")
        found = empty_space(lightness_of_falls(plan.falls, plan.printing))
        self.assertTrue(found.inside[20, 50])
        self.assertFalse(found.inside[400, 400])


class Leads(SimpleTestCase):
    def test_lines_that_run_together_tell_where(self):
        found = leading_lines(rays())
        self.assertGreaterEqual(len(found.lines), 4)
        np.testing.assert_allclose(found.meet, (0.7, 0.4), atol=0.03)

    def test_without_lines_or_with_level_ones_nothing_meets(self):
        self.assertEqual(leading_lines(np.full((100, 150), 50.0)).lines, ())
        level = np.full((200, 300), 70.0)
        level[100:] = 30
        self.assertIsNone(leading_lines(gaussian_filter(level, 0.7)).meet)
