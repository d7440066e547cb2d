"""Seeing in grey over HTTP: views, measures, parting, crop, exports."""

import csv
import io
import json

import numpy as np
import tifffile
from PIL import Image

from dimgrey.core.colour.chain import glass_chain, mixed_chain
from dimgrey.core.colour.filters import own_spectrum
from dimgrey.core.colour.greys import grey_of
from dimgrey.core.errors import Unreadable
from dimgrey.core.picture.overhead import Overhead, Polarized
from dimgrey.core.planning.media import medium
from dimgrey.pictures.addresses import KEY, Rendering, key_of, rendering_of
from dimgrey.scenes import exports, greyview, lifecycle
from dimgrey.scenes.desk import desk_of
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from tests import hand
from tests.documents import document
from tests.helpers import PageTest, band, scene_with_light, scene_with_picture

BRICK, IVY = (0.30, 0.06, 0.05), (0.086, 0.228, 0.057)


def scene_of_two_colours(person, left=BRICK, right=IVY, height=80, width=120, **parts):
    """A film scene whose picture is one colour on the left and another on the right, both pinned."""
    linear = np.empty((height, width, 3), np.float32)
    linear[:, : width // 2], linear[:, width // 2 :] = left, right
    luminance = lambda colour: max(float(np.dot(colour, (0.2126, 0.7152, 0.0722))), 1e-6)
    tones = [
        {
            "name": name,
            "mark": mark,
            "role": role,
            "at": [x, 0.5],
            "colour": list(colour),
            "readings": [{"kind": "spot", "ev100": round(max(12 + float(np.log2(luminance(colour) / 0.18)), -5), 4)}],
        }
        for name, mark, role, x, colour in (
            ("brick", "A", "subject", 0.25, left),
            ("ivy", "B", "background", 0.75, right),
        )
    ]
    placing = {"school": "known tone", "tone": "brick", "zone": 5}
    written = document(**{"title": "Wall", "medium": {"kind": "film"}, "placing": placing, "tones": tones, **parts})
    return scene_with_picture(person, written, linear, "wall")


class Views(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)
        self.scene = hand.pin_tone(self.scene, None, band(5), 0.5)
        self.scene = hand.place_tone(self.scene, None, "A", 5)

    def shown(self):
        return desk_of(self.fresh(self.scene))

    def pixels(self, address):
        answer = self.client.get(address)
        self.assertEqual(answer.status_code, 200)
        return np.asarray(Image.open(io.BytesIO(answer.content)))

    def test_each_squeeze_leaves_what_it_promises(self):
        looks = self.shown().for_scripts["looks"]
        two = self.pixels(looks["two"])[30, 5::10]
        self.assertTrue(((two < 40) | (two > 220)).all())
        three = self.pixels(looks["three"])[30, 5::10]
        self.assertEqual(len(np.unique(three // 24)), 3)
        hard, grey = self.pixels(looks["hard"])[30, 5::10], self.pixels(self.shown().for_scripts["grey"])[30, 5::10]
        self.assertLess(int(hard[3]), int(grey[3]))
        self.assertGreater(int(hard[7]), int(grey[7]))
        self.assertLess(self.pixels(looks["squint"]).shape[0], 60)

    def test_contours_are_a_drawing_with_numerals_and_lost_ends(self):
        answer = self.client.get(self.shown().contours)
        self.assertEqual(answer["Content-Type"], "image/svg+xml")
        text = answer.content.decode()
        self.assertIn('fill="url(#dots)"', text)
        self.assertIn('fill="url(#hatch)"', text)
        self.assertIn(">VII</text>", text)
        self.assertIn("immutable", answer["Cache-Control"])
        self.assertIn('fill="#fff"/>', self.client.get(self.shown().contours + "&alone=1").content.decode())

    def test_every_way_of_the_medium_can_be_compared(self):
        choices = self.shown().choices
        self.assertEqual(set(choices) >= {"none", "yellow", "red", "green"}, True)
        for address in list(choices.values())[:3]:
            self.pixels(address)

    def test_nobody_else_sees_them(self):
        other = scene_with_light(self.other())
        shown = desk_of(Scene.objects.select_related("picture").get(pk=other.pk))
        for address in (
            *list(shown.for_scripts["looks"].values()),
            shown.contours,
            f"/scenes/{other.pk}/twins-over.svg",
            f"/scenes/{other.pk}/edit/seeing",
            f"/scenes/{other.pk}/export/grey.png",
        ):
            self.assertEqual(self.client.get(address).status_code, 404, address)

    def test_a_scene_without_a_picture_has_no_drawings(self):
        bare = lifecycle.new_scene(self.person, "Bare")
        for path in ("twins-over.svg", "export/grey.png", "edit/seeing"):
            self.assertEqual(self.client.get(f"/scenes/{bare.pk}/{path}").status_code, 404)


class Reading(PageTest):
    def test_twins_are_named_with_what_parts_them(self):
        scene = scene_of_two_colours(self.person)
        page = self.client.get(f"/scenes/{scene.pk}/edit/seeing").content.decode()
        self.assertRegex(page, r"two colours become one grey")
        self.assertRegex(page, r"Parted by (red|deep red)")
        self.assertIn(">1</text>", self.client.get(f"/scenes/{scene.pk}/twins-over.svg").content.decode())
        self.act(scene, "colour-choice", choice="red")
        page = self.client.get(f"/scenes/{scene.pk}/edit/seeing").content.decode()
        self.assertIn("No neighbouring colours fall on one grey.", page)
        self.assertIn("No neighbouring colours", self.client.get(f"/scenes/{scene.pk}/twins-over.svg").content.decode())

    def test_twins_in_the_dark_say_that_no_filter_helps(self):
        scene = scene_of_two_colours(self.person, placing={"school": "known tone", "tone": "brick", "zone": 0})
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/edit/seeing"), "both sink into black")

    def test_the_table_of_ways_is_used_with_one_click(self):
        scene = scene_of_two_colours(self.person)
        found = greyview.seeing_of(Situation(self.fresh(scene)))
        best = found.choices[0]
        self.assertIn(best.name, ("red", "deep red", "orange", "green", "yellow-green"))
        self.assertGreaterEqual(float(best.cells[0]["zones"]), 0.9, "as far apart as is wished")
        answer = self.act(scene, "colour-choice", choice=best.name)
        self.assertEqual(answer.status_code, 200)
        self.assertEqual(self.fresh(scene).kept["filters"], [{"name": best.name}])
        self.assertTrue(greyview.seeing_of(Situation(self.fresh(scene))).choices[0].current)
        self.act(scene, "colour-choice", choice="none")
        self.assertNotIn("filters", self.fresh(scene).kept)

    def test_a_colour_sensor_takes_its_own_filter(self):
        scene = scene_of_two_colours(self.person, medium={"kind": "digital raw", "iso": 100})
        self.act(scene, "colour-choice", choice="red")
        self.assertEqual(self.fresh(scene).kept["medium"]["channel_mix"], "red")
        self.assertNotIn("filters", self.fresh(scene).kept)
        self.assertTrue(medium("digital raw").mixes_channels)

    def test_pairs_are_chosen_refused_and_follow_a_new_name(self):
        scene = scene_of_two_colours(self.person)
        self.act(scene, "pair", a="ivy", b="brick")
        self.assertEqual(self.fresh(scene).kept["pairs"], [["ivy", "brick"]])
        self.assertContains(self.act(scene, "pair", a="ivy", b="ivy"), "cannot part from itself", status_code=422)
        self.assertContains(self.act(scene, "pair", a="ivy", b="moss"), "There is no tone “moss”.", status_code=422)
        self.act(scene, "tone", mark="B", name="hedge")
        self.assertEqual(self.fresh(scene).kept["pairs"], [["hedge", "brick"]])
        self.act(scene, "unpair")
        self.assertNotIn("pairs", self.fresh(scene).kept)

    def test_balance_is_held_against_the_intent(self):
        scene = scene_with_light(self.person, wanted={"scale": "graphic"})
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/edit/seeing"), "It is graphic.")
        scene = scene_with_light(self.person, wanted={"scale": "soft"})
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/edit/seeing"), "Not soft yet.")

    def test_odd_pictures_are_read_without_a_fault(self):
        for height, width, colour in ((1, 1, (0.2, 0.2, 0.2)), (50, 2000, (0.5, 0.1, 0.1)), (60, 60, (0.0, 0.0, 0.0)), (60, 60, (0.3, 0.05, 0.4))):  # fmt: skip
            with self.subTest(height=height, width=width, colour=colour):
                scene = scene_of_two_colours(self.person, colour, colour, height, width)
                self.assertEqual(self.client.get(f"/scenes/{scene.pk}/edit/seeing").status_code, 200)
                for kind in ("twins", "eye"):
                    self.assertEqual(self.client.get(f"/scenes/{scene.pk}/{kind}-over.svg").status_code, 200)
                self.assertEqual(self.client.get(desk_of(scene).contours).status_code, 200)

    def test_a_vanished_file_is_said(self):
        scene = scene_of_two_colours(self.person)
        for path in scene.picture.path.iterdir():
            path.unlink()
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/edit/seeing"), "missing or damaged")
        self.assertEqual(self.client.get(f"/scenes/{scene.pk}/eye-over.svg").status_code, 410)
        self.assertEqual(self.client.get(f"/scenes/{scene.pk}/export/grey.tif").status_code, 410)
        self.assertEqual(self.client.get(desk_of(scene).contours).status_code, 410)


class Crops(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)

    def test_a_shape_is_chosen_turned_and_taken_back(self):
        self.act(self.scene, "crop", ratio="1:1", guides="thirds")
        left, top, right, bottom = self.fresh(self.scene).kept["crop"]["box"]
        self.assertAlmostEqual((right - left) * 110 / ((bottom - top) * 60), 1, places=3)
        self.act(self.scene, "crop", ratio="3:2", upright="on")
        left, top, right, bottom = self.fresh(self.scene).kept["crop"]["box"]
        self.assertAlmostEqual((right - left) * 110 / ((bottom - top) * 60), 2 / 3, places=3)
        self.act(self.scene, "crop", ratio="whole")
        self.assertNotIn("crop", self.fresh(self.scene).kept)

    def test_a_dragged_crop_is_kept_and_one_without_area_refused(self):
        self.act(self.scene, "crop", ratio="free", left=0.5, top=0, right=1, bottom=1)
        self.assertEqual(self.fresh(self.scene).kept["crop"]["box"], [0.5, 0, 1, 1])
        answer = self.act(self.scene, "crop", ratio="free", left=0.5, top=0.5, right=0.5, bottom=0.9)
        self.assertContains(answer, "The crop has no area left", status_code=422)
        self.assertContains(self.client.get(f"/scenes/{self.scene.pk}/"), "Free, 50 × 100 % of the picture")

    def test_measures_card_plan_and_file_follow_the_crop(self):
        whole = exports.measures_of(Situation(self.fresh(self.scene)))[0]
        self.act(self.scene, "crop", ratio="free", left=0.55, top=0, right=1, bottom=1)
        scene = self.fresh(self.scene)
        cropped = exports.measures_of(Situation(scene))[0]
        self.assertGreater(cropped["balance"]["white"], whole["balance"]["white"])
        self.assertEqual(cropped["balance"]["black"], 0)
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/card"), "Crop free, 45 × 100 %")
        self.assertEqual(self.client.get(f"/scenes/{scene.pk}/scene.json").json()["crop"]["box"], [0.55, 0, 1, 1])
        self.assertEqual(self.client.get(f"/scenes/{scene.pk}/card.pdf").status_code, 200)


class Exports(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)

    def get(self, name):
        answer = self.client.get(f"/scenes/{self.scene.pk}/export/{name}")
        self.assertEqual(answer.status_code, 200)
        self.assertIn("attachment", answer["Content-Disposition"])
        return answer.content

    def test_pictures_agree_with_each_other(self):
        png, jpeg = (np.asarray(Image.open(io.BytesIO(self.get(f"grey.{kind}")))) for kind in ("png", "jpg"))
        tiff = tifffile.imread(io.BytesIO(self.get("grey.tif")))
        self.assertEqual((png.shape, tiff.shape, tiff.dtype), ((60, 110), (60, 110), np.uint16))
        self.assertLessEqual(np.abs(tiff / 257 - png).max(), 1.01)
        self.assertLess(np.abs(jpeg.astype(int) - png)[:, 5::10].mean(), 3)

    def test_measures_come_as_json_and_csv(self):
        found = json.loads(self.get("measures.json"))
        self.assertAlmostEqual(sum(found["balance"].values()), 1, places=3)
        rows = list(csv.reader(io.StringIO(self.get("measures.csv").decode("utf-8-sig"))))
        self.assertEqual(rows[0], ["measure", "name", "value"])
        self.assertEqual(float(rows[2][2]), found["balance"]["black"])

    def test_the_map_and_the_table_are_files_of_their_kind(self):
        self.assertIn(b"<svg", self.get("contours.svg"))
        text = self.get("look.cube").decode()
        self.assertIn('TITLE "Steps"', text)
        self.assertEqual(len([line for line in text.splitlines() if line[:1].isdigit()]), 33**3)

    def test_unknown_files_are_not_there(self):
        self.assertEqual(self.client.get(f"/scenes/{self.scene.pk}/export/secret").status_code, 404)


class Keys(PageTest):
    def test_the_address_holds_the_look(self):
        shown = Rendering(mixed_chain((0.2, 0.4, 0.4)), 0, 1, "film", 0, "squint")
        self.assertEqual(rendering_of(key_of(shown)), shown)

    def test_the_address_holds_glass_and_sky(self):
        own = own_spectrum([(nm, (nm - 380) / 400) for nm in range(380, 731, 50)])
        corners = ((0.0, 0.0), (1.0, 0.0), (0.512, 0.25))
        under = Polarized(35.0, -136.0, 4.5, 28.0, False, 0.8)
        for filters in ((), ("light yellow",), ("yellow", "yellow-green"), ("red",)):
            for overhead in (
                Overhead(),
                Overhead(()),
                Overhead(corners),
                Overhead(None, under),
                Overhead(corners, under),
            ):
                chain = glass_chain("extended red", "A", filters)
                shown = Rendering(chain, 0.25, 1.0, "slide", 0, overhead=overhead)
                self.assertRegex(key_of(shown), f"^{KEY}$")
                self.assertEqual(rendering_of(key_of(shown)), shown)
        through = Rendering(glass_chain("general panchromatic", "D55", ("yellow", own)), 0.0, 1.0, "film", 0)
        self.assertRegex(key_of(through), f"^{KEY}$")
        back = rendering_of(key_of(through)).chain
        for colour in ((0.1, 0.2, 0.7), (0.6, 0.1, 0.1)):
            self.assertAlmostEqual(float(grey_of(back, colour)), float(grey_of(through.chain, colour)), places=4)
        for wrong in ("t2.general-panchromatic.D55.gold", "t2.mix.1.1.1", "t2.nothing.D55.none", "t2.eye.D50.none"):
            with self.subTest(wrong), self.assertRaises(Unreadable):
                rendering_of(f"{wrong}_0_10000_0_0_0_0_0_0_sf")
