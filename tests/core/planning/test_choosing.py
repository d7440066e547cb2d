"""Depth, motion, brackets, ways out, schools side by side, development tables: tables and laws."""

import math
from dataclasses import replace

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.errors import CoreError, OutOfRange
from dimgrey.core.measure import brackets, optics
from dimgrey.core.measure.handheld import wind_shakes
from dimgrey.core.measure.readings import parse_distance
from dimgrey.core.planning.brief import Brief, Glass, PlacingChoice, Tone
from dimgrey.core.planning.choosing import Means, Needs, distance_words, propose
from dimgrey.core.planning.development import development_table, reach_of, row_for
from dimgrey.core.planning.media import medium
from dimgrey.core.planning.otherschools import other_schools
from dimgrey.core.planning.plan import plan
from dimgrey.core.sky.daylight import light_named
from tests.documents import codes, texts

F11 = 2**3.5


class SensibleSettings(SimpleTestCase):
    """What a photographer would set, and what the camera has."""

    def proposed(self, ev, near=None, far=None, support="tripod", **means):
        return propose(ev, Needs(near, far, support=support), Means(**means))

    def test_a_landscape_on_a_tripod_is_stopped_down_to_where_the_lens_is_best(self):
        found = self.proposed(14.0, 200.0, math.inf)
        self.assertEqual((found.aperture.name, found.focus_m > 300), ("8", True))
        self.assertTrue(all(trade.met for trade in found.trades), found.trades)

    def test_depth_asks_for_more_and_the_hand_for_less(self):
        self.assertGreater(self.proposed(14.0, 1.5, 20.0).aperture.exact, 8)
        dim = self.proposed(8.0, 200.0, math.inf, support="hand", iso=100.0, iso_max=100.0)
        self.assertLess(dim.aperture.exact, 3)
        self.assertLessEqual(dim.shutter.exact, 1 / 45)

    def test_no_time_that_the_camera_lacks(self):
        bright = self.proposed(17.0, iso=800.0, iso_max=800.0, f_min=1.4, f_max=16.0, time_min_s=1 / 4096)
        self.assertGreaterEqual(bright.shutter.exact, 1 / 4096 * 0.9)
        blinding = self.proposed(20.0, iso=3200.0, iso_max=3200.0, f_max=8.0, time_min_s=1 / 1024)
        self.assertGreaterEqual(blinding.nd_stops, 1)
        self.assertGreaterEqual(blinding.shutter.exact, 1 / 1024 * 0.8)

    def test_what_one_focus_does_not_hold_is_stacked(self):
        found = self.proposed(14.0, 0.5, math.inf, f_max=11.0)
        (stack,) = (trade for trade in found.trades if trade.about == "stack")
        # 50 mm from 0.5 m on: the images lie 5.6 mm apart, f/94 would hold them; nine frames at f/11.
        self.assertIn("9 frames at f/11, focused at 0.529 m", stack.text)
        self.assertFalse([t for t in self.proposed(14.0, 3.0, 20.0).trades if t.about == "stack"])
        far = self.proposed(14.0, 0.2, math.inf, f_max=8.0)
        self.assertIn("step back, or give up one end", next(t for t in far.trades if t.about == "stack").text)

    def test_distances_are_said_as_people_set_them(self):
        self.assertEqual(
            [distance_words(d) for d in (0.529, 12.34, 250.4, 2000.0, math.inf)],
            ["0.529 m", "12.3 m", "250 m", "infinity", "infinity"],
        )


class Depth(SimpleTestCase):
    def test_the_published_example(self):
        # 35 mm, f/11, c 0.030 mm: H 3.64 m; focus 3 m is sharp from 1.65 to 16.8 m.
        self.assertAlmostEqual(optics.hyperfocal_mm(35, F11, 0.030) / 1000, 3.64, delta=0.005)
        depth = optics.depth_of_field(35, F11, 3, 0.030)
        self.assertAlmostEqual(depth.near_m, 1.65, delta=0.005)
        self.assertAlmostEqual(depth.far_m, 16.8, delta=0.15)

    def test_at_the_hyperfocal_distance_half_of_it_to_infinity_is_sharp(self):
        h = optics.hyperfocal_mm(50, 8, 0.029) / 1000
        depth = optics.depth_of_field(50, 8, h, 0.029)
        self.assertAlmostEqual(depth.near_m, h / 2, delta=0.001)
        self.assertEqual(depth.far_m, math.inf)

    @given(st.floats(20, 200), st.floats(1, 20), st.floats(1.2, 30))
    def test_the_chosen_focus_and_aperture_hold_both_distances(self, focal, near, times):
        focus = optics.focus_for(focal, near, near * times, 0.029)
        depth = optics.depth_of_field(focal, focus.f_number, focus.focus_m, 0.029)
        self.assertAlmostEqual(depth.near_m / near, 1, delta=0.02)
        self.assertAlmostEqual(min(depth.far_m, 1e7) / (near * times), 1, delta=0.1)

    def test_infinity_is_held_from_the_hyperfocal_distance(self):
        focus = optics.focus_for(35, 2, math.inf, 0.030)
        self.assertAlmostEqual(focus.focus_m, 4, delta=0.1)
        self.assertAlmostEqual(optics.hyperfocal_mm(35, focus.f_number, 0.030) / 1000, focus.focus_m, delta=0.05)

    def test_refusals(self):
        with self.assertRaisesMessage(OutOfRange, "near distance must lie before the far one"):
            optics.focus_for(50, 5, 3, 0.03)
        with self.assertRaisesMessage(OutOfRange, "focuses beyond 0.05 m"):
            optics.depth_of_field(50, 8, 0.04, 0.03)

    def test_diffraction_motion_and_bellows(self):
        self.assertAlmostEqual(optics.airy_mm(16), 0.0215, delta=0.0001)  # 2.44 x 0.00055 x 16
        self.assertAlmostEqual(optics.best_f_number(0.5), 13.65, delta=0.01)
        self.assertAlmostEqual(optics.motion_blur_mm(1.5, 1 / 30, 50, 10), 0.25, places=6)
        self.assertAlmostEqual(optics.freezing_time_s(1.5, 50, 10, 0.03), 0.004, places=6)
        self.assertEqual(optics.freezing_time_s(0, 50, 10, 0.03), math.inf)
        for m, stops in ((0, 0), (0.5, 1.17), (1, 2)):
            self.assertAlmostEqual(optics.bellows_stops(m), stops, delta=0.005)
        self.assertAlmostEqual(optics.circle_of_confusion_mm(), 0.0288, delta=0.0001)


class Choosing(SimpleTestCase):
    def test_depth_asks_for_the_aperture_that_holds_it(self):
        found = propose(13, Needs(near_m=2, far_m=math.inf), Means(focal_mm=35, focal_35mm=35))
        self.assertAlmostEqual(found.aperture.exact, 11, delta=1.5)
        self.assertTrue(all(trade.met for trade in found.trades if trade.about == "depth"))
        self.assertEqual(found.iso.name, "100")

    def test_the_aperture_opens_before_the_speed_is_raised(self):
        digital = propose(8, Needs(support="hand"), Means(iso_max=6400))
        self.assertLessEqual(digital.shutter.exact, 1 / 50 * 1.15)
        self.assertEqual(digital.iso.name, "100", "f/2 is wide enough")
        darker = propose(5, Needs(support="hand"), Means(iso_max=6400))
        self.assertEqual((darker.aperture.name, int(darker.iso.name) > 100), ("2", True))
        runner = propose(9, Needs(speed_m_s=4, distance_m=10, motion="freeze", support="hand"), Means(iso_max=6400))
        self.assertEqual(runner.aperture.name, "2")
        deep = propose(8, Needs(near_m=3, far_m=20, support="hand"), Means(iso_max=6400))
        self.assertGreater(deep.aperture.exact, 4, "the wanted depth is kept")
        self.assertGreater(int(deep.iso.name), 100)
        film = propose(8, Needs(support="hand"), Means())
        self.assertEqual(film.iso.name, "100")
        self.assertLess(film.aperture.exact, 8)

    def test_motion_is_frozen_within_the_circle_of_confusion(self):
        needs = Needs(speed_m_s=1.5, distance_m=10, motion="freeze", support="hand")
        found = propose(12, needs, Means(iso_max=12800))
        self.assertLessEqual(optics.motion_blur_mm(1.5, found.shutter.exact, 50, 10), 0.0288 * 1.3)

    def test_a_wanted_blur_closes_the_lens_then_adds_grey_glass(self):
        found = propose(14, Needs(speed_m_s=0.5, distance_m=20, motion="blur"), Means())
        self.assertEqual(found.aperture.name, "16")
        self.assertGreater(found.nd_stops, 0)
        self.assertGreater(found.shutter.exact, 0.3)

    def test_the_exposure_is_kept_whatever_is_chosen(self):
        for needs in (Needs(), Needs(support="hand"), Needs(near_m=1, far_m=8), Needs(speed_m_s=2, motion="freeze")):
            found = propose(11, needs, Means(iso_max=3200))
            ev = math.log2(found.aperture.exact**2 / found.shutter.exact) - math.log2(found.iso.exact / 100)
            self.assertAlmostEqual(ev + found.nd_stops, 11, delta=0.2)

    def test_diffraction_is_said_with_the_best_aperture(self):
        found = propose(13, Needs(near_m=0.4, far_m=math.inf), Means(focal_mm=50, f_max=32))
        text = " ".join(trade.text for trade in found.trades)
        self.assertIn("Diffraction at f/", text)
        self.assertIn("the depth asks for more, and this is near the lens's smallest", text)
        wide = propose(13, Needs(near_m=1.2, far_m=math.inf), Means(focal_mm=50, f_max=64))
        self.assertIn("best near f/", " ".join(trade.text for trade in wide.trades))

    def test_shallow_depth_opens_the_lens(self):
        found = propose(12, Needs(near_m=2, far_m=3, shallow=True), Means())
        self.assertEqual(found.aperture.name, "2")
        self.assertIn("as shallow as the lens makes it", " ".join(trade.text for trade in found.trades))

    def test_nothing_in_the_shaky_range_with_a_long_lens_in_wind(self):
        for ev in (4, 6, 8, 10, 12):
            for iso_max in (100, 1600):
                long = Means(focal_mm=200, focal_35mm=200, f_min=4, f_max=22, iso_max=iso_max)
                found = propose(ev, Needs(wind_m_s=8), long)
                self.assertFalse(wind_shakes(8, 200, found.shutter.exact), (ev, iso_max, found.shutter.name))

    def test_impossible_motion_is_refused(self):
        with self.assertRaises(OutOfRange):
            propose(13, Needs(speed_m_s=-1), Means())


class Brackets(SimpleTestCase):
    def test_orders(self):
        for order, expected in (("0 - +", (0, -1, 1)), ("- 0 +", (-1, 0, 1)), ("+ 0 -", (1, 0, -1))):
            self.assertEqual(brackets.offsets(brackets.Bracket(3, 1.0, order)), expected)
        self.assertEqual(brackets.offsets(brackets.Bracket(5, 0.5)), (0, -0.5, 0.5, -1, 1))

    def test_frames_say_which_tone_they_hold(self):
        made = brackets.frames(
            brackets.Bracket(3, 2.0, "- 0 +"), 1 / 60, [("coal", 1.0), ("wall", 8.5), ("grass", 5.0)], (3, 7)
        )
        self.assertEqual([frame.holds for frame in made], [("wall", "grass"), ("grass",), ("coal", "grass")])
        self.assertAlmostEqual(made[2].seconds, 4 / 60)

    @given(st.lists(st.floats(-1, 11), min_size=2, max_size=6))
    def test_the_suggested_bracket_holds_every_tone_or_says_what_is_missing(self, zones):
        found = brackets.suggested(zones, (3, 7))
        if found is None:
            self.assertTrue(min(zones) > 2.75 and max(zones) < 7.25)
            return
        reach = found.count // 2 * found.step
        if brackets.uncovered(found, zones, (3, 7)) == 0:
            self.assertTrue(min(zones) + reach >= 3 - 0.011 and max(zones) - reach <= 7 + 0.011)

    def test_refusals(self):
        for arguments, sentence in (
            ((4, 1), "3, 5 or 7 frames (got 4)"),
            ((3, 5), "⅓ to 2 stops apart (got 5)"),
            ((3, 1, "up"), "The order is one of"),
        ):
            with self.subTest(sentence), self.assertRaisesMessage(OutOfRange, sentence):
                brackets.require_bracket(*arguments)


def scene(**more):
    tones = more.pop(
        "tones", (Tone("coal", "shadow", (8.0,)), Tone("wall", "highlight", (14.0,)), Tone("sky", "sky", (15.0,)))
    )
    return Brief(**{"tones": tones, "choice": PlacingChoice("shadow"), **more})


class PlansWithMore(SimpleTestCase):
    def test_exposure_held_back_moves_every_tone_and_the_setting(self):
        plain, under = plan(scene()), plan(scene(choice=PlacingChoice("shadow", under_stops=2.0)))
        self.assertAlmostEqual(under.setting_ev100 - plain.setting_ev100, 2)
        self.assertAlmostEqual(plain.tones[0].zone - under.tones[0].zone, 2)
        self.assertIn("dense-on-purpose", codes(under))
        self.assertIn("ISO 400", texts(under)["dense-on-purpose"])

    def test_pure_white_and_empty_shadows_have_their_own_zones(self):
        digital = medium("digital raw")
        free = lambda *roles: tuple(replace(tone, needs_texture=tone.role not in roles) for tone in scene().tones)
        pure = plan(
            scene(medium=digital, choice=PlacingChoice("highlight", white="pure"), tones=free("highlight", "sky"))
        )
        self.assertEqual((pure.placement.tone, round(pure.placement.zone, 2)), ("wall", 8.67))
        empty = plan(scene(choice=PlacingChoice("shadow", shadows="empty"), tones=free("shadow")))
        self.assertEqual((empty.placement.tone, empty.placement.zone), ("coal", 1.0))

    def test_a_graduated_filter_holds_the_sky_back_and_shortens_the_range(self):
        plain = plan(scene())
        held = plan(scene(filters=(Glass("graduated", stops=2.0),)))
        zone = lambda result: next(tone.fall for tone in result.tones if tone.name == "sky")
        self.assertAlmostEqual(zone(plain) - zone(held), 2)
        self.assertAlmostEqual(plain.range_stops, 7)
        self.assertAlmostEqual(held.range_stops, 6)
        self.assertEqual(held.exposure_ev100, held.setting_ev100, "it takes no light from the ground")

    def test_a_films_own_table_gives_time_and_speed(self):
        table = development_table([(-2, 6.0, 2 / 3), (-1, 8.0, 1 / 3), (0, 10.0, 0), (1, 13.5, -1 / 3)])
        film = medium("film", developments=table)
        result = plan(scene(medium=film, tones=(Tone("coal", "shadow", (8.0,)), Tone("wall", "highlight", (14.0,)))))
        self.assertEqual((result.development, result.development_minutes), ("N-2", 6.0))
        self.assertAlmostEqual(result.setting_ev100 - result.exposure_ev100, 2 / 3)
        beyond = plan(scene(medium=film, tones=(Tone("coal", "shadow", (5.0,)), Tone("wall", "highlight", (14.0,)))))
        self.assertIsNone(beyond.development)
        self.assertIn("ends at N-2", texts(beyond)["development-out-of-reach"])

    def test_tables_are_checked(self):
        with self.assertRaisesMessage(CoreError, "must rise from N- to N+"):
            development_table([(-1, 9, 0), (0, 8, 0)])
        with self.assertRaisesMessage(CoreError, "names each step once"):
            development_table([(0, 8, 0), (0, 9, 0)])
        self.assertEqual(reach_of(()), (-2, 2))
        self.assertEqual(row_for((), -1).stops, 0)

    def test_readings_outside_the_named_light_are_questioned(self):
        moon = plan(scene(light_note="full moon"))
        self.assertIn("light-contradicts", codes(moon))
        self.assertNotIn("light-contradicts", codes(plan(scene(light_note="sun from the left"))))
        self.assertIsNone(light_named("bright enough"))

    def test_a_bracket_is_part_of_the_plan(self):
        result = plan(scene(bracket=brackets.Bracket(3, 2.0)))
        self.assertEqual([frame.offset_stops for frame in result.bracket_frames], [0, -2, 2])
        self.assertEqual(plan(scene()).bracket_frames, ())


class OtherSchools(SimpleTestCase):
    def test_differences_are_against_the_plan_and_name_what_is_lost(self):
        found = {other.school: other for other in other_schools(plan(scene(medium=medium("digital raw"))))}
        self.assertNotIn("shadow", found)
        highlight = found["highlight"]
        # Shadow: 8 on III sets 10. Highlight: sky 15 on VII 2/3 sets 12 1/3.
        self.assertAlmostEqual(highlight.difference_stops, 12 + 1 / 3 - 10)
        self.assertEqual(highlight.lost, ("coal",))
        self.assertIn("choose a tone", found["incident"].why_not)


class InFeet(SimpleTestCase):
    """Distances are told in what they were typed in."""

    def test_a_foot_typed_is_a_foot_told(self):
        found = propose(13, Needs(near_m=2.4384, far_m=6.096, unit="ft"), Means(focal_mm=50, focal_35mm=50))
        words = " ".join(trade.text for trade in found.trades)
        self.assertRegex(words, r"Sharp from [\d.]+ ft to [\d.]+ ft")
        self.assertNotRegex(words, r"\d m\b")

    def test_a_bare_number_is_in_the_unit_before_it(self):
        self.assertAlmostEqual(parse_distance("8", "ft"), 2.4384)
        self.assertAlmostEqual(parse_distance("8"), 8)
        self.assertEqual([parse_distance(text).unit for text in ("8 ft", "8 m", "80 cm", "8")], ["ft", "m", "m", ""])
