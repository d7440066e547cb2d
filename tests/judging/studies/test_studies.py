"""Light studies over HTTP: pictures of one subject in order, one crop and one exposure, and an hour that becomes a scene."""

import io
from datetime import date, timedelta
from fractions import Fraction

import numpy as np
from PIL import Image

from dimgrey.judging.studies.lights import shown_of
from dimgrey.judging.studies.models import Study
from dimgrey.outings.actions import create_outing
from dimgrey.pictures.models import Picture
from dimgrey.safekeeping.freeing import free
from dimgrey.scenes.models import Scene
from tests import picturefiles
from tests.documents import document
from tests.helpers import PageTest, scene_with_picture
from tests.reference.shots import DEMO
from tests.results.test_results import file_of, yard_light


def snapshot(light, stops, clock="", name="a.jpg"):
    """JPEG of light that is so many stops brighter, as a camera that exposes for it makes it at EV 15 + stops."""
    y = np.clip(light, 0, 1)
    code = 255 * np.where(y > 0.0031308, 1.055 * y ** (1 / 2.4) - 0.055, 12.92 * y)
    seconds = Fraction(64, 1) / Fraction(2.0 ** (15 + stops)).limit_denominator(100000)
    exif = picturefiles.exif(seconds=seconds, f_number=8, iso=100)
    if clock:
        exif.get_ifd(0x8769)[0x9003] = clock
    buffer = io.BytesIO()
    Image.fromarray(code.astype(np.uint8)).save(buffer, "JPEG", quality=92, exif=exif)
    return file_of(buffer.getvalue(), name)


class StudyTest(PageTest):
    def setUp(self):
        super().setUp()
        self.outing = create_outing(
            self.person, "Yard", zone="Europe/Lisbon", date=date(2026, 6, 21), latitude_deg=39.7, longitude_deg=-8.8
        )
        self.light = yard_light() * 0.6
        self.client.post("/studies/", {"title": "Lime wall", "outing": self.outing.pk, "heading": "N"})
        self.study = Study.objects.get()
        self.url = f"/studies/{self.study.pk}/"

    def add(self, *files):
        return self.client.post(f"{self.url}add", {"files": list(files)}, follow=True)


class Studied(StudyTest):
    def test_lights_come_in_the_order_of_the_day_with_what_each_does(self):
        flat = np.full_like(self.light, 0.1) + self.light * 0.12
        self.add(
            snapshot(self.light, 0.0, "2026:06:21 17:00:00", "noon.jpg"),
            snapshot(self.light, -2.0, "2026:06:21 08:00:00", "morning.jpg"),
            snapshot(flat, -1.0, "2026:06:21 12:00:00", "cloud.jpg"),
        )
        page = self.client.get(self.url)
        clocks = [each["shown"].when[-5:] for each in page.context["lights"]]
        self.assertEqual(clocks, ["08:00", "12:00", "17:00"])
        hours = {each["shown"].when[-5:]: each["shown"].hour for each in page.context["lights"]}
        self.assertIn("flat", hours["12:00"].words)
        self.assertGreater(hours["08:00"].range_stops, hours["12:00"].range_stops + 2)
        # One exposure for all: the morning is two stops darker than the afternoon.
        self.assertAlmostEqual(hours["17:00"].key - hours["08:00"].key, 2.0, delta=0.2)
        self.assertContains(page, "sun ")
        self.assertContains(page, "as long as things are high")
        self.assertContains(page, "All shown as exposed for EV 14.0")

    def test_each_light_is_a_picture_under_the_studys_crop(self):
        self.add(snapshot(self.light, 0.0))
        self.client.post(f"{self.url}frame", {"x": 50, "y": 50, "left": 25, "top": 0, "right": 75, "bottom": 100})
        page = self.client.get(self.url).content.decode()
        answer = self.client.get(page.split('<img src="')[1].split('"')[0])
        width, height = Image.open(io.BytesIO(answer.content)).size
        self.assertAlmostEqual(width / height, self.light.shape[1] / self.light.shape[0] / 2, delta=0.02)

    def test_another_subject_is_refused_with_its_name(self):
        self.add(snapshot(self.light, 0.0))
        answer = self.add(file_of((DEMO / "snapshots" / "d_white_ware.jpg").read_bytes(), "ware.jpg"))
        self.assertContains(answer, "ware.jpg: it does not show what the first picture shows.", status_code=422)
        self.assertContains(self.add(file_of(b"x", "x.jpg")), "x.jpg: ", status_code=422)
        self.assertContains(self.client.post(f"{self.url}add", {}), "Choose a picture first.", status_code=422)
        self.assertEqual((self.study.pictures.count(), Picture.objects.count()), (1, 1))

    def test_an_hour_becomes_the_wanted_light_of_a_new_scene(self):
        self.add(snapshot(self.light, 0.0, "2026:06:21 08:00:00"))
        light = self.study.pictures.get()
        answer = self.client.post(f"{self.url}{light.pk}/choose", follow=True)
        scene = Scene.objects.get()
        self.assertEqual(answer.redirect_chain[-1][0], f"/scenes/{scene.pk}/")
        self.assertEqual(
            (scene.title, scene.outing, scene.document.view.time, scene.document.view.heading_deg),
            ("Lime wall", self.outing, "08:00", 0.0),
        )
        (shown,) = shown_of(self.study)
        self.assertEqual(scene.document.wanted.lights, shown.hour.wants)
        self.assertTrue(scene.document.wanted.lights)
        self.assertTrue(scene.document.wanted.mood)

    def test_scenes_join_with_their_planned_hour(self):
        written = document(title="Wall", view={"time": "19:30"})
        scene = scene_with_picture(self.person, written, yard_light(), "yard", 15.0)
        Scene.objects.filter(pk=scene.pk).update(outing=self.outing)
        self.client.post(f"{self.url}scenes", {"scenes": [scene.pk]})
        (shown,) = shown_of(self.study)
        self.assertIn("19:30", shown.when)
        self.assertEqual(self.client.post(f"{self.url}scenes", {"scenes": [999]}).status_code, 422)
        Scene.objects.get(pk=scene.pk).picture.delete()
        self.assertContains(self.client.get(self.url), "The file is gone.")
        answer = self.client.post(f"{self.url}{shown.row.pk}/choose")
        self.assertContains(answer, "cannot be told any more", status_code=422)

    def test_times_can_be_said_and_lights_taken_out_with_their_files(self):
        self.add(snapshot(self.light, 0.0))
        light = self.study.pictures.get()
        self.assertContains(self.client.get(self.url), "no time")
        self.client.post(f"{self.url}{light.pk}/time", {"at": "2026-12-21T16:50", "note": "after rain"})
        self.assertContains(self.client.get(self.url), "21 Dec 2026 16:50")
        self.assertContains(
            self.client.post(f"{self.url}{light.pk}/time", {"at": "soup"}), "Write day and time", status_code=422
        )
        self.client.post(f"{self.url}{light.pk}/drop")
        self.assertEqual((self.study.pictures.count(), Picture.objects.count()), (0, 1), "it can be brought back")
        free(older_than=timedelta(0))
        self.assertEqual((self.study.pictures.count(), Picture.objects.count()), (0, 0))
        self.assertEqual(self.client.post(f"{self.url}9999/drop").status_code, 404)

    def test_bad_frames_and_names_are_sentences_and_a_study_goes_whole(self):
        for wrong in ({"x": 50, "y": 50, "left": 60, "top": 0, "right": 65, "bottom": 100}, {"x": "a"}):
            self.assertEqual(self.client.post(f"{self.url}frame", wrong).status_code, 422)
        self.assertContains(self.client.post("/studies/", {"title": ""}), "Name the subject.", status_code=422)
        self.assertEqual(self.client.post(f"{self.url}change", {"title": "x", "heading": "soup"}).status_code, 422)
        self.client.post(f"{self.url}change", {"title": "Wall", "heading": "90"})
        self.assertEqual((Study.objects.get().title, Study.objects.get().outing), ("Wall", None))
        self.add(snapshot(self.light, 0.0))
        self.client.post(f"{self.url}remove")
        free(older_than=timedelta(0))
        self.assertEqual((Study.every.count(), Picture.objects.count()), (0, 0))

    def test_nobody_else_sees_it(self):
        self.add(snapshot(self.light, 0.0))
        self.client.force_login(self.other())
        with self.settings(DIMGREY_LOCAL=False):
            self.assertEqual(self.client.get(self.url).status_code, 404)
            self.assertNotContains(self.client.get("/studies/"), "Lime wall")
