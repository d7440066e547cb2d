"""Names for sighted tones: which come first on either side of every limit of brightness, hue and place."""

from django.test import SimpleTestCase

from dimgrey.core.planning.tonenames import suggestions

GREY, BLUE, GREEN, RED, PALE_SKIN = (
    (0.2, 0.2, 0.2),
    (0.1, 0.2, 0.5),
    (0.06, 0.11, 0.04),
    (0.3, 0.1, 0.06),
    (0.4, 0.27, 0.2),
)


def names(colour, stops, height=0.7, **said):
    return [each.name for each in suggestions(colour, stops, height, **said)]


class Names(SimpleTestCase):
    def test_dark_tones(self):
        self.assertEqual(names(GREY, -5.1)[:2], ["black opening", "deep shadow"])
        self.assertEqual(names(GREY, -4.9)[:2], ["shadow with texture", "dark corner"])
        self.assertEqual(names(GREY, -2.6)[0], "shadow with texture")
        self.assertEqual(names(GREY, -2.4)[0], "slate")
        self.assertEqual(names(GREY, -1.6)[0], "slate")
        self.assertEqual(names(GREY, -1.4)[0], "stone")

    def test_bright_tones(self):
        self.assertEqual(names(GREY, 3.6)[0], "glare")
        self.assertEqual(names(GREY, 3.6, light="A")[0], "bare light")
        self.assertEqual(names(GREY, 3.6, light_note="the long room")[0], "bare light")
        self.assertEqual(names(GREY, 3.4)[0], "white wall")
        self.assertEqual(names(GREY, 3.4, height=0.5)[0], "cloud")
        self.assertEqual(names(GREY, 3.4, height=0.51)[0], "white wall")
        self.assertEqual(names(GREY, 3.4, height=0.2, light="A")[0], "white wall")
        self.assertEqual(names(GREY, 1.1, height=0.2)[0], "cloud")
        self.assertEqual(names(GREY, 0.9, height=0.2)[0], "stone")

    def test_hues(self):
        self.assertEqual(names(BLUE, 1, height=0.44)[0], "blue sky")
        self.assertEqual(names(BLUE, 1, height=0.46)[0], "shade")
        self.assertEqual(names(BLUE, 1, height=0.3, light="A")[0], "shade")
        self.assertEqual(names(GREEN, 0)[0], "leaves")
        self.assertEqual(names(RED, 0)[0], "brick")
        turned = lambda hue: __import__("colorsys").hsv_to_rgb(hue / 360, 0.8, 0.5)
        expected = [(64, "brick"), (66, "leaves"), (184, "leaves"), (186, "shade"), (264, "shade"), (266, "middle tone"),
                    (319, "middle tone"), (321, "brick")]  # fmt: skip
        for hue, first in expected:
            self.assertEqual(names(turned(hue), 0)[0], first, hue)

    def test_pale_colours_are_named_as_greys(self):
        pale = lambda saturation: (0.2, 0.2 * (1 - saturation), 0.2 * (1 - saturation))
        self.assertEqual(names(pale(0.34), 0)[0], "stone")
        self.assertEqual(names(pale(0.36), 0)[0], "brick")

    def test_skin_is_neither_dark_nor_bright_nor_vivid(self):
        for stops, is_skin in ((-0.6, False), (-0.4, True), (1.9, True), (2.1, False)):
            self.assertEqual("skin" in names(PALE_SKIN, stops), is_skin, stops)
        vivid = lambda saturation: (0.4, 0.4 * (1 - saturation * 0.7), 0.4 * (1 - saturation))
        self.assertIn("skin", names(vivid(0.69), 0))
        self.assertNotIn("skin", names(vivid(0.71), 0))

    def test_names_taken_are_left_out_to_the_last(self):
        first = names(GREY, 0)
        self.assertEqual(len(first), 5)
        self.assertEqual(names(GREY, 0, taken=first), ["tone 1"])
        self.assertEqual(names(GREY, 0, taken=[*first, "tone 1"]), ["tone 2"])
