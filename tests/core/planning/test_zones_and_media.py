"""Zones, what media hold, schools of placing, development."""

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.errors import CoreError, NotPlaced, OutOfRange
from dimgrey.core.planning import development, media, placing, zones
from dimgrey.core.planning.brief import Tone

TONES = (
    Tone("door", "shadow", (9.0,)),
    Tone("wall", "highlight", (14.0,)),
    Tone("sky", "sky", (13.0,)),
    Tone("man", "subject", (8.0,), needs_texture=False),
    Tone("fire", "other", (18.0,), needs_texture=False),
)


class Zones(SimpleTestCase):
    def test_the_worked_examples(self):
        self.assertEqual(zones.setting_for(9, 3), 11)
        self.assertEqual(zones.setting_for(14, 7), 12)
        self.assertEqual(zones.zone_of(14, 12), 7)

    @given(st.floats(-6, 20), st.floats(0, 10))
    def test_placing_then_falling_gives_the_zone_back(self, ev, zone):
        self.assertAlmostEqual(zones.zone_of(ev, zones.setting_for(ev, zone)), zone, places=9)

    def test_zones_in_numerals_and_in_stops(self):
        for value, text in ((4.33, "IV⅓"), (-0.8, "below 0"), (10.4, "above X"), (0, "0"), (9.99, "X")):
            self.assertEqual(zones.format_zone(value), text)
        self.assertEqual((zones.format_tone(6.5, "stops"), zones.format_zone(6.5)), ("+1½", "VI½"))

    def test_zones_as_people_write_them(self):
        for text, value in (("VII", 7), ("vii⅓", 7 + 1 / 3), ("6 1/3", 6 + 1 / 3), ("zone 5", 5), ("0", 0), ("X", 10)):
            with self.subTest(text=text):
                self.assertAlmostEqual(zones.parse_zone(text), value)

    def test_outside_nought_to_ten_is_refused(self):
        for text in ("11", "-1", "X⅓"):
            with self.subTest(text=text), self.assertRaises(OutOfRange) as refused:
                zones.parse_zone(text)
            self.assertIn("A tone can be placed on zones 0 to X", str(refused.exception))


class Media(SimpleTestCase):
    def test_texture_at_the_limits_of_each_medium(self):
        cases = [
            ("film", [(3, "full"), (7, "full"), (2.5, "faint"), (8, "faint"), (8.4, "lost"), (1.9, "lost")]),
            ("slide", [(3.5, "full"), (6.6, "faint"), (7.2, "lost")]),
            ("digital file", [(7, "full"), (7.6, "faint"), (7.8, "lost"), (0.1, "faint")]),
            ("digital raw", [(7.66, "full"), (8.2, "faint"), (8.4, "lost")]),
        ]
        for kind, table in cases:
            for zone, word in table:
                with self.subTest(kind=kind, zone=zone):
                    self.assertEqual(media.texture(zone, media.medium(kind)), word)

    def test_headroom_and_footroom_move_the_outer_limits(self):
        own = media.medium("digital raw", headroom=2.0, footroom=4.5)
        self.assertEqual(own.outer, (0.5, 7.0))
        self.assertEqual(own.dependable, (2.0, 7.0))

    def test_a_setup_moves_what_the_file_holds_but_not_what_the_sensor_clips(self):
        for tone, inner, outer in (
            ((0, 0, 0), (3, 7), (0, 7.7)),
            ((1, 0, 0), (5 - 2 / 1.35, 5 + 2 / 1.35), (5 - 5 / 1.35, 5 + 2.7 / 1.35)),
            ((0, -0.4, 0), (3, 5 + 2 / 0.86), (0, 5 + 2.7 / 0.86)),
            ((-1, -1, -1), (2, 7 + 2 / 3), (0, 8.3)),
        ):
            made = media.medium("digital file", tone=tone)
            for limits, expected in ((made.dependable, inner), (made.outer, outer)):
                for zone, wanted in zip(limits, expected, strict=True):
                    self.assertAlmostEqual(zone, wanted, delta=0.005, msg=str(tone))
        self.assertEqual(media.medium("digital file", tone=(-1, 0, 0)).with_tone((0, 0, 0)).outer, (0, 7.7))

    def test_contradictory_limits_are_refused(self):
        with self.assertRaises(CoreError) as refused:
            media.medium("film", dependable=(7, 3))
        self.assertIn("must lie within the outer zones", str(refused.exception))

    def test_a_colour_sensor_is_balanced_through_glass(self):
        sensor = media.medium("digital raw")
        self.assertEqual(sensor.chain("D55", ("red",)).weights, sensor.chain("D55").weights)
        self.assertGreater(sensor.glass_factor("D55", ("red",)), 4)


AS_METERED = placing.Hold("before filter", lambda tone: tone.ev100)


class Schools(SimpleTestCase):
    def test_each_school_finds_its_tone_and_zone(self):
        film, raw = media.medium("film"), media.medium("digital raw")
        for school, medium, tone, setting in (
            ("shadow", film, "door", 11.0),
            ("highlight", raw, "wall", 14 + 5 - (7 + 2 / 3)),
            ("silhouette", film, "sky", 11.0),
            ("midpoint", film, None, 11.5),
        ):
            with self.subTest(school=school):
                placed = placing.place(school, TONES, medium, AS_METERED)
                self.assertEqual(placed.tone, tone)
                self.assertAlmostEqual(placed.setting_ev100, setting)

    def test_a_chosen_tone_and_zone_win(self):
        placed = placing.place("known tone", TONES, media.medium("film"), AS_METERED, "wall", 6)
        self.assertEqual((placed.tone, placed.setting_ev100), ("wall", 13.0))

    def test_held_after_the_filter_the_shift_moves_the_setting(self):
        darker = placing.Hold("after filter", lambda tone: tone.ev100 - 1)
        placed = placing.place("known tone", TONES, media.medium("film"), darker, "sky", 5)
        self.assertEqual(placed.setting_ev100, 12.0)

    def test_nothing_to_place_says_what_to_do(self):
        for school, tones in (("known tone", TONES), ("shadow", TONES[3:]), ("midpoint", TONES[:1]), ("incident", ())):
            with self.subTest(school=school), self.assertRaises(NotPlaced):
                placing.place(school, tones, media.medium("film"), AS_METERED)
        with self.assertRaises(NotPlaced) as refused:
            placing.place("shadow", TONES, media.medium("film"), AS_METERED, "barn", 3)
        self.assertEqual(
            str(refused.exception), "The placed tone “barn” has no reading. Read it, or place another tone."
        )

    def test_every_school_has_a_reason_and_says_what_it_wants(self):
        for school in placing.SCHOOLS.values():
            self.assertTrue(school.reason.endswith("."))
            self.assertTrue(school.wants)


class Development(SimpleTestCase):
    def test_the_least_step_that_prints_the_highest_texture_at_vii_and_a_half(self):
        """HANDBOOK 21: spread to 4 1/2 N, to 5 5/8 N-1, to 6 3/4 N-2."""
        for spread, step in ((3, 0), (4.5, 0), (4.51, -1), (5.625, -1), (5.63, -2), (6, -2), (6.75, -2), (6.76, -3)):
            self.assertEqual(development.contraction_for(spread), step, spread)
            self.assertLessEqual(development.developed_zone(3 + spread, step), 7.5 + 1e-6)
        for spread, step in ((4, 0), (3.01, 0), (3, 1), (2, 2), (0.5, 2)):
            self.assertEqual(development.expansion_for(spread), step, spread)
            self.assertLessEqual(development.developed_zone(3 + spread, step), 7 + 1e-6)

    def test_steps_are_named(self):
        self.assertEqual([development.format_development(k) for k in (-2, 0, 1)], ["N-2", "N", "N+1"])

    def test_shadows_stay_and_highlights_move(self):
        self.assertEqual(development.developed_zone(3, -2), 3)
        # What N+k is chosen for, a spread of 4 - k above III, prints as four: HANDBOOK 8.
        for step, measured in ((-2, 6), (-1, 5), (0, 4), (1, 3), (2, 2)):
            self.assertAlmostEqual(development.developed_zone(3 + measured, step), 7)
            self.assertAlmostEqual(development.undeveloped_zone(7, step), 3 + measured)
        self.assertAlmostEqual(development.developed_zone(7, -2), 5.667, places=3)
        self.assertEqual(
            development.developed_zone(6, 3), development.developed_zone(6, 4), "no more than a stop to a paper"
        )
        self.assertEqual(development.developed_zone(2, 2), 2)
