"""Everything out and in again: here, elsewhere, whole, in part, twice; and archives that are none."""

import io
import json
import zipfile

import numpy as np
from django.core.management import CommandError, call_command
from PIL import Image

from dimgrey.core.camera.setups import Setup
from dimgrey.core.document.plainform import plain
from dimgrey.frames.actions import log_frame
from dimgrey.frames.models import Frame
from dimgrey.judging.secondlook.actions import add_file, create_batch, decide
from dimgrey.judging.secondlook.models import Batch, OldPicture
from dimgrey.kit.actions import keep_item
from dimgrey.kit.models import Item, KeptSetup
from dimgrey.kit.setups import keep_setup
from dimgrey.outings.actions import create_outing, set_checked
from dimgrey.outings.models import Outing
from dimgrey.pictures.models import Picture
from dimgrey.safekeeping.archive.restoring import restore_archive
from dimgrey.safekeeping.archive.unpacking import ArchiveError, Unpacked
from dimgrey.safekeeping.archive.writing import pieces
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Revision, Scene
from dimgrey.scenes.queries import scene_of
from tests import hand
from tests import picturefiles as pictures
from tests.doors.door import DoorTest

TOKENS = [f"00000000-0000-4000-8000-00000000000{k}" for k in range(3)]


def filled(person):
    """A person with something of everything."""
    outing = create_outing(person, "Tannet Yard", zone="Europe/Lisbon", place_name="Yard", latitude_deg=39.0, longitude_deg=-8.0,
                           terrain=[[0, 2], [90, 4]], date="2026-05-01")  # fmt: skip
    set_checked(outing, "told", True)
    scene = lifecycle.new_scene(
        person, "Kiln “weiß”", outing, "film", pictures.jpeg(90, 60, exif=pictures.exif()), "kiln.jpg"
    )
    hand.pin_tone(scene, None, 0.3, 0.5)
    scene = scene_of(person, scene.pk)
    hand.type_reading(scene, None, "A", {"ev100": 12.3})
    hand.place_tone(scene, None, "A", 3)
    lifecycle.replace_picture(scene_of(person, scene.pk), pictures.jpeg(120, 80), "again.jpg")
    hand.undo(scene_of(person, scene.pk), None)
    bare = lifecycle.create_scene(person, plainest())
    lifecycle.set_removed(person, bare.pk, True)
    planned = scene_of(person, scene.pk)
    for k, token in enumerate(TOKENS):
        log_frame(person, planned, token, note=f"'{k}' of three")
    camera = keep_item(person, "camera", "Box", {"senses": "colour sensor"})
    camera.calibration = {
        "day": "2026-05-01",
        "stops": [-1.0, 0.0, 1.0],
        "lightness": [30.0, 50.0, 70.0],
        "headroom": 3.1,
    }
    camera.save()
    keep_item(person, "film", "Sheet", {"iso": "100"})
    keep_setup(person, Setup("Plain", {"contrast": 0.5}, notes="ü"), camera)
    batch = create_batch(person, "Old ones")
    _, row = add_file(batch, pictures.jpeg(200, 150), "old.jpg")
    decide(person, row.pk, "print", "light")
    add_file(batch, b"no picture", "broken.jpg")
    return scene_of(person, scene.pk)


def plainest():
    from tests.documents import document

    return document(title="Bare")


def archive_of(person):
    return b"".join(pieces(person))


def facts(person):
    """What a person has, without the numbers that a database gives."""
    scenes = {}
    for scene in Scene.objects.owned_by(person):
        order = list(scene.revisions.order_by("pk"))
        place = {row.pk: k for k, row in enumerate(order)}
        scenes[str(scene.uid)] = (
            scene.title, scene.kept, scene.removed, scene.outing and scene.outing.title, place[scene.head_id],
            scene.picture and (scene.picture.original_name, scene.picture.width, scene.picture.shot),
            [(row.label, row.kept, place.get(row.parent_id), row.picture and row.picture.original_name, row.at) for row in order],
        )  # fmt: skip
    return {
        "scenes": scenes,
        "outings": [(o.title, o.zone, o.place_name, o.terrain, o.date, o.checked, o.series) for o in Outing.objects.owned_by(person)],
        "frames": [(f.number, f.note, f.plan, f.document, f.exposed_at, f.scene and f.scene.title) for f in Frame.objects.owned_by(person)],
        "kit": [(i.kind, i.name, i.values, i.measured) for i in Item.objects.owned_by(person)],
        "setups": [(s.name, s.setup, s.camera and s.camera.name) for s in KeptSetup.objects.owned_by(person)],
        "looks": [(b.title, [(p.name, p.decision, p.reason, bool(p.problem), p.measures) for p in b.pictures.all()])
                  for b in Batch.objects.owned_by(person)],
    }  # fmt: skip


class RoundTrip(DoorTest):
    def test_everything_comes_back_elsewhere_and_every_page_shows_it(self):
        filled(self.person)
        other = self.other()
        count = restore_archive(other, io.BytesIO(archive_of(self.person)))
        self.maxDiff = None
        self.assertEqual(facts(other), facts(self.person))
        self.assertEqual((count["scenes"], count["pictures"], count["frames"], count["second looks"]), (2, 2, 3, 1))
        mine, theirs = (Picture.objects.filter(owner=p, original_name="kiln.jpg").get() for p in (self.person, other))
        self.assertEqual(
            next(mine.path.glob("original*")).read_bytes(), next(theirs.path.glob("original*")).read_bytes()
        )
        np.testing.assert_array_equal(np.load(mine.path / "working.npy"), np.load(theirs.path / "working.npy"))
        # What stands there is shown: the other person's pages, asked as this one.
        self.person = other
        self.client.defaults["REMOTE_ADDR"] = "10.0.0.1"
        self.client.force_login(other)
        self.require_whole("elsewhere", self.client.get("/"), refused=False)

    def test_the_same_archive_twice_is_not_doubled_and_overwrites_nothing(self):
        scene = filled(self.person)
        data = archive_of(self.person)
        hand.type_reading(scene, None, "A", {"ev100": 9})
        before = facts(self.person)
        count = restore_archive(self.person, io.BytesIO(data))
        self.assertEqual({k for k, v in count.items() if v}, {"there already"})
        self.assertEqual(facts(self.person), before)

    def test_after_everything_is_lost_it_is_all_there_again(self):
        filled(self.person)
        data, before = archive_of(self.person), facts(self.person)
        for model in (Frame, Scene, Outing, Item, KeptSetup, Batch):
            model.objects.all().delete()
        self.assertFalse(Revision.objects.exists() or Picture.objects.exists())
        restore_archive(self.person, io.BytesIO(data))
        self.assertEqual(facts(self.person), before)

    def test_a_part_alone(self):
        filled(self.person)
        data, other = archive_of(self.person), self.other()
        restore_archive(other, io.BytesIO(data), ("kit",))
        self.assertEqual(Item.objects.owned_by(other).count(), 2)
        self.assertFalse(Scene.objects.owned_by(other).exists() or KeptSetup.objects.owned_by(other).exists())
        restore_archive(other, io.BytesIO(data), ("log",))
        self.assertEqual([f.scene for f in Frame.objects.owned_by(other)], [None] * 3)
        self.assertTrue(all(f.frozen for f in Frame.objects.owned_by(other)))

    def test_it_is_files_that_other_programs_read(self):
        filled(self.person)
        with zipfile.ZipFile(io.BytesIO(archive_of(self.person))) as archive:
            self.assertIsNone(archive.testzip())
            names = archive.namelist()
            self.assertEqual(json.loads(archive.read("archive.json"))["format"], "dimgrey-archive")
            scene = next(name for name in names if "kiln" in name and name.endswith("scene.json"))
            answer = self.sent("/scenes/import", archive.read(scene))
            self.assertEqual(answer.status_code, 302, "a scene of it is a scene file")
            original = next(name for name in names if name.endswith("original.jpg"))
            self.assertIn(Image.open(io.BytesIO(archive.read(original))).size, ((90, 60), (120, 80)))
            self.assertTrue(archive.read("log.csv").startswith(b"number,"))

    def test_the_pages(self):
        filled(self.person)
        page = self.client.get("/account/")
        self.assertContains(page, "/account/archive.zip")
        got = self.client.get("/account/archive.zip")
        data = b"".join(got.streaming_content)
        Scene.objects.all().delete()
        answer = self.sent("/account/archive/take", data, "a.zip", parts=["scenes", "log"])
        self.assertRedirects(answer, "/account/archive", fetch_redirect_response=False)
        self.assertContains(self.client.get("/account/archive"), "2 scenes")
        self.assertContains(self.sent("/account/archive/take", data, "a.zip"), "Choose what", status_code=422)

    def test_the_command(self):
        import tempfile
        from pathlib import Path

        filled(self.person)
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "mine.zip"
            call_command("archive", "save", path, stdout=io.StringIO())
            Scene.objects.all().delete()
            call_command("archive", "take", path, part=["scenes"], stdout=io.StringIO())
            self.assertEqual(Scene.objects.count(), 2)
            with self.assertRaises(CommandError):
                call_command("archive", "take", path, person="nobody")


class NoArchives(DoorTest):
    def changed(self, data, **files):
        """An archive with some files replaced; None takes one out."""
        out = io.BytesIO()
        with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
            for name in old.namelist():
                key = next((k for k in files if name.endswith(k.replace("__", "/"))), None)
                if key is None:
                    new.writestr(name, old.read(name))
                elif files[key] is not None:
                    value = files[key](old.read(name)) if callable(files[key]) else files[key]
                    new.writestr(name, value)
        return out.getvalue()

    def test_each_is_refused_with_a_sentence_and_nothing_is_kept(self):
        filled(self.person)
        data, other = archive_of(self.person), self.other()
        told = lambda change: lambda old: json.dumps(change(json.loads(old)))
        cases = {
            "nothing": b"",
            "no ZIP": b"PK but not really" * 20,
            "cut off": data[: len(data) // 2],
            "of another kind": self.changed(data, **{"archive.json": '{"format": "x"}'}),
            "of a later version": self.changed(data, **{"archive.json": '{"format": "dimgrey-archive", "version": 9}'}),
            "without its head": self.changed(data, **{"archive.json": None}),
            "a scene that is none": self.changed(data, **{"history.json": told(lambda h: {**h, "states": [{**s, "document": {}} for s in h["states"]]})}),
            "states that point nowhere": self.changed(data, **{"history.json": told(lambda h: {**h, "head": 99})}),
            "states that are no list": self.changed(data, **{"history.json": told(lambda h: {**h, "states": 5})}),
            "half an emoji": self.changed(data, **{"history.json": lambda old: old.replace(b'"title": "', b'"title": "\\ud83d')}),
            "an id that is none": self.changed(data, **{"history.json": told(lambda h: {**h, "uid": "../../x"})}),
            "a picture elsewhere": self.changed(data, **{"history.json": told(lambda h: {**h, "picture": "../../etc"})}),
            "a picture that is none": self.changed(data, **{"original.jpg": b"hello"}),
            "a broken kit": self.changed(data, **{"kit.json": '{"format": "dimgrey-kit", "version": 2, "items": [{"kind": "soup", "name": "x"}]}'}),
            "measured nonsense": self.changed(data, **{"measured.json": '[{"kind": "camera", "name": "Box", "values": {"stops": "x"}}]'}),
            "an outing at no place": self.changed(data, **{"outings.json": told(lambda o: [{**o[0], "latitude_deg": 900}])}),
            "an outing with a list that is none": self.changed(data, **{"outings.json": told(lambda o: [{**o[0], "terrain": {"a": 1}}])}),
            "an outing of the year 1": self.changed(data, **{"outings.json": told(lambda o: [{**o[0], "date": "0001-01-01"}])}),
            "a log of another kind": self.changed(data, **{"log.csv": "a,b\n1,2\n"}),
            "a setup of nothing": self.changed(data, **{"001-plain.json": "{}"}),
            "a second look of numbers": self.changed(data, **{"second-look.json": "[1, 2]"}),
            "a decision that is none": self.changed(data, **{"second-look.json": told(lambda b: [{**b[0], "pictures": [{**b[0]["pictures"][0], "decision": "eat"}]}])}),
        }  # fmt: skip
        empty = facts(other)
        for name, archive in cases.items():
            with self.subTest(name):
                with self.assertRaises(ArchiveError) as refused:
                    restore_archive(other, io.BytesIO(archive))
                self.assertGreater(len(str(refused.exception)), 20)
                self.assertEqual(facts(other), empty)
                self.assertEqual(Picture.objects.filter(owner=other).count(), 0)

    def test_a_file_that_unpacks_to_too_much(self):
        from unittest.mock import patch

        filled(self.person)
        data = archive_of(self.person)
        with patch.object(Unpacked.read, "__defaults__", (50,)), self.assertRaises(ArchiveError):
            restore_archive(self.other(), io.BytesIO(data))

    def test_ones_room_is_minded(self):
        filled(self.person)
        other = self.other()
        other.quota_mb = 0
        other.save()
        other.quota_mb = 1
        other.save()
        with self.settings(DIMGREY_QUOTA_MB=0):
            Picture.objects.create(owner=other, original_name="x", bytes=999_000)
            with self.assertRaisesMessage(ArchiveError, "does not fit"):
                restore_archive(other, io.BytesIO(archive_of(self.person)))


class Unused(DoorTest):
    def test_old_pictures_keep_their_views(self):
        filled(self.person)
        other = self.other()
        restore_archive(other, io.BytesIO(archive_of(self.person)), ("second-look",))
        row = OldPicture.objects.owned_by(other).get(name="old.jpg")
        self.assertEqual(Image.open(row.picture.path / "grey.jpg").size, (200, 150))
        mine = Batch.objects.owned_by(self.person).get()
        self.assertEqual(row.batch.created_at, mine.created_at, "the day it was looked at")
        self.assertEqual(plain(plainest())["title"], "Bare")

    def test_an_old_picture_that_is_gone_comes_back_with_a_word_and_its_page_stands(self):
        filled(self.person)
        OldPicture.objects.filter(name="old.jpg").update(picture=None)
        other = self.other()
        restore_archive(other, io.BytesIO(archive_of(self.person)), ("second-look",))
        row = OldPicture.objects.owned_by(other).get(name="old.jpg")
        self.assertEqual((row.problem, row.picture), ("Its picture is not in the archive.", None))
        self.client.force_login(other)
        with self.settings(DIMGREY_LOCAL=False):
            self.assertContains(self.client.get(f"/second-look/{row.batch_id}/"), row.problem)
