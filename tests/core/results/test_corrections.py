"""What many frames say: a hidden error is recovered, a faultless kit is left alone, a group is named where nothing tells it apart."""

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.results.corrections import Evidence, bias_of, biases, corrections, habits


def log_of(rng, count, error=0.0, spread=0.15, with_second=False, item=("meter", "old spot"), contrast=0.0):
    """A simulated log. error: hidden, of the item, stops."""
    made = []
    for k in range(count):
        items = {
            "meter": "new spot" if with_second and k % 2 else "old spot",
            "film": ("slow", "fast")[k // 2 % 2],
            "camera": "box",
            "filter": ("yellow", "none", "orange")[k % 3],
            "setup": "",
        }
        off = error if items[item[0]] == item[1] else 0.0
        made.append(Evidence(k, float(k), off + rng.normal(0, spread), contrast + rng.normal(0, 0.02), items))
    return made


class Recovered(SimpleTestCase):
    def test_a_third_of_a_stop_is_found_from_twelve_frames_within_a_tenth(self):
        rng, off = np.random.default_rng(5), []
        for _ in range(60):
            found = corrections(log_of(rng, 12, 1 / 3))
            off.append(abs(found[0].bias.mean - 1 / 3) if found else 1.0)
        self.assertGreaterEqual(np.mean(np.array(off) <= 0.1), 0.95)

    def test_nothing_is_proposed_for_a_faultless_kit(self):
        rng = np.random.default_rng(6)
        for count, second in ((6, False), (12, False), (24, True)):
            proposed = sum(bool(corrections(log_of(rng, count, spread=0.2, with_second=second))) for _ in range(200))
            self.assertLessEqual(proposed, 10, count)

    def test_one_item_is_named_where_the_frames_tell_it_apart_else_the_group(self):
        rng = np.random.default_rng(7)
        (found,) = corrections(log_of(rng, 24, 0.5, with_second=True))
        self.assertEqual((found.bias.kind, found.bias.name, found.others), ("meter", "old spot", ()))
        self.assertIn(found.bias.count, (11, 12))
        (found,) = corrections(log_of(rng, 12, 0.5))
        self.assertEqual(found.others, (("camera", "box"),), "meter and camera were never apart")
        (found,) = corrections(log_of(rng, 24, -0.5, item=("film", "fast"), with_second=True))
        self.assertEqual((found.bias.kind, found.bias.name), ("film", "fast"))
        self.assertLess(found.bias.mean, 0)

    def test_two_errors_are_found_one_after_the_other(self):
        rng = np.random.default_rng(8)
        rows = [
            Evidence(e.frame, e.at, e.stops + (0.6 if e.items["filter"] == "orange" else 0.0), 0.0, e.items)
            for e in log_of(rng, 36, 0.5, spread=0.08, with_second=True)
        ]
        self.assertEqual(
            {(c.bias.kind, c.bias.name) for c in corrections(rows)}, {("meter", "old spot"), ("filter", "orange")}
        )

    def test_contrast_is_learned_of_what_makes_it(self):
        rng = np.random.default_rng(9)
        rows = [
            Evidence(e.frame, e.at, e.stops, e.contrast + (0.15 if e.items["film"] == "fast" else 0), e.items)
            for e in log_of(rng, 24)
        ]
        (found,) = corrections(rows, "contrast")
        self.assertEqual((found.bias.kind, found.bias.name, found.quantity), ("film", "fast", "contrast"))
        self.assertAlmostEqual(found.bias.mean, 0.15, delta=0.03)


class Limits(SimpleTestCase):
    def test_five_frames_are_too_few_and_six_are_enough(self):
        rng = np.random.default_rng(4)
        self.assertEqual(corrections(log_of(rng, 5, 0.5, spread=0.05)), ())
        self.assertEqual(len(corrections(log_of(rng, 6, 0.5, spread=0.05))), 1)

    def test_a_sixth_of_a_stop_is_not_corrected(self):
        exact = lambda error: [Evidence(k, k, error, 0.0, {"meter": "a"}) for k in range(12)]
        self.assertEqual(corrections(exact(1 / 6 - 0.001)), ())
        self.assertEqual(len(corrections(exact(1 / 6 + 0.001))), 1)

    def test_one_wild_frame_is_left_out(self):
        self.assertAlmostEqual(bias_of([0.3, 0.32, 0.28, 0.31, 0.29, 4.0]).mean, 0.3, delta=0.01)

    def test_the_interval_is_students(self):
        # By hand: 0.1, 0.3, 0.5: mean 0.3, s 0.2, t(2) 4.303: 4.303 * 0.2 / sqrt 3 = 0.497.
        found = bias_of([0.1, 0.3, 0.5])
        self.assertAlmostEqual(found.high - found.mean, 0.4969, places=3)
        self.assertEqual(bias_of([0.2]).count, 1)
        self.assertFalse(bias_of([0.9]).is_certain)

    def test_frames_without_an_exposure_say_nothing_of_it(self):
        rows = [Evidence(k, k, None, 0.2, {"film": "slow"}) for k in range(8)]
        self.assertEqual((corrections(rows), biases(rows)), ((), ()))
        self.assertEqual(len(corrections(rows, "contrast")), 1)

    def test_biases_list_every_item_with_its_frames(self):
        rng = np.random.default_rng(3)
        found = {(bias.kind, bias.name): bias for bias in biases(log_of(rng, 12))}
        self.assertEqual(found["meter", "old spot"].count + 0, len(found["meter", "old spot"].frames))
        self.assertNotIn(("setup", ""), found)

    def test_a_habit_is_told_of_a_surface(self):
        rows = [Evidence(k, k, 0.0, 0.0, {}, (("snow", -0.7 + 0.02 * k), ("grass", 0.02))) for k in range(6)]
        (found,) = habits(rows)
        self.assertEqual((found.name, found.count), ("snow", 6))
        self.assertLess(found.mean, -0.5)
