"""The desk's pages and acts over HTTP: what changes, what is refused, who may see what."""

import io
import json
import re
import uuid
from datetime import timedelta

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import override_settings
from django.utils import timezone
from PIL import Image

from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.picture.display import lightness
from dimgrey.core.planning.prints import PRINT_CURVE
from dimgrey.pictures import store
from dimgrey.scenes import lifecycle
from dimgrey.scenes.desk import desk_of
from dimgrey.scenes.models import Revision, Scene
from dimgrey.scenes.situation import Situation
from dimgrey.scenes.tonerows import tone_rows
from tests import hand
from tests import picturefiles as pictures
from tests.documents import document
from tests.helpers import PageTest, band, scene_with_light


class Acts(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person, intent="Glow.")
        for zone in (3, 7):
            hand.pin_tone(self.scene, None, band(zone), 0.5)

    def test_placing_answers_with_sheet_rail_and_data(self):
        answer = self.act(self.scene, "place", mark="A", zone="III")
        self.assertEqual(answer.status_code, 200)
        html = answer.content.decode()
        for part in ('id="rail" hx-swap-oob', 'id="sheet" hx-swap-oob', 'id="pins" hx-swap-oob', 'id="desk-data"'):
            self.assertIn(part, html)
        # EV 10 on III sets EV 12; f/8 at ISO 100 is 64 / 4096 = 1/64 s.
        self.assertInHTML('<span data-side="shutter">1/60</span>', html)
        self.assertInHTML('<span data-side="aperture">f/8</span>', html)

    def test_every_act_is_one_sentence_when_refused_and_nothing_changes(self):
        cases = [
            # verb, what is sent, the sentence
            ("read", {"mark": "A", "reading": "0", "sure": "on"}, None),
            ("read", {"mark": "A", "reading": "EV 40"}, "EV 40 is outside what a meter reads in a scene"),
            ("read", {"mark": "A", "reading": "1/0 f/8"}, "Exposure time must be more than 0 s (got 1/0). For 1/125 s write 1/125."),
            ("read", {"mark": "A", "reading": "-1/60 f/8"}, "Exposure time must be more than 0 s"),
            ("read", {"mark": "A", "reading": "very bright"}, "“very bright” is not a number of stops."),
            ("read", {"mark": "A", "reading": "1000000000"}, "EV 1e+09 is outside"),
            ("read", {"mark": "Z", "reading": "12"}, "There is no tone Z in this scene any more."),
            ("place", {"mark": "A", "zone": "11"}, "A tone can be placed on zones 0 to X (got 11)."),
            ("place", {"mark": "A", "zone": "-1"}, "A tone can be placed on zones 0 to X (got -1)."),
            ("setting", {"lead": "aperture", "value": "f/7.5"}, "f/7.5 is not a marked value. Nearest: f/7.1 or f/8."),
            ("filter", {"filter": "orange", "factor": "0"}, "Factor on its rim: must be 1 to 100000 (got 0)."),
            ("filter", {"filter": "", "nd": "40"}, "Neutral density is 0 to 20 stops (got 40). Density 0.3 is 1 stop."),
            ("camera", {"kind": "film", "iso": "130", "increment": "third", "light": "D55"}, "ISO 130 is not a marked value."),
            ("camera", {"kind": "film", "iso": "100", "increment": "third", "light": "D55", "calibration": "9"}, "calibration offset is −3 to 3 stops"),
            ("add-tone", {"name": "x" * 61}, "Name: at most 60 characters (got 61)."),
            ("intent", {"title": ""}, "Give the scene a title."),
            ("redo", {}, "There is nothing to redo."),
        ]  # fmt: skip
        for verb, values, sentence in cases:
            with self.subTest(verb=verb, values=values):
                before = self.fresh(self.scene)
                answer = self.act(self.scene, verb, **values)
                if sentence is None:
                    self.assertEqual(answer.status_code, 200)
                    continue
                self.assertEqual(answer.status_code, 422)
                self.assertIn(sentence, answer.content.decode().replace("&#x27;", "'"))
                after = self.fresh(self.scene)
                self.assertEqual((after.stamp, after.kept), (before.stamp, before.kept))

    def test_what_was_typed_stays_in_the_field(self):
        html = self.act(self.scene, "read", mark="A", reading="very bright").content.decode()
        self.assertIn('value="very bright"', html)
        self.assertRegex(html, r'id="tone-A"\s+data-edit="tone-A"\s+open')

    def test_a_second_window_is_told(self):
        stamp = self.fresh(self.scene).stamp
        self.act(self.scene, "place", mark="A", zone="3")
        late = self.client.post(
            f"/scenes/{self.scene.pk}/do/place",
            {"stamp": stamp, "mark": "B", "zone": "6"},
            headers={"HX-Request": "true"},
        )
        self.assertEqual(late.status_code, 409)
        self.assertIn("changed in another window", late.content.decode())
        self.assertEqual(self.fresh(self.scene).kept["placing"]["zone"], 3)

    def test_a_reading_far_from_the_one_before_is_asked_about_before_it_counts(self):
        self.act(self.scene, "read", mark="A", reading="9", sure="on")
        asked = self.act(self.scene, "read", mark="A", reading="13")
        self.assertEqual(asked.status_code, 422)
        for part in ("is 4 stops from the reading of", "Keep it beside", 'name="replace"', 'value="13"'):
            self.assertIn(part, asked.content.decode())
        self.assertEqual(len(self.fresh(self.scene).kept["tones"][0]["readings"]), 2)
        html = self.act(self.scene, "read", mark="A", reading="13", sure="on").content.decode()
        self.assertIn("differ by 4 stops, and their mean is used", html)
        self.assertEqual(len(self.fresh(self.scene).kept["tones"][0]["readings"]), 3)
        self.act(self.scene, "read", mark="A", reading="13", replace="on")
        self.assertEqual(len(self.fresh(self.scene).kept["tones"][0]["readings"]), 2)

    def test_a_reading_that_contradicts_the_picture_is_asked_about_before_it_moves_all_pins(self):
        before = self.fresh(self.scene)
        seen = before.document.tone("A").picture_reading.ev100
        asked = self.act(self.scene, "read", mark="A", reading=f"{seen + 3.2:.2f}")
        self.assertIn("would move all pins", asked.content.decode())
        self.assertEqual(self.fresh(self.scene).stamp, before.stamp)
        self.assertEqual(self.act(self.scene, "read", mark="A", reading=f"{seen + 2.8:.2f}").status_code, 200)

    def test_a_time_is_no_answer_to_a_question(self):
        late = {"mark": "A", "reading": "2", "at": "2026-11-25T10:00:00Z", "act": str(uuid.uuid4())}
        self.assertEqual(self.act(self.scene, "read", **late).status_code, 422)
        self.assertEqual(self.act(self.scene, "read", **late, sure="on").status_code, 200)

    def test_a_plan_without_a_placed_tone_says_what_to_do(self):
        self.act(self.scene, "school", school="known tone")
        html = self.client.get(f"/scenes/{self.scene.pk}/").content.decode()
        self.assertIn("Choose the tone to place", html)

    def test_filters_camera_and_schools_change_the_plan(self):
        self.act(self.scene, "place", mark="A", zone="3")
        html = self.act(self.scene, "filter", filter="orange", nd="3", polarizer="on").content.decode()
        self.assertIn("Orange + polarizer + neutral density 3: 6 stops", html)
        html = self.act(
            self.scene, "camera", kind="slide", iso="64", increment="half", light="D65", focal_35mm="85", spot_deg="3"
        ).content.decode()
        self.assertIn("Slide, ISO 64, 85 mm. Overcast or shade.", html)
        document = self.fresh(self.scene).document
        self.assertEqual((document.medium.kind, document.meter.spot_deg), ("slide", 3.0))
        html = self.act(self.scene, "school", school="highlight").content.decode()
        self.assertIn("Highlight first", html)

    def test_a_change_of_placing_costs_eight_queries(self):
        hand.do(self.scene, None, "filter", filter="orange")  # until then first steps are looked for: two more
        values = {"stamp": self.fresh(self.scene).stamp, "mark": "A", "zone": "4"}
        with self.assertNumQueries(
            8
        ):  # person, scene, rolls, the transaction's two ends, revision, scene, own surfaces
            self.client.post(f"/scenes/{self.scene.pk}/do/place", values, headers={"HX-Request": "true"})

    def test_stops_instead_of_zones_is_one_setting(self):
        self.act(self.scene, "place", mark="A", zone="3")
        self.client.post("/look", {"tone_labels": "stops", "back": "/"})
        html = self.client.get(f"/scenes/{self.scene.pk}/").content.decode()
        self.assertIn("on −2</strong>", html)
        self.assertNotIn(">VII<", html.split('id="rail"')[1].split("</section>")[0])

    def test_the_editor_of_each_part_is_served_when_opened(self):
        for part in ("intent", "view", "tones", "placing", "filter", "exposure", "camera", "picture", "tone-A"):
            with self.subTest(part=part):
                answer = self.client.get(f"/scenes/{self.scene.pk}/edit/{part}")
                self.assertContains(answer, "<form")
        for part in ("secret", "tone-Q", "tone"):
            self.assertEqual(self.client.get(f"/scenes/{self.scene.pk}/edit/{part}").status_code, 404)


class Ages(PageTest):
    def test_readings_that_light_has_outrun_are_marked_in_the_list(self):
        """Fresh and of another day: nothing is said. In between: the row says so, before its editor is opened."""
        for minutes, marked in ((0, False), (9, False), (30, True), (13 * 60, False)):
            taken = (timezone.now() - timedelta(minutes=minutes)).isoformat(timespec="seconds")
            reading = {"kind": "spot", "ev100": 12, "taken_at": taken}
            scene = scene_with_light(self.person, tones=[{"name": "wall", "role": "subject", "readings": [reading]}])
            with self.subTest(minutes):
                (row,) = tone_rows(Situation(scene))
                self.assertEqual((row.is_old, '<small class="stale">old</small>' in row.closed), (marked, marked))


class Views(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)
        hand.pin_tone(self.scene, None, band(5), 0.5)

    def grey(self):
        html = self.client.get(f"/scenes/{self.scene.pk}/").content.decode()
        answer = self.client.get(re.search(r'src="(/pictures/[^"?]+/grey-[^"?]+)', html)[1])
        return np.asarray(Image.open(io.BytesIO(answer.content)))[30], answer

    def test_the_grey_view_shows_what_the_plan_gives(self):
        for zone in (5, 3, 6):
            hand.place_tone(self.scene, None, "A", zone)
            row, answer = self.grey()
            expected = grey8_of_lightness(lightness(np.arange(-5, 6) + zone - 5.0, PRINT_CURVE)).astype(int)
            shown = row[np.arange(11) * 10 + 5].astype(int)
            with self.subTest(zone=zone):
                self.assertLessEqual(np.abs(shown - expected).max(), 4)
                self.assertIn("immutable", answer["Cache-Control"])

    def test_an_unchanged_view_keeps_its_address(self):
        first = self.client.get(f"/scenes/{self.scene.pk}/").content.decode()
        self.act(self.scene, "intent", title="Steps", intent="Calm.")
        second = self.client.get(f"/scenes/{self.scene.pk}/").content.decode()
        address = re.compile(r"grey-[^\"]+\.jpg")
        self.assertEqual(address.search(first)[0], address.search(second)[0])

    def test_a_vanished_picture_is_said_and_the_desk_stays(self):
        html = self.client.get(f"/scenes/{self.scene.pk}/").content.decode()
        address = re.search(r'src="(/pictures/[^"]+/grey-[^"]+)"', html)[1]
        store.drop_files(self.scene.picture.path)
        answer = self.client.get(address)
        self.assertEqual(answer.status_code, 410)
        self.assertIn("upload the picture again", answer.content.decode())
        self.assertEqual(self.client.get(f"/scenes/{self.scene.pk}/").status_code, 200)
        self.assertEqual(self.act(self.scene, "pin", x="0.5", y="0.5").status_code, 422)

    def test_the_ring_answers_with_ev_pair_and_zone(self):
        hand.place_tone(self.scene, None, "A", 5)
        seen = self.client.get(f"/scenes/{self.scene.pk}/sight?x={band(7)}&y=0.5").json()
        self.assertEqual((seen["ev"], seen["zone"], seen["mixed"]), ("EV 14", "VII", False))
        self.assertEqual(seen["pair"], "1/250 f/8")
        self.assertNotIn("names", seen, "what it may be is no reading")
        edge = self.client.get(f"/scenes/{self.scene.pk}/sight?x={3 / 11}&y=0.5").json()
        self.assertIn("mixed", edge)
        for query in ("x=2&y=0", "x=a&y=0", "y=0", "x=nan&y=0"):
            with self.subTest(query=query):
                self.assertEqual(self.client.get(f"/scenes/{self.scene.pk}/sight?{query}").status_code, 400)

    def test_the_card_is_one_page_with_the_exposure(self):
        hand.place_tone(self.scene, None, "A", 5)
        for size in ("a5", "a6"):
            page = self.client.get(f"/scenes/{self.scene.pk}/card?size={size}")
            self.assertContains(page, f'class="field-card {size}"')
            pdf = self.client.get(f"/scenes/{self.scene.pk}/card.pdf?size={size}").content
            self.assertTrue(pdf.startswith(b"%PDF"))
            self.assertEqual(len(re.findall(rb"/Type /Page\b", pdf)), 1)
        self.assertEqual(self.client.get(f"/scenes/{self.scene.pk}/card?size=a3").status_code, 404)

    def test_a_card_of_forty_tones_stays_one_page(self):
        for k in range(39):
            hand.add_tone(self.scene, None, f"tone with a long name {k}", {"ev100": 10.0 + k / 10})
        pdf = self.client.get(f"/scenes/{self.scene.pk}/card.pdf").content
        self.assertEqual(len(re.findall(rb"/Type /Page\b", pdf)), 1)


class Files(PageTest):
    def upload(self, data, name="x.jpg", **fields):
        form = {"title": "Own", "kind": "film", "picture": SimpleUploadedFile(name, data), **fields}
        return self.client.post("/scenes/new", form)

    def test_an_uploaded_snapshot_opens_the_desk_with_its_exposure(self):
        answer = self.upload(pictures.jpeg(300, 200, exif=pictures.exif()))
        scene = Scene.objects.get()
        self.assertRedirects(answer, f"/scenes/{scene.pk}/")
        self.assertAlmostEqual(scene.picture.middle_grey_ev100, 13.0, delta=0.05)
        self.assertContains(
            self.client.get(f"/scenes/{scene.pk}/"), "Estimate from the picture&#x27;s own exposure data"
        )
        original = next(scene.picture.path.glob("original*"))
        self.assertEqual(original.read_bytes(), pictures.jpeg(300, 200, exif=pictures.exif()))

    def test_a_bad_upload_is_a_sentence_and_no_scene(self):
        for data, sentence in (
            (b"", "The file is empty (0 bytes). Choose the picture again."),
            (b"plain text", "not a picture that can be read"),
            (pictures.jpeg(400, 300)[:4000], "cut off or damaged"),
            (pictures.claimed_size_png(20000, 15000), "300 megapixels"),
        ):
            with self.subTest(sentence=sentence):
                answer = self.upload(data)
                self.assertEqual(answer.status_code, 422)
                self.assertContains(answer, sentence, status_code=422)
                self.assertContains(answer, 'value="Own"', status_code=422)
        self.assertEqual(Scene.objects.count(), 0)

    def test_a_hostile_file_name_stays_in_its_folder(self):
        self.upload(pictures.png(), "../../../../etc/passwd.png")
        scene = Scene.objects.get()
        self.assertEqual(scene.picture.original_name, "passwd.png")
        self.assertEqual([path.name for path in scene.picture.path.glob("original*")], ["original.png"])
        self.assertEqual([path.name for path in scene.picture.path.parent.iterdir()], [scene.picture.folder.hex])

    def test_a_scene_file_goes_out_and_comes_in_the_same(self):
        scene = scene_with_light(self.person, intent="Ümlaut ⅓")
        hand.pin_tone(scene, None, band(3), 0.5)
        out = self.client.get(f"/scenes/{scene.pk}/scene.json")
        self.assertIn("attachment", out["Content-Disposition"])
        self.client.post("/scenes/import", {"file": SimpleUploadedFile("s.json", out.content)})
        again = Scene.objects.exclude(pk=scene.pk).get()
        self.assertEqual(again.kept, json.loads(out.content))

    def test_a_bad_scene_file_names_every_mistake(self):
        data = b'{"format": "dimgrey-scene", "version": 7, "colour": 1}'
        answer = self.client.post("/scenes/import", {"file": SimpleUploadedFile("s.json", data)})
        self.assertContains(
            answer, "version: this program reads versions 1, 2, 3, 4, 5 and 6 (got 7).", status_code=422
        )
        self.assertContains(answer, "colour: unknown key.", status_code=422)
        binary = self.client.post("/scenes/import", {"file": SimpleUploadedFile("s.json", b"\xff\xfe\0")})
        self.assertContains(binary, "The file is not text.", status_code=422)

    def test_another_picture_is_refused_without_losing_the_old(self):
        scene = scene_with_light(self.person)
        answer = self.client.post(f"/scenes/{scene.pk}/picture", {"picture": SimpleUploadedFile("x.jpg", b"no")})
        self.assertContains(answer, "not a picture that can be read", status_code=422)
        self.assertEqual(self.fresh(scene).picture.folder, scene.picture.folder)


class WhoMaySeeWhat(PageTest):
    def test_nobody_sees_or_changes_the_scenes_of_another(self):
        theirs = scene_with_light(self.other())
        shown = Situation(theirs)
        for path in (
            "",
            "sight?x=0.5&y=0.5",
            "scene.json",
            "card",
            "card.pdf",
            "edit/intent",
        ):
            with self.subTest(path=path):
                self.assertEqual(self.client.get(f"/scenes/{theirs.pk}/{path}").status_code, 404)
        for address in (shown.grey, shown.colour, desk_of(theirs).contours):
            with self.subTest(address=address):
                self.client.force_login(theirs.owner)
                self.assertEqual(self.client.get(address, REMOTE_ADDR="192.0.2.7").status_code, 200)
                self.client.logout()
                self.assertEqual(self.client.get(address).status_code, 404)
        for path in ("do", "do/undo", "do/log", "picture", "remove", "bring-back"):
            with self.subTest(path=path):
                self.assertEqual(self.client.post(f"/scenes/{theirs.pk}/{path}", {"stamp": 1}).status_code, 404)
        self.assertEqual(Revision.objects.filter(scene=theirs).count(), 1)

    def test_another_machine_is_sent_to_the_sign_in(self):
        scene = scene_with_light(self.person)
        for path in ("/", f"/scenes/{scene.pk}/", "/frames/", f"/scenes/{scene.pk}/scene.json"):
            with self.subTest(path=path):
                answer = self.client.get(path, REMOTE_ADDR="192.0.2.7")
                self.assertEqual(answer.status_code, 302)
                self.assertIn("/sign-in", answer["Location"])

    @override_settings(DIMGREY_LOCAL=False)
    def test_hosted_even_this_machine_signs_in(self):
        self.assertEqual(self.client.get("/").status_code, 302)
        self.other()
        self.assertEqual(
            self.client.post("/sign-in", {"username": "someone-else", "password": "wrong"}).status_code, 422
        )
        answer = self.client.post("/sign-in", {"username": "someone-else", "password": "long enough password"})
        self.assertRedirects(answer, "/")

    def test_a_foreign_host_name_is_refused(self):
        with override_settings(ALLOWED_HOSTS=["127.0.0.1"]):
            self.assertEqual(self.client.get("/", HTTP_HOST="evil.example").status_code, 400)

    def test_pages_carry_a_strict_policy(self):
        answer = self.client.get("/")
        policy = answer["Content-Security-Policy"]
        self.assertIn("default-src 'self'", policy)
        self.assertNotIn("unsafe", policy)
        self.assertNotIn("style=", answer.content.decode())

    def test_a_look_comes_back_only_to_this_site(self):
        for back, place in (("/frames/", "/frames/"), ("https://evil.example/", "/"), ("//evil.example", "/")):
            with self.subTest(back=back):
                self.assertEqual(self.client.post("/look", {"surround": "dark", "back": back})["Location"], place)
        self.assertEqual(self.client.post("/look", {"surround": "pink"}).status_code, 400)


class Distances(PageTest):
    def test_what_is_typed_in_feet_is_told_in_feet_until_metres_are_typed(self):
        written = document(title="Gate", tones=[{"name": "gate", "ev100": 10}], placing={"tone": "gate", "zone": 5})
        scene = lifecycle.create_scene(self.person, written)
        needs = lambda: Scene.objects.get(pk=scene.pk).document.needs
        scene = hand.do(scene, None, "needs", near="8 ft", far="20 ft")
        self.assertEqual((needs().unit, needs().near_m), ("ft", 2.4384))
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/edit/needs"), 'value="8 ft"')
        scene = hand.do(scene, None, "needs", near="10", far="20")
        self.assertEqual((needs().unit, needs().near_m, needs().far_m), ("ft", 3.048, 6.096))
        scene = hand.do(scene, None, "needs", near="3 m", far="infinity")
        self.assertEqual((needs().unit, needs().near_m, needs().far_m), ("m", 3.0, "infinity"))
