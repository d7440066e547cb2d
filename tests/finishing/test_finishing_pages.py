"""The finishing plan over HTTP: proposed, changed, drawn on, undone; its files; and the sequence at the enlarger."""

import io
import json

import numpy as np
import tifffile
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image
from pypdf import PdfReader

from dimgrey.finishing.models import Finishing
from dimgrey.results.models import Result
from tests.results.test_results import ResultTest, file_of, jpeg_of, results_added


class Finishes(ResultTest):
    KIND = "film"

    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        results_added(cls.visitor(), cls.frame, file_of(cls.shot(0.5)))

    def setUp(self):
        super().setUp()
        self.result = Result.objects.get()
        self.url = f"/results/{self.result.pk}/finish"

    def form(self, **more):
        """What the page sends when nothing was touched."""
        form = self.client.get(self.url).context["form"]
        data = {
            bound.html_name: bound.value() for bound in form if bound.value() is not None and bound.value() is not False
        }
        return {**data, **more}

    def plan(self):
        return Finishing.objects.get().finish

    def grey(self, answer):
        self.assertEqual(answer.status_code, 200, answer.content[:200])
        return np.asarray(Image.open(io.BytesIO(answer.content))).astype(float)

    def test_a_plan_is_proposed_from_what_came_out_and_keeps_what_is_changed(self):
        page = self.client.get(self.url)
        self.assertContains(page, "came out on")
        before = self.plan()
        self.client.post(self.url, self.form(black="10", white="90", grain="0.2"))
        self.assertEqual((self.plan().black, self.plan().white, self.plan().grain), (10.0, 90.0, 0.2))
        self.client.post(f"{self.url}/undo")
        self.assertEqual(self.plan(), before)
        self.client.post(f"{self.url}/undo")
        self.assertEqual(self.plan(), before, "there is nothing before it")

    def test_the_picture_answers_before_anything_is_kept(self):
        plain = self.grey(self.client.get(f"{self.url}/picture.jpg"))
        darker = self.grey(self.client.post(f"{self.url}/preview", self.form(edge_stops="-1.5", edge_width="0.4")))
        self.assertLess(darker[0].mean(), plain[0].mean() - 8)
        self.assertAlmostEqual(
            darker[darker.shape[0] // 2, darker.shape[1] // 2], plain[plain.shape[0] // 2, plain.shape[1] // 2], delta=8
        )
        self.assertEqual(self.plan().edge_stops, 0.0)

    def test_areas_are_drawn_by_hand_or_about_a_tone_questioned_and_taken_off(self):
        count = len(self.plan_after_visit().areas)
        self.client.post(f"{self.url}/area", {"name": "sky", "outline": "0 0,1 0,1 0.3,0 0.3"})
        tone = self.scene.document.tones[0].name
        self.client.post(f"{self.url}/area", {"tone": tone})
        self.assertEqual([area.name for area in self.plan().areas[count:]], ["sky", tone])
        self.client.post(self.url, self.form(**{f"stops-{count + 1}": "-1.0", f"why-{count + 1}": "calmer"}))
        page = self.client.get(self.url)
        self.assertContains(page, "1 stop on sky is noticed")
        self.client.post(f"{self.url}/area/{count + 1}/remove")
        self.assertEqual([area.name for area in self.plan().areas[count:]], [tone])
        for wrong, words in (
            ({"outline": "0 0,1 1"}, "corners"),
            ({"outline": "a b,c"}, "touch its corners"),
            ({"tone": "nobody"}, "has no place"),
            ({}, "touch its corners"),
        ):
            self.assertContains(self.client.post(f"{self.url}/area", wrong), words, status_code=422)

    def plan_after_visit(self):
        self.client.get(self.url)
        return self.plan()

    def test_contradictions_are_sentences(self):
        names = [
            bound.html_name for bound in self.client.get(self.url).context["form"] if bound.html_name.startswith("wish")
        ]
        turned = {
            names[0]: "9",
            names[-1]: "1",
            names[0].replace("wish", "lead"): "on",
            names[-1].replace("wish", "lead"): "on",
        }
        for more, words in (
            (turned, "curve: must rise"), ({"black": "55", "white": "60"}, "at least 20 L*"), ({"black": "soup"}, "Black"),
            ({"left": "0.5", "right": "0.5"}, "leaves nothing"), ({"tone": "green"}, "tone"),
        ):  # fmt: skip
            with self.subTest(words):
                self.assertContains(self.client.post(self.url, self.form(**more)), words, status_code=422)
                self.assertEqual(self.client.post(f"{self.url}/preview", self.form(**more)).status_code, 422)

    def test_it_leaves_as_work_sheet_json_cube_and_full_tiff(self):
        self.client.post(f"{self.url}/area", {"name": "Dach", "outline": "0 0.2,1 0.2,1 0.4,0 0.4"})
        self.client.post(self.url, self.form(left="0.1", right="0.9", top="0.1", bottom="0.8", **{"lead-0": "on"}))
        text = PdfReader(io.BytesIO(self.client.get(f"{self.url}.pdf").content)).pages[0].extract_text()
        for words in ("Yard", "Dach", "Black point", "Crop: 10.0 to 90.0 % across", "Curve:"):
            self.assertIn(words, text)
        svg = self.client.get(f"{self.url}.svg").content.decode()
        self.assertIn("data:image/jpeg;base64,", svg)
        self.assertIn(">Dach", svg.replace("1  Dach", ">Dach").replace("2  Dach", ">Dach").replace("3  Dach", ">Dach"))
        told = json.loads(self.client.get(f"{self.url}.json").content)
        self.assertEqual((told["format"], told["version"], told["crop"]), ("dimgrey-finish", 1, [0.1, 0.1, 0.9, 0.8]))
        cube = self.client.get(f"{self.url}.cube").content.decode()
        self.assertIn("are not in it", cube)
        self.assertEqual(len([line for line in cube.splitlines() if line[0].isdigit()]), 33**3)
        full = tifffile.imread(io.BytesIO(self.client.get(f"{self.url}.tif").content))
        width, height = self.result.picture.width, self.result.picture.height
        self.assertEqual(
            (full.dtype, full.shape),
            (np.uint16, (round(height * 0.8) - round(height * 0.1), round(width * 0.9) - round(width * 0.1))),
        )
        small = self.grey(self.client.get(f"{self.url}/picture.jpg"))
        h, w = small.shape
        self.assertAlmostEqual(
            full.mean() / 257, small[round(h * 0.1) : round(h * 0.8), round(w * 0.1) : round(w * 0.9)].mean(), delta=1.5
        )

    def test_a_plan_comes_in_from_its_file_and_a_wrong_one_is_said(self):
        data = self.client.get(f"{self.url}.json").content
        self.client.post(self.url, self.form(black="12"))
        bring = lambda content: self.client.post(f"{self.url}/import", {"file": SimpleUploadedFile("a.json", content)})
        bring(data)
        self.assertEqual(json.loads(self.client.get(f"{self.url}.json").content), json.loads(data))
        for wrong in (b"{", b"\xff\xfe", b'{"format": "x"}', b"[]"):
            self.assertEqual(bring(wrong).status_code, 422)
        self.assertEqual(self.client.post(f"{self.url}/import", {}).status_code, 422)

    def test_at_the_enlarger_the_plan_is_seconds(self):
        self.client.post(f"{self.url}/area", {"name": "sky", "outline": "0 0,1 0,1 0.3,0 0.3"})
        count = len(self.plan().areas)
        self.client.post(self.url, self.form(**{f"stops-{count}": "-0.33", "edge_stops": "-0.25"}))
        page = self.client.post(f"{self.url}/print", {"base": "12", "first": "8", "step": "0.3333", "count": "4"})
        self.assertContains(page, "<b>grade")
        self.assertContains(page, "Darkroom chemicals")
        self.assertContains(page, "Local rules and qualified people decide.")
        kinds = {step.name: round(step.seconds, 1) for step in page.context["steps"]}
        self.assertEqual((kinds["whole sheet"], kinds["sky"], kinds["edges"]), (12.0, 3.1, 2.3))
        self.assertEqual([round(part.seconds, 1) for part in page.context["strips"]], [8.0, 10.1, 12.7, 16.0])
        self.assertEqual(self.client.get(f"{self.url}/print").context["form"].initial["count"], 4, "it is remembered")
        for wrong in ({"base": "0"}, {"base": "x"}, {"base": "12", "first": "500", "step": "2", "count": "9"}):
            self.assertEqual(self.client.post(f"{self.url}/print", wrong).status_code, 422)

    def test_without_its_file_or_another_persons_there_is_nothing_to_finish(self):
        self.client.get(self.url)
        self.client.force_login(self.other())
        with self.settings(DIMGREY_LOCAL=False):
            for path in ("", "/picture.jpg", "/print", ".json", ".tif"):
                self.assertEqual(self.client.get(self.url + path).status_code, 404)
        self.client.force_login(self.person)
        self.result.picture.delete()
        self.assertContains(self.client.get(self.url), "The file of this result is gone", status_code=410)


class Turned(ResultTest):
    KIND = "film"

    def test_a_mirrored_scan_is_finished_the_right_way_round(self):
        grey = np.asarray(Image.open(io.BytesIO(self.shot())))
        self.add(file_of(jpeg_of(grey[:, ::-1])))
        result = Result.objects.get()
        self.assertTrue(result.laid.is_mirrored)
        made = np.asarray(
            Image.open(io.BytesIO(self.client.get(f"/results/{result.pk}/finish/picture.jpg").content))
        ).astype(float)
        small = np.asarray(Image.fromarray(grey).resize(made.shape[::-1], Image.Resampling.BOX)).astype(float)
        self.assertGreater(np.corrcoef(made.ravel(), small.ravel())[0, 1], 0.95)
