"""One colour in plain numbers says what the arrays say of it."""

import math

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.colour import chromaticity, encoding, greys, luminance, measuredcolours, onecolour, ownmix
from dimgrey.core.colour.chain import glass_chain, grey_of_colour, mixed_chain
from dimgrey.core.colour.chainterms import terms_of

colours = st.tuples(*[st.floats(-0.05, 4.0, allow_subnormal=False)] * 3)
THROUGH = (("general panchromatic", "D55", ("orange",)), ("orthochromatic", "A", ()), ("eye", "D65", ("blue",)))
BENDS = ((10.0, 0.8), (120.0, -1.2), (230.0, -0.6))


class Alike(SimpleTestCase):
    @given(colours)
    def test_place_light_and_table(self, colour):
        for through in THROUGH:
            table = greys.table_of(through)
            self.assertAlmostEqual(
                onecolour.looked_up(terms_of(through).nodes, colour),
                float(chromaticity.looked_up(table, np.array(colour))),
                places=9,
            )
        self.assertAlmostEqual(onecolour.light_of(colour), float(chromaticity.light_of(np.array(colour))), places=9)

    @given(colours)
    def test_greys_through_glass_sky_and_mixes(self, colour):
        for chain in (glass_chain(*THROUGH[0]), mixed_chain("red"), mixed_chain((0.3, 0.6, 0.1), BENDS)):
            for sky in (False, True):
                here = grey_of_colour(chain, colour, sky)
                self.assertTrue(
                    math.isclose(
                        here, float(greys.grey_of(chain, np.array(colour), float(sky))), rel_tol=1e-9, abs_tol=1e-12
                    )
                )

    @given(colours)
    def test_the_curve_over_hue(self, colour):
        here, there = ownmix.moved_stops(BENDS, colour), float(greys.moved_stops(BENDS, np.array(colour)))
        self.assertAlmostEqual(here, there, places=9)

    def test_the_curve_passes_through_its_points(self):
        for hue, stops in BENDS:
            self.assertAlmostEqual(ownmix.curve_at(BENDS, hue), stops, delta=0.01)

    @given(st.floats(0, 1))
    def test_an_encoded_channel(self, encoded):
        self.assertAlmostEqual(luminance.linear_of_channel(encoded), float(encoding.linear_of_srgb(encoded)), places=12)

    def test_the_expected_error_of_a_kind_that_is_missed_alike_is_that_miss(self):
        objects = measuredcolours.known().features.ravel().tolist()
        for stops in (0.0, 0.1, 0.4):
            error = onecolour.expected_error([stops] * (len(objects) // 2), objects, (0.3, 0.1, 0.06))
            self.assertAlmostEqual(error, math.hypot(0.02, onecolour.OF_SPREAD * stops), places=9)

    def test_a_colour_is_as_sure_as_the_objects_near_it(self):
        near, far = (0.3, 0.1, 0.06), (0.05, 0.1, 0.5)
        objects = [*onecolour.features_of(near), *onecolour.features_of(far)]
        sure = onecolour.expected_error([0.0, 1.0], objects, near)
        self.assertLess(sure, onecolour.expected_error([1.0, 0.0], objects, near) / 1.3)
