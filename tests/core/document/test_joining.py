"""Laws over acts struck out: of the last, of one that nothing met, of lists, and of stops that add up."""

from datetime import UTC, datetime

from django.test import SimpleTestCase

from dimgrey.core.acts.case import Case
from dimgrey.core.acts.verb import done, verb_named, verb_names
from dimgrey.core.document.joining import put_back, touched
from dimgrey.core.errors import CoreError
from tests.core.acts.madeup import seeded, values_for
from tests.documents import document
from tests.share import count_of

TONES = [
    {"name": "coal", "role": "shadow", "readings": [{"ev100": 8, "calibration_stops": 0}], "colour": [0.05, 0.05, 0.05]},
    {"name": "sky", "role": "sky", "ev100": 13, "colour": [0.1, 0.2, 0.5]},
    {"name": "lime wall", "role": "highlight", "readings": [{"ev100": 14}, {"ev100": 14.3}], "colour": [0.6, 0.5, 0.3]},
]  # fmt: skip
DAYS = count_of(600)


class StruckOut(SimpleTestCase):
    def setUp(self):
        self.case = Case(at=datetime(2026, 9, 1, 12, tzinfo=UTC), settled=True)
        self.start = document(title="Kiln", medium={"kind": "film", "iso": 100}, tones=TONES)

    def after(self, start, *acts):
        for verb, values in acts:
            start = done(start, verb, values, self.case)
        return start

    def day(self, rng, count):
        """(act, document before it, document after it) of made-up acts that change something."""
        found, now, names = [], self.start, verb_names()
        while len(found) < count:
            name = rng.choice(names)
            try:
                after = self.after(now, made := (name, values_for(verb_named(name), now, rng, good=True)))
            except CoreError:
                continue
            if after != now:
                found.append((made, now, after))
                now = after
        return found

    def test_the_last_act_struck_is_the_act_taken_back(self):
        for k in range(DAYS):
            for made, before, after in self.day(seeded("last", k), 6):
                with self.subTest(k, act=made):
                    self.assertEqual(put_back(after, before, after), before)
                    self.assertEqual(put_back(before, after, before), after)

    def test_what_nothing_later_touched_goes_and_all_else_stays(self):
        """What it alone touched is as before it, what later acts touched as they left it; struck twice, it is there again."""
        met = 0
        for k in range(DAYS):
            (first, before, after), *later = self.day(seeded("under", k), 4)
            now, mine = later[-1][2], touched(before, after)
            if mine & frozenset().union(*(touched(old, new) for _, old, new in later)):
                continue
            met += 1
            with self.subTest(k, struck=first, later=[act for act, _, _ in later]):
                left = put_back(now, before, after)
                self.assertEqual(touched(left, now), mine)
                self.assertFalse(touched(left, before) & mine)
                self.assertEqual(put_back(left, now, left), now)
        self.assertGreater(met, DAYS / 6)

    def struck(self, at, *acts):
        """The document after all acts, with one of them struck out."""
        before, after = self.after(self.start, *acts[:at]), self.after(self.start, *acts[: at + 1])
        return put_back(self.after(self.start, *acts), before, after)

    def test_light_adds_up_and_a_reading_taken_since_is_not_moved(self):
        acts = [("shift", {"stops": "-1"}), ("shift", {"stops": "-1/3"}), ("read", {"mark": "A", "reading": "9"})]
        left = self.struck(0, *acts)
        self.assertEqual(left, self.after(self.start, *acts[1:]))
        self.assertAlmostEqual(left.tone("B").ev100, 13 - 1 / 3, 3)
        self.assertEqual([round(reading.shift, 2) for reading in left.tone("A").readings], [-0.33, 0.0])

    def test_a_reading_goes_alone(self):
        acts = [
            ("read", {"mark": "A", "reading": "9"}),
            ("read", {"mark": "A", "reading": "8"}),
            ("shift", {"stops": "1"}),
        ]
        self.assertEqual(self.struck(0, *acts), self.after(self.start, *acts[1:]))

    def test_a_filter_that_was_changed_since_stays_as_it_is(self):
        red, orange = ("colour-choice", {"choice": "red"}), ("colour-choice", {"choice": "orange"})
        self.assertEqual(self.struck(0, red, orange), self.after(self.start, orange))
        self.assertEqual(self.struck(0, red, ("filter", {})), self.after(self.start))
        self.assertEqual(self.struck(1, red, ("filter", {}), orange), self.after(self.start, orange))

    def test_a_tone_that_was_dropped_stands_in_its_place_again(self):
        left = self.struck(0, ("drop-tone", {"mark": "B"}), ("shift", {"stops": "1"}))
        self.assertEqual([tone.name for tone in left.tones], ["coal", "sky", "lime wall"])

    def test_two_readings_that_say_the_same_are_two(self):
        acts = [
            ("read", {"mark": "A", "reading": "9"}),
            ("read", {"mark": "A", "reading": "9"}),
            ("place", {"mark": "A", "zone": "3"}),
        ]
        self.assertEqual(self.struck(1, *acts), self.after(self.start, acts[0], acts[2]))

    def test_a_tone_that_was_added_goes_though_the_light_changed_since(self):
        acts = [("add-tone", {"name": "ivy", "reading": "10"}), ("shift", {"stops": "1"})]
        self.assertEqual(self.struck(0, *acts), self.after(self.start, acts[1]))
