"""Backup and restore: whole or not at all, while people write; what is there is looked at before anything is done."""

import os
import shutil
import sqlite3
import subprocess
import tempfile
from datetime import datetime, timedelta
from io import StringIO
from pathlib import Path
from unittest.mock import patch

from django.core.management import CommandError, call_command
from django.test import SimpleTestCase, TransactionTestCase, override_settings

from dimgrey.people.actions import local_person
from dimgrey.safekeeping.backup import BackupFailed, back_up, backups_in, restore, verify
from dimgrey.safekeeping.state import known_migrations, state_of
from dimgrey.scenes import lifecycle
from dimgrey.site.config import ROOT
from tests import picturefiles as pictures
from tests.house import PLAIN_STATIC, WRITER, House
from tests.share import count_of, many

BACKUPS = count_of(20, least=2)

VISIT = """
import django
django.setup()
from django.test import Client
from dimgrey.pictures.models import Picture
from dimgrey.scenes.models import Scene
client = Client(REMOTE_ADDR="127.0.0.1", HTTP_HOST="127.0.0.1")
pages = ["/", *(f"/scenes/{s.pk}/{p}" for s in Scene.objects.all()[:6] for p in ("", "card")),
         *(f"/pictures/{p.folder}/colour.jpg" for p in Picture.objects.all())]
print([p for p in pages if client.get(p).status_code != 200], Scene.objects.count())
"""


class WhilePeopleWrite(SimpleTestCase):
    @many
    def test_every_backup_is_whole_and_comes_back_with_all_its_pictures(self):
        with tempfile.TemporaryDirectory() as folder:
            house, kept = House.furnished(folder), Path(folder) / "kept"
            writing = house.start("-c", WRITER, "60")
            writing.stdout.readline()
            made = []
            while writing.poll() is None and len(made) < BACKUPS:
                now = datetime(2026, 5, 1) + timedelta(seconds=len(made))
                made.append(back_up(house.data, kept, now=now))
            writing.kill()
            writing.wait()
            writing.stdout.close()
            self.assertEqual(len(made), BACKUPS)
            for each in made:
                self.assertEqual(verify(each.path).pictures, each.pictures)
            self.assertGreater(made[-1].linked, 0, "what did not change is shared with the backup before")
            elsewhere = House(Path(folder) / "new")
            elsewhere.manage("restore", str(made[-1].path))
            wrong, count = elsewhere.run("-c", PLAIN_STATIC + VISIT).stdout.strip().rsplit(" ", 1)
            self.assertEqual(wrong, "[]")
            self.assertGreater(int(count), 0)
            self.assertIn("whole", house.manage("backup", "--verify", str(made[0].path)).stdout)


class Folders(TransactionTestCase):
    """Backups of a small house in this process."""

    def setUp(self):
        self.folder = tempfile.TemporaryDirectory()
        self.addCleanup(self.folder.cleanup)
        self.root = Path(self.folder.name)
        self.data, self.kept = self.root / "data", self.root / "kept"
        House.furnished(self.root, scenes=2)

    def at(self, k):
        return datetime(2026, 5, 1, 12, 0, k)

    def test_only_the_newest_stay(self):
        for k in range(4):
            back_up(self.data, self.kept, now=self.at(k), keep=2)
        self.assertEqual([path.name[-2:] for path in backups_in(self.kept)], ["02", "03"])
        verify(backups_in(self.kept)[0])

    def test_one_that_cannot_be_finished_leaves_nothing_and_says_so(self):
        back_up(self.data, self.kept, now=self.at(0))
        for where in (
            "dimgrey.safekeeping.backup.shutil.copy2",
            "dimgrey.safekeeping.backup.json.dumps",
            "dimgrey.safekeeping.backup.flush",
        ):
            shutil.rmtree(self.kept)  # without an earlier one nothing is linked
            back_up(self.data, self.kept, now=self.at(0))
            fresh = self.root / "other"
            with self.subTest(where), patch(where, side_effect=OSError(28, "No space left on device")):
                with self.assertRaisesMessage(BackupFailed, "No space left"):
                    back_up(self.data, fresh, now=self.at(1))
                self.assertEqual([path.name for path in fresh.iterdir() if path.name.startswith("dimgrey")], [])
            self.assertEqual(len(backups_in(self.kept)), 1)
            verify(backups_in(self.kept)[0])

    def lose(self):
        """Take away the files of one picture, as a failing disk does. Returns its folder."""
        folder = sorted((self.data / "pictures").iterdir())[0]
        shutil.rmtree(folder)
        return folder.name

    def test_a_picture_that_the_house_has_lost_ends_no_backup_and_is_named(self):
        folder = self.lose()
        made = back_up(self.data, self.kept, now=self.at(0))
        self.assertEqual((len(made.gone), made.gone), (1, made.lost))
        self.assertNotIn(folder, made.gone, "a person knows it by the name of its file")
        self.assertEqual(verify(made.path).lost, (folder,))
        restore(made.path, self.root / "again", known_migrations())
        self.assertEqual(len(list((self.root / "again" / "pictures").iterdir())), made.pictures)

    def test_what_the_house_has_lost_comes_from_the_backup_before(self):
        before = back_up(self.data, self.kept, now=self.at(0))
        folder = self.lose()
        made = back_up(self.data, self.kept, now=self.at(1))
        self.assertEqual((len(made.gone), made.lost, made.pictures), (1, (), before.pictures))
        self.assertTrue((verify(made.path), made.path / "pictures" / folder)[1].is_dir())
        with (
            override_settings(DIMGREY_DATA=self.data),
            self.assertRaisesMessage(CommandError, "have no files any more"),
        ):
            call_command("backup", str(self.kept), stdout=StringIO())
        self.assertEqual(
            len(backups_in(self.kept)), 3, "the backup is kept, and the command says that something is missing"
        )

    def test_what_a_killed_backup_left_growing_goes_with_the_next(self):
        old, running = self.kept / ".growing-dimgrey-20260430-120000", self.kept / ".growing-dimgrey-20260501-115900"
        for folder in (old, running):
            folder.mkdir(parents=True)
        two_days_ago = datetime.now() - timedelta(days=2)
        os.utime(old, (two_days_ago.timestamp(),) * 2)
        back_up(self.data, self.kept)
        self.assertEqual((old.exists(), running.exists()), (False, True))

    def test_damage_is_found(self):
        made = back_up(self.data, self.kept, now=self.at(0)).path
        original = next(made.glob("pictures/*/original*"))
        harms = {
            "a changed picture": lambda: original.write_bytes(original.read_bytes() + b"x"),
            "a missing picture": original.unlink,
            "a changed database": lambda: (made / "dimgrey.sqlite3").write_bytes(b"SQLite format 3\0" + b"\1" * 5000),
            "a manifest of another kind": lambda: (made / "manifest.json").write_text("[]"),
            "no manifest": (made / "manifest.json").unlink,
        }
        for name, harm in harms.items():
            with self.subTest(name):
                harm()
                with self.assertRaises(BackupFailed):
                    verify(made)
                with self.assertRaises(BackupFailed):
                    restore(made, self.root / "new", known_migrations())
                self.assertFalse((self.root / "new" / "dimgrey.sqlite3").exists())

    def test_what_is_there_is_not_overwritten_but_put_aside_when_told(self):
        made = back_up(self.data, self.kept, now=self.at(0)).path
        before = (self.data / "dimgrey.sqlite3").read_bytes()
        with self.assertRaisesMessage(BackupFailed, "--replace"):
            restore(made, self.data, known_migrations())
        self.assertEqual((self.data / "dimgrey.sqlite3").read_bytes(), before)
        aside = restore(made, self.data, known_migrations(), replace=True)
        self.assertTrue((aside / "dimgrey.sqlite3").exists())
        self.assertTrue((aside / "pictures").is_dir())
        self.assertEqual(state_of(self.data, known_migrations()).name, "fine")

    def test_a_backup_of_a_newer_program_is_refused(self):
        made = back_up(self.data, self.kept, now=self.at(0)).path
        with self.assertRaisesMessage(BackupFailed, "newer version"):
            restore(made, self.root / "new", known_migrations() - {("scenes", "0001_initial")})

    def test_the_commands_say_the_same(self):
        with override_settings(DIMGREY_DATA=self.data):
            with self.assertRaisesMessage(CommandError, "1 or more"):
                call_command("backup", str(self.kept), keep=0)
            with self.assertRaisesMessage(CommandError, "not a whole backup"):
                call_command("backup", str(self.root), verify=True)


class States(SimpleTestCase):
    """A start looks first, and changes nothing that is not right."""

    def test_each_state_has_its_sentence_and_nothing_is_changed(self):
        known = known_migrations()
        with tempfile.TemporaryDirectory() as folder:
            data = Path(folder)
            path = data / "dimgrey.sqlite3"
            self.assertEqual(state_of(data, known).name, "none")
            (data / "pictures" / "a").mkdir(parents=True)
            (data / "pictures" / "a" / "original.jpg").write_bytes(b"x")
            self.assertEqual(state_of(data, known).name, "empty")

            def database(*names):
                path.unlink(missing_ok=True)
                base = sqlite3.connect(path)
                base.execute("CREATE TABLE django_migrations (app text, name text)")
                base.executemany("INSERT INTO django_migrations VALUES (?, ?)", names)
                base.commit()
                base.close()

            cases = {
                "no bytes": (lambda: path.write_bytes(b""), "empty"),
                "no database": (lambda: path.write_bytes(b"hello " * 300), "damaged"),
                "cut": (
                    lambda: (database(*known), path.write_bytes(path.read_bytes()[:-2000] + b"\0" * 900)),
                    "damaged",
                ),
                "all": (lambda: database(*known), "fine"),
                "some": (lambda: database(*sorted(known)[:-3]), "older"),
                "more": (lambda: database(*known, ("scenes", "9999_later")), "newer"),
                "nothing applied": (lambda: database(), "empty"),
            }
            for name, (make, expected) in cases.items():
                with self.subTest(name):
                    make()
                    before = path.read_bytes()
                    state = state_of(data, known)
                    self.assertEqual(state.name, expected)
                    self.assertEqual(bool(state.sentence), not state.can_start)
                    self.assertEqual(path.read_bytes(), before)

    def test_a_start_refuses_and_touches_nothing(self):
        with tempfile.TemporaryDirectory() as folder:
            house = House(folder)
            house.data.mkdir()
            path = house.data / "dimgrey.sqlite3"
            path.write_bytes(b"not a database at all" * 100)
            before = path.read_bytes()
            refused = house.manage("check_data", check=False)
            self.assertEqual(refused.returncode, 1)
            self.assertIn("damaged", refused.stderr)
            served = house.run("-c", "import dimgrey.site.wsgi", check=False)
            self.assertNotEqual(served.returncode, 0)
            self.assertIn("damaged", served.stderr)
            started = subprocess.run(
                ["sh", "script/demo"], cwd=ROOT, env=house.environment, capture_output=True, text=True, timeout=120
            )
            self.assertNotEqual(started.returncode, 0)
            self.assertIn("damaged", started.stderr)
            self.assertEqual(path.read_bytes(), before)


class OnTheDisk(TransactionTestCase):
    """Confirmed means on the disk: files are flushed before their row, and every act waits for the disk."""

    def test_files_are_flushed_before_the_row_is_written(self):
        told = []
        real = os.fsync

        def flush(handle):
            told.append("flush")
            return real(handle)

        def save(row, *args, **kwargs):
            told.append("row")
            return type(row).save_base(row, *args, **kwargs)

        with patch("os.fsync", flush), patch("dimgrey.pictures.models.Picture.save", save):
            scene = lifecycle.new_scene(local_person(), "Yard", data=pictures.jpeg(), filename="a.jpg")
        self.assertEqual(
            told,
            ["flush"] * 7 + ["row"],
            "original, its folder, folder of folders; working copy, colour view, the folders again",
        )
        shutil.rmtree(scene.picture.path)

    def test_acts_wait_for_the_disk(self):
        code = "import django; django.setup(); from django.db import connection as c; q = c.cursor(); q.execute('PRAGMA synchronous'); print(q.fetchone()[0])"
        with tempfile.TemporaryDirectory() as folder:
            self.assertEqual(House(folder).run("-c", code).stdout.strip(), "2", "2 is FULL")
            self.assertEqual((Path(folder) / "data").stat().st_mode & 0o077, 0, "others cannot look into the data")
