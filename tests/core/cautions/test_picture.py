"""Cautions of a picture that tones were read from, on both sides of their limits."""

from dataclasses import replace

from django.test import SimpleTestCase

from dimgrey.core.cautions.registry import raised
from tests.core.cautions.test_exposure import SHADOW, WALL, planned


def found(*tones):
    return {each.code: each for each in raised("picture", planned(*tones))}


class Picture(SimpleTestCase):
    def test_a_blank_place(self):
        self.assertEqual(found(SHADOW, replace(WALL, clipped=True))["picture-clipped"].about, "wall")
        self.assertEqual(found(SHADOW, WALL), {})

    def test_a_black_place(self):
        """Its ends are as little to be trusted as burnt white, where they matter."""
        self.assertEqual(found(replace(SHADOW, blocked=True), WALL)["picture-blocked"].about, "mouth")
        self.assertEqual(found(SHADOW, replace(WALL, blocked=True, needs_texture=False)), {})

    def test_a_guessed_scale(self):
        guessed = lambda light: replace((made := planned(SHADOW, WALL)), brief=replace(made.brief, taken_in=light))
        for light, stops in (("sun", "1 stop"), ("indoors", "2 stops")):
            (told,) = raised("picture", guessed(light))
            self.assertEqual(told.code, "scale-guessed")
            self.assertIn(f"“{light}”, good to {stops}", told.text)
        self.assertEqual(raised("picture", guessed("")), ())

    def test_mixed_tones_under_the_spot(self):
        self.assertEqual(found(SHADOW, replace(WALL, mixed=2.0 + 1e-6))["mixed-tones"].about, "wall")
        self.assertEqual(found(SHADOW, replace(WALL, mixed=2.0)), {})

    def test_mixed_tones_count_only_where_they_matter(self):
        free = replace(WALL, mixed=3.0, needs_texture=False)
        self.assertEqual(found(SHADOW, free), {})
        self.assertIn("mixed-tones", found(replace(SHADOW, mixed=3.0), WALL))
        placed = replace(SHADOW, mixed=3.0, needs_texture=False)
        given = planned(SHADOW, WALL)
        brief = replace(given.brief, tones=(placed, WALL))
        self.assertEqual(given.placement.tone, "mouth")
        self.assertEqual([each.about for each in raised("picture", replace(given, brief=brief))], ["mouth"])
