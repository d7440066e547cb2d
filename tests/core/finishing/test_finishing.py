"""The finishing plan: proposed from wishes, read strictly, applied to a picture; and the same in seconds at the enlarger."""

import json

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.errors import CoreError
from dimgrey.core.finishing import enlarger
from dimgrey.core.finishing.applied import area_share, cropped, edge_share, end_points, finished, local_stops
from dimgrey.core.finishing.finishingplan import (
    Area,
    Finish,
    ToneInPicture,
    curve_at,
    doubts,
    finish_file,
    led_zone,
    load_finish,
    proposed_finish,
    require_finish,
    with_area,
    without_area,
)
from dimgrey.core.picture.tonemap import zones_of_lightness
from dimgrey.core.planning.prints import shown_lightness

HALF = ((0.0, 0.0), (0.5, 0.0), (0.5, 1.0), (0.0, 1.0))


def tone(name, actual, wished=None, at=(0.5, 0.5)):
    return ToneInPicture(name, actual, wished, at)


class Proposed(SimpleTestCase):
    def test_the_curve_leads_each_tone_to_its_wish(self):
        made = proposed_finish(
            [tone("sky", 5.0, (3.0, 4.0)), tone("wall", 7.0, (7.5, 8.0)), tone("door", 4.0)], 3.0, 99.0
        )
        self.assertEqual(made.curve, ((5.0, 4.0), (7.0, 7.0)), "as steep as a print bears, which is 1.5")
        self.assertEqual((made.black, made.white), (3.0, 99.0))
        self.assertEqual([(area.name, area.stops) for area in made.areas], [("wall", 0.5)])
        self.assertEqual(led_zone(made, 5.0), 4.0)
        self.assertEqual(doubts(made), ())

    def test_a_tone_goes_to_its_wish_whatever_the_end_points(self):
        for black, white in ((3, 99), (12, 96), (25, 80)):
            made = Finish(black, white, ((4.0, 3.5), (6.0, 6.5)))
            for actual, wish in made.curve:
                self.assertAlmostEqual(led_zone(made, actual), wish, places=6)
                shown = np.full((4, 4), shown_lightness(actual - 5))
                self.assertAlmostEqual(float(zones_of_lightness(finished(shown, made))[0, 0]), wish, delta=0.02)

    def test_what_is_as_wished_stays(self):
        made = proposed_finish([tone("sky", 3.5, (3.0, 4.0))], 0, 100)
        self.assertEqual(made.curve, ((3.5, 3.5),))
        self.assertAlmostEqual(curve_at(made.curve, 7.0), 7.0, delta=0.3)

    def test_two_alike_tones_with_different_wishes_become_areas_of_at_most_half_a_stop(self):
        made = proposed_finish(
            [tone("face", 5.0, (6.0, 6.5), (0.2, 0.3)), tone("wall", 5.05, (4.0, 4.0), (0.8, 0.5))], 0, 100
        )
        self.assertEqual([(area.tone, area.stops) for area in made.areas], [("face", 0.5), ("wall", -0.5)])
        self.assertIn("towards face as wished", made.areas[0].why)

    def test_a_wish_that_would_turn_the_curve_is_held_to_what_a_print_bears(self):
        made = proposed_finish([tone("a", 4.0, (6.0, 6.0)), tone("b", 5.0, (3.0, 3.0))], 0, 100)
        (x1, y1), (x2, y2) = made.curve
        self.assertGreater(y2, y1)
        require_finish(finish_file(made))


class TheCurve(SimpleTestCase):
    def test_it_rises_everywhere_and_passes_its_points(self):
        for curve in (
            ((3.0, 2.0), (5.0, 5.0), (7.0, 8.0)),
            ((5.0, 4.0),),
            ((0.0, 0.5), (10.0, 9.0)),
            ((2.0, 2.1), (2.5, 3.5), (8.0, 8.2)),
        ):
            zones = np.linspace(0, 10, 201)
            led = np.array([curve_at(curve, zone) for zone in zones])
            self.assertTrue((np.diff(led) >= -1e-9).all(), curve)
            for x, y in curve:
                self.assertAlmostEqual(curve_at(curve, x), y, places=6)

    def test_beyond_black_and_white_it_stays(self):
        self.assertEqual((curve_at(((5, 6),), -1), curve_at(((5, 6),), 12)), (0.0, 10.0))


class Applied(SimpleTestCase):
    def test_an_empty_plan_changes_nothing(self):
        shown = np.tile(np.linspace(3, 99, 200), (50, 1))
        made = finished(shown, Finish(black=3.0, white=99.0))
        np.testing.assert_allclose(made, shown, atol=0.15)

    def test_end_points_become_the_papers(self):
        shown = np.tile(np.linspace(20, 80, 200), (50, 1))
        black, white = end_points(shown)
        made = finished(shown, Finish(black=black, white=white))
        self.assertAlmostEqual(made.min(), 3, delta=0.1)
        self.assertAlmostEqual(made.max(), 99, delta=0.1)

    def test_an_area_moves_its_tones_by_its_stops_and_nothing_else(self):
        shown = np.full((100, 150), 50.0)
        made = finished(shown, Finish(black=3, white=99, areas=(Area("left", HALF, -0.5, 0.0),)))
        zones = zones_of_lightness(made)
        self.assertAlmostEqual(float(zones[50, 20]), 4.5, delta=0.02)
        self.assertAlmostEqual(float(zones[50, 120]), 5.0, delta=0.02)

    def test_a_soft_edge_is_half_way_at_the_line(self):
        share = area_share(Area("left", HALF, 1.0, 0.2), 200, 300)
        self.assertAlmostEqual(float(share[100, 150]), 0.5, delta=0.03)
        self.assertGreater(share[100, 60], 0.98)
        self.assertLess(share[100, 240], 0.02)
        self.assertTrue((np.diff(share[100]) <= 1e-4).all())

    def test_edges_follow_the_crop(self):
        share = edge_share(0.1, (0.2, 0.0, 1.0, 1.0), 100, 200)
        self.assertEqual(float(share[50, 39]), 1.0)
        self.assertEqual(float(share[50, 100]), 0.0)
        stops = local_stops(Finish(edge_stops=-0.4), 60, 90)
        self.assertAlmostEqual(float(stops.min()), -0.4, delta=0.03)
        self.assertEqual(float(local_stops(Finish(), 10, 10).max()), 0.0)

    def test_grain_is_strongest_in_the_middle_and_comes_from_the_given_generator(self):
        rng = lambda: np.random.default_rng(1)
        shown = np.repeat(np.array([[4.0], [50.0], [98.0]]), 60, axis=0).repeat(100, axis=1)
        made = finished(shown, Finish(black=3, white=99, grain=1.0), rng())
        spread = [float(made[k * 60 : k * 60 + 60].std()) for k in range(3)]
        self.assertGreater(spread[1], 2 * max(spread[0], spread[2]))
        np.testing.assert_array_equal(made, finished(shown, Finish(black=3, white=99, grain=1.0), rng()))

    def test_a_crop_leaves_its_part(self):
        self.assertEqual(cropped(np.zeros((100, 200)), (0.25, 0.1, 0.75, 0.6)).shape, (50, 100))


class Doubted(SimpleTestCase):
    def test_over_half_a_stop_is_questioned_with_what_it_costs(self):
        said = lambda *areas, **more: [(doubt.about, doubt.text) for doubt in doubts(Finish(areas=areas, **more))]
        self.assertEqual(said(Area("sky", HALF, -0.5), Area("door", HALF, 0.5)), [])
        ((about, text),) = said(Area("door", HALF, 1.0))
        self.assertIn("1 stop on door is noticed: noise there rises 2.0 times.", text)
        ((_, text),) = said(Area("sky", HALF, -0.7, 0.005))
        self.assertIn("a halo shows", text)
        self.assertEqual(said(edge_stops=-0.6)[0][0], "edge")
        self.assertEqual(said(edge_stops=-0.5), [])

    def test_a_steep_curve_and_close_end_points_are_questioned(self):
        (doubt,) = doubts(Finish(curve=((4.0, 3.0), (5.0, 5.5))))
        self.assertIn("times as steep", doubt.text)
        self.assertIn("stretching them so far", doubts(Finish(black=30, white=70))[0].text)


class TheFile(SimpleTestCase):
    def test_it_goes_out_and_comes_in_the_same(self):
        made = with_area(
            Finish(2, 96, ((5.0, 4.0),), edge_stops=-0.3, tone="warm", title="Yard"),
            Area("sky", HALF, -0.4, why="calmer"),
        )
        self.assertEqual(load_finish(json.dumps(finish_file(made))), made)
        self.assertEqual(without_area(made, 1).areas, ())
        self.assertEqual(without_area(made, 7), made)

    def test_what_is_wrong_is_said(self):
        for wrong, words in (
            ([], "must be an object"), ({"format": "x"}, 'format: must be "dimgrey-finish"'), ({"soup": 1}, "soup: unknown key."),
            ({"black": "a"}, "black: must be a number"), ({"black": float("nan")}, "black: must be a number"), ({"black": 59, "white": 60}, "at least 20"),
            ({"curve": [[5, 6], [6, 5]]}, "must rise"), ({"curve": [[5]]}, "curve[0]: must have at least 2 items"), ({"curve": 5}, "a list"), ({"curve": [[1, 11]]}, "curve[0][1]: must be at most 10"),
            ({"areas": [5]}, "areas[0]: must be an object"), ({"areas": [{"outline": [[0, 0]]}]}, "corners"), ({"areas": [{"outline": [["a", 1]]}]}, "outline"),
            ({"areas": [{"outline": [[1]]}]}, "areas[0].outline[0]: must have at least 2"), ({"areas": [{"outline": HALF, "stops": 9}]}, "areas[0].stops: must be at most 2"),
            ({"areas": [{"outline": HALF}] * 25}, "at most 24"), ({"crop": [0, 0, 0.01, 1]}, "leaves nothing"), ({"crop": [1]}, "crop: must have at least 4"),
            ({"tone": "green"}, 'tone: must be "neutral", "cold" or "warm"'), ({"title": 5}, "title: must be text"), ({"edge_stops": 1}, "edge_stops: must be at most 0"),
        ):  # fmt: skip
            with self.subTest(wrong=wrong), self.assertRaisesMessage(CoreError, words):
                require_finish(wrong)
        with self.assertRaises(CoreError):
            load_finish("{")


class AtTheEnlarger(SimpleTestCase):
    def test_a_strip_goes_in_equal_stops(self):
        steps = enlarger.strip(8, 1 / 3, 4)
        self.assertEqual([round(step.seconds, 1) for step in steps], [8.0, 10.1, 12.7, 16.0])
        self.assertEqual([round(step.adds, 1) for step in steps], [8.0, 2.1, 2.6, 3.3])

    def test_seconds_of_the_handbook(self):
        self.assertAlmostEqual(enlarger.changed_seconds(12, 1 / 3), 3.1, places=1)
        self.assertAlmostEqual(enlarger.changed_seconds(12, -0.5), -3.5, places=1)

    def test_a_print_is_base_dodges_within_it_and_burns_after(self):
        steps = enlarger.sequence(12, [("face", 0.5, "lighter"), ("sky", -1 / 3, "calmer")], -0.25)
        self.assertEqual(
            [(step.kind, step.name) for step in steps],
            [("base", "whole sheet"), ("dodge", "face"), ("burn", "sky"), ("burn", "edges")],
        )
        self.assertAlmostEqual(steps[1].seconds, 3.51, places=2)
        self.assertAlmostEqual(steps[1].begins, 8.49, places=2)
        self.assertAlmostEqual(steps[2].seconds, 3.12, places=2)
        self.assertAlmostEqual(steps[3].seconds, 2.27, places=2)

    def test_dodges_do_not_overlap_and_cannot_take_the_whole_base(self):
        steps = enlarger.sequence(20, [("a", 0.5, ""), ("b", 0.3, "")])
        self.assertAlmostEqual(steps[1].begins, 20 - steps[1].seconds, places=1)
        self.assertAlmostEqual(steps[2].begins, steps[1].begins - steps[2].seconds, places=1)
        with self.assertRaisesMessage(CoreError, "Close the lens a stop"):
            enlarger.sequence(4, [(str(k), 1.0, "") for k in range(3)])

    def test_the_grade_follows_the_negatives_range(self):
        # Four zones of texture: 4 * 0.1866 = 0.75 of density, grade 4; seven zones: 1.31, grade 1.
        self.assertEqual(enlarger.grade_for(enlarger.density_range(4))[0], "4")
        self.assertEqual(enlarger.grade_for(enlarger.density_range(7))[0], "1")
        self.assertEqual(enlarger.grade_for(1.0, condenser=True)[0], "1")
        self.assertEqual(enlarger.grade_for(0.25)[0], "5")

    def test_bad_input_is_a_sentence(self):
        for call, words in (
            (lambda: enlarger.strip(0, 0.3, 5), "first time"), (lambda: enlarger.strip(8, 0.3, 50), "3 to 12 parts"),
            (lambda: enlarger.strip(500, 1, 5), "longest time"), (lambda: enlarger.strip(8, 0, 5), "step"),
            (lambda: enlarger.sequence(0.1, []), "base time"), (lambda: enlarger.grade_for(9), "density range"),
        ):  # fmt: skip
            with self.assertRaisesMessage(CoreError, words):
                call()

    def test_what_is_hard_by_hand_is_said(self):
        steps = enlarger.sequence(4, [("face", 0.3, "")])
        self.assertIn("short for dodging", next(iter(enlarger.warnings(4, steps))))
        self.assertEqual(list(enlarger.warnings(12, enlarger.sequence(12, [("face", 0.3, "")]))), [])
        self.assertIn("over a minute", next(iter(enlarger.warnings(40, enlarger.sequence(40, [("sky", -1.5, "")])))))
