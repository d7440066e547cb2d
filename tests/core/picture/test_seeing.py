"""Reading the grey picture: contours, balance, pulls, edges, twins, crop, separation, the look-up table."""

import math
import tempfile
from pathlib import Path

import numpy as np
from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from dimgrey.core.colour.chain import glass_chain, mixed_chain, noise_gain
from dimgrey.core.colour.chromaticity import light_and_places
from dimgrey.core.colour.greys import fine_gains
from dimgrey.core.errors import OutOfRange
from dimgrey.core.picture import contours, crop, cube, display, measures, twins
from dimgrey.core.picture.parttwins import part_twins
from dimgrey.core.picture.tonemap import ToneMap, reduced
from dimgrey.core.planning import separation
from dimgrey.core.planning.brief import Brief, Glass, PlacingChoice, Tone
from dimgrey.core.planning.media import medium
from dimgrey.core.planning.plan import plan

PAN = glass_chain("general panchromatic", "D55")


def grey_light(zones):
    """Neutral linear light on zones, shape (..., 3)."""
    return np.repeat((0.18 * 2.0 ** (np.asarray(zones, float) - 5))[..., None], 3, axis=-1)


class ToneMaps(SimpleTestCase):
    def test_a_neutral_keeps_its_zone_and_exposure_adds(self):
        zones = np.array([0.0, 3.0, 5.0, 8.0])
        np.testing.assert_allclose(ToneMap(PAN).zones(grey_light(zones)), zones, atol=1e-6)
        np.testing.assert_allclose(ToneMap(PAN, stops=1).zones(grey_light(zones)), zones + 1, atol=1e-6)
        pressed = ToneMap(PAN, development=-2).zones(grey_light(zones))
        np.testing.assert_allclose(pressed, [0, 3, 3 + 2 * 4 / 6, 3 + 5 * 4 / 6], atol=1e-6)

    def test_the_served_picture_is_the_map_within_a_grey_level(self):
        rng = np.random.default_rng(3)
        linear = rng.uniform(0.01, 0.9, (4000, 3))
        for filters in ((), ("red",), ("green",)):
            chain = glass_chain("extended red", "D65", filters)
            table = display.display_table(0.7)
            share = rng.integers(0, 256, len(linear)).astype(np.uint8)
            for sky in (None, share):
                above = None if sky is None else (sky, fine_gains(chain, sky=True))
                shown, _ = display.grey_picture(*light_and_places(linear.T), fine_gains(chain), table, above)
                exact = ToneMap(chain, 0.7).lightness(linear, None if sky is None else sky / 255)
                off = np.abs(shown.astype(int) - display.grey8_of_lightness(exact).astype(int))
                self.assertLessEqual(np.quantile(off, 0.995), 1, (filters, sky is None))
                self.assertLessEqual(off.max(), 2, (filters, sky is None))  # the purest colours lie between two places

    def test_the_small_copy_keeps_the_mean_light_of_any_shape(self):
        for shape in ((3, 1067, 1600), (3, 50, 20000), (3, 1, 1), (3, 7, 3)):
            planes = np.full(shape, 0.25, np.float32)
            small = reduced(planes)
            self.assertLessEqual(max(small.shape[:2]), 400)
            self.assertAlmostEqual(float(small.mean()), 0.25, places=6)


class Contours(SimpleTestCase):
    def ramp(self, width=330, height=60):
        return np.repeat(np.linspace(0, 10, width)[None], height, axis=0)

    def test_lines_lie_on_the_exact_borders_of_the_zones(self):
        drawn = contours.contours(self.ramp(), smoothing_px=0)
        self.assertEqual([line.border for line in drawn.lines], [k + 0.5 for k in range(10)])
        for line in drawn.lines:
            # Pixel k of n lies at (k + 1/2) / n and holds 10 k / (n - 1).
            expected = (line.border / 10 * 329 + 0.5) / 330
            np.testing.assert_allclose(line.points[:, 0], expected, atol=1e-6)

    def test_smoothing_leaves_a_ramp_where_it_is(self):
        for line in contours.contours(self.ramp()).lines[1:-1]:
            expected = (line.border / 10 * 329 + 0.5) / 330
            np.testing.assert_allclose(line.points[:, 0], expected, atol=0.002)

    def test_numerals_name_the_lighter_zone(self):
        drawn = contours.contours(self.ramp(), smoothing_px=0)
        self.assertEqual(
            [line.numeral for line in drawn.lines], ["I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X"]
        )

    def test_lost_ends_are_areas(self):
        drawn = contours.contours(self.ramp(), outer=(2.0, 8.0), smoothing_px=0)
        (dark,), (light,) = drawn.lost_shadows, drawn.lost_highlights
        self.assertAlmostEqual(dark[:, 0].max(), (2 / 10 * 329 + 0.5) / 330, places=6)
        self.assertAlmostEqual(light[:, 0].min(), (8 / 10 * 329 + 0.5) / 330, places=6)

    def test_a_picture_of_one_tone_or_one_pixel_has_no_lines(self):
        for zones in (np.full((20, 20), 5.0), np.full((1, 1), 5.0), np.full((1, 50), 3.0)):
            drawn = contours.contours(zones)
            self.assertEqual((drawn.lines, drawn.labels), ((), ()))
        self.assertEqual(len(contours.contours(np.full((20, 20), 0.0), outer=(2, 8)).lost_shadows), 1)


class Balance(SimpleTestCase):
    def test_shares_of_known_areas(self):
        zones = np.repeat([0, 3, 5, 7, 10], [10, 20, 30, 25, 15])
        self.assertEqual(measures.balance(zones).shares, (0.10, 0.20, 0.30, 0.25, 0.15))

    @given(st.lists(st.floats(-3, 13), min_size=1, max_size=200))
    def test_shares_sum_to_one(self, zones):
        self.assertAlmostEqual(sum(measures.balance(zones).shares), 1)

    def test_each_scale_holds_for_its_picture_and_for_no_opposite(self):
        pictures = {
            "full scale": np.repeat([1, 3, 5, 7, 10], 20),
            "graphic": np.repeat([0, 1, 5, 9, 10], [40, 10, 10, 10, 30]),
            "high-key": np.repeat([4, 7, 9], [20, 40, 40]),
            "low-key": np.repeat([1, 3, 7], [50, 45, 5]),
            "soft": np.repeat([4, 5, 7], [30, 40, 30]),
        }
        opposite = {
            "graphic": "soft",
            "soft": "graphic",
            "high-key": "low-key",
            "low-key": "high-key",
            "full scale": "soft",
        }
        for scale, zones in pictures.items():
            with self.subTest(scale):
                self.assertTrue(measures.verdict(measures.balance(zones), scale).holds)
                self.assertFalse(measures.verdict(measures.balance(pictures[opposite[scale]]), scale).holds)
        self.assertIsNone(measures.verdict(measures.balance([5]), ""))

    def test_what_most_of_a_picture_is_is_said_without_a_scale_and_an_even_one_is_not_commented(self):
        self.assertEqual(
            measures.remark(measures.balance(np.repeat([3, 5, 7], [15, 70, 15]))),
            "Much middle grey: 70 %, hardly any black or white.",
        )
        self.assertEqual(measures.remark(measures.balance(np.repeat([0, 5, 9], [65, 15, 20]))), "Mostly black: 65 %.")
        self.assertEqual(measures.remark(measures.balance(np.repeat([1, 3, 5, 7, 10], 20))), "")

    def test_two_colours_are_named_and_complementary_ones_are_called_so(self):
        for first, second, words in (
            ((0.3, 0.05, 0.04), (0.05, 0.3, 0.3), "red and cyan, which are complementary"),
            ((0.3, 0.05, 0.04), (0.05, 0.2, 0.04), "red and green"),
            ((0.2, 0.2, 0.2), (0.21, 0.2, 0.2), "two greys"),
            ((0.2, 0.2, 0.2), (0.05, 0.06, 0.3), "grey and blue"),
            ((0.3, 0.05, 0.04), (0.2, 0.04, 0.03), "two shades of red"),
        ):
            self.assertEqual(twins.colour_words(np.array([first, second])), words)


class PullsAndEdges(SimpleTestCase):
    def test_the_brightest_spot_pulls_first_and_a_weaker_one_second(self):
        field = np.full((80, 120), 40.0)
        field[16:24, 90:98] = 95
        field[56:64, 20:28] = 70
        first, second = measures.pulls(field)[:2]
        self.assertAlmostEqual(first.x, 94 / 120, delta=0.03)
        self.assertAlmostEqual(first.y, 20 / 80, delta=0.04)
        self.assertAlmostEqual(second.x, 24 / 120, delta=0.03)
        self.assertEqual(measures.place_of(measures.pulls(field), 0.2, 0.75), 2)
        self.assertIn("comes second", measures.pull_words(measures.pulls(field), ("cup", 0.2, 0.75)))
        self.assertIn("goes to cup first", measures.pull_words(measures.pulls(field), ("cup", 94 / 120, 0.25)))
        self.assertIn("not among", measures.pull_words(measures.pulls(field), ("cup", 0.5, 0.5)))

    def test_large_pictures_are_looked_at_small(self):
        tall, wide, small = np.zeros((1600, 900)), np.zeros((900, 1600)), np.zeros((60, 80))
        side = measures.PULL_SIDE
        self.assertEqual(measures._narrowed(small).shape, (60, 80))
        for field in (tall, wide):
            self.assertTrue(side <= max(measures._narrowed(field).shape) < 2 * side)
        thin = np.zeros((2, 1600))
        self.assertEqual(measures._narrowed(thin).shape, (2, 1600), "thinner than a block: as it is")

    def test_one_tone_pulls_nowhere(self):
        for shape in ((50, 60), (1, 1), (1, 300)):
            self.assertEqual(measures.pulls(np.full(shape, 30.0)), ())

    def test_bright_edges_and_corners_are_named(self):
        field = np.full((100, 150), 40.0)
        field[:6] = 90
        names = [edge.name for edge in measures.bright_edges(field)]
        self.assertEqual(names[0], "top edge")
        self.assertNotIn("bottom edge", names)
        self.assertEqual(measures.bright_edges(np.full((100, 150), 40.0)), ())
        self.assertEqual(measures.bright_edges(np.full((1, 1), 40.0)), ())


class TwinsOnConstructedPictures(SimpleTestCase):
    def two_halves(self, left, right):
        picture = np.empty((80, 120, 3))
        picture[:, :60], picture[:, 60:] = left, right
        return picture

    def same_grey_as(self, colour, hue):
        """A colour of another hue with the same grey through the chain."""
        return np.asarray(hue) * float(ToneMap(PAN).grey(colour) / ToneMap(PAN).grey(hue))

    def found(self, picture, chain=PAN):
        areas = twins.areas_of(picture, 40)
        return areas, twins.twins(areas, ToneMap(chain).lightness(areas.colours))

    def test_red_and_green_of_one_grey_are_twins_that_red_glass_parts(self):
        red = np.array([0.30, 0.06, 0.05])
        green = self.same_grey_as(red, [0.06, 0.16, 0.04])
        areas, found = self.found(self.two_halves(red, green))
        self.assertTrue(found)
        worst = found[0]
        sides = {areas.colours[worst.a][0] > 0.2, areas.colours[worst.b][0] > 0.2}
        self.assertEqual(sides, {True, False})
        candidates = separation.candidate_chains(medium("film"), "D55")
        ways = part_twins((red, green), candidates, "film")
        self.assertIn(ways[0][0], ("red", "deep red"))
        self.assertNotIn("none", [name for name, _ in ways])

    def test_a_red_filter_makes_them_part_on_the_picture(self):
        red = np.array([0.30, 0.06, 0.05])
        picture = self.two_halves(red, self.same_grey_as(red, [0.06, 0.16, 0.04]))
        self.assertEqual(self.found(picture, glass_chain("general panchromatic", "D55", ("red",)))[1], ())

    def test_colours_that_no_filter_parts(self):
        mild, other = np.array([0.20, 0.19, 0.17]), np.array([0.17, 0.19, 0.20])
        self.assertEqual(part_twins((mild, other), separation.candidate_chains(medium("film"), "D55"), "film"), ())

    def test_greys_that_differ_and_pictures_of_one_colour_have_no_twins(self):
        self.assertEqual(self.found(self.two_halves([0.3, 0.06, 0.05], [0.02, 0.05, 0.01]))[1], ())
        self.assertEqual(self.found(np.full((40, 60, 3), 0.18))[1], ())
        self.assertEqual(self.found(np.full((1, 1, 3), 0.18))[1], ())
        self.assertEqual(self.found(np.zeros((30, 30, 3)))[1], ())

    def test_outlines_go_around_the_areas(self):
        red = np.array([0.30, 0.06, 0.05])
        areas, found = self.found(self.two_halves(red, self.same_grey_as(red, [0.06, 0.16, 0.04])))
        rings = twins.outline(areas, [found[0].a, found[0].b])
        self.assertTrue(rings)
        points = np.concatenate(rings)
        self.assertTrue((points >= -0.01).all() and (points <= 1.01).all())

    def test_an_outline_lies_on_the_border_of_its_area(self):
        labels = np.zeros((40, 60), int)
        labels[10:30, 20:50] = 1
        areas = twins.Areas(labels, np.zeros((2, 3)), np.zeros((2, 3)), np.empty((0, 2), int), np.empty(0, int))
        (ring,) = twins.outline(areas, [1])
        # A pixel's middle is half a pixel in; the line of one half runs half a pixel outside the last middle.
        np.testing.assert_allclose(ring.min(axis=0), (20 / 60, 10 / 40), atol=1e-9)
        np.testing.assert_allclose(ring.max(axis=0), (50 / 60, 30 / 40), atol=1e-9)

    def test_twins_are_told_apart_at_each_limit(self):
        lab = np.array([[50.0, 0, 0], [50.0, 40, 0], [50.0, 0, 18]])
        pairs, borders = np.array([[0, 1], [0, 2]]), np.array([twins.SHORTEST_BORDER] * 2)
        made = lambda b=borders: twins.Areas(np.zeros((1, 1), int), np.zeros((3, 3)), lab, pairs, b)
        self.assertEqual([(t.a, t.b) for t in twins.twins(made(), np.array([50, 54.9, 50.0]))], [(0, 1)])
        self.assertEqual(twins.twins(made(), np.array([50, 55.1, 50.0])), ())
        self.assertEqual(twins.twins(made(borders - 1), np.array([50, 50, 50.0])), ())
        near, far = (twins.twins(made(), np.array([50, 50 + d, 50.0]))[0].weight for d in (0, 2.5))
        self.assertAlmostEqual(far / near, 0.5)


class Crops(SimpleTestCase):
    def test_the_largest_crop_of_each_shape_touches_two_sides(self):
        for ratio, shape in crop.RATIOS.items():
            for upright in (False, True):
                found = crop.largest_crop(ratio, 1.5, upright)
                width, height = found.right - found.left, found.bottom - found.top
                self.assertAlmostEqual(width * 1.5 / height, 1 / shape if upright else shape, places=3)
                self.assertAlmostEqual(max(width, height), 1)

    def test_a_crop_follows_its_centre_and_stays_inside(self):
        found = crop.largest_crop("1:1", 1.5, centre=(0.95, 0.5))
        self.assertAlmostEqual(found.right, 1)

    def test_a_crop_without_area_or_outside_is_refused(self):
        for edges, code in (((0.5, 0.2, 0.5, 0.9), "crop-empty"), ((0.6, 0.2, 0.4, 0.9), "crop-empty"), ((-0.2, 0, 1, 1), "crop-outside"), ((0, 0, math.nan, 1), "crop-outside")):  # fmt: skip
            with self.subTest(edges), self.assertRaises(OutOfRange) as caught:
                crop.require_crop(*edges)
            self.assertEqual(caught.exception.code, code)
        with self.assertRaises(OutOfRange):
            crop.largest_crop("7:6", 1.5)

    def test_a_measure_sees_only_the_crop(self):
        zones = np.zeros((10, 10))
        zones[:, 5:] = 10
        self.assertEqual(measures.balance(crop.Crop(0.5, 0, 1, 1).of(zones)).share("white"), 1.0)
        self.assertEqual(crop.Crop(0.4, 0.4, 0.42, 0.42).of(np.zeros((1, 1))).shape, (1, 1))
        self.assertEqual(crop.Crop(0.1, 0.25, 0.6, 0.75).of(np.zeros((8, 10, 3))).shape, (4, 5, 3))
        self.assertEqual(crop.Crop(0.99, 0.99, 1, 1).of(np.zeros((8, 10))).shape, (1, 1))

    def test_a_point_on_the_edge_of_a_crop_lies_in_it(self):
        part = crop.Crop(0.2, 0.3, 0.6, 0.7)
        for x, y, inside in ((0.2, 0.3, True), (0.6, 0.7, True), (0.19, 0.5, False), (0.61, 0.5, False),
                             (0.4, 0.29, False), (0.4, 0.71, False)):  # fmt: skip
            self.assertEqual(part.holds(x, y), inside, (x, y))

    def test_the_smallest_crop_and_the_guides(self):
        crop.require_crop(0.1, 0.1, 0.1 + 0.0201, 0.5)
        with self.assertRaises(OutOfRange):
            crop.require_crop(0.1, 0.1, 0.1 + 0.0199, 0.5)
        np.testing.assert_allclose(crop.guide_lines("golden"), (0.381966, 0.618034), atol=1e-6)
        np.testing.assert_allclose(crop.guide_lines("thirds"), (1 / 3, 2 / 3))


class Separation(SimpleTestCase):
    brick, ivy, sky = (0.30, 0.10, 0.06), (0.06, 0.11, 0.04), (0.11, 0.18, 0.42)

    def planned(self, **more):
        tones = (
            Tone("brick", "subject", (12.4,), self.brick),
            Tone("ivy", "background", (12.5,), self.ivy),
            Tone("sky", "sky", (13.5,), self.sky),
            Tone("coal", "shadow", (9.0,), (0.01, 0.01, 0.01)),
        )
        return plan(Brief(tones=tones, choice=PlacingChoice("shadow"), **more))

    def test_the_words_follow_the_limits(self):
        for zones, word in (
            (0, "merge"),
            (0.33, "merge"),
            (0.34, "weak"),
            (-0.99, "weak"),
            (1, "clear"),
            (2, "clear"),
            (2.01, "strong"),
        ):
            self.assertEqual(separation.parting(zones), word)

    def test_subjects_are_paired_with_what_is_behind_them(self):
        pairs = separation.suggested_pairs(self.planned().tones)
        self.assertEqual([(p.a, p.b) for p in pairs], [("brick", "ivy"), ("brick", "sky")])

    def test_red_or_orange_part_brick_from_ivy_and_nothing_does_not(self):
        tones = (Tone("brick", "subject", (12.4,), self.brick), Tone("ivy", "background", (12.5,), self.ivy))
        made = separation.colour_choices(plan(Brief(tones=tones, choice=PlacingChoice("known tone", "ivy", 5))))
        by_name = {way.name: way for way in made}
        self.assertEqual(by_name["none"].parted[0].word, "merge")
        self.assertIn(made[0].name, ("red", "deep red", "orange"))
        self.assertIn(by_name["red"].parted[0].word, ("clear", "strong"))
        self.assertAlmostEqual(by_name["red"].stops, math.log2(6.29), delta=0.01)
        self.assertEqual({way.name for way in made} >= {"none", "yellow", "green"}, True)

    def test_side_effects_are_named(self):
        by_name = {
            way.name: way for way in separation.colour_choices(self.planned(), [separation.Pair("brick", "ivy")])
        }
        merging = {(p.a, p.b) for way in by_name.values() for p in way.merges}
        self.assertTrue(any("sky" in pair for pair in merging), merging)

    def test_a_colour_sensor_gets_its_own_mixes_and_their_noise(self):
        made = separation.colour_choices(self.planned(medium=medium("digital raw")))
        self.assertEqual({way.name for way in made}, {"none", "yellow", "orange", "red", "green", "blue"})
        self.assertEqual({way.stops for way in made}, {0.0})
        self.assertAlmostEqual(noise_gain((0.21, 0.72, 0.07)), 1)
        self.assertGreater(noise_gain((2.0, -0.6, -0.4)), 2)

    def test_the_choice_does_not_depend_on_the_filter_already_there(self):
        plain, orange = (separation.colour_choices(self.planned(filters=f)) for f in ((), (Glass("orange"),)))
        self.assertEqual([way.name for way in plain], [way.name for way in orange])


class Cube(SimpleTestCase):
    def test_an_independent_reader_gives_the_same_grey(self):
        import colour

        for chain, kind in (
            (glass_chain("general panchromatic", "D55", ("orange",)), "film"),
            (mixed_chain("red"), "digital file"),
        ):
            tone_map = ToneMap(chain, kind=kind)
            with tempfile.TemporaryDirectory() as folder:
                path = Path(folder) / "look.cube"
                path.write_text(cube.cube_text(tone_map, 'Kiln "west"', "made by a test\nin two lines"))
                table = colour.read_LUT(str(path))
            self.assertEqual(table.size, 33)
            nodes = np.stack(np.meshgrid(*[np.linspace(0, 1, 33)] * 3, indexing="ij"), -1).reshape(-1, 3)
            exact = cube.cube_grey(nodes, tone_map)
            self.assertLess(np.abs(table.apply(nodes)[:, 0] - exact).max(), 1 / 255)
            between = np.random.default_rng(1).uniform(0.02, 1, (500, 3))
            between = between * 0.5 + between.mean(axis=1, keepdims=True) * 0.5  # colours as pictures have them
            off = np.abs(table.apply(between)[:, 0] - cube.cube_grey(between, tone_map))
            self.assertLess(np.quantile(off, 0.95), 1 / 255)
