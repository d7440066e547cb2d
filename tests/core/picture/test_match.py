"""One picture laid over another: turned, cropped, mirrored, negative, noisy; and other scenes refused."""

import numpy as np
from django.test import SimpleTestCase
from PIL import Image

from dimgrey.core.errors import CoreError
from dimgrey.core.picture.difference import difference_map
from dimgrey.core.picture.match import Match, by_points, laid, matched
from tests.reference.shots import DEMO, through_jpeg
from tests.share import many, share_of

SNAPSHOTS = sorted((DEMO / "snapshots").glob("*.jpg"))


def grey_of(path):
    return np.asarray(Image.open(path).convert("L"))


def changed(grey, rng, turn=0.0, scale=1.0, mirrored=False, negative=False, noise=4.0, quality=80, stops=0.0):
    """A picture after a lens and a scanner, and the matrix from fractions of the plan to fractions of it."""
    import cv2

    height, width = grey.shape
    m = cv2.getRotationMatrix2D((width / 2, height / 2), turn, scale)
    out = cv2.warpAffine(grey, m, (width, height), borderMode=cv2.BORDER_REFLECT) * 2.0**stops
    out = np.clip(out + rng.normal(0, noise, grey.shape), 0, 255)
    matrix = np.array(
        [
            [m[0, 0], m[0, 1] * height / width, m[0, 2] / width],
            [m[1, 0] * width / height, m[1, 1], m[1, 2] / height],
            [0, 0, 1],
        ]
    )
    out = 255 - out if negative else out
    if mirrored:
        out, matrix = out[:, ::-1], np.array([[-1, 0, 1], [0, 1, 0], [0, 0, 1]]) @ matrix
    return through_jpeg(np.ascontiguousarray(out), quality), matrix


class Matching(SimpleTestCase):
    def assert_found(self, grey, result, matrix, **expected):
        found = matched(grey, result)
        for x, y in ((0.25, 0.3), (0.5, 0.5), (0.75, 0.6)):
            u, v, w = matrix @ (x, y, 1)
            np.testing.assert_allclose(found.at(x, y), (u / w, v / w), atol=0.006)
        for name, value in expected.items():
            self.assertEqual(getattr(found, name), value)
        return found

    @many
    def test_turn_crop_mirror_and_negative_are_found_on_every_demo_scene(self):
        rng = np.random.default_rng(3)
        self.assertEqual(len(SNAPSHOTS), 6)
        changes = (
            {"turn": 3, "scale": 1.3},
            {"turn": 90, "stops": -1},
            {"turn": -6, "scale": 1.4, "mirrored": True},
            {"turn": 2, "scale": 1.1, "negative": True, "noise": 6, "quality": 60},
        )
        for path in SNAPSHOTS:
            grey = grey_of(path)
            for more in share_of(changes, path.stem):
                with self.subTest(scene=path.stem, **more):
                    result, matrix = changed(grey, rng, **more)
                    expected = {"is_mirrored": more.get("mirrored", False), "is_negative": more.get("negative", False)}
                    self.assert_found(grey, result, matrix, **expected)

    def test_another_scene_is_refused(self):
        for here, there in zip(SNAPSHOTS, SNAPSHOTS[1:] + SNAPSHOTS[:1], strict=True):
            with self.assertRaises(CoreError) as caught:
                matched(grey_of(here), grey_of(there))
            self.assertEqual(caught.exception.code, "another-scene")

    def test_a_blank_result_is_refused_with_what_it_is(self):
        grey = grey_of(SNAPSHOTS[0])
        for level, words in ((255, "white throughout"), (0, "black throughout"), (128, "one grey throughout")):
            with self.assertRaisesMessage(CoreError, words):
                matched(grey, np.full((300, 400), level, np.uint8))

    def test_a_border_and_another_shape_do_no_harm(self):
        grey = grey_of(SNAPSHOTS[1])
        height, width = grey.shape
        wide = np.full((height + 200, width + 500), 12, np.uint8)
        wide[100 : 100 + height, 300 : 300 + width] = grey
        matrix = np.array(
            [
                [width / (width + 500), 0, 300 / (width + 500)],
                [0, height / (height + 200), 100 / (height + 200)],
                [0, 0, 1],
            ]
        )
        found = self.assert_found(grey, wide, matrix, is_negative=False)
        self.assertAlmostEqual(found.share, 1.0, delta=0.01)
        part = grey[: height // 2, width // 3 :]
        found = matched(grey, part)
        self.assertAlmostEqual(found.share, 1 / 3, delta=0.04)

    def test_three_points_mend_and_a_line_is_refused(self):
        found = by_points([(0, 0), (1, 0), (0, 1)], [(0.1, 0.2), (0.6, 0.2), (0.1, 0.7)])
        np.testing.assert_allclose(found.at(0.5, 0.5), (0.35, 0.45))
        self.assertEqual(found.agreeing, 3)
        for there in ([(0, 0), (0.5, 0.5), (1, 1)], [(0.2, 0.2)] * 3):
            with self.assertRaisesMessage(CoreError, "on one line"):
                by_points([(0, 0), (0.5, 0.5), (1, 1)], there)
            with self.assertRaises(CoreError):
                by_points([(0, 0), (1, 0), (0, 1)], there)


class Laying(SimpleTestCase):
    def test_a_result_is_averaged_not_skipped_and_told_where_it_is(self):
        fine = np.indices((400, 600)).sum(axis=0) % 2 * 200.0
        over, inside = laid(fine, Match(), (150, 100))
        self.assertTrue(inside.all())
        np.testing.assert_allclose(over, 100, atol=1)
        shifted, inside = laid(fine, Match(((1, 0, 0.5), (0, 1, 0), (0, 0, 1))), (150, 100))
        self.assertAlmostEqual(inside.mean(), 0.5, delta=0.01)

    def test_no_shift_is_no_shift(self):
        ramp = np.tile(np.arange(300.0), (200, 1))
        over, _ = laid(ramp, Match(), (300, 200))
        np.testing.assert_allclose(over, ramp, atol=1e-3)


class Difference(SimpleTestCase):
    def test_lines_stand_at_half_a_zone_and_more_with_their_sign(self):
        planned = np.full((60, 90), 5.0)
        seen = planned + np.linspace(-1.5, 1.5, 90)
        drawn = difference_map(planned, seen, np.ones(planned.shape, bool))
        self.assertEqual([line.numeral for line in drawn.lines], ["−1", "−½", "+½", "+1"])
        self.assertEqual(difference_map(planned, planned + 0.4, np.ones(planned.shape, bool)).lines, ())

    def test_where_the_result_shows_nothing_there_is_no_difference(self):
        planned = np.full((60, 90), 5.0)
        drawn = difference_map(planned, planned + 3, np.zeros(planned.shape, bool))
        self.assertEqual(drawn.lines, ())
