"""What is offered for a sighted tone: by brightness and place on either side of every limit, and nothing by colour alone."""

import colorsys

from django.test import SimpleTestCase

from dimgrey.core.planning.tonenames import is_beyond_texture, suggestions

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
        self.assertEqual(names(GREY, -5.1), ["black opening", "deep shadow"])
        self.assertEqual(names(GREY, -4.9), ["shadow with texture", "dark corner"])
        self.assertEqual(names(GREY, -2.6)[0], "shadow with texture")
        self.assertEqual(names(GREY, -2.4), [])

    def test_bright_tones(self):
        self.assertEqual(names(GREY, 3.6), ["glare", "bright cloud"])
        self.assertEqual(names(GREY, 3.6, light="A")[0], "bare light")
        self.assertEqual(names(GREY, 3.6, light_note="the long room")[0], "bare light")
        self.assertEqual(names(GREY, 3.4), [])

    def test_a_sky_goes_by_its_place_too(self):
        self.assertEqual(names(BLUE, 1, height=0.44), ["blue sky"])
        self.assertEqual(names(BLUE, 1, height=0.46), [])
        self.assertEqual(names(BLUE, 1, height=0.3, light="A"), [])
        turned = lambda hue: colorsys.hsv_to_rgb(hue / 360, 0.8, 0.5)
        self.assertEqual([bool(names(turned(hue), 0, 0.2)) for hue in (184, 186, 264, 266)], [False, True, True, False])

    def test_colour_alone_names_nothing(self):
        for colour in (GREY, GREEN, RED, PALE_SKIN, BLUE):
            for stops in (-2.0, 0.0, 2.0, 3.4):
                self.assertEqual(names(colour, stops), [], (colour, stops))

    def test_names_taken_are_left_out(self):
        self.assertEqual(names(GREY, -6, taken=("black opening",)), ["deep shadow"])

    def test_beyond_texture_on_either_side(self):
        self.assertEqual([is_beyond_texture(s) for s in (-5.1, -4.9, 0, 3.4, 3.6)], [True, False, False, False, True])
