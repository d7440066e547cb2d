"""The light map: what the browser unpacks is the picture, and the server's greys of it are those of the working copy."""

import numpy as np
from django.test import SimpleTestCase

from dimgrey.core.colour.chain import glass_chain, mixed_chain
from dimgrey.core.colour.chromaticity import light_and_places
from dimgrey.core.colour.greys import fine_gains
from dimgrey.core.errors import Unreadable
from dimgrey.core.picture import lightmap
from dimgrey.core.picture.display import display_table, grey_picture


def greys(linear, chain, table):
    return grey_picture(*light_and_places(linear.reshape(-1, 3).T.copy()), fine_gains(chain), table)[0].astype(int)


class Maps(SimpleTestCase):
    def picture(self, shape=(40, 60)):
        rng = np.random.default_rng(5)
        smooth = np.exp2(rng.uniform(-9, 3, (*shape, 1)))
        return (smooth * rng.uniform(0.15, 1, (*shape, 3))).astype(np.float32)

    def test_what_is_unpacked_is_what_was_packed(self):
        linear = self.picture()
        planes = lightmap.unpacked(lightmap.packed(np.moveaxis(linear, -1, 0)))
        self.assertEqual((planes.shape, planes.dtype), ((4, 40, 60), np.uint8))
        seen = lightmap.colours_of(planes)
        off = np.abs(np.log2((seen + 1e-6) / (linear + 1e-6)))
        self.assertLess(np.quantile(off, 0.99), 0.04)

    def test_a_neutral_stays_one_and_black_is_black(self):
        for grey in (0.0, 1e-5, 0.18, 40.0):
            seen = lightmap.colours_of(lightmap.unpacked(lightmap.packed(np.full((3, 2, 3), grey, np.float32))))
            np.testing.assert_allclose(seen, grey, rtol=0.006, atol=1e-8)

    def test_the_greys_of_the_map_are_those_of_the_picture(self):
        linear = self.picture((100, 100))
        seen = lightmap.colours_of(lightmap.unpacked(lightmap.packed(np.moveaxis(linear, -1, 0)))).astype(np.float32)
        for chain in (glass_chain("general panchromatic", "D55", ("red",)), mixed_chain("blue")):
            table = display_table(0.5)
            off = np.abs(greys(linear, chain, table) - greys(seen, chain, table))
            self.assertGreater(np.mean(off <= 1), 0.99)
            self.assertLessEqual(off.max(), 3)

    def test_a_share_travels_as_one_plane(self):
        share = np.random.default_rng(1).integers(0, 256, (7, 11)).astype(np.uint8)
        np.testing.assert_array_equal(lightmap.unpacked(lightmap.packed_share(share))[0], share)

    def test_what_is_no_map_is_refused(self):
        good = lightmap.packed(np.ones((3, 2, 2), np.float32))
        for data in (b"", b"abc", good[:9], b"\xff" + good[1:], good[:-3]):
            with self.subTest(data[:4]), self.assertRaises(Unreadable):
                lightmap.unpacked(data)
