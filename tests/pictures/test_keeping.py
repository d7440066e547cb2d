"""Keeping pictures: files and rows come and go together, and what is left behind is swept."""

import importlib
import io
import os
import shutil
import tempfile
import uuid
from io import StringIO
from pathlib import Path
from unittest import mock

import numpy as np
from django.core.management import call_command
from django.db import connection
from django.test import SimpleTestCase, override_settings
from PIL import Image

from dimgrey.core.errors import CoreError
from dimgrey.pictures import derived, store
from dimgrey.pictures.actions import keep_picture, keeping, sweep
from dimgrey.pictures.decoded import Decoded
from dimgrey.pictures.models import Picture, pictures_path
from dimgrey.pictures.views import _halved
from dimgrey.scenes import lifecycle
from dimgrey.scenes.situation import Situation
from dimgrey.site.warm import warm
from tests import picturefiles
from tests.helpers import PageTest, scene_with_light, stepped_light


def folders():
    return {path.name for path in pictures_path().iterdir()} if pictures_path().is_dir() else set()


class Keeping(PageTest):
    def test_a_failure_after_the_files_leaves_neither_row_nor_folder(self):
        before, decoded = folders(), Decoded("OpenEXR", 110, 60, stepped_light())
        with self.assertRaises(ZeroDivisionError), keeping():
            keep_picture(self.person.pk, decoded, b"x", "x.exr")
            raise ZeroDivisionError
        self.assertEqual((Picture.objects.count(), folders()), (0, before))

    def test_a_full_disk_is_said_and_leaves_nothing(self):
        before = folders()
        full = mock.patch.object(store.np, "save", side_effect=OSError(28, "No space left on device"))
        with full, self.assertRaises(CoreError):
            lifecycle.new_scene(self.person, "Yard", data=picturefiles.jpeg(300, 200), filename="a.jpg")
        self.assertEqual((Picture.objects.count(), folders()), (0, before))

    def test_pictures_are_kept_within_a_transaction_only(self):
        with self.assertRaises(RuntimeError):
            keep_picture(self.person.pk, Decoded("OpenEXR", 110, 60, stepped_light()), b"x", "x.exr")


class Deletion(PageTest):
    def test_files_go_when_the_scene_goes_for_certain(self):
        scene = scene_with_light(self.person)
        path = scene.picture.path
        with self.captureOnCommitCallbacks(execute=True):
            scene.delete()
        self.assertEqual((Picture.objects.count(), path.exists()), (0, False))

    def test_they_go_with_the_outing_and_with_the_person(self):
        for take in (lambda scene: scene.outing.delete(), lambda scene: scene.owner.delete()):
            from dimgrey.outings.actions import create_outing

            person = self.other()
            scene = scene_with_light(person)
            scene.outing = create_outing(person, "Day")
            scene.save()
            path = scene.picture.path
            with self.captureOnCommitCallbacks(execute=True):
                take(scene)
            self.assertEqual((Picture.objects.count(), path.exists()), (0, False))
            person.delete()

    def test_a_rolled_back_deletion_keeps_the_files(self):
        scene = scene_with_light(self.person)
        path = scene.picture.path
        with self.captureOnCommitCallbacks(execute=False):
            scene.picture.delete()
        self.assertTrue(path.exists())


class Sweep(PageTest):
    def setUp(self):
        super().setUp()
        shutil.rmtree(pictures_path(), ignore_errors=True)

    def lost(self, age_s):
        folder = pictures_path() / uuid.uuid4().hex
        folder.mkdir(parents=True)
        (folder / "original.jpg").write_bytes(b"x" * 1000)
        now = folder.stat().st_mtime
        os.utime(folder, (now - age_s, now - age_s))
        return folder, now

    def test_folders_of_no_picture_go_after_ten_minutes(self):
        scene = scene_with_light(self.person)
        os.utime(scene.picture.path, (0, 0))
        old, now = self.lost(601)
        young, _ = self.lost(599)
        self.assertEqual(sweep(now=now), (1, 1000))
        self.assertEqual((old.exists(), young.exists(), scene.picture.path.exists()), (False, True, True))

    def test_the_command_says_what_it_removed(self):
        self.lost(4000)
        out = StringIO()
        call_command("sweep_pictures", stdout=out)
        self.assertRegex(out.getvalue(), r"Removed 1 folder of no picture \(0\.0 MB\)\.")
        out = StringIO()
        call_command("sweep_pictures", stdout=out)
        self.assertEqual(out.getvalue(), "")


class SmallViews(PageTest):
    """Small views lie beside the picture, so that a list is there at once after a start."""

    def test_a_small_view_is_made_once_and_no_more_are_kept_than_there_is_use_for(self):
        scene = scene_with_light(self.person)
        path, made = scene.picture.path, []

        def make(name):
            made.append(name)
            return name.encode()

        for name in ("a", "b", "a"):
            self.assertEqual(derived.kept_small(path, name, lambda name=name: make(name)), name.encode())
        self.assertEqual(made, ["a", "b"])
        for k in range(derived.KEPT_FILES + 5):
            derived.kept_small(path, f"view {k}", lambda: b"x")
        self.assertEqual(len(list(path.glob("small-*.jpg"))), derived.KEPT_FILES)

    def test_it_is_the_view_of_its_address_and_goes_with_the_picture(self):
        scene = scene_with_light(self.person)
        address = f"{Situation(scene).grey}?small=1"
        first, again = self.client.get(address), self.client.get(address)
        self.assertEqual(first.content, again.content)
        whole = Image.open(io.BytesIO(self.client.get(Situation(scene).grey).content))
        self.assertEqual(Image.open(io.BytesIO(first.content)).size, (whole.width // 2, whole.height // 2))
        path = scene.picture.path
        with self.captureOnCommitCallbacks(execute=True):
            scene.delete()
        self.assertFalse(path.exists())

    def test_a_full_disk_is_no_reason_to_show_nothing(self):
        scene = scene_with_light(self.person)
        with mock.patch.object(store.Path, "write_bytes", side_effect=OSError(28, "No space left on device")):
            self.assertEqual(derived.kept_small(scene.picture.path, "a", lambda: b"x"), b"x")

    def test_the_warm_up_makes_them_and_forgives_a_picture_that_is_gone(self):
        scene = scene_with_light(self.person)
        with mock.patch.object(connection, "close"):
            warm()
            self.assertEqual(len(list(scene.picture.path.glob("small-*.jpg"))), 1)
            shutil.rmtree(scene.picture.path)
            warm()


class OnTheWay(PageTest):
    """What a slow line is spared: pages are compressed, maps come in pieces."""

    def test_a_map_comes_in_pieces_that_make_the_whole(self):
        address = f"/pictures/{scene_with_light(self.person).picture.folder}/light-1000.bin"
        whole = self.client.get(address)
        self.assertEqual((whole.status_code, whole["Accept-Ranges"]), (200, "bytes"))
        size, found = len(whole.content), b""
        for start in range(0, size, 100):
            piece = self.client.get(address, headers={"Range": f"bytes={start}-{start + 99}"})
            self.assertEqual(piece.status_code, 206)
            end = min(start + 99, size - 1)
            self.assertEqual(piece["Content-Range"], f"bytes {start}-{end}/{size}")
            found += piece.content
        self.assertEqual(found, whole.content)
        rest = self.client.get(address, headers={"Range": "bytes=10-"})
        self.assertEqual(rest.content, whole.content[10:])

    def test_a_piece_beyond_the_end_is_refused_and_what_is_no_range_is_the_whole(self):
        address = f"/pictures/{scene_with_light(self.person).picture.folder}/light-1000.bin"
        size = len(self.client.get(address).content)
        beyond = self.client.get(address, headers={"Range": f"bytes={size}-{size + 5}"})
        self.assertEqual((beyond.status_code, beyond["Content-Range"]), (416, f"bytes */{size}"))
        for range_ in ("bytes=-5", "lines=1-2", "bytes=5-2x"):
            self.assertEqual(self.client.get(address, headers={"Range": range_}).status_code, 200)

    def test_pages_are_compressed_and_pictures_are_not(self):
        scene = scene_with_light(self.person)
        page = self.client.get(f"/scenes/{scene.pk}/", headers={"Accept-Encoding": "gzip"})
        self.assertEqual(page["Content-Encoding"], "gzip")
        self.assertLess(len(page.content), 16000)
        picture = self.client.get(Situation(scene).grey, headers={"Accept-Encoding": "gzip"})
        self.assertNotIn("Content-Encoding", picture)

    def test_a_thin_picture_has_a_small_view_too(self):
        self.assertEqual(_halved(np.zeros((1, 9), np.uint8)).shape, (1, 9))
        self.assertEqual(_halved(np.array([[0, 100, 7], [100, 200, 7]], np.uint8)).tolist(), [[100]])


class FirstVersions(SimpleTestCase):
    """Folders of the first version had hyphens in their names; the sweep must not take them for nobody's."""

    def test_folders_are_renamed_and_others_left_alone(self):
        migration = importlib.import_module("dimgrey.pictures.migrations.0002_folder_names")
        name = uuid.uuid4()
        with tempfile.TemporaryDirectory() as folder, override_settings(DIMGREY_DATA=folder):
            root = Path(folder) / "pictures"
            (root / str(name)).mkdir(parents=True)
            (root / str(name) / "original.jpg").write_bytes(b"x")
            (root / "lost+found").mkdir()
            for _ in range(2):
                migration.without_hyphens(None, None)
            self.assertEqual(sorted(path.name for path in root.iterdir()), sorted([name.hex, "lost+found"]))
            self.assertTrue((root / name.hex / "original.jpg").exists())
