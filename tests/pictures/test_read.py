"""Reading picture files: kinds, orientation, profiles, exposure data, scale, and files that cannot be read."""

import io
import json
import math
from fractions import Fraction
from pathlib import Path

import numpy as np
from django.test import SimpleTestCase
from PIL import Image

from dimgrey.core.colour.encoding import linear_of_srgb
from dimgrey.core.measure.metering import LightScale
from dimgrey.core.measure.shotdata import exposure_of
from dimgrey.core.picture.spot import read_spot
from dimgrey.pictures.filekinds import PictureError
from dimgrey.pictures.opening import read_picture
from dimgrey.pictures.shrinking import LONG_SIDE
from dimgrey.standins.simulated_meter import PictureMeter
from tests import picturefiles as pictures
from tests.core.picture.test_display import wide_gamut_profile

ROOT = Path(__file__).resolve().parents[2]


def middle(picture):
    height, width = picture.linear.shape[:2]
    return picture.linear[height // 2, width // 2].astype(float)


class Kinds(SimpleTestCase):
    def test_every_kind_gives_linear_light_at_its_size(self):
        grey = Image.new("RGB", (60, 40), (118, 118, 118))
        import pillow_heif

        pillow_heif.register_heif_opener()
        files = {
            "JPEG": pictures.saved(grey, "JPEG", quality=95),
            "PNG": pictures.saved(grey, "PNG"),
            "WebP": pictures.saved(grey, "WEBP", lossless=True),
            "TIFF": pictures.saved(grey, "TIFF"),
            "HEIC": pictures.saved(grey, "HEIF", quality=95),
        }
        for kind, data in files.items():
            with self.subTest(kind=kind):
                picture = read_picture(data)
                self.assertEqual((picture.kind, picture.width, picture.height), (kind, 60, 40))
                np.testing.assert_allclose(middle(picture), linear_of_srgb(118 / 255), rtol=0.03)
                self.assertIsNone(picture.middle_grey_ev100)
                self.assertFalse(picture.scene_linear)

    def test_sixteen_bits_are_not_rounded_to_eight(self):
        picture = read_picture(pictures.tiff16(0.5004))
        np.testing.assert_allclose(middle(picture), linear_of_srgb(0.5004), rtol=1e-3)

    def test_openexr_carries_its_scale(self):
        picture = read_picture(pictures.exr(0.18, white=4096 / 0.18))
        self.assertAlmostEqual(picture.middle_grey_ev100, 15, places=4)
        self.assertTrue(picture.scene_linear and picture.absolute)
        unscaled = read_picture(pictures.exr(0.18))
        self.assertIsNone(unscaled.middle_grey_ev100)
        self.assertIn("no whiteLuminance", unscaled.warnings[0])

    def test_raw_is_scene_linear_with_the_headroom_of_its_kind(self):
        dark, bright = (middle(read_picture(pictures.dng(v), "x.dng")) for v in (0.1, 0.2))
        np.testing.assert_allclose(bright / dark, 2, rtol=0.01)
        picture = read_picture(pictures.dng(2**-3.3), "x.dng")
        self.assertEqual(picture.kind, "raw")
        self.assertAlmostEqual(math.log2(middle(picture)[1] / 0.18), 0, delta=0.05)

    def test_large_pictures_are_reduced_and_small_ones_kept(self):
        wide = read_picture(pictures.jpeg(3300, 1100))
        self.assertEqual((wide.width, wide.height), (3300, 1100))
        self.assertLessEqual(max(wide.linear.shape), LONG_SIDE)
        self.assertAlmostEqual(wide.linear.shape[1] / wide.linear.shape[0], 3, delta=0.02)
        self.assertEqual(read_picture(pictures.png()).linear.shape, (48, 64, 3))
        self.assertEqual(read_picture(pictures.saved(Image.new("L", (1, 1), 90), "PNG")).linear.shape, (1, 1, 3))

    def test_every_orientation_is_set_upright(self):
        # The dark edge of the stored picture, and where it belongs after the turn.
        dark = {1: "left", 2: "right", 3: "right", 4: "left", 5: "top", 6: "top", 7: "bottom", 8: "bottom"}
        for orientation, edge in dark.items():
            with self.subTest(orientation=orientation):
                picture = read_picture(pictures.jpeg(exif=pictures.exif(orientation=orientation)))
                light = picture.linear.astype(float).mean(axis=2)
                edges = {"left": light[:, 0], "right": light[:, -1], "top": light[0], "bottom": light[-1]}
                self.assertEqual(min(edges, key=lambda e: edges[e].mean()), edge)
                self.assertEqual((picture.width, picture.height), (64, 48) if orientation < 5 else (48, 64))


class Profiles(SimpleTestCase):
    def test_a_wide_gamut_picture_is_converted(self):
        plain = read_picture(pictures.saved(Image.new("RGB", (20, 20), (200, 60, 60)), "PNG"))
        wide = read_picture(
            pictures.saved(Image.new("RGB", (20, 20), (200, 60, 60)), "PNG", icc_profile=wide_gamut_profile())
        )
        self.assertGreater(middle(wide)[0], middle(plain)[0] * 1.1)

    def test_a_broken_profile_is_srgb_with_a_warning(self):
        picture = read_picture(pictures.png(icc_profile=b"not a profile" * 20))
        self.assertTrue(any("sRGB is assumed" in line for line in picture.warnings))

    def test_printing_inks_are_read_with_a_warning(self):
        data = pictures.saved(Image.new("CMYK", (20, 20), (0, 0, 0, 128)), "JPEG")
        self.assertTrue(any("CMYK" in line for line in read_picture(data).warnings))


class ExposureData(SimpleTestCase):
    def test_middle_grey_lies_at_the_cameras_own_exposure(self):
        picture = read_picture(pictures.jpeg(exif=pictures.exif(Fraction(1, 128), 8, 100)))
        self.assertAlmostEqual(picture.middle_grey_ev100, 13, places=3)
        self.assertEqual(picture.shot.focal_35mm, 50)

    def test_impossible_values_are_dropped_one_by_one_and_named(self):
        cases = [
            ({"f_number": 0}, "f-number"),
            ({"seconds": 0}, "exposure time"),
            ({"seconds": 4294967295}, "exposure time"),
            ({"iso": 65535}, "ISO speed"),
        ]
        for wrong, name in cases:
            with self.subTest(wrong=wrong):
                picture = read_picture(pictures.jpeg(exif=pictures.exif(**wrong)))
                self.assertIsNone(picture.middle_grey_ev100)
                self.assertTrue(any(name in line for line in picture.warnings), picture.warnings)

    def test_missing_speed_gives_no_scale_and_no_fuss(self):
        picture = read_picture(pictures.jpeg(exif=pictures.exif(iso=None)))
        self.assertIsNone(picture.middle_grey_ev100)
        self.assertEqual(picture.warnings, ())

    def test_odd_types_never_raise(self):
        odd = exposure_of(
            {0x829A: (1, 0), 0x829D: "wide", 0x8827: (200, 0), 0x9003: b"2026:01:02 03:04:05\0", 0x920A: None}
        )
        self.assertEqual((odd.time_s, odd.f_number, odd.iso), (None, None, 200))
        self.assertEqual(odd.taken_at, "2026-01-02T03:04:05")

    def test_a_damaged_block_is_left_out(self):
        data = bytearray(pictures.jpeg(exif=pictures.exif()))
        start = data.index(b"Exif\0\0") + 6
        data[start + 4 : start + 8] = b"\xff\xff\xff\x7f"
        picture = read_picture(bytes(data))
        self.assertIsNone(picture.middle_grey_ev100)


class Refusals(SimpleTestCase):
    def test_each_file_that_cannot_be_read_says_what_to_do(self):
        jpeg = pictures.jpeg(400, 300)
        cases = [
            (b"", "picture-empty", "The file is empty (0 bytes). Choose the picture again."),
            (b"hello, I am not a picture at all", "picture-unreadable", "not a picture"),
            (
                jpeg[: len(jpeg) // 2],
                "picture-truncated",
                "The picture is cut off or damaged. Copy it from the camera again.",
            ),
            (jpeg[:40], "picture-unreadable", "not a picture that can be read"),
            (
                pictures.claimed_size_png(20000, 15000),
                "picture-too-large",
                "The picture has 300 megapixels; at most 220 are read. Save a smaller copy.",
            ),
            (pictures.png("1"), "picture-bilevel", "no tones to meter"),
            (pictures.saved(Image.new("1", (30, 30)), "TIFF"), "picture-bilevel", "no tones to meter"),
            (b"GIF89a" + b"\0" * 50, "picture-unsupported", "GIF files are not read."),
            (pictures.exr()[:300], "picture-truncated", "cut off or damaged"),
            (pictures.tiff16()[:200], "picture-unreadable", "or it is damaged"),
            (pictures.dng()[:600], None, ""),
            (b"%PDF-1.7 nothing", "picture-unsupported", "PDF files are not read."),
        ]
        for data, code, part in cases:
            with self.subTest(code=code, size=len(data)), self.assertRaises(PictureError) as refused:
                read_picture(data)
            if code:
                with self.subTest(code=code):
                    self.assertEqual(refused.exception.code, code)
                    self.assertIn(part, str(refused.exception))

    def test_a_misleading_extension_is_said_and_the_content_read(self):
        picture = read_picture(pictures.png(), "holiday.jpg")
        self.assertEqual(picture.kind, "PNG")
        self.assertEqual(picture.warnings, ("The file is named .jpg but holds PNG; it was read as PNG.",))

    def test_of_an_animation_the_first_picture_is_used(self):
        frames = [Image.new("RGB", (20, 20), (k * 60,) * 3) for k in range(3)]
        data = pictures.saved(frames[0], "WEBP", save_all=True, append_images=frames[1:], lossless=True)
        picture = read_picture(data)
        self.assertIn("The file holds several pictures; the first is used.", picture.warnings)
        self.assertLess(middle(picture).max(), 0.01)

    def test_pixels_without_a_number_are_black_and_counted(self):
        picture = read_picture(pictures.exr(float("nan"), white=100))
        self.assertIn("1200 pixels held no number and were set to black.", picture.warnings)
        self.assertEqual(middle(picture).max(), 0)

    def test_see_through_pictures_lie_on_white(self):
        picture = read_picture(pictures.saved(Image.new("RGBA", (20, 20), (0, 0, 0, 0)), "PNG"))
        self.assertAlmostEqual(middle(picture)[0], 1, places=2)


class DemoLight(SimpleTestCase):
    def test_the_simulated_meter_meets_every_named_spot_within_a_twentieth_of_a_stop(self):
        for path in sorted((ROOT / "demo/linear").glob("*.exr")):
            picture = read_picture(path.read_bytes(), path.name)
            meta = json.loads((ROOT / "demo/meta" / f"{path.stem}.json").read_text())
            width, height = meta["size"]
            focal = 18 / math.tan(math.radians(meta["camera"]["hfov_deg"] / 2))
            meter = PictureMeter(
                picture.linear.astype(np.float32), LightScale(picture.middle_grey_ev100, 1.0, ()), focal
            )
            for spot in meta["spots"]:
                angle = 2 * math.degrees(math.atan(spot["radius_px"] / (width / 2) * 18 / focal))
                with self.subTest(picture=path.stem, spot=spot["name"]):
                    self.assertAlmostEqual(meter.radius_px(angle), spot["radius_px"], places=6)
                    seen = meter.read(spot["x"] / width, spot["y"] / height, angle)
                    self.assertAlmostEqual(seen.ev100, spot["EV100"], delta=0.05)

    def test_each_snapshot_carries_the_exposure_of_its_light(self):
        for path in sorted((ROOT / "demo/snapshots").glob("*.jpg")):
            meta = json.loads((ROOT / "demo/meta" / f"{path.stem}.json").read_text())
            picture = read_picture(path.read_bytes(), path.name)
            expected = meta["key_light_card_EV100"] - meta["snapshot_exposure_compensation_ev"]
            with self.subTest(picture=path.stem):
                self.assertAlmostEqual(picture.middle_grey_ev100, expected, places=2)

    def test_two_readings_bring_a_snapshot_close_to_the_true_light(self):
        meta = json.loads((ROOT / "demo/meta/b_drying_yard.json").read_text())
        snapshot = read_picture((ROOT / "demo/snapshots/b_drying_yard.jpg").read_bytes()).linear.astype(np.float32)
        stops = {s["name"]: read_spot(snapshot, s["x"], s["y"], s["radius_px"]).mean_stops for s in meta["spots"]}
        from dimgrey.core.measure.metering import fit_light_scale

        truth = {s["name"]: s["EV100"] for s in meta["spots"]}
        pins = ["limewash in full sun", "limewash in cast shadow"]
        scale = fit_light_scale([stops[p] for p in pins], [truth[p] for p in pins])
        for name in ("terracotta pot in sun", "bare brick in sun", "slate roof", "grass in sun"):
            with self.subTest(name=name):
                self.assertAlmostEqual(scale.offset + scale.slope * stops[name], truth[name], delta=0.6)


class Buffers(SimpleTestCase):
    def test_reading_leaves_the_bytes_alone(self):
        data = pictures.jpeg(exif=pictures.exif())
        copy = bytes(data)
        read_picture(data)
        self.assertEqual(data, copy)
        self.assertEqual(Image.open(io.BytesIO(data)).size, (64, 48))
