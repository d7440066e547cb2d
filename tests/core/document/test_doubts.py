"""Which readings are asked about, just past each limit and just short of it."""

from django.test import SimpleTestCase

from dimgrey.core.document.doubts import doubt_about
from dimgrey.core.document.tones import Reading
from tests.documents import document


def scene(*readings):
    return document(version=3, tones=[{"name": "wall", "mark": "A", "readings": list(readings)}])


PICTURE = {"kind": "picture", "stops": 1.0, "ev100": 10.0}


class Doubts(SimpleTestCase):
    def test_against_the_picture(self):
        for ev, asked in ((13.0, False), (13.01, True), (7.0, False), (6.99, True)):
            self.assertEqual(bool(doubt_about(scene(PICTURE), "A", Reading(ev100=ev))), asked, ev)
        self.assertEqual(
            doubt_about(scene({"kind": "picture", "stops": 1.0}), "A", Reading(ev100=3.0)), "", "no scale yet"
        )
        self.assertEqual(doubt_about(scene(PICTURE), "A", Reading(ev100=14.0, kind="incident")), "")

    def test_against_the_readings_before(self):
        before = ({"ev100": 9.0, "calibration_stops": 0.0}, {"ev100": 10.0, "calibration_stops": 0.0})
        for ev, asked in ((10.5, False), (10.51, True), (8.5, False), (8.49, True)):
            self.assertEqual(bool(doubt_about(scene(*before), "A", Reading(ev100=ev))), asked, ev)
        self.assertIn(
            "EV 12 is 2⅔ stops from the reading of wall before (EV 9⅓)",
            doubt_about(scene({"ev100": 9.33}), "A", Reading(ev100=12.0)),
        )
        near = scene(PICTURE, {"ev100": 15.0, "calibration_stops": 0.0})
        self.assertEqual(doubt_about(near, "A", Reading(ev100=14.5)), "", "the picture was answered for before")

    def test_kinds_do_not_answer_for_each_other(self):
        lit = scene({"kind": "incident", "ev100": 14.0, "calibration_stops": 0.0})
        self.assertEqual(doubt_about(lit, "A", Reading(ev100=9.0)), "")
        self.assertTrue(doubt_about(lit, "A", Reading(ev100=9.0, kind="incident")))

    def test_what_cannot_be_read_raises_no_question(self):
        self.assertEqual(doubt_about(scene(PICTURE), "A", Reading(ev100="bright")), "")
        self.assertEqual(doubt_about(scene(PICTURE), "Z", Reading(ev100=2.0)), "")
