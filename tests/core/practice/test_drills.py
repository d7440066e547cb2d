"""Each drill's answer is that of the core; nothing is asked that cannot be told; missed kinds come back."""

import random
from datetime import UTC, datetime, timedelta

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.measure.notation import parse_aperture, parse_time
from dimgrey.core.measure.surfaces import SURFACES
from dimgrey.core.planning.media import DEPENDABLE
from dimgrey.core.planning.zones import parse_zone
from dimgrey.core.practice.colours import hex_of, stops_of
from dimgrey.core.practice.drills import COMPASS, EVEN, KINDS, Material, question
from dimgrey.core.practice.measured import FILTERS
from dimgrey.core.practice.question import LEAST_APART
from dimgrey.core.practice.spacing import Answered, is_state, level_of, next_state, progress_of, round_of, weight_of
from dimgrey.core.sky import dome
from dimgrey.core.sky.horizon import DEEP_BAND_DEG

MATERIAL = (
    Material("a", "Kiln", (("wall", (0.3, 0.4), 7.0), ("door", (0.5, 0.5), 4.33)), 9.1, (0.1,) * 10 + (0.0,)),
    Material("b", "Yard", (), 7.2, (0, 0, 0, 0, 0.5, 0.5, 0, 0, 0, 0, 0)),
    Material("c", "Mist", (), 4.0, (0, 0, 0, 0, 0, 0, 0, 0.5, 0.5, 0, 0)),
)
EACH = 60


def asked(kind, levels=range(5)):
    rng = random.Random(kind)
    for level in levels:
        for _ in range(EACH // 5):
            found = question(kind, rng, level, MATERIAL)
            if found:
                yield level, found


class EveryDrill(SimpleTestCase):
    def test_one_option_is_right_and_the_reason_is_a_sentence(self):
        for kind in KINDS:
            count = 0
            for _, each in asked(kind):
                count += 1
                self.assertEqual(sum(option.off == 0 for option in each.options), 1, each)
                self.assertEqual(len({option.text for option in each.options}), len(each.options), each)
                self.assertGreaterEqual(len(each.options), 3, each)
                self.assertTrue(each.why.endswith((".", "!")) and each.ask.endswith("?"), each)
                self.assertTrue(each.subject and each.key.startswith(f"{kind}:"), each)
            self.assertGreater(count, EACH // 3, kind)

    def test_nothing_is_asked_that_lies_closer_than_a_third(self):
        for kind in KINDS:
            for _, each in asked(kind):
                if each.in_stops:
                    wrong = [option.off for option in each.options if option.off]
                    self.assertGreaterEqual(min(wrong), LEAST_APART - 1e-9, each)

    def test_difficulty_brings_answers_closer(self):
        for kind in ("patch", "compensation", "range"):
            gap = lambda level, kind=kind: min(
                min(o.off for o in each.options if o.off) for _, each in asked(kind, [level] * 5)
            )
            self.assertGreater(gap(0), gap(3), kind)

    def test_without_material_drills_on_pictures_are_silent(self):
        rng = random.Random(1)
        for kind in ("pin", "range", "histogram"):
            self.assertIsNone(question(kind, rng, 0, ()))
        self.assertIsNone(question("histogram", rng, 0, MATERIAL[:2]))
        self.assertIsNone(question("pin", rng, 0, (Material("x", "Black", (("a", (0, 0), 0.0),)),)))

    def test_the_same_draw_asks_the_same(self):
        for kind in KINDS:
            self.assertEqual(
                question(kind, random.Random(7), 2, MATERIAL), question(kind, random.Random(7), 2, MATERIAL)
            )


class RightAnswers(SimpleTestCase):
    """By the core's own figures, read another way."""

    def answers(self, kind):
        return [(each, each.options[each.right].text) for _, each in asked(kind)]

    def test_compensation_is_the_surfaces_zone_less_v(self):
        zones = {surface.name: surface.zone for surface in SURFACES}
        for each, right in self.answers("compensation"):
            self.assertIn("usually goes on", each.why)
            self.assertAlmostEqual(zones[each.subject] - 5, _signed(right), delta=0.17)

    def test_a_colour_lands_where_its_chain_puts_it(self):
        for each, right in self.answers("colour"):
            self.assertEqual(right, each.subject)
            for option in each.options:
                self.assertAlmostEqual(option.off, abs(stops_of(option.text) - stops_of(right)))
                self.assertEqual(option.colour, hex_of(option.text))

    def test_the_merging_pair_is_under_a_third_and_the_others_over_a_zone(self):
        for each, right in self.answers("merging"):
            for option in each.options:
                a, b = option.text.split(" and ")
                apart = abs(stops_of(a) - stops_of(b))
                self.assertTrue(apart < 1 / 3 if option.text == right else apart >= 1, each)

    def test_the_parting_filter_parts_best_by_a_third(self):
        for each, right in self.answers("parting"):
            a, b = each.key.split(":")[1:]
            by = {name: abs(stops_of(a, name) - stops_of(b, name)) for name in FILTERS[1:]}
            self.assertEqual(max(by, key=by.get), right)
            self.assertGreaterEqual(by[right], 1)
            self.assertLess(abs(stops_of(a) - stops_of(b)), 1 / 3)

    def test_the_order_rises_by_a_third_at_every_step(self):
        for each, right in self.answers("order"):
            stops = [stops_of(name, each.subject) for name in right.split(", ")]
            self.assertTrue(all(b - a >= 1 / 3 for a, b in zip(stops, stops[1:], strict=False)), each)

    def test_equal_exposures_are_equal(self):
        for each, right in self.answers("exposure"):
            time, rest = each.ask.split(" at ", 1)
            aperture, other = rest.split(" is right. Which time at ")
            value = lambda t, n: parse_aperture(n).stops - parse_time(t).stops
            self.assertAlmostEqual(value(time, aperture), value(right, other.rstrip("?")), delta=0.02, msg=each.ask)

    def test_lost_ends_follow_the_mediums_limits(self):
        media = {"negative film": "film", "an in-camera file": "digital file", "slide film": "slide"}
        for each, right in self.answers("ends"):
            words, rest = each.ask[3:].split(": the darkest tone falls on ")
            dark, light = (parse_zone(part) for part in rest.split(". Which")[0].split(", the brightest on "))
            low, high = DEPENDABLE[media[words]]
            lost = (dark < low - 0.01, light > high + 0.01)
            self.assertEqual(
                right,
                {
                    (True, False): "the shadows",
                    (False, True): "the highlights",
                    (True, True): "both",
                    (False, False): "neither",
                }[lost],
                each.ask,
            )

    def test_the_sky_is_deepest_where_the_sky_sheet_says(self):
        """Computed anew from the sky itself: the right direction is the deeper one, by a third of a stop over each wrong one."""
        headings = dict(COMPASS)
        for each, right in self.answers("sky"):
            _, sun, altitude = each.key.split(":")
            deep = [_darkest(headings[word] - headings[sun], float(altitude)) for word in right.split(" or ")]
            wrong = [option.text for option in each.options if option.text not in (right, EVEN)]
            self.assertGreaterEqual(len(wrong), 1)
            for word in wrong:
                gap = _darkest(headings[word] - headings[sun], float(altitude)) - max(deep)
                self.assertGreaterEqual(gap, 1 / 3, each.ask)

    def test_ranges_and_profiles_are_those_of_their_pictures(self):
        by = {each.key: each for each in MATERIAL}
        for each, right in self.answers("range"):
            self.assertAlmostEqual(float(right.split()[0]), by[each.picture].range_stops, delta=0.5)
        for each, right in self.answers("histogram"):
            self.assertEqual(next(m.title for m in MATERIAL if m.bars == each.bars), right)


def _darkest(turn, sun_altitude):
    """log2 of the darkest sky in a direction so far from the sun's, where frames have their sky."""
    altitudes = np.arange(DEEP_BAND_DEG[0], DEEP_BAND_DEG[1] + 1, 5.0)
    gamma = dome.angle_between_deg(altitudes, turn, sun_altitude, 0.0)
    return float(np.log2(dome.relative_luminance(altitudes, gamma, sun_altitude)).min())


def _signed(text):
    """Stops of "+2⅓", "−⅔" or "0"."""
    thirds = {"⅓": 1 / 3, "⅔": 2 / 3}
    sign = -1 if text.startswith("−") else 1
    plain = text.lstrip("+−")
    whole = "".join(c for c in plain if c.isdigit())
    return sign * ((int(whole) if whole else 0) + sum(thirds.get(c, 0) for c in plain))


class Spacing(SimpleTestCase):
    NOW = datetime(2026, 5, 1, 9, tzinfo=UTC)

    def test_what_is_missed_comes_back_sooner_than_what_is_known(self):
        known, missed = {}, {}
        at = self.NOW
        for _ in range(3):
            known, late = next_state(known, True, at)
            missed, soon = next_state(missed, False, at)
            at += timedelta(days=1)
        self.assertLess(soon, late)
        self.assertLess(soon - at, timedelta(days=1))
        self.assertGreater(late - at, timedelta(days=2))

    def test_months_of_absence_and_clocks_set_back_break_nothing(self):
        state, _ = next_state({}, True, self.NOW)
        state, due = next_state(state, True, self.NOW + timedelta(days=200))
        self.assertGreater(due, self.NOW + timedelta(days=200))
        again, due_again = next_state(state, True, self.NOW)
        self.assertTrue(is_state(again))
        self.assertGreaterEqual(due_again, self.NOW + timedelta(days=200))
        self.assertFalse(is_state({"card_id": 1}))
        self.assertFalse(is_state({"due": 5}))

    def test_difficulty_follows_the_answers(self):
        rows = lambda *rights: [Answered("patch", "V", 0.0 if right else 1.0, right) for right in rights]
        self.assertEqual(level_of(rows()), 0)
        self.assertEqual(level_of(rows(True, True, True)), 0)
        self.assertEqual(level_of(rows(*[True] * 4)), 1)
        self.assertEqual(level_of(rows(*[True] * 40)), 4)
        self.assertEqual(level_of(rows(*[True] * 8, *[False] * 5)), 1)
        self.assertEqual(level_of(rows(*[False] * 20)), 0)

    def test_a_learner_with_a_fixed_bias_is_brought_to_what_it_misses(self):
        rng, history, counts = random.Random(5), {}, {}
        kinds = ["patch", "compensation", "exposure", "ends"]
        make = lambda kind, level: question(kind, rng, level, MATERIAL)
        for round_number in range(20):
            for each in round_of((), history, make, kinds, rng):
                # It knows everything but compensation, which it takes a stop too low.
                is_right = each.kind != "compensation"
                history.setdefault(each.kind, []).append(
                    Answered(each.kind, each.subject, 0.0 if is_right else 1.0, is_right)
                )
                if round_number >= 5:
                    counts[each.kind] = counts.get(each.kind, 0) + 1
        self.assertGreater(
            counts["compensation"], 1.8 * max(count for kind, count in counts.items() if kind != "compensation")
        )
        self.assertGreater(weight_of(history["compensation"]), 5 * weight_of(history["patch"]))

    def test_cards_that_are_due_come_first_and_none_is_asked_twice(self):
        rng = random.Random(2)
        make = lambda kind, level: question(kind, rng, level, MATERIAL)
        due = [("compensation", "grass"), ("ends", "slide"), ("gone", "x")]
        found = round_of(due, {}, make, list(KINDS), rng)
        self.assertEqual(len(found), 10)
        self.assertEqual(len({each.key for each in found}), 10)
        self.assertIn(("compensation", "grass"), {(each.kind, each.subject) for each in found})
        self.assertIn(("ends", "slide"), {(each.kind, each.subject) for each in found})

    def test_no_kind_that_can_be_asked_is_an_empty_round(self):
        self.assertEqual(round_of((), {}, lambda kind, level: None, ["pin"], random.Random(1)), ())
        self.assertEqual(round_of((), {}, lambda kind, level: None, [], random.Random(1)), ())

    def test_progress_tells_the_mean_error_and_what_to_train(self):
        early = [Answered("compensation", "snow", 2.0, False, in_stops=True)] * 16
        late = [Answered("compensation", "snow", 1.0, False, in_stops=True)] * 4 + [
            Answered("compensation", "grass", 0.0, True, in_stops=True)
        ] * 12
        found = progress_of("compensation", [*early, *late])
        self.assertEqual(
            (found.count, found.right, found.off, found.before, found.worst), (32, 0.75, 0.25, 2.0, ("snow", 1.0))
        )
        self.assertIsNone(progress_of("spot", [Answered("spot", "shadow", 1.0, False)]).off)
