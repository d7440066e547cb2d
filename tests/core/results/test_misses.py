"""A miss is taken apart: its kind, its size, and silence where there is none."""

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.colour.encoding import lightness_of_luminance, linear_of_srgb
from dimgrey.core.errors import CoreError
from dimgrey.core.planning.prints import Printing
from dimgrey.core.results.misses import taken_apart
from dimgrey.core.results.samples import Witnesses, lightness_of_falls, seen_falls, witnesses
from tests.reference.shots import PLANS, SPOT, demo_plan, shot

RIGHT = 0.95
"""Share of tries that must be told right."""
EXPOSURES, CONTRASTS, FLARES = (-2, -1, -1 / 3, 1 / 3, 1, 2), (-0.3, -0.15, 0.15, 0.3), (0.1, 0.2)


def seen_of(plan, grey):
    shown = lightness_of_luminance(linear_of_srgb(grey / 255))
    whole = np.ones(shown.shape, bool)
    return witnesses(plan.falls, shown, whole, plan.printing, plan.tones, plan.others, SPOT)


def miss_of(plan, grey):
    return taken_apart(seen_of(plan, grey), plan.free, plan.needs)


def kinds(miss):
    return {part.kind for part in miss.parts} - {"end"}


class KnownMisses(SimpleTestCase):
    """Results made from the demo light with a known miss each."""

    def setUp(self):
        self.rng = np.random.default_rng(11)
        self.told = []

    def hold(self, plan, what, is_right, **miss):
        found = miss_of(plan, shot(plan, self.rng, **miss))
        self.told.append((bool(is_right(found)), f"{plan.name} {what} {miss}: {found.parts}"))

    def assert_right(self):
        wrong = [words for right, words in self.told if not right]
        self.assertGreaterEqual(1 - len(wrong) / len(self.told), RIGHT, "\n".join(wrong))

    def test_without_a_miss_all_is_as_planned(self):
        for name in PLANS:
            plan = demo_plan(name)
            for _ in range(3):
                found = miss_of(plan, shot(plan, self.rng))
                self.assertEqual(found.parts, (), name)

    def test_exposure_contrast_flare_and_a_moved_object_are_told_apart(self):
        for name in PLANS:
            plan = demo_plan(name)
            for a in EXPOSURES:
                self.hold(plan, "exposure", lambda m, a=a: kinds(m) == {"exposure"} and abs(m.a - a) <= 0.1, exposure=a)
            for b in CONTRASTS:
                self.hold(
                    plan, "contrast", lambda m, b=b: kinds(m) == {"contrast"} and abs(m.b - b) <= 0.05, contrast=b
                )
            for phi in FLARES:
                self.hold(plan, "flare", lambda m: kinds(m) == {"flare"}, flare=phi)
            for moved in sorted(plan.needs)[:4]:
                alone = lambda m, moved=moved: (
                    [p.tone for p in m.parts if p.kind == "tone"] == [moved] and kinds(m) == {"tone"}
                )
                self.hold(plan, "moved", alone, moved=moved)
        self.assert_right()

    def test_another_filter_is_named_wherever_colours_tell(self):
        for name in ("a_kiln_and_sky", "b_drying_yard"):
            plan = demo_plan(name)
            for other, moved in plan.others.items():
                if np.quantile(np.abs(moved - np.median(moved)), 0.9) < 0.35:
                    continue  # it would change nothing that can be seen
                named = lambda m, other=other: m.part("filter") and other in m.part("filter").filters
                self.hold(plan, "filter", named, filter_name=other)
                self.hold(
                    plan,
                    "filter and exposure",
                    lambda m, n=named: n(m) and abs(m.a - 0.5) <= 0.15,
                    filter_name=other,
                    exposure=0.5,
                )
        self.assertGreater(len(self.told), 10)
        self.assert_right()

    def test_exposure_and_contrast_together_are_both_measured(self):
        plan = demo_plan("b_drying_yard")
        found = miss_of(plan, shot(plan, self.rng, exposure=-0.5, contrast=0.2))
        self.assertEqual(kinds(found), {"exposure", "contrast"})
        self.assertAlmostEqual(found.a, -0.5, delta=0.1)
        self.assertAlmostEqual(found.b, 0.2, delta=0.05)

    def test_a_result_that_is_white_or_black_throughout_is_refused_with_what_to_do(self):
        plan = demo_plan("d_white_ware")
        for exposure, sentence in ((5, "overexposed throughout"), (-9, "underexposed throughout")):
            with self.assertRaisesMessage(CoreError, sentence):
                miss_of(plan, shot(plan, self.rng, exposure=exposure))


class SmallCases(SimpleTestCase):
    """By hand, on a few tones."""

    PLANNED = (3.0, 4.0, 4.5, 5.0, 6.0, 7.0)

    def seen(self, off, ends=None, **more):
        planned = np.array(self.PLANNED)
        names = tuple("abcdef")
        ends = np.zeros(6, int) if ends is None else np.array(ends)
        return Witnesses(names, planned, planned + np.array(off), ends, np.ones(6), **more)

    def test_a_third_of_a_stop_is_said_and_a_tenth_is_not(self):
        self.assertEqual(kinds(taken_apart(self.seen([1 / 3] * 6))), {"exposure"})
        self.assertEqual(taken_apart(self.seen([0.1] * 6)).parts, ())
        for a, said in ((0.151, True), (0.149, False), (-0.151, True), (-0.149, False)):
            self.assertEqual(bool(taken_apart(self.seen([a] * 6)).parts), said, a)

    def test_one_outlier_does_not_speak_for_all(self):
        found = taken_apart(self.seen([0, 0, 2.5, 0, 0, 0]))
        self.assertEqual([(part.kind, part.tone, part.size) for part in found.parts], [("tone", "c", 2.5)])
        found = taken_apart(self.seen([0.5, 0.5, 0.5, 0.5, -1.0, 0.5]))
        self.assertEqual([(part.kind, part.tone) for part in found.parts], [("exposure", ""), ("tone", "e")])
        self.assertAlmostEqual(found.a, 0.5, places=3)

    def test_a_tone_that_was_allowed_to_be_lost_stays_out(self):
        found = taken_apart(self.seen([2.0, 0, 0, 0, 0, 0]), free=frozenset("a"))
        self.assertEqual(found.parts, ())
        self.assertNotIn("a", found.residuals)

    def test_an_end_says_at_least(self):
        # f shows white: at VIII at least. That agrees with two stops more, and contradicts none.
        self.assertEqual(kinds(taken_apart(self.seen([2, 2, 2, 2, 2, 1], [0, 0, 0, 0, 0, 1]))), {"exposure"})
        found = taken_apart(self.seen([0, 0, 0, 0, 0, 1], [0, 0, 0, 0, 0, 1]), needs=frozenset("f"))
        self.assertEqual(
            [(part.kind, part.tone, part.size) for part in found.parts], [("tone", "f", 1.0), ("end", "f", 1.0)]
        )

    def test_what_was_known_of_a_pin_is_no_miss(self):
        known = np.array([0, 0, 0.8, 0, 0, 0])
        self.assertEqual(taken_apart(self.seen([0, 0, 0.7, 0, 0, 0], known=known)).parts, ())
        found = taken_apart(self.seen([0, 0, 1.5, 0, 0, 0], known=known))
        self.assertAlmostEqual(found.parts[0].size, 0.7)

    def test_nothing_of_the_plan_in_the_result_is_refused(self):
        empty = Witnesses((), np.array([]), np.array([]), np.array([], int), np.array([]))
        with self.assertRaisesMessage(CoreError, "No place of the plan lies in the result."):
            taken_apart(empty)

    def test_the_interval_narrows_with_agreement(self):
        rng = np.random.default_rng(2)
        even = taken_apart(self.seen([0.5] * 6))
        rough = taken_apart(self.seen((0.5 + rng.normal(0, 0.12, 6)).tolist()))
        self.assertLess(even.a_half, rough.a_half)
        self.assertLess(even.spread, 0.01)


class TheWayBack(SimpleTestCase):
    def test_a_shown_grey_is_pulled_back_to_where_it_fell(self):
        falls = np.array([1.0, 3.0, 5.0, 6.5, 7.5])
        for printing in (
            Printing("film"),
            Printing("film", -2),
            Printing("digital file", tone=(0.5, -0.3, 0.2)),
            Printing("slide"),
        ):
            back, ends = seen_falls(lightness_of_falls(falls, printing), printing)
            np.testing.assert_allclose(back, falls, atol=0.02)
            self.assertFalse(ends.any())
            for fall in falls:
                self.assertAlmostEqual(float(lightness_of_falls(fall, printing)), printing.lightness(fall), places=2)

    def test_white_and_black_are_ends(self):
        _, ends = seen_falls(np.array([0.0, 3.0, 50.0, 99.0, 100.0]), Printing("film"))
        self.assertEqual(ends.tolist(), [-1, -1, 0, 1, 1])

    def test_readings_that_all_differ_alike_move_the_whole_plan(self):
        plan = demo_plan("b_drying_yard")
        off = {name: (at, fall + 0.5) for name, (at, fall) in plan.tones.items()}
        shown = lightness_of_falls(plan.falls, plan.printing)
        found = witnesses(plan.falls, shown, np.ones(shown.shape, bool), plan.printing, off, {}, SPOT)
        self.assertAlmostEqual(taken_apart(found, frozenset(), plan.needs).a, -0.5, delta=0.05)
