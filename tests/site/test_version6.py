"""What was kept before acts and shapes were gathered opens in the house of today.

See tests/reference/version6: plans, acts, a database with its pictures, an archive, what a phone carried.
"""

import gzip
import io
import json
import os
import shutil
import sqlite3
import subprocess
import sys
import tempfile
from collections import Counter
from datetime import UTC, datetime
from pathlib import Path
from unittest import mock

from django.test import SimpleTestCase

from dimgrey.core.acts.verb import require_verb
from dimgrey.core.colour import chainterms
from dimgrey.core.document.model import SCENE
from dimgrey.core.document.plainform import document_of, plain
from dimgrey.core.document.scenefile import kept as kept_again
from dimgrey.core.errors import CoreError
from dimgrey.core.field import entry
from dimgrey.core.field.carried import Carried
from dimgrey.core.field.sheet import sheet
from dimgrey.finishing.models import Finishing
from dimgrey.frames.models import Frame, Roll
from dimgrey.kit.models import Item
from dimgrey.results.models import Result
from dimgrey.safekeeping.archive.restoring import restore_archive
from dimgrey.scenes.models import Revision, Scene
from dimgrey.site.config import ROOT
from tests.helpers import PageTest
from tests.reference.planned import planned
from tests.reference.version6.kept import FOLDER, kept

NOW = datetime(2026, 9, 1, 12, tzinfo=UTC)
VISIT = """
import django, json, sys
from datetime import UTC, datetime
from unittest import mock
django.setup()
from django.core.management import call_command
call_command("migrate", verbosity=0)
from tests.reference.version6.words import visited
NOW = datetime(2026, 9, 1, 12, tzinfo=UTC)
with (mock.patch("django.utils.timezone.now", return_value=NOW),
      mock.patch("dimgrey.scenes.models.rolls_in_cameras", return_value=())):
    json.dump(visited(), sys.stdout)
"""
CHANGED = frozenset(
    {
        "undo",
        "redo",
        "advice",
        "remedy",
        "pin",
        "move-pin",
        "pin-area",
        "add-tone",
        "school",
        "kit",
        "read",
        "take-guess",
        "place",
    }
)
"""Steps back lead to what is not here; the others do today what they did not do then: nothing is named by guess, a doubt is asked about."""
MINOR = {"minor": SCENE.minor}
"""The keys that version 6 has gained since."""
EVERY = 7
"""Of the acts that were kept, one in so many is done again here."""


class Plans(SimpleTestCase):
    def test_every_file_is_planned_or_refused_as_it_was(self):
        """The rules of development, proposals and words have moved on since; what a file can and cannot be has not."""
        for k, row in enumerate(kept("plans")):
            with self.subTest(k):
                document = document_of(row["file"])
                self.assertEqual(isinstance(planned(row["file"]), str), isinstance(row["plan"], str))
                self.assertEqual(plain(document), {**row["kept"], **MINOR})
                self.assertTrue(sheet(document, Carried())["zones"])


class Pages(SimpleTestCase):
    def test_its_database_opens_and_every_page_of_it_stands(self):
        with tempfile.TemporaryDirectory() as folder:
            base = sqlite3.connect(Path(folder) / "dimgrey.sqlite3")
            base.executescript(gzip.decompress((FOLDER / "database.sql.gz").read_bytes()).decode())
            base.close()
            shutil.copytree(FOLDER / "pictures", Path(folder) / "pictures")
            environment = {
                **os.environ,
                "DIMGREY_DATA": folder,
                "DJANGO_SETTINGS_MODULE": "tests.reference.version6.settings",
            }
            ran = subprocess.run(
                [sys.executable, "-c", VISIT], cwd=ROOT, env=environment, check=False, capture_output=True, text=True
            )
            self.assertEqual(ran.returncode, 0, ran.stderr[-2000:])
        before, now = kept("pages"), json.loads(ran.stdout)
        self.assertEqual(set(now), set(before))
        for path in before:
            with self.subTest(path=path):
                self.assertEqual(isinstance(now[path], str), isinstance(before[path], str))
                self.assertTrue(now[path])


class Acts(PageTest):
    def test_acts_that_waited_are_done_as_they_were(self):
        """Each on the document that it was done on, through the door of programs and phones; sentences may be plainer."""
        count = Counter()
        from tests.reference.version6.make import scenes

        with mock.patch("django.utils.timezone.now", return_value=NOW):
            _, found = scenes()
            for name, rows in kept("acts")["scenes"].items():
                self.replay(found[name], rows, count)
        self.assertGreater(count["kept"], 100)
        self.assertGreater(count["refused"], 50)

    def replay(self, scene, rows, count):
        now = None
        for k, row in enumerate(rows):
            if "start" in row:
                now = row["start"]
                continue
            expected, sent, before = row.get("document", now), row["sent"], now
            now = expected
            # A single word where a list is meant is read now.
            if k % EVERY or sent["verb"] in CHANGED or row["sentence"] == "Lights: Enter a list of values.":
                continue
            head = Revision.objects.create(scene=scene, label="x", kept=before)
            Scene.objects.filter(pk=scene.pk).update(kept=before, head=head)
            answer = self.client.post(f"/scenes/{scene.pk}/do", json.dumps([sent]), content_type="application/json")
            told = answer.json()["acts"][0]
            with self.subTest(scene=scene.title, k=k, verb=sent["verb"]):
                self.assertEqual(told["state"], row["state"], (told, row["sentence"], sent))
                found = Scene.objects.get(pk=scene.pk).kept
                self.assertEqual({**found, "minor": 0}, {**expected, "minor": 0}, sent)
            count[told["state"]] += 1


class Archives(PageTest):
    def test_an_archive_of_today_comes_in_whole(self):
        person = self.other()
        count = restore_archive(person, io.BytesIO((FOLDER / "archive.zip").read_bytes()))
        told = {
            name: count[name]
            for name in ("scenes", "frames", "results", "picks", "light studies", "answers", "corrections")
        }
        self.assertEqual(told["results"], 2)
        self.assertTrue(all(told.values()), told)
        self.assertNotIn("words of a newer program, left out", count)
        self.assertTrue(all(scene.is_sound for scene in Scene.objects.owned_by(person)))
        self.assertTrue(all(result.found is not None for result in Result.objects.owned_by(person)))
        self.assertEqual(Roll.objects.owned_by(person).get().development, "N+1")
        self.assertTrue(Item.objects.owned_by(person).filter(name="Box").get().measured.stops)
        self.assertTrue(Finishing.objects.owned_by(person).exists())
        self.assertTrue(Frame.objects.owned_by(person).exclude(made={}).exists())
        with self.subTest("once"):
            again = restore_archive(person, io.BytesIO((FOLDER / "archive.zip").read_bytes()))
            self.assertEqual((again["scenes"], again["frames"], again["results"]), (0, 0, 0))


class Phones(SimpleTestCase):
    def test_what_a_phone_carried_opens(self):
        carried = kept("phone")
        self.addCleanup(chainterms.drop)
        entry.lay_in(json.dumps(carried["kit"]))
        for scene in carried["scenes"]:
            key = str(scene["pk"])
            with self.subTest(scene["title"]):
                entry.open_scene(key, json.dumps(scene))
                told = json.loads(entry.told(key, json.dumps({"acts": []})))
                self.assertEqual(
                    {tone["mark"] for tone in told["sheet"]["tones"]},
                    {tone["mark"] for tone in scene["sheet"]["tones"]},
                )

    def test_its_acts_are_still_read(self):
        for rows in kept("acts")["scenes"].values():
            for row in rows:
                if "sent" not in row or row["state"] != "kept" or row["sent"]["verb"] in ("advice", "remedy"):
                    continue
                sent = row["sent"]
                with self.subTest(sent["verb"]):
                    try:
                        require_verb(sent["verb"]).said(
                            sent, document_of(row.get("document", {"format": "dimgrey-scene", "version": 6}))
                        )
                    except CoreError as refused:
                        self.fail(f"{sent}: {refused}")


class Files(SimpleTestCase):
    def test_scene_files_are_kept_as_they_were(self):
        for row in kept("plans"):
            self.assertEqual(kept_again(document_of(row["file"]))[0], {**row["kept"], **MINOR})
