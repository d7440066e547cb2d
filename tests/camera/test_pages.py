"""Filter bench, setups, carrying over, comparing, calibrating, the simulated camera and test shots over HTTP."""

import io
import json
import re
import zipfile

import numpy as np
import tifffile
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from dimgrey.core.camera import setups as core
from dimgrey.core.camera.setups import Setup as CoreSetup
from dimgrey.core.document.setupfile import plain
from dimgrey.core.planning.prints import Printing
from dimgrey.core.planning.scoring import score
from dimgrey.frames.models import Frame
from dimgrey.kit import actions as kit
from dimgrey.kit import setups
from dimgrey.kit.models import Item, KeptSetup
from dimgrey.outings.actions import create_outing
from dimgrey.scenes import lifecycle
from dimgrey.scenes.greyview import measured_light
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from dimgrey.standins.simulated_camera import CameraSetting, SimulatedCamera
from tests import hand
from tests.helpers import PageTest, band, scene_with_light, stepped_light
from tests.scenes.test_greyview import scene_of_two_colours

MENU = "Contrast: contrast -4..4 step 1; Highlight tone: highlights -2..4 step 0.5"


def jpeg(grey):
    buffer = io.BytesIO()
    Image.fromarray(np.asarray(grey, np.uint8)).save(buffer, "JPEG", quality=97)
    return buffer.getvalue()


class Bench(PageTest):
    def test_every_filter_is_shown_with_cost_effects_and_exposure_and_used_with_one_click(self):
        scene = scene_of_two_colours(self.person)
        page = self.client.get(f"/scenes/{scene.pk}/filters").content.decode()
        for part in ("orange", "brick / ivy: ", "sky", "Glass on the lens", "Use red"):
            self.assertIn(part, page)
        self.act_of_page(scene, "bench", "colour-choice", choice="red")
        self.assertEqual(self.fresh(scene).kept["filters"], [{"name": "red"}])
        answer = self.act_of_page(scene, "bench", "colour-choice", choice="pink")
        self.assertContains(answer, "There is no filter “pink”.", status_code=422)

    def test_filters_of_the_kit_stand_on_the_bench_with_their_own_spectrum(self):
        points = "wavelength,t\n380,0.02\n420,0.02\n460,0.02\n500,0.1\n550,0.4\n600,0.9\n650,0.9\n700,0.9\n730,0.9"
        kit.keep_item(self.person, "filter", "My amber", {"glass": "own spectrum", "points": points})
        scene = scene_of_two_colours(self.person)
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/filters"), "My amber")
        self.act_of_page(scene, "bench", "kit-filter", filter="My amber")
        (glass,) = self.fresh(scene).kept["filters"]
        self.assertEqual((glass["name"], len(glass["points"])), ("My amber", 9))
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/"), "My amber: ")

    def test_a_proposal_is_taken_and_undone(self):
        scene = scene_of_two_colours(
            self.person,
            intent="The brick bright against dark ivy.",
            placing={"school": "known tone", "tone": "ivy", "zone": 5},
        )
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/filters"), "Nearer to what is wanted")
        before, proposal = self.fresh(scene).kept, Situation(self.fresh(scene)).proposals[0]
        self.act_of_page(scene, "bench", "take-proposal", code=proposal.code)
        self.assertAlmostEqual(score(Situation(self.fresh(scene)).plan).value, proposal.score, places=6)
        self.act(scene, "undo")
        self.assertEqual(self.fresh(scene).kept, before)
        answer = self.act_of_page(scene, "bench", "take-proposal", code="glow")
        self.assertContains(answer, "There is no change “glow”.", status_code=422)

    def test_an_unplanned_scene_says_what_to_do_first(self):
        scene = scene_with_light(self.person)
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/filters"), "Then every filter can be tried on it.")

    def test_nobody_else_gets_in(self):
        other = scene_with_light(self.other())
        for path in ("filters", "compare", "camera", "test-shot"):
            self.assertEqual(self.client.get(f"/scenes/{other.pk}/{path}").status_code, 404)
        for path in ("do/colour-choice", "do/advice", "do/setup", "shoot"):
            self.assertEqual(self.client.post(f"/scenes/{other.pk}/{path}").status_code, 404)


class Setups(PageTest):
    def setUp(self):
        super().setUp()
        self.one = kit.keep_item(
            self.person, "camera", "One", {"senses": "colour sensor", "controls": MENU, "protection_stops": 1}
        )
        self.two = kit.keep_item(
            self.person, "camera", "Two", {"senses": "colour sensor", "controls": "Tone: contrast -1..1 step 0.5"}
        )
        self.row = setups.keep_setup(
            self.person, core.setup("Lime wall", {"contrast": 0.5, "highlights": -0.5}, "orange"), self.one
        )

    def test_a_setup_is_edited_and_keeps_its_history(self):
        values = {
            "name": "Lime wall",
            "camera": self.one.pk,
            "contrast": "75",
            "highlights": "-50",
            "filter": "red",
            "file": "raw",
            "protection": "1",
            "tags": "sun, wall",
        }
        self.client.post(f"/setups/{self.row.pk}/", values)
        self.row.refresh_from_db()
        self.assertEqual(
            (self.row.revision, self.row.values["effects"]["contrast"], self.row.values["tags"]),
            (2, 0.75, ["sun", "wall"]),
        )
        page = self.client.get(f"/setups/{self.row.pk}/").content.decode()
        self.assertIn("contrast +0.50 → +0.75", page)
        self.client.post(f"/setups/{self.row.pk}/", values)
        self.row.refresh_from_db()
        self.assertEqual(self.row.revision, 2, "an unchanged setup is no new revision")
        answer = self.client.post("/setups/new", {"name": "Lime wall"})
        self.assertContains(answer, "There is a setup “Lime wall” already.", status_code=422)
        answer = self.client.post("/setups/new", {"name": "X", "contrast": "500"})
        self.assertContains(answer, "Contrast runs from -1 to +1 (got 5).", status_code=422)

    def test_sliders_stand_in_the_groups_of_a_setup_and_say_what_they_change(self):
        page = self.client.get(f"/setups/{self.row.pk}/").content.decode()
        places = [
            page.index(part)
            for part in ("What is recorded", "How colours become grey", "The curve", "Shadows", "The surface", "Toning")
        ]
        self.assertEqual(places, sorted(places))
        # In the words of history and carrying over, so that one thing has one figure on the page.
        self.assertEqual(re.findall(r"<output>(.*?)</output>", page)[:2], ["+0.50", "−0.50"])
        self.client.post("/setups/new", {"name": "Grainy", "grain": "40", "clarity": "-30"})
        row = KeptSetup.objects.get(name="Grainy")
        card = self.client.get(f"/setups/{row.pk}/menu").content.decode()
        self.assertRegex(card, r"Local contrast</td>\s*<td>−0.30")
        self.assertRegex(card, r"Grain</td>\s*<td>\+0.40")

    def test_the_picture_and_the_curve_answer(self):
        scene = scene_with_light(self.person)
        url = f"/setups/preview?scene={scene.pk}"
        plain, hard = (self.client.get(f"{url}&contrast={c}").content.decode() for c in (0, 80))
        self.assertIn("tone-curve", plain)
        self.assertIn("data:image/png;base64,", plain)
        self.assertNotEqual(plain, hard)
        self.assertEqual(self.client.get(f"{url}&contrast=900").status_code, 422)
        self.assertEqual(self.client.get(f"/setups/preview?scene={scene_with_light(self.other()).pk}").status_code, 404)

    def test_a_moving_slider_is_answered_with_the_picture_and_curve_that_rest_when_it_rests(self):
        scene = scene_with_light(self.person)
        for zone in (2, 6):
            scene = hand.pin_tone(self.fresh(scene), None, band(zone), 0.5)
        hand.place_tone(scene, None, "B", 5)
        asked = f"scene={scene.pk}&contrast=40&highlights=-60&filter=red"
        moving = self.client.get(f"/setups/look?{asked}").json()
        resting = self.client.get(f"/setups/preview?{asked}").content.decode()
        self.assertIn(moving["grey"], resting)
        self.assertIn(f'd="{moving["curve"]}"', resting)
        for dot in moving["dots"]:
            self.assertIn(f'data-mark="{dot["mark"]}" transform="translate({dot["x"]} {dot["y"]})"', resting)
        key = moving["grey"].split("/grey-")[1].removesuffix(".jpg")
        self.assertEqual(moving["tables"], self.client.get(f"/pictures/paint-{key}.json").json())
        self.assertEqual(self.client.get("/setups/look?scene=99999").status_code, 404)
        self.assertEqual(self.client.get(f"/setups/look?scene={scene.pk}&contrast=x").status_code, 422)

    def test_the_camera_sends_frames_while_something_is_set(self):
        scene = scene_with_light(self.person)
        scene = hand.pin_tone(scene, None, band(5), 0.5)
        hand.place_tone(scene, None, "A", 5)
        url = f"/scenes/{scene.pk}/camera/live"
        self.assertContains(self.client.get(f"{url}?shutter=1/60&aperture=f/8"), "data:image/jpeg")
        self.assertContains(self.client.get(f"{url}?shutter=fast"), "fast", status_code=422)
        self.assertEqual(self.client.get(f"/scenes/{scene_with_light(self.other()).pk}/camera/live").status_code, 404)

    def test_it_is_carried_to_another_camera_and_printed(self):
        page = self.client.get(f"/setups/{self.row.pk}/?to={self.two.pk}").content.decode()
        self.assertIn("Highlights -0.50 cannot be carried", page)
        self.client.post(f"/setups/{self.row.pk}/carry", {"camera": self.two.pk})
        made = KeptSetup.objects.get(name="Lime wall, Two")
        self.assertEqual((made.camera, made.values["effects"]), (self.two, {"contrast": 0.5}))
        card = self.client.get(f"/setups/{self.row.pk}/menu").content.decode()
        self.assertLess(card.index("Contrast"), card.index("Highlight tone"))
        self.assertIn("<td>2.0</td>", card)

    def test_files_go_out_and_come_in(self):
        data = self.client.get(f"/setups/{self.row.pk}/setup.json").content
        self.assertIn(b"LUT_3D_SIZE 33", self.client.get(f"/setups/{self.row.pk}/setup.cube").content)
        send = lambda data: self.client.post("/setups/import", {"file": SimpleUploadedFile("s.json", data)})
        self.assertContains(send(data), "“Lime wall (2)” came in under a new name.")
        for data, sentence in (
            (b"{", "not JSON"),
            (b"[]", "the file: must be an object (got [])."),
            (
                json.dumps({**plain(CoreSetup("a")), "filter": "pink"}).encode(),
                "must be",
            ),
        ):
            self.assertContains(send(data), sentence, status_code=422)

    def test_the_desk_shows_an_in_camera_file_through_its_setup_and_a_raw_file_as_it_is(self):
        hard = {"name": "hard", "effects": {"contrast": 1.0}}
        greys = {}
        for kind in ("digital file", "digital raw"):
            for name, made in (("plain", {"name": "plain"}), ("hard", hard)):
                scene = scene_with_light(self.person, medium={"kind": kind, "iso": 100}, setup=made)
                situation = Situation(scene)
                zones = situation.rendering.tone_map.zones(*measured_light(situation))
                greys[kind, name] = [round(float(zone), 2) for zone in (zones.min(), zones.max())]
        low, high = greys["digital file", "plain"]
        through, without = (Printing("digital file", 0, (contrast, 0, 0)) for contrast in (1.0, 0.0))
        for k, as_it_is in enumerate((low, high)):
            expected = through.print(without.fall_for(as_it_is)).zone
            self.assertAlmostEqual(min(max(greys["digital file", "hard"][k], 0), 10), expected, delta=0.03)
        self.assertEqual(greys["digital raw", "hard"], greys["digital raw", "plain"])

    def test_setups_of_another_are_not_there(self):
        other = setups.keep_setup(self.other(), core.setup("Secret"))
        for path in (f"/setups/{other.pk}/", f"/setups/{other.pk}/menu", f"/setups/{other.pk}/setup.json"):
            self.assertEqual(self.client.get(path).status_code, 404)

    def test_compared_kept_with_a_reason_and_planned_through(self):
        outing = create_outing(self.person, "Day")
        scene = scene_with_light(self.person, medium={"kind": "digital file", "iso": 100})
        Scene.objects.filter(pk=scene.pk).update(outing=outing)
        for zone in (3, 5, 7):
            scene = hand.pin_tone(self.fresh(scene), None, band(zone), 0.5)
        hand.place_tone(scene, None, "B", 5)
        setups.keep_setup(self.person, core.setup("Plain"))
        page = self.client.get(f"/scenes/{scene.pk}/compare?stops=-1").content.decode()
        self.assertIn("Lost ends", page)
        before = self.client.get(f"/scenes/{scene.pk}/").content.decode()
        self.act_of_page(scene, "compare", "setup", setup=self.row.pk, reason="brush marks")
        document = self.fresh(scene).document
        self.assertEqual((document.setup.name, document.kit.setup), ("Lime wall", "Lime wall"))
        self.assertIn("brush marks", document.notes)
        self.assertNotEqual(self.client.get(f"/scenes/{scene.pk}/").content.decode(), before)
        self.assertContains(self.client.get(f"/outings/{outing.pk}/setup/{self.row.pk}"), "Lime wall on every scene")
        film = scene_with_light(self.person)
        with self.assertRaises(hand.Refused):
            hand.use_setup(film, None, setups.scene_part(self.row))


class Calibrating(PageTest):
    def setUp(self):
        super().setUp()
        self.item = kit.keep_item(self.person, "camera", "One", {"senses": "colour sensor"})
        self.url = f"/kit/{self.item.pk}/calibrate"

    def fresh_item(self):
        return Item.objects.get(pk=self.item.pk)

    def series(self, stops=range(-5, 5)):
        camera = SimulatedCamera(np.full((8, 8, 3), 0.18), 12.0)
        shots = [camera.shoot(CoreSetup("x"), CameraSetting(8.0, 64 / 4096 * 2.0**k, 100)) for k in stops]
        return [SimpleUploadedFile(f"{k}.jpg", shot.jpeg) for k, shot in enumerate(shots)]

    def test_a_series_of_files_gives_curve_headroom_and_footroom_from_then_on(self):
        self.assertRedirects(self.client.post(self.url, {"kind": "series", "series": self.series()}), self.url)
        item = self.fresh_item()
        self.assertAlmostEqual(item.calibration["middle_stops"] + 12, 0, delta=0.1)
        self.assertAlmostEqual(item.values["headroom"], 3.0, delta=0.5)
        self.assertContains(self.client.get(self.url), "residual")
        scene = lifecycle.new_scene(self.person, "Yard")
        self.act(scene, "kit", camera="One")
        self.assertEqual(self.fresh(scene).kept["medium"]["headroom"], item.values["headroom"])

    def test_bad_series_are_a_sentence_and_change_nothing(self):
        for files, sentence in (
            (self.series(range(-5, -2)), "at least 6 frames"),
            (self.series([-5, -4, -3, 0, 1, 2, 3]), "A frame is missing"),
            ([SimpleUploadedFile("a.jpg", b"no")], "not a picture"),
        ):
            with self.subTest(sentence):
                self.assertContains(
                    self.client.post(self.url, {"kind": "series", "series": files}), sentence, status_code=422
                )
                self.assertEqual(self.fresh_item().calibration, {})

    def test_a_chart_gives_the_mix_that_scenes_then_use(self):
        rng = np.random.default_rng(4)
        patches = rng.uniform(0.05, 0.8, (24, 3))
        colour = np.kron(patches.reshape(4, 6, 3), np.ones((20, 20, 1)))
        grey = np.repeat((colour @ np.array([0.3, 0.5, 0.2]))[..., None], 3, axis=-1)
        encode = lambda linear: np.where(linear <= 0.0031308, 12.92 * linear, 1.055 * linear ** (1 / 2.4) - 0.055) * 255
        files = {
            name: SimpleUploadedFile(f"{name}.jpg", jpeg(encode(data)))
            for name, data in (("colour", colour), ("grey", grey))
        }
        self.client.post(self.url, {"kind": "chart", "filter": "none", **files})
        np.testing.assert_allclose(self.fresh_item().calibration["mixes"]["none"], [0.3, 0.5, 0.2], atol=0.03)
        scene = lifecycle.new_scene(self.person, "Yard")
        self.act(scene, "kit", camera="One")
        np.testing.assert_allclose(self.fresh(scene).kept["medium"]["channel_mix"], [0.3, 0.5, 0.2], atol=0.03)

    def test_the_simulated_camera_can_be_practised_on(self):
        self.client.post(self.url, {"kind": "simulated"})
        self.assertAlmostEqual(self.fresh_item().calibration["headroom"], 2.8, delta=0.3)

    def test_a_film_is_measured_with_its_scanner_by_the_order_of_its_scans(self):
        film = kit.keep_item(self.person, "film", "Sheet film", {})
        scans = [
            SimpleUploadedFile(f"{k}.jpg", jpeg(np.full((20, 20), level)))
            for k, level in enumerate((6, 14, 30, 55, 85, 119, 155, 195, 230, 254))
        ]
        self.client.post(f"/kit/{film.pk}/calibrate", {"kind": "series", "series": scans})
        film.refresh_from_db()
        self.assertAlmostEqual(film.values["outer_high"], 5 + 4, delta=0.4)
        self.assertContains(self.client.get(f"/kit/{film.pk}/calibrate"), "one scanner setting")

    def test_film_cameras_have_no_curve(self):
        film = kit.keep_item(self.person, "camera", "Box", {"senses": "film"})
        self.assertEqual(self.client.get(f"/kit/{film.pk}/calibrate").status_code, 404)


class Shooting(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person, medium={"kind": "digital file", "iso": 100})
        for zone in (3, 5, 7):
            self.scene = hand.pin_tone(self.scene, None, band(zone), 0.5)
        self.scene = hand.place_tone(self.scene, None, "B", 5)
        self.url = f"/scenes/{self.scene.pk}/"

    def test_a_shot_on_plan_is_logged_and_compared(self):
        answer = self.client.post(f"{self.url}shoot")
        self.assertContains(answer, "As planned.")
        frame = Frame.objects.get()
        self.assertEqual((frame.note, round(frame.difference_stops, 1)), ("simulated camera", 0.0))
        self.assertEqual(frame.results.get().found.parts, (), "its file is kept with it")
        answer = self.client.post(f"{self.url}shoot", {"shutter": "1/15"})
        self.assertContains(answer, "2 stops lighter than planned")
        self.assertContains(answer, "That is what was set: 2 stops more light was set than planned.")

    def test_bad_settings_are_a_sentence_and_no_frame(self):
        self.assertContains(
            self.client.post(f"{self.url}shoot", {"shutter": "1/0"}),
            "Exposure time must be more than 0 s",
            status_code=422,
        )
        self.assertEqual(Frame.objects.count(), 0)
        bare = lifecycle.new_scene(self.person, "Bare")
        self.assertContains(
            self.client.get(f"/scenes/{bare.pk}/camera"), "needs a scene with a picture", status_code=422
        )

    def test_live_view_follows_polarizer_and_compensation(self):
        plain = self.client.get(f"{self.url}camera").content.decode()
        self.assertIn("Its meter wants", plain)
        self.assertNotEqual(self.client.get(f"{self.url}camera?compensation=2").content.decode(), plain)

    def test_a_bracket_comes_as_files_and_is_logged(self):
        answer = self.client.post(f"{self.url}shoot-bracket")
        with zipfile.ZipFile(io.BytesIO(answer.content)) as archive:
            self.assertEqual(archive.namelist(), ["DG0001.jpg", "DG0002.jpg", "DG0003.jpg"])
        differences = sorted(round(frame.difference_stops) for frame in Frame.objects.all())
        self.assertEqual(differences, [-1, 0, 1])

    def test_the_raw_file_is_scene_linear_and_the_lock_holds(self):
        linear = tifffile.imread(io.BytesIO(self.client.get(f"{self.url}linear.tif").content))
        self.assertAlmostEqual(float(linear[30, 55].mean()), 0.18, delta=0.01)
        page = self.client.get(f"{self.url}camera?locked=9&compensation=1").content.decode()
        self.assertIn('value="9"', page)
        self.assertIn("Its meter wants 1/4 ", page)

    def shot(self, size=(110, 60), change=1.0):
        camera = SimulatedCamera(stepped_light(), 12.0)
        taken = camera.shoot(CoreSetup("x"), CameraSetting(8.0, 64 / 4096 * change, 100))
        image = Image.open(io.BytesIO(taken.jpeg)).resize(size)
        return SimpleUploadedFile("shot.jpg", jpeg(np.asarray(image)))

    def test_a_test_shot_is_logged_and_says_what_to_change(self):
        answer = self.client.post(f"{self.url}test-shot", {"file": self.shot()}, follow=True)
        self.assertContains(answer, "As planned.")
        self.assertEqual(Frame.objects.get().note, "test shot")
        answer = self.client.post(f"{self.url}test-shot", {"file": self.shot(change=2)}, follow=True)
        self.assertContains(answer, "1 stop lighter than planned")
        self.assertContains(answer, "Next time give 1 stop less light")

    def test_without_a_file_or_a_picture_nothing_is_logged(self):
        for file in ({}, {"file": SimpleUploadedFile("a.jpg", b"no picture")}):
            answer = self.client.post(f"{self.url}test-shot", file)
            self.assertEqual(answer.status_code, 422)
        self.assertContains(self.client.post(f"{self.url}test-shot", {}), "Choose the picture", status_code=422)
        self.assertEqual(Frame.objects.count(), 0)
