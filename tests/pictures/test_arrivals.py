"""Files come in and are read by a second process: nothing is lost, nothing is done twice, whatever stops in between."""

import fcntl
from datetime import timedelta
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.core.management import CommandError, call_command
from django.db import OperationalError
from django.test import TransactionTestCase, override_settings
from django.utils import timezone
from django_tasks_db.models import DBTaskResult

from dimgrey.core.document.model import Document
from dimgrey.judging.secondlook import actions as secondlook
from dimgrey.judging.secondlook.models import OldPicture
from dimgrey.people.actions import local_person
from dimgrey.people.models import Person
from dimgrey.pictures import arrivals, reader, store
from dimgrey.pictures.actions import sweep
from dimgrey.pictures.models import Arrival, Picture, pictures_path
from dimgrey.safekeeping.backup import _folders_named
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from tests import hand, picturefiles

QUEUED = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend"}}
WAITING, KEPT, REFUSED = Arrival.State


class Killed(BaseException):
    """What stands for a process that is gone."""


@override_settings(TASKS=QUEUED)
class QueueTest(TransactionTestCase):
    def setUp(self):
        self.person = local_person()
        sweep(-1)  # of the test before

    def scene(self, title="Kiln"):
        return lifecycle.create_scene(self.person, Document(title=title))

    def send(self, scene, data=None, name="kiln.jpg"):
        with arrivals.laid_down(self.person, data or picturefiles.jpeg(90, 60), name) as file:
            lifecycle.send_picture(scene, file, is_first=True)
        return file

    def read(self):
        """What the second process does until nothing waits."""
        call_command("read_arrivals", until_done=True)

    def states(self):
        return list(Arrival.objects.values_list("state", flat=True))

    def folders(self):
        return {path.name for path in pictures_path().iterdir()} if pictures_path().is_dir() else set()


class Coming(QueueTest):
    def test_an_upload_is_answered_before_it_is_read_and_painted_when_it_is(self):
        with mock.patch("dimgrey.pictures.arrivals.read_picture", side_effect=AssertionError("not here")):
            sent = {"title": "Kiln", "kind": "film", "picture": SimpleUploadedFile("kiln.jpg", picturefiles.jpeg())}
            page = self.client.post("/scenes/new", sent, follow=True)
        scene = Scene.objects.get()
        self.assertIsNone(scene.picture)
        self.assertContains(page, "<b>kiln.jpg</b>")
        self.assertContains(page, "waits its turn")
        told = self.client.get(f"/pictures/arriving/scene/{scene.pk}").json()
        self.assertEqual((told["waiting"], told["kept"]), (1, 0))
        self.read()
        told = self.client.get(f"/pictures/arriving/scene/{scene.pk}").json()
        self.assertEqual((told["waiting"], told["kept"], self.states()), (0, 1, [KEPT]))
        scene.refresh_from_db()
        self.assertEqual(scene.picture.original_name, "kiln.jpg")
        self.assertNotContains(self.client.get(f"/scenes/{scene.pk}/"), 'id="arriving"')
        made = {path.name.split("-")[0] for path in scene.picture.path.iterdir()}
        self.assertLessEqual({"light", "sky", "reduced"}, made, "what the first page asks for is there")

    def test_what_is_done_meanwhile_counts(self):
        """A tone typed while the picture waits stays; undo goes back before it, with the picture."""
        scene = self.scene()
        self.send(scene)
        hand.do(Scene.objects.get(pk=scene.pk), None, "add-tone", name="coal", reading="EV 8")
        self.read()
        scene = Scene.objects.get(pk=scene.pk)
        self.assertEqual([tone.name for tone in scene.document.tones], ["coal"])
        self.assertEqual({revision.picture_id for revision in scene.revisions.all()}, {scene.picture_id})

    def test_another_picture_is_an_act_that_undo_takes_back(self):
        scene = self.scene()
        self.send(scene)
        self.read()
        scene = Scene.objects.get(pk=scene.pk)
        lifecycle.replace_picture(scene, picturefiles.png(), "other.png")
        self.assertEqual(Scene.objects.get(pk=scene.pk).picture.original_name, "kiln.jpg")
        self.read()
        self.assertEqual(Scene.objects.get(pk=scene.pk).picture.original_name, "other.png")
        self.client.post(f"/scenes/{scene.pk}/do/undo", {"stamp": Scene.objects.get(pk=scene.pk).stamp})
        self.assertEqual(Scene.objects.get(pk=scene.pk).picture.original_name, "kiln.jpg")

    def test_what_cannot_be_read_is_told_where_it_was_meant_to_be_and_put_away(self):
        scene = self.scene()
        self.send(scene, picturefiles.jpeg(90, 60)[:200], "torn.jpg")
        self.read()
        self.assertEqual(self.states(), [REFUSED])
        self.assertEqual(self.folders(), set(), "nothing of it stays")
        page = self.client.get(f"/scenes/{scene.pk}/")
        self.assertContains(page, "<b>torn.jpg</b>")
        row = Arrival.objects.get()
        self.assertContains(page, row.sentence)
        self.assertEqual(self.client.post(f"/pictures/arriving/{row.pk}/put-away").status_code, 204)
        self.assertNotContains(self.client.get(f"/scenes/{scene.pk}/"), "torn.jpg")
        self.assertEqual(self.client.post(f"/pictures/arriving/{row.pk}/put-away").status_code, 404)

    def test_nobody_sees_or_puts_away_what_is_not_his(self):
        other = Person.objects.create(username="other")
        theirs = lifecycle.create_scene(other, Document(title="Secret"))
        with arrivals.laid_down(other, picturefiles.jpeg(), "secret.jpg") as file:
            lifecycle.send_picture(theirs, file)
        self.assertEqual(self.client.get(f"/pictures/arriving/scene/{theirs.pk}").json()["waiting"], 0)
        self.assertEqual(self.client.post(f"/pictures/arriving/{file.pk}/put-away").status_code, 404)
        # A number of somebody else's scene in one's own file does nothing to it.
        arrivals.take_in(self.person, "scene", theirs.pk, picturefiles.jpeg(), "mine.jpg")
        self.read()
        theirs.refresh_from_db()
        self.assertEqual(theirs.picture.original_name, "secret.jpg")
        self.assertEqual(Arrival.objects.get(name="mine.jpg").sentence, "The scene is gone.")

    def test_what_somebody_looks_at_is_read_first(self):
        scenes = [self.scene(f"Scene {k}") for k in range(4)]
        for scene in scenes:
            self.send(scene, name=f"{scene.title}.jpg")
        self.client.get(f"/pictures/arriving/scene/{scenes[2].pk}")
        order = []
        told = arrivals.read_picture
        with mock.patch.object(arrivals, "read_picture", lambda source, name: order.append(name) or told(source, name)):
            self.read()
        self.assertEqual(order, ["Scene 2.jpg", "Scene 0.jpg", "Scene 1.jpg", "Scene 3.jpg"])

    def test_a_batch_keeps_what_cannot_be_read_by_its_name_and_no_original(self):
        batch = secondlook.create_batch(self.person, "Old ones")
        for data, name in ((picturefiles.png(), "a.png"), (b"no picture", "notes.jpg")):
            self.assertEqual(secondlook.add_file(batch, data, name), ("waiting", None))
        self.read()
        self.assertEqual(sorted(OldPicture.objects.values_list("name", "problem"))[0], ("a.png", ""))
        self.assertTrue(OldPicture.objects.get(name="notes.jpg").problem)
        (folder,) = self.folders()
        self.assertEqual({path.name for path in (pictures_path() / folder).iterdir()}, {"grey.jpg", "colour.jpg"})

    def test_too_many_that_wait_are_refused_before_they_are_kept(self):
        with mock.patch.object(arrivals, "MOST_WAITING", 1):
            self.send(self.scene())
            sent = {"title": "Two", "kind": "film", "picture": SimpleUploadedFile("b.jpg", picturefiles.jpeg())}
            self.assertContains(self.client.post("/scenes/new", sent), "wait to be read already", status_code=422)
        self.assertEqual((Scene.objects.count(), len(self.folders())), (1, 1))


class Stopped(QueueTest):
    """Wherever it stops: the next process finds the file, and what becomes of it becomes of it once."""

    PLACES = (
        "dimgrey.pictures.arrivals.read_picture",
        "dimgrey.pictures.writing.keep_beside_original",
        "dimgrey.pictures.store.prepare",
        "dimgrey.scenes.lifecycle._become_first",
        "dimgrey.pictures.models.Picture.save",
        "dimgrey.pictures.arrivals._become",
        "dimgrey.pictures.arrivals._tidy",
    )

    def test_killed_anywhere_it_is_kept_once(self):
        for place in self.PLACES:
            with self.subTest(place):
                scene = self.scene(place)
                self.send(scene)
                with (
                    mock.patch(place, side_effect=Killed),
                    mock.patch.object(DBTaskResult, "set_failed", side_effect=Killed),
                    self.assertRaises(Killed),
                ):
                    self.read()
                self.read()
                scene.refresh_from_db()
                self.assertIsNotNone(scene.picture)
                self.assertEqual(scene.revisions.count(), 1)
        sweep(-1)
        self.assertEqual(set(self.states()), {KEPT})
        self.assertEqual(self.folders(), {folder.hex for folder in Picture.objects.values_list("folder", flat=True)})
        self.assertEqual(Picture.objects.count(), len(self.PLACES))

    def test_a_task_that_is_lost_or_comes_twice_changes_nothing(self):
        scene = self.scene()
        file = self.send(scene)
        DBTaskResult.objects.all().delete()  # as in a queue that somebody emptied
        self.read()
        for _ in range(2):
            arrivals.read.enqueue(file.pk)
        self.read()
        scene.refresh_from_db()
        self.assertEqual((scene.revisions.count(), Picture.objects.count()), (1, 1))

    def test_a_file_at_which_it_dies_again_and_again_holds_up_nothing(self):
        bad, good = self.send(self.scene("Bad"), name="bad.jpg"), self.scene("Good")
        self.send(good)
        told = arrivals.read_picture

        def dies(source, name):
            if name == "bad.jpg":
                raise Killed
            return told(source, name)

        with (
            mock.patch.object(arrivals, "read_picture", dies),
            mock.patch.object(DBTaskResult, "set_failed", side_effect=Killed),
        ):
            for tries in range(arrivals.MOST_TRIES):
                with self.assertRaises(Killed):
                    self.read()
                good.refresh_from_db()
                self.assertEqual(good.picture is None, tries == 0, "after the first time others go before it")
            self.read()
        bad.refresh_from_db()
        self.assertEqual((bad.state, bad.sentence), (REFUSED, arrivals.BROKE))
        self.assertFalse(bad.path.exists())

    def test_a_fault_of_ours_is_logged_told_and_holds_up_nothing(self):
        self.send(self.scene())
        with (
            mock.patch.object(arrivals, "read_picture", side_effect=ZeroDivisionError),
            self.assertLogs("dimgrey.pictures"),
        ):
            self.read()
        self.assertEqual((self.states(), Arrival.objects.get().sentence), ([REFUSED], arrivals.BROKE))

    def test_a_database_that_is_locked_or_full_loses_nothing(self):
        """It is not the file's fault: the file waits, and is kept when the database answers again."""
        for wrong in ("database is locked", "database or disk is full"):
            scene = self.scene(wrong)
            file = self.send(scene)
            with mock.patch("dimgrey.pictures.models.Picture.save", side_effect=OperationalError(wrong)):
                self.read()
            file.refresh_from_db()
            self.assertEqual(file.state, WAITING)
            self.assertTrue(file.original.exists())
            self.read()
            scene.refresh_from_db()
            self.assertIsNotNone(scene.picture)

    def test_a_full_disk_is_said_and_the_file_waits(self):
        scene = self.scene()
        file = self.send(scene)
        with mock.patch("dimgrey.pictures.writing.write_whole", side_effect=OSError(28, "No space left on device")):
            self.read()
        self.assertEqual(self.states(), [WAITING])
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/"), "It waits, and is tried again.")
        self.assertEqual(arrivals.queue_what_waits(older_than=timedelta(hours=1)), 0)
        Arrival.objects.update(arrived_at=timezone.now() - timedelta(hours=2))
        self.assertEqual(arrivals.queue_what_waits(older_than=timedelta(hours=1)), 1)
        self.read()
        file.refresh_from_db()
        self.assertEqual(file.state, KEPT)

    def test_what_cannot_be_written_leaves_nothing_and_is_said_at_once(self):
        with mock.patch("dimgrey.pictures.writing.copied", side_effect=OSError(28, "No space left on device")):
            sent = {"title": "Kiln", "kind": "film", "picture": SimpleUploadedFile("a.jpg", picturefiles.jpeg())}
            self.assertContains(self.client.post("/scenes/new", sent), "Free some disk space", status_code=422)
        self.assertEqual((Scene.objects.count(), Arrival.objects.count(), self.folders()), (0, 0, set()))

    def test_what_waits_is_backed_up_swept_by_nobody_and_forgotten_in_the_end(self):
        scene = self.scene()
        file = self.send(scene)
        sweep(-1)
        self.assertEqual(self.folders(), {file.folder.hex})
        from django.db import connection

        self.assertIn(file.folder.hex, _folders_named(connection.settings_dict["NAME"]))
        self.read()
        Arrival.objects.update(arrived_at=timezone.now() - timedelta(days=2))
        DBTaskResult.objects.update(finished_at=timezone.now() - timedelta(days=2))
        self.assertEqual(arrivals.forget(), 1)
        self.assertEqual((DBTaskResult.objects.count(), self.folders()), (0, {file.folder.hex}))
        self.assertTrue(store.linear_of(file.path).any())


class Room(QueueTest):
    def test_what_waits_takes_room_and_pages_know_how_much_is_left(self):
        self.assertEqual(self.client.get("/pictures/room").json(), {"left": None})
        self.send(self.scene())
        with override_settings(DIMGREY_QUOTA_MB=1):
            left = 1_000_000 - Arrival.objects.get().bytes
            self.assertEqual(self.client.get("/pictures/room").json(), {"left": left})
            sent = {
                "title": "Two",
                "kind": "film",
                "picture": SimpleUploadedFile("b.jpg", picturefiles.jpeg() + b"0" * left),
            }
            self.assertContains(self.client.post("/scenes/new", sent), "does not fit", status_code=422)


class Alone(QueueTest):
    def test_one_process_reads_and_whoever_asks_sees_that_it_lives(self):
        self.assertFalse(reader.is_alive())
        reader.lock_path().parent.mkdir(parents=True, exist_ok=True)
        with reader.lock_path().open("w") as held:
            fcntl.flock(held, fcntl.LOCK_EX)
            self.assertTrue(reader.is_alive())
            with self.assertRaisesMessage(CommandError, "Another process reads"):
                self.read()
        self.assertFalse(reader.is_alive())
        self.read()
