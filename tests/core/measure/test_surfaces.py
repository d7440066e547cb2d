"""Surfaces: the compensations that practice names, and names that mean none."""

from django.test import SimpleTestCase

from dimgrey.core.measure.surfaces import SURFACES, Surface, surface_named


class Surfaces(SimpleTestCase):
    def test_usual_compensations(self):
        for name, stops in (("white wall, sun", 2), ("white paper", 7 / 3), ("black cloth on the table", -2), ("grass", 0),
                            ("pale skin", 1), ("snow", 2.5), ("snow in shade", 1), ("grey card", 0), ("doorway", -5)):  # fmt: skip
            self.assertAlmostEqual(surface_named(name).compensation_stops, stops, msg=name)

    def test_a_name_that_means_no_surface(self):
        for name in ("blue door", "tone 1", "glass", ""):
            self.assertIsNone(surface_named(name))

    def test_own_surfaces_come_first(self):
        own = (Surface("glaze white", ("glaze white",), 7 + 2 / 3), Surface("grass", ("grass",), 4.5))
        self.assertEqual(surface_named("glaze white bowl", own).zone, 7 + 2 / 3)
        self.assertEqual(surface_named("grass, front", own).zone, 4.5)
        self.assertEqual(surface_named("grass, front").zone, 5)

    def test_each_is_found_by_its_own_words_and_lies_on_the_scale(self):
        for surface in SURFACES:
            self.assertTrue(0 <= surface.zone <= 10)
            self.assertTrue(any(surface_named(word) is surface for word in surface.words), surface.name)
