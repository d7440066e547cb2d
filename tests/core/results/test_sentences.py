"""A miss in sentences, and what kind of file a result is."""

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.planning.prints import Printing
from dimgrey.core.results.causes.cause import Part, Shot
from dimgrey.core.results.misses import Miss
from dimgrey.core.results.resultkinds import KINDS, kind_of, negative_falls, printing_of, shown_lightness
from dimgrey.core.results.sentences import told, unexplained_stops


def miss(*parts, a=0.0, b=0.0):
    return Miss(parts, a, 0.05, b, 0.01, {}, 0.05, 20)


def said(part, **shot):
    (found,) = told(miss(part, a=part.size), Shot(**shot))
    return f"{found.what} {found.next}"


class Sentences(SimpleTestCase):
    def test_every_part_says_what_it_is_and_what_to_change(self):
        for part, shot, words in (
            (Part("exposure", 0.667, 0.1), {}, "The whole picture is ⅔ stop lighter than planned (±0.1). Next time give ⅔ stop less light"),
            (Part("exposure", -2.0, 0.04), {}, "The whole picture is 2 stops darker than planned (±0.05). Next time give 2 stops more light"),
            (Part("exposure", -1.0, 0.1), {"set_stops": -1.0}, "That is what was set: 1 stop less light was set than planned."),
            (Part("exposure", 1.0, 0.1), {"set_stops": 0.333}, "⅓ stop more light was set than planned; ⅔ stop lighter is left. Next time give ⅔ stop less"),
            (Part("exposure", 0.5, 0.1), {"is_print": True, "tells_exposure": False}, "The print is ½ stop lighter"),
            (Part("exposure", 0.5, 0.1), {"is_print": True}, "It says nothing of the exposure of the film."),
            (Part("contrast", 0.25, 0.02), {}, "Contrast is 25 % higher than planned (±2 %). Develop less by about 1 step of N"),
            (Part("contrast", -0.2, 0.02), {"is_film": False}, "Turn contrast up by about 71 % of its way."),
            (Part("contrast", -0.2, 0.02), {"is_print": True}, "Print it on a harder grade."),
            (Part("filter", 1.2, filters=("none", "yellow")), {"filter": "orange"}, "as if seen through no filter or the yellow filter in place of orange, up to 1.2 zones off."),
            (Part("flare", 0.08), {}, "8 % of middle grey"),
            (Part("tone", -1.0, tone="door"), {}, "door alone is 1 zone darker than planned."),
            (Part("end", 1.0, tone="cloud"), {}, "cloud is lost in white, and was to keep texture. Give it room at that end: less light"),
            (Part("end", -1.0, tone="coal"), {}, "coal is lost in black"),
        ):  # fmt: skip
            with self.subTest(part=part, shot=shot):
                self.assertIn(words, said(part, **shot))

    def test_as_planned_says_nothing_more(self):
        self.assertEqual(told(miss(), Shot()), ())

    def test_what_was_set_on_purpose_is_no_error_to_learn_from(self):
        self.assertEqual(unexplained_stops(miss(a=0.5), Shot(set_stops=0.5)), 0.0)
        self.assertIsNone(unexplained_stops(miss(a=0.5), Shot(tells_exposure=False)))


class Kinds(SimpleTestCase):
    def test_the_kind_is_told_from_the_file_unless_a_person_says_it(self):
        for given, name in (
            (("", False, False, False, True), "camera file"),
            (("", True, False, False, False), "raw"),
            (("", False, True, True, False), "negative"),
            (("", False, False, True, False), "positive"),
            (("", False, False, True, True), "camera file"),
            (("phone", True, True, True, True), "phone"),
        ):
            self.assertEqual(kind_of(*given).name, name, given)

    def test_a_camera_file_of_a_scene_on_film_has_a_cameras_curve(self):
        film = Printing("film", -1)
        self.assertEqual(printing_of(KINDS["camera file"], film), Printing("digital file"))
        self.assertIs(printing_of(KINDS["positive"], film), film)
        setup = Printing("digital file", tone=(0.5, 0, 0))
        self.assertIs(printing_of(KINDS["camera file"], setup), setup)

    def test_a_negative_is_read_by_its_density(self):
        # Zone V lies 4 stops above the speed point: 0.10 + 4 * 0.30103 * 0.62 = 0.8466 of density.
        light = np.concatenate([np.full(50, 0.9), 0.9 * 10.0 ** -np.array([0.10, 0.8466, 1.2198])])
        np.testing.assert_allclose(negative_falls(light)[-3:], [1.0, 5.0, 7.0], atol=0.01)
        # N-2 prints IX on VII, so the density of VII is that of a tone that fell on IX.
        self.assertAlmostEqual(negative_falls(light, -2)[-1], 9.0, delta=0.02)
        grey = np.repeat(light.reshape(1, -1)[..., None], 3, axis=-1)
        shown = shown_lightness(grey, Printing("film"), is_negative=True)
        np.testing.assert_allclose(shown[0, -3:], [8, 50, 76], atol=0.4)

    def test_light_is_shown_through_the_plans_curve_and_a_file_as_it_stands(self):
        light = np.full((1, 1, 3), 0.18)
        self.assertAlmostEqual(
            float(shown_lightness(light, Printing("digital raw"), scene_linear=True)[0, 0]), 50, places=2
        )
        self.assertAlmostEqual(float(shown_lightness(light, Printing("film"))[0, 0]), 49.5, places=1)
