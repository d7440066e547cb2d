"""A database of version 1, with its pictures, opens in the house of today: nothing is lost and every page answers."""

import json
import shutil
import sqlite3
import tempfile

from django.core.management import call_command
from django.test import SimpleTestCase, TestCase

from dimgrey.site.config import ROOT
from tests.house import PLAIN_STATIC, House

KEPT = ROOT / "tests" / "reference" / "version1"
VISIT = """
import django, json
django.setup()
from django.test import Client
from dimgrey.frames.models import Frame
from dimgrey.kit.models import Item, KeptSetup
from dimgrey.outings.models import Outing
from dimgrey.pictures.models import Picture
from dimgrey.scenes.models import Revision, Scene
from dimgrey.judging.secondlook.models import OldPicture
client = Client(REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1")
scenes, frames = list(Scene.objects.all()), list(Frame.objects.all())
pages = ["/", "/frames/", "/kit/", "/setups/", "/second-look/", *(f"/outings/{o.pk}/" for o in Outing.objects.all()),
         *(f"/frames/{f.pk}/" for f in frames)]
for scene in scenes:
    pages += [f"/scenes/{scene.pk}/{page}" for page in ("", "card", "filters", "compare", "scene.json")]
for picture in Picture.objects.all():
    pages.append(f"/pictures/{picture.folder}/colour.jpg")
wrong = {page: status for page in pages if (status := client.get(page).status_code) != 200}
ramp = Scene.objects.get(title="Ramp")
print(json.dumps({
    "wrong": wrong, "scenes": len(scenes), "frames": len(frames), "revisions": Revision.objects.count(),
    "items": Item.objects.count(), "setups": KeptSetup.objects.count(), "pictures": Picture.objects.count(),
    "old": [[o.name, o.decision, bool(o.problem), o.picture_id is not None] for o in OldPicture.objects.order_by("pk")],
    "ramp": [ramp.document.tone("A").name, ramp.document.placing.zone, ramp.picture.path.exists(), ramp.document.setup.name],
    "plans": [[f.frozen.shutter, f.frozen.aperture, f.shutter] for f in frames],
}))
"""


class Kept(SimpleTestCase):
    def test_a_database_of_version_1_opens(self):
        with tempfile.TemporaryDirectory() as folder:
            house = House(folder)
            house.data.mkdir()
            base = sqlite3.connect(house.data / "dimgrey.sqlite3")
            base.executescript((KEPT / "database.sql").read_text(encoding="utf-8"))
            before = {
                name: base.execute(f"SELECT count(*) FROM {name}").fetchone()[0]
                for name in (
                    "scenes_scene",
                    "scenes_revision",
                    "frames_frame",
                    "kit_item",
                    "kit_setup",
                    "scenes_picture",
                )
            }
            base.close()
            shutil.copytree(KEPT / "pictures", house.data / "pictures")
            house.manage("migrate", "--verbosity", "0")
            self.assertEqual(house.manage("sweep_pictures", "--older-than", "0").stdout, "", "no picture is lost")
            found = json.loads(house.run("-c", PLAIN_STATIC + VISIT).stdout.splitlines()[-1])
        self.assertEqual(found["wrong"], {})
        self.assertEqual(
            [found[name] for name in ("scenes", "revisions", "frames", "items", "setups")],
            [before[f] for f in ("scenes_scene", "scenes_revision", "frames_frame", "kit_item", "kit_setup")],
        )
        self.assertEqual(found["pictures"], before["scenes_picture"] + 1)
        self.assertEqual(found["old"], [["old.jpg", "print", False, True], ["broken.jpg", "", True, False]])
        self.assertEqual(found["ramp"][:3], ["kiln wall", 7, True])
        self.assertTrue(all(shutter for shutter, *_ in found["plans"]))


class Migrations(TestCase):
    def test_every_change_of_a_model_has_one(self):
        call_command("makemigrations", check=True, dry_run=True, verbosity=0)
