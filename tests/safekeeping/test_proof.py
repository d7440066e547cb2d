"""A backup is proved by a house made of it: it plans as the live one does, and what does not is said at home and to whoever watches."""

import json
import sqlite3
import tempfile
from pathlib import Path
from unittest import mock

from django.conf import settings
from django.test import SimpleTestCase, override_settings

from dimgrey.people.models import Person
from dimgrey.safekeeping.backup import DATABASE, back_up, backups_in
from dimgrey.safekeeping.proof import TOLD, last_proof, plans
from tests import hand
from tests.helpers import PageTest, scene_with_light
from tests.house import House


class Proved(SimpleTestCase):
    def setUp(self):
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        self.folder = Path(folder.name)
        self.house, self.target = House.furnished(self.folder, scenes=3), self.folder / "backups"

    def proof(self):
        return last_proof(self.house.data)

    def test_a_backup_is_restored_planned_in_and_nothing_of_it_stays(self):
        done = self.house.manage("backup", str(self.target), "--prove")
        proof = self.proof()
        self.assertTrue(proof.is_good, proof)
        self.assertEqual((proof.pictures, proof.scenes, proof.differ), (2, 1, ()))
        self.assertIn("last proven", done.stdout)
        self.assertEqual([path.name for path in self.target.iterdir()], [path.name for path in backups_in(self.target)])

    def test_a_plan_that_comes_out_otherwise_is_named(self):
        """As where a backup holds another document than the house that it was made of."""
        back_up(self.house.data, self.target)
        (backup,) = backups_in(self.target)
        live = sqlite3.connect(self.house.data / DATABASE)
        pk, kept = live.execute("SELECT id, document FROM scenes_scene ORDER BY updated_at DESC, id DESC").fetchone()
        tone = {"name": "wall", "mark": "A", "role": "shadow", "ev100": 9}
        changed = {**json.loads(kept), "tones": [tone], "placing": {"school": "shadow", "tone": "wall", "zone": 3}}
        live.execute("UPDATE scenes_scene SET document = ?, title = 'Kiln' WHERE id = ?", (json.dumps(changed), pk))
        live.commit()
        live.close()
        prove = "from pathlib import Path\nimport sys, django\ndjango.setup()\nfrom dimgrey.safekeeping.proof import prove\nprove(Path(sys.argv[1]), Path(sys.argv[2]))"
        self.house.run("-c", prove, str(backup), str(self.house.data))
        self.assertEqual(self.proof().differ, ("Kiln",))
        self.assertIn("1 plan otherwise: Kiln", self.proof().sentence)

    def test_a_backup_that_cannot_be_restored_is_no_proof(self):
        back_up(self.house.data, self.target)
        (backup,) = backups_in(self.target)
        next(backup.rglob("original*")).write_bytes(b"other")
        prove = "from pathlib import Path\nimport sys, django\ndjango.setup()\nfrom dimgrey.safekeeping.proof import prove\nprove(Path(sys.argv[1]), Path(sys.argv[2]))"
        self.house.run("-c", prove, str(backup), str(self.house.data))
        self.assertIn("is not what was backed up", self.proof().failed)


class Told(PageTest):
    def setUp(self):
        super().setUp()
        self.file = Path(settings.DIMGREY_DATA) / TOLD
        self.addCleanup(self.file.unlink, missing_ok=True)

    def keep(self, **found):
        told = {"at": "2026-09-01T03:21:00+00:00", "backup": "/b", "pictures": 1204, "scenes": 2, **found}
        self.file.write_text(json.dumps(told), encoding="utf-8")

    @mock.patch("dimgrey.safekeeping.views.is_alive", return_value=True)
    def test_home_and_health_say_what_came_of_it(self, _):
        self.assertEqual(self.client.get("/health").content, b"ok")
        self.assertNotContains(self.client.get("/"), "last proven")
        self.keep()
        self.assertContains(self.client.get("/"), "Backup last proven 1 Sep 03:21: 1,204 pictures, 2 plans compared.")
        self.keep(missing=["kiln.jpg", "yard.jpg"])
        self.assertContains(self.client.get("/"), "2 pictures missing: kiln.jpg, yard.jpg")
        self.assertEqual(self.client.get("/health").content, b"ok, but the last backup was not proven")
        self.file.write_text("{", encoding="utf-8")
        self.assertNotContains(self.client.get("/"), "last proven")

    @override_settings(DIMGREY_LOCAL=False)
    def test_members_are_not_told_of_the_house(self):
        self.keep()
        self.client.force_login(self.other())
        self.assertNotContains(self.client.get("/"), "last proven")

    def test_plans_are_those_of_the_last_scene_of_each_person(self):
        scene = scene_with_light(self.person)
        scene = hand.place_tone(hand.pin_tone(scene, None, 3.5 / 11, 0.5), None, "A", 3)
        ((stamp, title, told),) = plans().values()
        self.assertEqual((stamp, title, told["shutter"]), (scene.stamp, "Steps", "1/60"))


class Members(PageTest):
    def test_whoever_got_a_link_into_an_account_its_owner_is_told(self):
        Person.objects.filter(pk=self.person.pk).update(role=Person.Role.OWNER)
        member = self.other()
        self.client.post(f"/house/people/{member.pk}/link")
        self.assertNotContains(self.client.get("/account/"), "made a password link")
        self.client.force_login(member)
        page = self.client.get("/account/", REMOTE_ADDR="192.0.2.7")
        self.assertContains(page, "made a password link")
        self.assertContains(page, self.person.username)
