"""Second look: batches with duplicates and broken files, decisions, what prints have in common."""

import io
from datetime import timedelta
from unittest import mock

import numpy as np
from django.core.files.uploadedfile import SimpleUploadedFile
from PIL import Image

from dimgrey.judging.secondlook import actions
from dimgrey.judging.secondlook.in_common import in_common
from dimgrey.judging.secondlook.models import OldPicture
from dimgrey.safekeeping.freeing import free
from tests import picturefiles as pictures
from tests.helpers import PageTest


def png(level, size=(60, 40)):
    buffer = io.BytesIO()
    Image.fromarray(np.full((size[1], size[0], 3), level, np.uint8)).save(buffer, "PNG")
    return buffer.getvalue()


class SecondLook(PageTest):
    def setUp(self):
        super().setUp()
        self.batch = actions.create_batch(self.person, "Last summer")
        self.url = f"/second-look/{self.batch.pk}/"

    def add(self, data, name="a.png"):
        return self.client.post(f"{self.url}add", {"file": SimpleUploadedFile(name, data)}).json()

    def test_each_file_is_read_measured_and_shown(self):
        answer = self.add(pictures.jpeg(300, 200), "yard.jpg")
        self.assertEqual((answer["state"], answer["name"]), ("new", "yard.jpg"))
        self.assertIn("data-picture", answer["html"])
        row = OldPicture.objects.get()
        self.assertAlmostEqual(sum(row.measures.balance.values()), 1, places=3)
        for view in ("grey", "colour"):
            answer = self.client.get(f"/pictures/{row.picture.folder}/{view}.jpg")
            self.assertEqual(Image.open(io.BytesIO(answer.content)).format, "JPEG")
        self.assertContains(self.client.get(self.url), "yard.jpg")

    def test_duplicates_are_noticed_and_broken_files_named_while_the_rest_goes_on(self):
        states = [self.add(data, name)["state"] for data, name in (
            (png(80), "a.png"), (b"not a picture", "notes.jpg"), (png(80), "copy of a.png"), (b"", "empty.jpg"), (png(200), "b.png"))]  # fmt: skip
        self.assertEqual(states, ["new", "broken", "known", "broken", "new"])
        page = self.client.get(self.url)
        self.assertContains(page, "<b>notes.jpg</b>: ")
        self.assertContains(page, "<b>empty.jpg</b>: ")
        self.assertEqual(OldPicture.objects.filter(problem="").count(), 2)

    def test_adding_again_goes_on_where_it_stopped(self):
        files = [(png(level), f"{level}.png") for level in range(10, 60, 10)]
        for data, name in files[:3]:
            self.add(data, name)
        self.assertEqual([self.add(*file)["state"] for file in files], ["known"] * 3 + ["new"] * 2)

    def test_a_full_batch_and_a_full_disk_are_said(self):
        with mock.patch.object(actions, "MOST_PICTURES", 1):
            self.add(png(50))
            self.assertIn("A batch holds 1 pictures.", self.add(png(60))["problem"])
        data = png(70)
        with mock.patch.object(actions.Image.Image, "save", side_effect=OSError(28, "No space left on device")):
            answer = self.add(data)
        self.assertIn("Free some disk space", answer["problem"])
        self.assertEqual(self.add(png(70))["state"], "new")

    def test_decisions_are_kept_changed_and_taken_back(self):
        self.add(png(80))
        row = OldPicture.objects.get()
        decide = lambda **values: self.client.post(f"/second-look/picture/{row.pk}/decide", values)
        decide(decision="print", reason="light")
        row.refresh_from_db()
        self.assertEqual((row.decision, row.reason), ("print", "light"))
        decide(decision="")
        row.refresh_from_db()
        self.assertEqual((row.decision, row.reason), ("", ""))
        self.assertEqual(decide(decision="burn").status_code, 422)
        self.assertEqual(decide(decision="print", reason="luck").status_code, 422)

    def test_what_prints_have_in_common_is_said_from_three_on(self):
        for level in (15, 20, 25, 230, 235, 240):
            self.add(png(level))
        rows = list(OldPicture.objects.all())
        for row in rows[:3]:
            actions.decide(self.person, row.pk, "print", "mood")
        for row in rows[3:]:
            actions.decide(self.person, row.pk, "leave", "clutter")
        said = " ".join(in_common(list(OldPicture.objects.all())))
        self.assertRegex(said, r"The prints hold \d+ % (black|dark), those left 0 %")
        self.assertIn("Printed most often for mood.", said)
        self.assertIn("Left most often for clutter.", said)
        self.assertEqual(in_common(rows[:2]), ())

    def test_batches_of_another_are_not_there(self):
        other = actions.create_batch(self.other(), "Secret")
        _, row = actions.add_file(other, png(90), "x.png")
        for path in (f"/second-look/{other.pk}/", f"/pictures/{row.picture.folder}/grey.jpg"):
            self.assertEqual(self.client.get(path).status_code, 404)
        for path in (
            f"/second-look/{other.pk}/add",
            f"/second-look/{other.pk}/remove",
            f"/second-look/picture/{row.pk}/decide",
        ):
            self.assertEqual(self.client.post(path).status_code, 404)
        self.assertNotContains(self.client.get("/second-look/"), "Secret")

    def test_a_removed_batch_takes_its_small_copies_along(self):
        self.add(png(80))
        folder = OldPicture.objects.get().picture.path
        self.assertTrue(folder.exists())
        with self.captureOnCommitCallbacks(execute=True):
            self.client.post(f"{self.url}remove")
        self.assertTrue(folder.exists(), "it can be brought back")
        with self.captureOnCommitCallbacks(execute=True):
            free(older_than=timedelta(0))
        self.assertFalse(folder.exists())
