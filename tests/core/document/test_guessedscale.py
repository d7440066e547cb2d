"""The scale of a picture without exposure data, guessed from the light it was taken in."""

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.guessedscale import guessed
from dimgrey.core.document.lightscale import Facts, guessed_light, light_scale
from dimgrey.core.document.model import Document, TakenIn
from dimgrey.core.document.tones import Reading, ToneEntry
from dimgrey.core.picture.measures import frame_stops
from dimgrey.core.sky.daylight import TAKEN_IN, daylight_ev100

FACTS = Facts(600, 400)


def tone(**readings):
    seen = Reading(kind="picture", stops=-1.0)
    typed = tuple(Reading(kind="spot", ev100=ev) for ev in readings.get("typed", ()))
    return ToneEntry(name="wall", mark="A", at=(0.5, 0.5), readings=(seen, *typed))


class Guess(SimpleTestCase):
    def test_a_frame_is_what_a_meter_would_have_set_it_by(self):
        """A frame whose mean lies one stop under middle grey in sun at 40 degrees: its middle grey is one stop over the guide."""
        sun = daylight_ev100("sun", 40).ev100
        self.assertAlmostEqual(guessed("sun", -1.0).ev100, sun + 1, places=2)
        self.assertAlmostEqual(guessed("sun", 0.0, 10.0).ev100, 13.6, places=2)
        self.assertEqual(guessed("indoors", 0.5, 40.0).ev100, 7.5)
        # Where the sun is down, the usual height stands for whatever hour it was.
        self.assertEqual(guessed("cloud", 0.0, -20.0), guessed("cloud", 0.0))

    def test_how_light_the_file_is_does_not_matter(self):
        """Law: the same scene in a file half as light has the same EV at each of its places."""
        light = np.random.default_rng(3).uniform(0.05, 0.4, (20, 30, 3))
        for stops in (-2.0, -0.5, 1.0):
            shifted = light * 2.0**stops
            evs = [guessed("sun", frame_stops(each)).ev100 + np.log2(each[3, 7].mean()) for each in (light, shifted)]
            self.assertAlmostEqual(*evs, delta=0.02)

    def test_what_is_black_or_blank_does_not_count(self):
        light = np.full((10, 10, 3), 0.18)
        light[:3], light[7:] = 0.0, 1.0
        self.assertAlmostEqual(frame_stops(light), 0.0, places=6)
        for end in (0.0, 1.0):
            self.assertIsNone(frame_stops(np.full((10, 10, 3), end)))
        self.assertAlmostEqual(frame_stops(np.full((4, 4, 3), 2.0), clip=None), np.log2(2 / 0.18), places=6)

    def test_every_light_of_the_question_is_in_the_guide(self):
        self.assertLess(guessed("indoors", 0).ev100, guessed("shade", 0).ev100)
        evs = [guessed(light, 0).ev100 for light in TAKEN_IN]
        self.assertEqual(evs, sorted(evs, reverse=True))

    def test_data_and_readings_go_before_it(self):
        document = Document(taken_in=TakenIn("sun", 15.0), tones=(tone(),))
        self.assertEqual((light_scale(document, FACTS).offset, guessed_light(document)), (15.0, "sun"))
        known = Facts(600, 400, middle_grey_ev100=11.0)
        self.assertEqual(light_scale(document, known).offset, 11.0)
        read = document.with_(tones=(tone(typed=(9.0,)),))
        self.assertEqual((light_scale(read, FACTS).offset, guessed_light(read)), (10.0, ""))
        self.assertIsNone(light_scale(document.with_(taken_in=None), FACTS))

    def test_a_plan_that_no_picture_reading_decides_is_no_guess(self):
        """Tones read with a meter and named, beside a picture that was guessed: nothing to warn of."""
        typed = ToneEntry(name="coal", mark="B", readings=(Reading(kind="spot", ev100=8.0),))
        document = Document(taken_in=TakenIn("sun", 15.0), tones=(typed,))
        self.assertEqual(brief_of(document).taken_in, "")
        self.assertEqual(brief_of(document.with_(tones=(typed, tone()))).taken_in, "sun")
