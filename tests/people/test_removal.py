"""Everything that a person makes can be removed and brought back, where it was removed; after thirty days it goes for good."""

import uuid
from datetime import timedelta

from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from dimgrey.core.camera.setups import Setup
from dimgrey.core.judging.pick import Look
from dimgrey.frames.actions import log_frame
from dimgrey.judging.pick.models import Candidate, Pick
from dimgrey.judging.secondlook.actions import add_file, create_batch
from dimgrey.judging.secondlook.models import Batch
from dimgrey.judging.studies.actions import make_study
from dimgrey.judging.studies.models import Study, StudyPicture
from dimgrey.kit.actions import keep_item
from dimgrey.kit.models import Item, KeptSetup
from dimgrey.kit.setups import keep_setup
from dimgrey.people import removal
from dimgrey.pictures.models import Picture
from dimgrey.results.models import Result
from dimgrey.safekeeping.freeing import tidy
from dimgrey.scenes.lifecycle import create_scene
from tests import picturefiles
from tests.documents import document
from tests.doors.door import DoorTest


class Removed(DoorTest):
    def setUp(self):
        super().setUp()
        tones = [{"name": "wall", "readings": [{"ev100": 10}]}]
        written = document(title="Kiln", tones=tones, placing={"tone": "wall", "zone": 5})
        self.frame = log_frame(self.person, create_scene(self.person, written), uuid.uuid4())
        keep_item(self.person, "film", "Sheet", {"iso": "100"})
        keep_setup(self.person, Setup("Plain", {"contrast": 0.5}), None)
        for k in range(2):
            self.result(f"{k}" * 64)
        pick = Pick.objects.create(owner=self.person, title="Yard", subject=[0.5, 0.5])
        for result in Result.objects.all():
            Candidate.objects.create(pick=pick, result=result, look=Look(1.0, 0.0, 0.0, 1.0))
        add_file(create_batch(self.person, "Old ones"), picturefiles.jpeg(64, 48), "old.jpg")
        study = make_study(self.person, "Gate")
        StudyPicture.objects.create(study=study)

    def result(self, digest):
        picture = Picture.objects.create(owner=self.person, original_name=f"{digest[0]}.jpg")
        return Result.objects.create(owner=self.person, frame=self.frame, digest=digest, picture=picture)

    def ways(self):
        """(row, the address that removes it) of one of each kind."""
        item, setup, result = Item.objects.get(name="Sheet"), KeptSetup.objects.get(), Result.objects.first()
        pick, batch, study = Pick.objects.get(), Batch.objects.get(), Study.objects.get()
        light = study.pictures.get()
        return [
            (item, f"/kit/{item.pk}/retire"),
            (setup, f"/setups/{setup.pk}/remove"),
            (pick, f"/picks/{pick.pk}/drop"),
            (result, f"/results/{result.pk}/remove"),
            (batch, f"/second-look/{batch.pk}/remove"),
            (light, f"/studies/{study.pk}/{light.pk}/drop"),
            (study, f"/studies/{study.pk}/remove"),
        ]

    def test_there_is_a_way_for_every_kind(self):
        self.assertEqual({row._meta.model_name for row, _ in self.ways()}, set(removal.kinds()))

    def test_each_is_off_the_lists_and_comes_back_from_the_page_that_follows(self):
        for row, address in self.ways():
            with self.subTest(row._meta.model_name):
                model, files = type(row), Picture.objects.count()
                page = self.client.post(address, follow=True)
                self.assertContains(page, "Bring it back")
                self.assertFalse(model.objects.filter(pk=row.pk).exists())
                self.assertContains(self.client.get("/removed/"), row.WORDS)
                self.assertEqual(
                    self.client.get(row.get_absolute_url()).status_code,
                    200 if row.WORDS.startswith("light of") else 404,
                )
                self.require_whole("removed", page)
                back = self.client.post(f"/removed/{row._meta.model_name}/{row.pk}/back", follow=True)
                self.assertEqual(back.status_code, 200)
                self.assertEqual(model.objects.get(pk=row.pk), row)
                self.assertEqual(Picture.objects.count(), files)
                self.assertNotContains(self.client.get("/removed/"), f"<small>{row.WORDS}</small>")

    def test_the_way_back_carries_its_token(self):
        _, address = self.ways()[0]
        page = self.client.post(address, follow=True).content.decode()
        offer = page[page.index('class="just-removed"') :].partition("</form>")[0]
        self.assertIn('name="csrfmiddlewaretoken" value="', offer)

    def test_nobody_else_sees_or_brings_back_what_was_removed(self):
        row, address = self.ways()[0]
        self.client.post(address)
        other = self.other()
        self.assertIsNone(removal.removed_row(other, "item", row.pk))
        self.assertEqual(removal.removed_rows(other), [])
        for kind, pk in (("item", 10**9), ("person", 1), ("arrival", 1), ("scene", 1)):
            self.assertEqual(self.client.post(f"/removed/{kind}/{pk}/back").status_code, 404)
        for said in ("item-", "item-x", "-", "item-99999999999999999999", "person-1", "x" * 500):
            self.assertEqual(self.client.get("/", {"removed": said}).status_code, 200)

    def test_what_took_its_place_stays(self):
        item, _ = self.ways()[0]
        removal.remove(item)
        keep_item(self.person, "film", "Sheet", {"iso": "400"})
        removal.bring_back(item)
        self.assertEqual(
            set(Item.objects.values_list("name", flat=True)) & {"Sheet", "Sheet (2)"}, {"Sheet", "Sheet (2)"}
        )
        result = Result.objects.first()
        removal.remove(result)
        self.result(result.digest)
        refused = self.client.post(f"/removed/result/{result.pk}/back")
        self.assertContains(refused, "there again", status_code=422)
        self.assertFalse(Result.objects.filter(pk=result.pk).exists())

    def test_a_pick_has_the_frames_that_stand(self):
        pick, result = Pick.objects.get(), Result.objects.first()
        removal.remove(result)
        self.assertEqual(pick.candidates.count(), 1)
        removal.bring_back(result)
        self.assertEqual(pick.candidates.count(), 2)
        removal.remove(pick)
        again = Pick.objects.create(owner=self.person, title="Yard", subject=[0.5, 0.5])
        Candidate.objects.create(pick=again, result=result)
        self.assertEqual(self.client.post(f"/removed/pick/{pick.pk}/back").status_code, 422)

    def test_after_thirty_days_it_goes_with_its_files(self):
        for row, _ in self.ways():
            removal.remove(row)
        tidy()
        self.assertEqual(len(removal.removed_rows(self.person)), 7)
        shown = Picture.objects.count()
        tidy(now=timezone.now() + timedelta(days=31))
        self.assertEqual(removal.removed_rows(self.person), [])
        self.assertEqual(Picture.objects.count(), shown - 2, "the result's own and the second look's views")

    def test_a_page_that_follows_nothing_costs_nothing(self):
        with CaptureQueriesContext(connection) as plain:
            self.client.get("/removed/")
        with CaptureQueriesContext(connection) as asked:
            self.client.get("/removed/", {"removed": "item-1"})
        self.assertEqual(len(asked), len(plain) + 1)
