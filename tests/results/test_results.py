"""Results of frames: brought in, laid over their plans, compared, kept, mended, let go."""

import io
import uuid
from datetime import timedelta

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from dimgrey.core.camera.setups import Setup
from dimgrey.frames.actions import begin_roll, end_roll, log_frame, put_on_roll
from dimgrey.frames.models import Frame
from dimgrey.people.actions import local_person
from dimgrey.pictures.models import Picture
from dimgrey.results.models import Result
from dimgrey.safekeeping.freeing import free
from dimgrey.scenes import lifecycle
from dimgrey.standins.simulated_camera import CameraSetting, SimulatedCamera
from tests import hand
from tests.documents import document
from tests.helpers import PageTest, scene_with_picture
from tests.reference.shots import DEMO, demo_plan, through_jpeg


def yard_light():
    """Light of the drying yard, small, shape (h, w, 3)."""
    import OpenEXR

    with OpenEXR.File(str(DEMO / "linear" / "b_drying_yard.exr")) as file:
        light = file.channels()["RGB"].pixels.astype(np.float32)
    return np.ascontiguousarray(light[::2, ::2])


def file_of(jpeg, name="shot.jpg"):
    return SimpleUploadedFile(name, jpeg)


def jpeg_of(grey):
    file = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(grey)).save(file, "JPEG", quality=92)
    return file.getvalue()


def results_added(client, frame, *files, **more):
    """The answer to files that are laid to a frame."""
    return client.post(f"/frames/{frame.pk}/results", {"files": list(files), **more}, follow=True)


class ResultTest(PageTest):
    """A planned scene with real light, and a camera before it."""

    KIND = "digital file"

    @classmethod
    def setUpTestData(cls):
        super().setUpTestData()
        written = document(title="Yard", medium={"kind": cls.KIND, "iso": 100})
        scene = scene_with_picture(local_person(), written, yard_light(), "yard", 15.0)
        tones = demo_plan("b_drying_yard").tones
        for name in sorted(tones)[:5]:
            scene = hand.pin_tone(scene, None, *tones[name][0])
        cls.scene = hand.place_tone(scene, None, "A", 6.0)
        cls.frame = log_frame(scene.owner, cls.scene, uuid.uuid4())

    def logged(self, **more):
        return log_frame(self.person, self.scene, uuid.uuid4(), **more)

    @classmethod
    def shot(cls, off=0.0, frame=None):
        """JPEG bytes of the frame as a camera that is off by so many stops makes it."""
        planned = (frame or cls.frame).frozen
        f_number, iso = 8.0, 100.0
        seconds = f_number**2 / 2.0 ** (planned.exposure_ev100 - off)
        return SimulatedCamera(yard_light(), 15.0).shoot(Setup("plain"), CameraSetting(f_number, seconds, iso)).jpeg

    def add(self, *files, frame=None, **more):
        return results_added(self.client, frame or self.frame, *files, **more)


class Comparing(ResultTest):
    def test_a_result_on_plan_says_as_planned_and_nothing_else(self):
        answer = self.add(file_of(self.shot()))
        self.assertContains(answer, "As planned.")
        result = Result.objects.get()
        self.assertEqual((result.found.parts, result.refused), ((), ""))
        self.assertAlmostEqual(result.found.a, 0, delta=0.1)
        self.assertContains(self.client.get("/frames/"), "as planned")

    def test_a_miss_is_named_with_its_size_on_page_and_list(self):
        answer = self.add(file_of(self.shot(2 / 3)))
        self.assertContains(answer, "The whole picture is ⅔ stop lighter than planned")
        self.assertContains(answer, "Next time give ⅔ stop less light")
        self.assertContains(self.client.get("/frames/"), "⅔ stop lighter")
        found = Result.objects.get().found
        self.assertAlmostEqual(found.unexplained, 2 / 3, delta=0.1)
        for tone in found.tones:
            self.assertGreater(tone.actual, tone.planned - 0.05, tone)

    def test_it_is_found_turned_cropped_and_mirrored(self):
        grey = np.asarray(Image.open(io.BytesIO(self.shot(-1))))
        part = np.asarray(Image.fromarray(grey).rotate(2, resample=Image.BICUBIC))[40:-60, 60:-40][:, ::-1]
        self.add(file_of(jpeg_of(part)), kind="camera file")
        result = Result.objects.get()
        self.assertTrue(result.laid.is_mirrored)
        self.assertAlmostEqual(result.found.a, -1, delta=0.1)

    def test_another_scene_is_kept_with_the_reason_and_mended_by_three_points(self):
        other = np.asarray(Image.open(DEMO / "snapshots" / "d_white_ware.jpg").convert("L"))
        answer = self.add(file_of(jpeg_of(other)))
        self.assertContains(answer, "does not show the plan")
        result = Result.objects.get()
        self.assertIsNone(result.found)
        url = f"/results/{result.pk}/lay"
        places = [f"{tone.at[0] * 100:.2f}, {tone.at[1] * 100:.2f}" for tone in self.scene.document.tones[:3]]
        for wrong in ({"p1": "1, 2", "p2": "here", "p3": "3, 4"}, {"p1": "1", "p2": "1, 2", "p3": "3, 4"}, {}):
            self.assertEqual(self.client.post(url, wrong).status_code, 422)
        self.assertContains(
            self.client.post(url, {"p1": "10, 10", "p2": "20, 20", "p3": "30, 30"}), "on one line", status_code=422
        )
        self.client.post(url, dict(zip(("p1", "p2", "p3"), places, strict=True)))
        result.refresh_from_db()
        self.assertEqual(result.laid.agreeing, 3)

    def test_the_same_file_twice_is_one(self):
        data = self.shot()
        self.add(file_of(data))
        self.add(file_of(data, "again.jpg"))
        self.assertEqual(Result.objects.count(), 1)

    def test_bad_files_are_sentences_and_leave_nothing(self):
        for files, words in (
            ((), "Choose a picture first."),
            ((file_of(b"no picture"),), "shot.jpg: "),
            ((file_of(jpeg_of(np.full((300, 400), 255, np.uint8))),), "white throughout"),
            (tuple(file_of(b"x", f"{k}.jpg") for k in range(41)), "At most 40 files at once (got 41)."),
        ):
            with self.subTest(words):
                self.assertContains(self.add(*files), words, status_code=200 if "white" in words else 422)
        self.assertEqual(Result.objects.exclude(refused__contains="white").count(), 0)
        self.assertEqual(Picture.objects.count(), 1 + Result.objects.count())

    def test_every_picture_of_a_result_is_there_and_nobody_elses(self):
        self.add(file_of(self.shot(1)))
        result = Result.objects.get()
        page = self.client.get(f"/results/{result.pk}/").content.decode()
        over = page.split(f'src="/results/{result.pk}/over-')[1].split('"')[0]
        for path in (f"over-{over}", "own.jpg", "small.jpg"):
            answer = self.client.get(f"/results/{result.pk}/{path}")
            self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/jpeg"))
        version = over.removesuffix(".jpg")
        self.assertContains(self.client.get(f"/results/{result.pk}/difference-{version}"), "<svg")
        self.client.force_login(self.other())
        with self.settings(DIMGREY_LOCAL=False):
            for path in ("", "own.jpg", "small.jpg", f"over-{over}"):
                self.assertEqual(self.client.get(f"/results/{result.pk}/{path}").status_code, 404)

    def test_a_result_outlives_its_scene_and_picture(self):
        self.add(file_of(self.shot(1)))
        before = Result.objects.get().found
        self.frame.picture.delete()
        self.scene.delete()
        result = Result.objects.get()
        self.client.post(f"/results/{result.pk}/again")
        result.refresh_from_db()
        self.assertEqual(result.found, before)
        self.assertContains(self.client.get(f"/results/{result.pk}/"), "is gone. What was measured before is kept.")
        self.assertEqual(self.client.get(f"/results/{result.pk}/small.jpg").status_code, 200)
        self.client.post(f"/results/{result.pk}/remove")
        self.assertEqual((Result.objects.count(), Picture.objects.count()), (0, 1), "it can be brought back")
        free(older_than=timedelta(0))
        self.assertEqual((Result.every.count(), Picture.objects.count()), (0, 0))

    def test_a_file_that_is_gone_from_the_disk_is_said(self):
        self.add(file_of(self.shot(1)))
        result = Result.objects.get()
        for file in result.picture.path.iterdir():
            file.unlink()
        self.assertEqual(self.client.get(f"/results/{result.pk}/own.jpg").status_code, 410)
        self.client.post(f"/results/{result.pk}/again")
        self.assertContains(self.client.get(f"/results/{result.pk}/"), "missing or damaged")

    def test_a_frame_without_a_plan_keeps_its_results_uncompared(self):
        Frame.objects.filter(pk=self.frame.pk).update(plan={}, document={})
        self.assertContains(self.add(file_of(self.shot())), "came without a plan")


class Negatives(ResultTest):
    KIND = "film"

    def test_the_scan_of_a_negative_is_recognised_and_read_by_its_density(self):
        planned = demo_plan("b_drying_yard")
        result = self.frame.frozen
        # Densities of a film of gradient 0.62 on which middle grey has its 0.85; the scan is linear light in sRGB code.
        light = np.maximum(yard_light() @ np.array([0.242, 0.407, 0.351]), 1e-6)
        fall = np.log2(light / 0.18) + 15.0 - result.exposure_ev100 + 5 - 0.0
        density = np.clip(0.10 + (fall - 1) * 0.30103 * 0.62, 0, 2.4)
        y = 10.0**-density
        code = 255 * np.where(y > 0.0031308, 1.055 * y ** (1 / 2.4) - 0.055, 12.92 * y)
        self.add(file_of(jpeg_of(through_jpeg(code, 95))))
        found = Result.objects.get()
        self.assertTrue(found.laid.is_negative)
        self.assertEqual(found.found.kind, "negative")
        self.assertLess(abs(found.found.a), 0.35)
        self.assertEqual(planned.printing.kind, "digital raw")


class InTheLog(ResultTest):
    KIND = "film"

    def test_frames_keep_what_they_were_made_with_and_are_found_by_it(self):
        made = Frame.objects.get().made
        self.assertEqual((made.film, made.filter, made.school), ("film", "none", "known tone"))
        other = lifecycle.create_scene(self.person, document(title="Door", filters=[{"name": "orange"}]))
        self.assertTrue(other.pk)
        self.assertContains(self.client.get("/frames/?film=film"), "Yard")
        self.assertContains(self.client.get("/frames/?words=nowhere"), "No frame has all of that.")
        for sort in ("newest", "oldest", "scene", "film", "camera", "light"):
            self.assertContains(self.client.get(f"/frames/?sort={sort}"), "Yard")
        self.assertEqual(self.client.get("/frames/?sort=soup&film=soup&roll=x&page=99").status_code, 200)

    def test_frames_take_the_next_places_of_the_roll_in_the_camera(self):
        roll = begin_roll(self.person, "film", "200", "N+1")
        one, two = self.logged(), self.logged()
        self.assertEqual([(f.roll_id, f.roll_number) for f in (one, two)], [(roll.pk, 1), (roll.pk, 2)])
        end_roll(roll)
        self.assertIsNone(self.logged().roll_id)
        again = begin_roll(self.person, "film", "400")
        self.assertEqual(self.logged().place_on_film, f"{again.number}/1")
        page = self.client.get(f"/rolls/{roll.pk}/")
        self.assertContains(page, "rated", msg_prefix="its facts")
        self.assertContains(page, "1/2")
        answer = self.client.post(f"/frames/{two.pk}/place", {"roll": again.number, "roll_number": 1})
        self.assertContains(answer, "has a frame 1 already", status_code=422)
        answer = self.client.post(f"/frames/{two.pk}/place", {"roll": 99})
        self.assertContains(answer, "There is no roll 99.", status_code=422)
        self.client.post(f"/frames/{two.pk}/place", {"roll": again.number, "roll_number": ""})
        two.refresh_from_db()
        self.assertEqual(two.place_on_film, f"{again.number}/2")
        put_on_roll(two, None)
        self.assertEqual(two.place_on_film, "")

    def test_a_roll_needs_a_film_and_a_speed(self):
        for wrong, words in (
            ({"film": "", "rated": "100"}, "Name the film."),
            ({"film": "x", "rated": "soup"}, "soup"),
        ):
            self.assertContains(self.client.post("/rolls/begin", wrong), words, status_code=422)
        self.client.post("/rolls/begin", {"film": "film", "rated": "100"})
        roll = self.person and Frame.objects.first() and self.client.get("/frames/")
        self.assertContains(roll, "in the camera")


class Brackets(ResultTest):
    def test_files_of_a_bracket_go_to_the_frames_they_were_exposed_with(self):
        self.client.post(f"/scenes/{self.scene.pk}/shoot-bracket")
        frames = list(Frame.objects.exclude(bracket=None).order_by("number"))
        self.assertEqual(len({frame.bracket for frame in frames}), 1)
        shots = [self.shot(round(frame.difference_stops)) for frame in frames]
        self.add(*[file_of(shot, f"{k}.jpg") for k, shot in enumerate(reversed(shots))], frame=frames[0])
        for frame in frames:
            (result,) = frame.results.all()
            self.assertAlmostEqual(result.found.a, frame.difference_stops, delta=0.25)
            self.assertAlmostEqual(result.found.unexplained, 0, delta=0.25)
        self.assertContains(self.client.get(f"/frames/{frames[1].pk}/"), "One of a bracket")
