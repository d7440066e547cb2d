"""What leaves a scene says what it is: encoding, resolution, size, what is in a table; and a picture's place is offered."""

import io

import numpy as np
import tifffile
from PIL import Image, ImageCms

from dimgrey.core.colour.profile import grey_srgb_profile, matrix_profile
from dimgrey.outings.actions import create_outing
from dimgrey.outings.models import Outing
from dimgrey.pictures.opening import read_picture
from dimgrey.scenes import lifecycle
from dimgrey.scenes.queries import scene_of
from tests import picturefiles as pictures
from tests.documents import document
from tests.helpers import PageTest

TONE = {"name": "wall", "at": [0.5, 0.5], "readings": [{"ev100": 12}]}
PLACED = {"tone": "wall", "zone": 6, "school": "known tone"}


def jpeg_somewhere(latitude=(39, 6, 0), longitude=(8, 12, 36), north="N", east="W"):
    """A JPEG with a GPS block."""
    block = pictures.exif()
    gps = block.get_ifd(0x8825)
    gps[1], gps[2], gps[3], gps[4] = north, latitude, east, longitude
    return pictures.jpeg(300, 200, exif=block)


class Exports(PageTest):
    def scene(self, data, name="a.jpg", **parts):
        scene = lifecycle.create_scene(self.person, document(title="Wall", tones=[TONE], placing=PLACED, **parts))
        lifecycle.replace_picture(scene, data, name)
        return scene_of(self.person, scene.pk)

    def file(self, scene, name):
        return self.client.get(f"/scenes/{scene.pk}/export/{name}").content

    def test_each_picture_says_encoding_and_resolution(self):
        scene = self.scene(pictures.jpeg(300, 200))
        png, jpeg = (Image.open(io.BytesIO(self.file(scene, f"grey.{kind}"))) for kind in ("png", "jpg"))
        self.assertEqual(png.info["srgb"], 0)
        self.assertEqual(tuple(round(v) for v in png.info["dpi"]), (300, 300))
        self.assertEqual(tuple(round(v) for v in jpeg.info["dpi"]), (300, 300))
        self.assertIn(
            "sRGB", ImageCms.getProfileDescription(ImageCms.ImageCmsProfile(io.BytesIO(jpeg.info["icc_profile"])))
        )
        with tifffile.TiffFile(io.BytesIO(self.file(scene, "grey.tif"))) as file:
            tags = file.pages[0].tags
            self.assertEqual((tags[282].value, tags[296].value), ((300, 1), 2))
            self.assertEqual(bytes(tags[34675].value), grey_srgb_profile())

    def test_the_profile_is_srgbs_curve(self):
        curve = matrix_profile(grey_srgb_profile()).curves[0]
        self.assertAlmostEqual(float(curve(0.5)), 0.21404, places=4)

    def test_what_leaves_comes_in_again_with_the_same_tones(self):
        scene = self.scene(pictures.jpeg(300, 200))
        seen = [
            read_picture(self.file(scene, name)).linear.astype(float) for name in ("grey.tif", "grey.png", "grey.jpg")
        ]
        for other in seen[1:]:
            np.testing.assert_allclose(other, seen[0], atol=0.02)

    def test_full_size_is_the_size_of_the_original_and_the_same_picture(self):
        scene = self.scene(pictures.jpeg(2400, 1800), crop={"box": [0.25, 0, 0.75, 1], "ratio": "free"})
        full, small = (tifffile.imread(io.BytesIO(self.file(scene, name))) for name in ("grey-full.tif", "grey.tif"))
        self.assertEqual((full.shape, full.dtype), ((1800, 1200), np.uint16))
        self.assertEqual(small.shape, (1200, 800))
        down = np.asarray(Image.fromarray(full.astype(np.float32)).resize((800, 1200), Image.Resampling.BOX))
        np.testing.assert_allclose(down[5:-5, 5:-5], small[5:-5, 5:-5], atol=700)

    def test_full_size_with_a_polarizer_and_an_original_that_is_gone(self):
        scene = self.scene(pictures.jpeg(2000, 1500), filters=[{"name": "graduated", "stops": 2, "edge": 0.5}])
        full = tifffile.imread(io.BytesIO(self.file(scene, "grey-full.tif")))
        self.assertLess(full[50].mean(), full[-50].mean() * 0.8, "the graduated glass is in it")
        for file in scene.picture.path.glob("original*"):
            file.unlink()
        self.assertEqual(self.client.get(f"/scenes/{scene.pk}/export/grey-full.tif").status_code, 410)

    def test_a_table_says_what_is_in_it_and_what_is_not(self):
        film = self.scene(pictures.jpeg(300, 200), filters=[{"name": "orange"}, {"name": "graduated", "stops": 2}])
        text = self.file(film, "look.cube").decode()
        for part in (
            "coloured filter: orange",
            "general panchromatic",
            "Not in it: the exposure",
            "Not in it: graduated",
        ):
            self.assertIn(part, text)
        raw = self.scene(pictures.jpeg(300, 200), medium={"kind": "digital raw", "channel_mix": "red"})
        self.assertIn("mix of the camera's channels", self.file(raw, "look.cube").decode())


class Places(PageTest):
    def test_where_a_picture_was_taken_is_read_and_doubted(self):
        said = read_picture(jpeg_somewhere()).shot.place
        np.testing.assert_allclose(said, (39.1, -8.21), atol=1e-6)
        for wrong in (
            jpeg_somewhere(north="x"), jpeg_somewhere((0, 0, 0), (0, 0, 0)), jpeg_somewhere((99, 0, 0)), pictures.jpeg(exif=pictures.exif()),
        ):  # fmt: skip
            self.assertIsNone(read_picture(wrong).shot.place)

    def test_it_is_offered_and_taken_for_the_scene(self):
        scene = lifecycle.new_scene(self.person, "Yard", data=jpeg_somewhere(), filename="a.jpg")
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/edit/view"), "Take it as the place")
        self.assertEqual(self.act(scene, "take-place").status_code, 200)
        place = self.fresh(scene).document.place
        self.assertEqual((place.latitude_deg, place.longitude_deg), (39.1, -8.21))
        self.assertNotContains(self.client.get(f"/scenes/{scene.pk}/edit/view"), "Take it as the place")

    def test_in_an_outing_it_becomes_the_outings(self):
        outing = create_outing(self.person, "Yard")
        scene = lifecycle.new_scene(self.person, "Yard", outing, data=jpeg_somewhere(), filename="a.jpg")
        self.act(scene, "take-place")
        self.assertEqual(Outing.objects.get().latitude_deg, 39.1)

    def test_without_a_place_nothing_is_offered_and_the_act_is_refused(self):
        scene = lifecycle.new_scene(self.person, "Yard", data=pictures.jpeg(), filename="a.jpg")
        self.assertNotContains(self.client.get(f"/scenes/{scene.pk}/edit/view"), "Take it as the place")
        self.assertEqual(self.act(scene, "take-place").status_code, 422)
