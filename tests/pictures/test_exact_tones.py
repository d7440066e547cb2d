"""Tones are exact from every file: encodings, profiles, depths, orientations, and light averaged as light.

References are worked out here from the standards, or come from colour-science; none uses the code under test.
"""

import io
import math
import struct
import tempfile
import zlib

import colour
import numpy as np
import tifffile
from django.test import SimpleTestCase
from PIL import Image

from dimgrey.core.colour.colourspaces import linear_of_hlg, linear_of_pq, to_srgb
from dimgrey.core.picture.spot import read_spot
from dimgrey.pictures.opening import read_picture
from tests import picturefiles as pictures
from tests.core.picture.test_display import wide_gamut_profile
from tests.share import many, share_of

HUNDREDTH = 0.01
OP_RGB = next(name for name in colour.RGB_COLOURSPACES if name.endswith("RGB (1998)"))
"""What the reference calls opRGB."""


def stops_of(picture, x=0.5, y=0.5):
    """Stops from middle grey of the luminance at a place."""
    height, width = picture.linear.shape[:2]
    pixel = picture.linear[int(y * height), int(x * width)].astype(float)
    return math.log2(pixel @ [0.2126, 0.7152, 0.0722] / 0.18)


def grey_image(value, mode="L", size=(40, 30)):
    return Image.new(mode, size, value if mode == "L" else (value,) * 3)


def png_with(data, *chunks):
    """A PNG with more chunks after its header."""
    told = b"".join(struct.pack(">I", len(d)) + n + d + struct.pack(">I", zlib.crc32(n + d)) for n, d in chunks)
    return data[:33] + told + data[33:]


def grey_profile(space, curve):
    """An ICC profile of a grey picture. space: b"XYZ " or b"Lab ", what it connects by. curve: bytes of its kTRC."""
    name = b"desc" + b"\0" * 4 + struct.pack(">I", 2) + b"x\0" + b"\0" * 80
    at = 132 + 2 * 12
    table = struct.pack(">4sII4sII", b"desc", at, len(name), b"kTRC", at + len(name), len(curve))
    head = bytearray(128)
    head[12:24] = b"mntrGRAY" + space
    head[36:40] = b"acsp"
    body = bytes(head) + struct.pack(">I", 2) + table + name + curve
    return struct.pack(">I", len(body)) + body[4:]


STRAIGHT = b"curv" + b"\0" * 4 + struct.pack(">I", 0)


class Orientations(SimpleTestCase):
    @many
    def test_a_tiff_of_any_depth_is_turned_once(self):
        dark = {1: "left", 2: "right", 3: "right", 4: "left", 5: "top", 6: "top", 7: "bottom", 8: "bottom"}
        ramp = pictures.ramp()
        kinds = {
            "8 bits": (ramp, {}),
            "16 bits": (ramp.astype(np.uint16) * 257, {}),
            "8 bits, packed": (ramp, {"compression": "zlib"}),
            "palette by Pillow": (None, {}),
        }
        for kind, (pixels, more) in kinds.items():
            for orientation, edge in share_of(dark.items(), kind, least=3):
                with self.subTest(kind=kind, orientation=orientation):
                    buffer = io.BytesIO()
                    if pixels is None:
                        Image.fromarray(ramp).quantize(64).save(buffer, "TIFF", tiffinfo={274: orientation})
                    else:
                        tags = [(274, 3, 1, orientation, False)]
                        tifffile.imwrite(buffer, pixels, photometric="rgb", extratags=tags, **more)
                    picture = read_picture(buffer.getvalue())
                    light = picture.linear.astype(float).mean(axis=2)
                    edges = {"left": light[:, 0], "right": light[:, -1], "top": light[0], "bottom": light[-1]}
                    self.assertEqual(min(edges, key=lambda e: edges[e].mean()), edge)
                    self.assertEqual((picture.width, picture.height), (64, 48) if orientation < 5 else (48, 64))
                    self.assertEqual(picture.linear.shape[:2], (picture.height, picture.width))


class Encodings(SimpleTestCase):
    def require_stops(self, data, light, name=""):
        self.assertAlmostEqual(stops_of(read_picture(data)), math.log2(light / 0.18), delta=HUNDREDTH, msg=name)

    def test_grey_profiles_connected_by_light_and_by_lightness(self):
        for code in (40, 128, 200):
            value = code / 255
            by_light = pictures.saved(grey_image(code), "TIFF", icc_profile=grey_profile(b"XYZ ", STRAIGHT))
            self.require_stops(by_light, value, "XYZ")
            lightness = 100 * value
            y = ((lightness + 16) / 116) ** 3 if lightness > 8 else lightness * 27 / 24389
            for kind in ("TIFF", "PNG"):
                data = pictures.saved(grey_image(code), kind, icc_profile=grey_profile(b"Lab ", STRAIGHT))
                self.require_stops(data, y, f"Lab {kind}")

    def test_the_gamma_of_a_png(self):
        for gamma in (1.0, 0.5, 0.55556):
            for mode in ("L", "RGB"):
                chunk = (b"gAMA", struct.pack(">I", round(gamma * 100000)))
                data = png_with(pictures.saved(grey_image(100, mode), "PNG"), chunk)
                self.require_stops(data, (100 / 255) ** (1 / gamma), f"{gamma} {mode}")

    def test_srgb_wins_over_the_gamma_that_stands_beside_it(self):
        plain = pictures.saved(grey_image(60, "RGB"), "PNG")
        usual = (b"gAMA", struct.pack(">I", 45455))
        named = png_with(plain, (b"gAMA", struct.pack(">I", 100000)), (b"sRGB", b"\0"))
        for data in (png_with(plain, usual), named):
            self.assertAlmostEqual(stops_of(read_picture(data)), stops_of(read_picture(plain)), places=6)

    def test_sixteen_bits_of_a_png_are_kept_in_grey_and_colour(self):
        from imagecodecs import png_encode

        for code in (3001, 3117, 20001):
            value = code / 65535
            light = value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4
            for channels in (1, 3, 4):
                pixels = np.full((30, 40, channels), code, np.uint16)
                if channels == 4:
                    pixels[..., 3] = 65535
                data = png_encode(pixels if channels > 1 else pixels[..., 0])
                picture = read_picture(data)
                self.assertAlmostEqual(
                    stops_of(picture), math.log2(light / 0.18), delta=0.002, msg=f"{code} {channels}"
                )
                self.assertEqual(picture.warnings, ())

    def test_hybrid_log_gamma_and_perceptual_quantizer(self):
        import pillow_heif

        def heic(code, transfer):
            pixels = np.full((64, 64, 3), code * 64, np.uint16)
            file = pillow_heif.from_bytes("RGB;16", (64, 64), pixels.tobytes())
            buffer = io.BytesIO()
            told = {"color_primaries": 9, "transfer_characteristics": transfer, "matrix_coefficients": 9}
            file.save(buffer, quality=-1, full_range_flag=1, **told)
            return buffer.getvalue()

        for code in (200, 500, 767, 900):
            signal = code / 1023
            hlg = colour.models.oetf_inverse_BT2100_HLG(signal) / colour.models.oetf_inverse_BT2100_HLG(0.75)
            pq = colour.models.eotf_ST2084(signal) / 203
            for transfer, light in ((18, hlg), (16, pq)):
                picture = read_picture(heic(code, transfer))
                with self.subTest(code=code, transfer=transfer):
                    self.assertAlmostEqual(stops_of(picture), math.log2(light / 0.18), delta=0.03)
                    self.assertIn("HLG" if transfer == 18 else "PQ", picture.profile)
                    self.assertGreater(picture.clip, 1)

    def test_the_curves_of_high_range_agree_with_their_standards(self):
        signal = np.linspace(0.01, 1, 60)
        white = colour.models.oetf_inverse_BT2100_HLG(0.75)
        np.testing.assert_allclose(
            linear_of_hlg(signal), colour.models.oetf_inverse_BT2100_HLG(signal) / white, rtol=1e-4
        )
        np.testing.assert_allclose(linear_of_pq(signal), colour.models.eotf_ST2084(signal) / 203, rtol=1e-6)

    def test_a_wide_space_that_exif_alone_tells(self):
        block = pictures.exif()
        block.get_ifd(0x8769)[0xA001] = 65535
        block.get_ifd(0x8769)[0xA005] = {1: "R03"}
        image = Image.new("RGB", (64, 48), (60, 200, 60))
        picture = read_picture(pictures.saved(image, "JPEG", quality=100, subsampling=0, exif=block))
        encoded = np.array([60, 200, 60]) / 255
        space = colour.RGB_COLOURSPACES[OP_RGB]
        xyz = space.matrix_RGB_to_XYZ @ encoded ** (563 / 256)
        self.assertAlmostEqual(stops_of(picture), math.log2(xyz[1] / 0.18), delta=0.03)
        plain = pictures.exif()
        plain.get_ifd(0x8769)[0xA001] = 1
        self.assertEqual(read_picture(pictures.saved(image, "JPEG", exif=plain)).profile, "")

    def test_primaries_of_an_exr(self):
        import OpenEXR

        space = colour.RGB_COLOURSPACES["ITU-R BT.2020"]
        rgb = np.array([0.1, 0.4, 0.05])
        corners = [float(v) for v in (*space.primaries.ravel(), *space.whitepoint)]
        with tempfile.NamedTemporaryFile(suffix=".exr") as file:
            header = {
                "compression": OpenEXR.ZIP_COMPRESSION,
                "type": OpenEXR.scanlineimage,
                "chromaticities": tuple(corners),
            }
            OpenEXR.File(header, {"RGB": np.tile(rgb.astype(np.float32), (30, 40, 1))}).write(file.name)
            picture = read_picture(file.read())
        y = (space.matrix_RGB_to_XYZ @ rgb)[1]
        self.assertAlmostEqual(stops_of(picture), math.log2(y / 0.18), delta=HUNDREDTH)
        self.assertIn("own primaries", picture.profile)

    def test_matrices_agree_with_the_reference(self):
        for name in ("ITU-R BT.2020", "Display P3", OP_RGB, "ACEScg"):
            space, srgb = colour.RGB_COLOURSPACES[name], colour.RGB_COLOURSPACES["sRGB"]
            expected = colour.matrix_RGB_to_RGB(space, srgb, "Bradford")
            np.testing.assert_allclose(
                to_srgb(space.primaries, tuple(space.whitepoint)), expected, atol=2e-3, err_msg=name
            )

    def test_light_beyond_half_floats_keeps_its_stops(self):
        for value in (0.18, 1e5, 1e6):
            picture = read_picture(pictures.exr(value, white=100))
            seen = picture.middle_grey_ev100 + stops_of(picture)
            told = math.log2(value * 100 * 100 / 12.5)
            self.assertAlmostEqual(seen, told, delta=HUNDREDTH, msg=str(value))


class Averages(SimpleTestCase):
    def test_a_fine_checkerboard_is_read_as_its_mean_light(self):
        board = (np.indices((2400, 3600)).sum(axis=0) % 2 * 255).astype(np.uint8)
        for kind, options in (("PNG", {}), ("TIFF", {}), ("WEBP", {"lossless": True})):
            picture = read_picture(pictures.saved(Image.fromarray(board), kind, **options))
            self.assertAlmostEqual(stops_of(picture), math.log2(0.5 / 0.18), delta=0.02, msg=kind)
            self.assertEqual(picture.linear.shape[:2], (1067, 1600))

    def test_blocks_of_a_jpeg_are_averaged_in_light_too(self):
        blocks = np.repeat(np.repeat((np.indices((300, 450)).sum(axis=0) % 2 * 255).astype(np.uint8), 8, 0), 8, 1)
        picture = read_picture(pictures.saved(Image.fromarray(blocks), "JPEG", quality=100))
        seen = read_spot(picture.linear.astype(np.float32), 800, 533, 200)
        self.assertAlmostEqual(seen.mean_stops, math.log2(0.5 / 0.18), delta=0.02)

    def test_spots_agree_with_those_of_the_whole_file(self):
        rng = np.random.default_rng(5)
        coarse = rng.integers(5, 250, (150, 220), dtype=np.uint8)
        whole = np.asarray(Image.fromarray(coarse).resize((3300, 2250), Image.Resampling.NEAREST))
        noisy = np.clip(whole + rng.normal(0, 40, whole.shape), 0, 255).astype(np.uint8)
        picture = read_picture(pictures.saved(Image.fromarray(noisy), "PNG"))
        encoded = noisy / 255
        light = np.where(encoded <= 0.04045, encoded / 12.92, ((encoded + 0.055) / 1.055) ** 2.4)
        scale = 3300 / picture.linear.shape[1]
        for x, y in ((200, 200), (801, 530), (1400, 900)):
            seen = read_spot(picture.linear.astype(np.float32), x, y, 30)
            rows, columns = np.ogrid[:2250, :3300]
            inside = ((columns - (x + 0.5) * scale) ** 2 + (rows - (y + 0.5) * scale) ** 2) <= (30.5 * scale) ** 2
            self.assertAlmostEqual(seen.mean_stops, math.log2(light[inside].mean() / 0.18), delta=0.03)


class Kinds(SimpleTestCase):
    def test_avif(self):
        picture = read_picture(pictures.saved(grey_image(118, "RGB", (64, 48)), "AVIF", quality=95), "a.avif")
        self.assertEqual((picture.kind, picture.warnings), ("AVIF", ()))
        self.assertAlmostEqual(stops_of(picture), 0.0, delta=0.03)

    def test_a_tiff_that_begins_with_a_thumbnail(self):
        buffer = io.BytesIO()
        with tifffile.TiffWriter(buffer) as file:
            file.write(np.full((30, 40, 3), 200, np.uint8), photometric="rgb", subfiletype=1)
            file.write(np.full((300, 400, 3), 118, np.uint8), photometric="rgb")
        picture = read_picture(buffer.getvalue())
        self.assertEqual((picture.width, picture.height), (400, 300))
        self.assertAlmostEqual(stops_of(picture), 0.0, delta=0.03)

    def test_tiles_planes_and_inverted_greys(self):
        ramp = pictures.ramp(300, 200)
        plain = read_picture(pictures.saved(Image.fromarray(ramp), "TIFF")).linear.astype(float)
        forms = {
            "tiles": (ramp, {"photometric": "rgb", "tile": (64, 48)}),
            "planes": (np.moveaxis(ramp, -1, 0).copy(), {"photometric": "rgb", "planarconfig": "separate"}),
            "lzw": (ramp, {"photometric": "rgb", "compression": "lzw", "predictor": True}),
            "white is 0": (255 - ramp[..., 0], {"photometric": "miniswhite"}),
            "real numbers": (plain.astype(np.float32), {"photometric": "rgb"}),
        }
        for name, (pixels, options) in forms.items():
            buffer = io.BytesIO()
            tifffile.imwrite(buffer, pixels, **options)
            with self.subTest(name):
                np.testing.assert_allclose(
                    read_picture(buffer.getvalue()).linear.astype(float), plain, rtol=2e-3, atol=1e-4
                )

    def test_opaque_alpha_is_not_see_through(self):
        for alpha, said in ((255, False), (128, True)):
            image = Image.new("RGBA", (40, 30), (100, 100, 100, alpha))
            warned = any("see-through" in line for line in read_picture(pictures.saved(image, "PNG")).warnings)
            self.assertEqual(warned, said)

    def test_a_flash_and_damaged_exposure_data_are_said(self):
        block = pictures.exif()
        block.get_ifd(0x8769)[0x9209] = 1
        self.assertTrue(any("flash" in line for line in read_picture(pictures.jpeg(exif=block)).warnings))
        data = bytearray(pictures.jpeg(exif=pictures.exif()))
        start = data.index(b"Exif\0\0") + 6
        data[start + 4 : start + 8] = b"\xff\xff\xff\x7f"
        self.assertTrue(any("damaged" in line for line in read_picture(bytes(data)).warnings))

    def test_a_large_picture_and_one_short_of_five_bytes_come_in(self):
        wide = read_picture(pictures.saved(Image.new("L", (17_000, 12_000), 118), "JPEG"))
        self.assertEqual((wide.width, wide.height), (17_000, 12_000))
        self.assertAlmostEqual(stops_of(wide), 0.0, delta=0.03)
        short = read_picture(pictures.jpeg(1200, 900)[:-5])
        self.assertTrue(any("last bytes" in line for line in short.warnings))

    def test_a_wide_profile_on_every_way_in(self):
        image = Image.new("RGB", (64, 48), (200, 60, 60))
        expected = stops_of(read_picture(pictures.saved(image, "PNG", icc_profile=wide_gamut_profile())))
        for kind, options in (("TIFF", {}), ("JPEG", {"quality": 100, "subsampling": 0}), ("WEBP", {"lossless": True})):
            data = pictures.saved(image, kind, icc_profile=wide_gamut_profile(), **options)
            self.assertAlmostEqual(stops_of(read_picture(data)), expected, delta=0.03, msg=kind)
