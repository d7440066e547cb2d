"""Waiting: the light's next change from the day's table, intervals, and light that changes on what is lit alone."""

from django.test import SimpleTestCase

from dimgrey.core.document import edits
from dimgrey.core.document.plainform import document_of
from dimgrey.core.errors import OutOfRange
from dimgrey.core.field.waiting import coming, interval_frames, interval_words


def row(clock, sunlit, shade):
    return [clock, 10.0, 200.0, sunlit, shade, 11.0]


DAY = (
    row("16:00", 14.0, 11.0),
    row("16:30", 13.8, 10.8),
    row("17:00", 13.6, 10.5),
    row("17:20", None, 7.0),
    row("17:40", None, 5.0),
)


class Coming(SimpleTestCase):
    def test_in_the_sun_its_setting_and_the_next_third_are_counted_down(self):
        self.assertEqual(
            coming(DAY, "16:00"),
            ("A grey card in the sun: EV 14 (estimate).", "The sun sets at 17:20, in 1 h 20 min.", "In 1 h 0 min it is a third of a stop less."),
        )  # fmt: skip

    def test_after_sunset_shade_is_what_counts(self):
        self.assertEqual(
            coming(DAY, "17:20"),
            ("A grey card in open shade: EV 7 (estimate).", "In 20 min it is a third of a stop less."),
        )

    def test_a_change_behind_the_sunset_is_not_told_before_it(self):
        self.assertEqual(len(coming(DAY, "17:00")), 2)

    def test_without_a_table_nothing_is_said(self):
        self.assertEqual(coming((), "12:00"), ())


class Interval(SimpleTestCase):
    def test_frames_count_first_and_last(self):
        self.assertEqual([interval_frames(*each) for each in ((10, 5), (7, 1), (0.5, 0.5), (60, 0.5))], [31, 9, 61, 1])

    def test_words(self):
        self.assertEqual(interval_words(10, 5, 1, 30), "31 frames in 5 min, 0.9 GB on the card.")
        self.assertIn("longer than the interval", interval_words(2, 1, 2))

    def test_what_cannot_be_is_refused(self):
        for every, minutes in ((0, 5), (-1, 5), (5, 0), (float("nan"), 5), (float("inf"), 5), (0.001, 600)):
            with self.subTest(every, minutes=minutes), self.assertRaises(OutOfRange):
                interval_frames(every, minutes)


class Lit(SimpleTestCase):
    def made(self):
        tone = lambda name, **more: {"name": name, "readings": [{"ev100": 12}], **more}
        tones = [tone("wall", lit="lit"), tone("door", lit="unlit"), tone("grass")]
        return document_of({"format": "dimgrey-scene", "version": 5, "medium": {"kind": "film"}, "tones": tones})

    def test_lit_and_unlit_move_apart_when_only_the_sun_goes(self):
        for only, expected in ((None, [-1, -1, -1]), ("lit", [-1, 0, 0]), ("unlit", [0, -1, 0])):
            moved = edits.with_light_shifted(self.made(), -1, only)
            with self.subTest(only):
                self.assertEqual([tone.readings[0].shift for tone in moved.tones], expected)

    def test_without_a_tone_that_is_said_to_be_lit_it_is_refused(self):
        document = edits.unmeasured(self.made())
        with self.assertRaisesMessage(edits.Refused, "No tone that is said to be lit is read yet"):
            edits.with_light_shifted(document, -1, "lit")
