"""Cautions for people: each with what raises it, and with what must not."""

from django.test import SimpleTestCase

from dimgrey.core.cautions.registry import KINDS
from dimgrey.core.cautions.safety import CLOSING, TEXTS, Circumstances, dangers


def codes(**facts):
    return [danger.code for danger in dangers(Circumstances(**facts))]


class Dangers(SimpleTestCase):
    def test_facts(self):
        for facts, expected in (
            ({}, []),
            ({"sun": "frame"}, ["sun"]),
            ({"sun": "near long lens"}, ["sun"]),
            ({"tidal": True}, ["water"]),
            ({"night": True}, ["night"]),
            ({"wind_m_s": 9.0}, ["weather"]),
            ({"wind_m_s": 8.99}, []),
            ({"rain": True}, ["weather"]),
        ):
            with self.subTest(facts=facts):
                self.assertEqual(codes(**facts), expected)

    def test_words(self):
        for words, expected in (
            ("along the canal", ["water"]),
            ("Old railway", ["roads"]),
            ("Kiln at work", ["heat"]),
            ("portrait of a potter", ["people"]),
            ("inside the works", ["permits"]),
            ("with the darkroom open", ["chemicals"]),
            ("hot lamps in the studio", ["mains"]),
            ("Season of seals, broadly trailing", []),
            ("KILN by the Weir", ["water", "heat"]),
        ):
            with self.subTest(words):
                self.assertEqual(codes(words=words), expected)

    def test_what_can_hurt_is_grave_and_has_a_text(self):
        for code, text in TEXTS.items():
            self.assertEqual(KINDS[code].subject, "safety")
            self.assertTrue(text.endswith("."))
        grave = {code for code in TEXTS if KINDS[code].grave}
        self.assertEqual(grave, {"sun", "water", "night", "roads", "heat", "weather"})
        self.assertIn("Local rules", CLOSING)
