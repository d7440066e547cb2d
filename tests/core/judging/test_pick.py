"""Which of near-identical frames: sharpness, lost ends, parting, lines, what moved, and an order with reasons."""

import numpy as np
from django.test import SimpleTestCase
from scipy.ndimage import gaussian_filter, rotate, shift

from dimgrey.core.judging.pick import Look, lines_of, look_at, moved_places, ordered
from dimgrey.core.results.samples import lightness_of_falls
from tests.reference.shots import demo_plan


def frame_of(name="b_drying_yard"):
    plan = demo_plan(name)
    return lightness_of_falls(plan.falls, plan.printing)


def scene(angle=0.0, lean=0.0):
    """A house turned by an angle, its walls falling together by `lean` degrees between left and right edge."""
    rows, columns = np.mgrid[:400, :600].astype(float)
    field = np.full((400, 600), 80.0)
    slope = np.tan(np.radians(angle))
    for level in (150, 210, 270, 330):
        field[rows > level + (columns - 300) * slope] -= 14
    for k, x in enumerate((60, 160, 260, 360, 460, 560)):
        turn = np.tan(np.radians(lean * (x / 600 - 0.5) + angle))
        line = x + (rows - 200) * -turn
        field[(columns > line) & (columns < line + 30)] -= 10 + k
    return gaussian_filter(np.clip(field, 0, 100), 0.8)


class Measured(SimpleTestCase):
    def test_a_blurred_subject_is_less_sharp_and_another_blurred_place_does_not_count(self):
        sharp = frame_of()
        subject = (0.35, 0.6)
        soft = gaussian_filter(sharp, 2)
        elsewhere = sharp.copy()
        elsewhere[:, :100] = soft[:, :100]
        at = lambda field: look_at(field, subject).sharpness
        self.assertLess(at(soft), 0.7 * at(sharp))
        self.assertAlmostEqual(at(elsewhere), at(sharp))

    def test_parting_is_in_zones_between_subject_and_its_ground(self):
        field = np.full((300, 450), 50.0)
        rows, columns = np.ogrid[:300, :450]
        field[np.hypot(columns - 225, rows - 150) < 36] = 76
        self.assertAlmostEqual(look_at(field, (0.5, 0.5)).parting, 2.0, places=1)

    def test_lost_ends_are_shares(self):
        field = np.full((100, 150), 50.0)
        field[:10], field[10:15] = 100, 0
        found = look_at(field, (0.5, 0.6))
        self.assertAlmostEqual(found.lost_white, 0.1)
        self.assertAlmostEqual(found.lost_black, 0.05)

    def test_a_tilted_horizon_and_leaning_verticals_are_told_with_their_sign(self):
        for angle in (-3.0, -0.8, 0.0, 1.5):
            self.assertAlmostEqual(lines_of(scene(angle))[0], angle, delta=0.15)
        for lean in (-6.0, 0.0, 4.0):
            self.assertAlmostEqual(lines_of(scene(lean=lean))[1], lean, delta=1.0)

    def test_without_lines_nothing_is_told(self):
        self.assertEqual(lines_of(np.full((200, 300), 50.0)), (None, None))
        rng = np.random.default_rng(1)
        self.assertEqual(lines_of(gaussian_filter(rng.normal(50, 40, (200, 300)), 6))[0], None)

    def test_the_yard_is_level_and_its_turned_copy_is_not(self):
        yard = frame_of()
        level = lines_of(yard)[0]
        turned = lines_of(rotate(yard, -2, reshape=False, mode="nearest"))[0]
        self.assertLess(abs(level), 0.5)
        self.assertAlmostEqual(turned - level, 2.0, delta=0.4)

    def test_what_moved_is_named_by_its_place_and_exposure_is_no_movement(self):
        first = frame_of()
        whole = np.ones(first.shape, bool)
        other = first.copy()
        other[20:90, 600:700] = 20
        self.assertEqual(moved_places(first, other, whole), ("upper right",))
        self.assertEqual(moved_places(first, first, whole), ())
        plan = demo_plan("b_drying_yard")
        darker = lightness_of_falls(plan.falls - 0.5, plan.printing)
        self.assertEqual(moved_places(first, darker, whole), ())
        self.assertEqual(moved_places(first, other, np.zeros(first.shape, bool)), ())
        self.assertEqual(moved_places(first, shift(first, (0.3, 0.3), mode="nearest"), whole), ())


class InOrder(SimpleTestCase):
    def look(self, sharpness=10.0, white=0.0, parting=2.0, pull=1, **more):
        return Look(sharpness, 0.0, white, parting, pull, **more)

    def test_the_sharpest_comes_first_with_the_reason(self):
        found = ordered([self.look(7.0), self.look(10.0), self.look(4.0)])
        self.assertEqual([place.index for place in found], [1, 0, 2])
        self.assertEqual(found[0].reasons, ("sharpest at the subject",))
        self.assertEqual(found[1].reasons, ("30 % less sharp at the subject",))

    def test_lost_ends_parting_pull_and_tilt_weigh_and_are_said(self):
        good = self.look()
        for worse, words in (
            (self.look(white=0.05), "5.0 % more lost, mostly white"),
            (self.look(parting=1.0), "subject parts 1.0 zones less from its ground"),
            (self.look(pull=3), "the eye goes elsewhere first"),
            (self.look(tilt_deg=1.2), "horizon 1.2° down at the right"),
        ):
            found = ordered([worse, good])
            self.assertEqual(found[0].index, 1, words)
            self.assertIn(words, found[1].reasons)

    def test_equal_frames_keep_their_order_and_say_nothing(self):
        found = ordered([self.look(), self.look(), self.look()])
        self.assertEqual([place.index for place in found], [0, 1, 2])
        self.assertEqual({place.reasons for place in found}, {()})
        self.assertEqual(ordered([self.look(9.2), self.look(10.0)])[0].reasons, ())

    def test_what_moved_and_leaning_walls_are_told_without_weight(self):
        found = ordered([self.look(), self.look(moved=("left",), lean_deg=-2.5)])
        self.assertEqual(found[1].cost, found[0].cost)
        self.assertEqual(
            found[1].reasons, ("verticals fall together 2.5° towards the bottom", "differs from the first at the left")
        )
