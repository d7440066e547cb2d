"""An archive that came by the page is read as other files are: in pieces, behind those of others, and whole or not at all."""

from unittest import mock

from dimgrey.core.document.model import Document
from dimgrey.core.errors import CoreError
from dimgrey.judging.secondlook.actions import create_batch
from dimgrey.judging.secondlook.models import OldPicture
from dimgrey.people.models import Person
from dimgrey.pictures import arrivals
from dimgrey.pictures.models import Arrival, Picture
from dimgrey.safekeeping.archive import bringing, layout
from dimgrey.safekeeping.archive.laying import Laying
from dimgrey.safekeeping.archive.writing import pieces
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from tests import picturefiles
from tests.pictures.test_arrivals import KEPT, REFUSED, WAITING, Killed, QueueTest


class ArchiveComes(QueueTest):
    def setUp(self):
        super().setUp()
        self.scenes = [self.scene(f"Scene {k}") for k in range(3)]
        for k, scene in enumerate(self.scenes):
            self.send(scene, picturefiles.jpeg(90 + k, 60), f"{k}.jpg")
        self.read()
        self.other = Person.objects.create_user("other", password="long enough password")

    def archive(self):
        return b"".join(pieces(self.person))

    def bring(self, data=None):
        return bringing.bring(self.other, data or self.archive(), "mine.zip", tuple(layout.PARTS))

    def theirs(self):
        """Names of the pictures of the other person's scenes."""
        scenes = Scene.objects.owned_by(self.other).select_related("picture").order_by("title")
        return [scene.picture and scene.picture.original_name for scene in scenes]

    def in_pieces(self):
        return mock.patch.object(bringing, "AT_ONCE_S", -1)

    def test_one_piece_after_another_and_others_go_first(self):
        row, seen = self.bring(), []
        laid = Laying.lay

        def lay(laying, name, *rest):
            if not seen:
                self.send(self.scene("Late"), picturefiles.jpeg(80, 60), "late.jpg")
            seen.append(list(Scene.objects.filter(title="Late").values_list("picture__original_name", flat=True)))
            return laid(laying, name, *rest)

        with self.in_pieces(), mock.patch.object(Laying, "lay", lay):
            self.read()
        row.refresh_from_db()
        self.assertEqual((row.state, self.theirs()), (KEPT, ["0.jpg", "1.jpg", "2.jpg"]))
        self.assertEqual(
            seen, [[None], ["late.jpg"], ["late.jpg"]], "what came meanwhile was read after the first piece"
        )
        self.assertIn("3 scenes", row.sentence)
        self.assertEqual(self.folders(), {p.folder.hex for p in Picture.objects.all()})

    def test_it_says_how_far_it_is(self):
        row, told = self.bring(), []
        say = bringing._say
        with (
            self.in_pieces(),
            mock.patch.object(bringing, "_say", lambda a, words: (told.append(words), say(a, words))),
        ):
            self.read()
        self.assertEqual(told[:2], ["1 of 3 pictures are read.", "2 of 3 pictures are read."])
        row.refresh_from_db()
        self.assertEqual(row.sentence, told[-1])

    def test_a_killed_process_goes_on_where_it_was(self):
        row, laid = self.bring(), []
        lay = Laying.lay

        def dies(laying, name, *rest):
            lay(laying, name, *rest)
            laid.append(name)
            if len(laid) == 2:
                raise Killed

        with mock.patch.object(Laying, "lay", dies), self.assertRaises(Killed):
            arrivals.read.call(row.pk)
        with mock.patch.object(Laying, "lay", dies):
            self.read()
        self.assertEqual((len(laid), len(set(laid))), (3, 3), "none was decoded twice")
        self.assertEqual(self.theirs(), ["0.jpg", "1.jpg", "2.jpg"])

    def test_what_stops_while_it_is_kept_leaves_nothing_and_is_tried_again(self):
        row = self.bring()
        before = self.folders()
        fails = mock.patch(
            "dimgrey.safekeeping.archive.restoring.Incoming.take_second_look", side_effect=OSError(5, "I/O")
        )
        with fails, self.assertLogs("dimgrey.pictures"):
            arrivals.read.call(row.pk)
        row.refresh_from_db()
        self.assertEqual((row.state, self.theirs(), self.folders()), (WAITING, [], before))
        self.read()
        self.assertEqual(self.theirs(), ["0.jpg", "1.jpg", "2.jpg"])

    def test_a_broken_one_is_refused_with_its_sentence(self):
        self.assertRaises(CoreError, self.bring, b"PK but not really")
        self.assertEqual(Arrival.objects.filter(purpose="archive").count(), 0)
        row = self.bring(self.archive().replace(b"\xff\xd8\xff", b"\xff\xd8\x00"))
        self.read()
        row.refresh_from_db()
        self.assertEqual((row.state, self.theirs()), (REFUSED, []))
        self.assertGreater(len(row.sentence), 20)
        self.assertEqual(self.folders(), {p.folder.hex for p in Picture.objects.all()})

    def test_what_waits_goes_along_and_waits_there(self):
        self.send(self.scene("Waits"), picturefiles.jpeg(70, 50), "waits.jpg")
        batch = create_batch(self.person, "Old ones")
        arrivals.take_in(self.person, "batch", batch.pk, picturefiles.jpeg(64, 48), "old.jpg")
        self.bring()
        self.read()
        self.read()
        self.assertEqual(self.theirs(), ["0.jpg", "1.jpg", "2.jpg", "waits.jpg"])
        self.assertEqual([row.name for row in OldPicture.objects.owned_by(self.other)], ["old.jpg"])
        # Once more: what is here is passed over.
        self.bring()
        self.read()
        self.assertEqual(Arrival.objects.owned_by(self.other).exclude(purpose="archive").count(), 2)
        self.assertEqual(len(self.theirs()), 4)

    def test_a_file_for_what_does_not_come_is_left_out(self):
        self.send(self.scene("Waits"), picturefiles.jpeg(70, 50), "waits.jpg")
        bringing.bring(self.other, self.archive(), "mine.zip", ("kit",))
        self.read()
        self.assertEqual(Arrival.objects.owned_by(self.other).exclude(purpose="archive").count(), 0)
        self.assertEqual(lifecycle.create_scene(self.other, Document(title="x")).picture, None)
