"""What a person does to a scene: revisions, undo, stamps, pins, readings, placing."""

from django.db import connection, transaction

from dimgrey.core.document.means import CameraPart, MediumPart
from dimgrey.core.document.model import MAX_TONES
from dimgrey.core.document.tonebriefing import reading_ev
from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.check import DocumentError
from dimgrey.pictures.models import Picture
from dimgrey.scenes import lifecycle, spotmeter
from dimgrey.scenes.models import Revision, Scene
from dimgrey.scenes.queries import scene_of
from tests import hand
from tests import picturefiles as pictures
from tests.helpers import PageTest, band, scene_with_light


class Writing(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)

    def test_every_change_is_a_revision_and_undo_brings_each_back(self):
        states = [self.scene.document]
        for zone in (3, 5, 7):
            hand.pin_tone(self.scene, None, band(zone), 0.5)
            states.append(self.scene.document)
        for state in reversed(states[:-1]):
            hand.undo(self.scene, None)
            self.assertEqual(self.fresh(self.scene).document, state)
        for state in states[1:]:
            hand.redo(self.scene, None)
            self.assertEqual(self.fresh(self.scene).document, state)
        with self.assertRaises(hand.Refused) as refused:
            hand.redo(self.scene, None)
        self.assertEqual(str(refused.exception), "There is nothing to redo.")

    def test_a_change_after_undo_keeps_what_was_undone_in_the_history(self):
        hand.pin_tone(self.scene, None, band(3), 0.5)
        hand.undo(self.scene, None)
        hand.pin_tone(self.scene, None, band(7), 0.5)
        self.assertEqual(Revision.objects.filter(scene=self.scene).count(), 3)
        self.assertEqual([t["readings"][0]["ev100"] for t in self.fresh(self.scene).kept["tones"]], [14.0])

    def test_the_second_window_is_told_and_nothing_is_overwritten(self):
        first, second = (scene_of(self.person, self.scene.pk) for _ in range(2))
        hand.pin_tone(first, first.stamp, band(3), 0.5)
        with self.assertRaises(hand.Stale) as stale:
            hand.pin_tone(second, second.stamp, band(7), 0.5)
        self.assertIn("changed in another window", str(stale.exception))
        self.assertEqual(len(self.fresh(self.scene).kept["tones"]), 1)
        self.assertEqual(Revision.objects.filter(scene=self.scene).count(), 2)

    def test_a_refused_change_leaves_nothing_behind(self):
        before = (self.scene.stamp, self.scene.document)
        cases = [
            lambda: hand.place_tone(self.scene, None, "A", 5),
            lambda: hand.set_parts(self.scene, None, "camera", camera=CameraPart(aperture="f/7.5")),
            lambda: hand.set_parts(self.scene, None, "medium", medium=MediumPart(dependable=(8, 2))),
            lambda: hand.drop_tone(self.scene, None, "Q"),
        ]
        for case in cases:
            with self.assertRaises(CoreError):
                case()
        after = self.fresh(self.scene)
        self.assertEqual((after.stamp, after.document), before)
        self.assertEqual(Revision.objects.filter(scene=self.scene).count(), 1)

    def test_a_failure_in_the_middle_of_saving_rolls_back_whole(self):
        with self.assertRaises(ZeroDivisionError), transaction.atomic():
            hand.pin_tone(self.scene, None, band(3), 0.5)
            raise ZeroDivisionError
        self.assertEqual(self.fresh(self.scene).document.tones, ())

    def test_an_edit_that_changes_nothing_writes_nothing(self):
        with self.assertNumQueries(2):  # the savepoint of the test's transaction
            hand.change(self.scene, None, "nothing", lambda document: document)
        self.assertEqual(self.fresh(self.scene).stamp, self.scene.stamp)


class TonesAndReadings(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)

    def pinned(self, *zones):
        for zone in zones:
            hand.pin_tone(self.scene, None, band(zone), 0.5)
        return self.scene.kept["tones"]

    def test_a_pin_reads_the_light_and_gets_a_letter_and_a_free_name(self):
        tones = self.pinned(3, 7, 7, 0)
        self.assertEqual([t["mark"] for t in tones], ["A", "B", "C", "D"])
        self.assertEqual([t["readings"][0]["ev100"] for t in tones], [10, 14, 14, 7])
        self.assertEqual(len({t["name"] for t in tones}), 4)

    def test_a_letter_is_free_again_when_its_tone_is_removed(self):
        self.pinned(3, 7)
        hand.drop_tone(self.scene, None, "A")
        self.assertEqual([t["mark"] for t in self.pinned(5)], ["B", "A"])

    def test_a_typed_reading_wins_over_the_picture_and_several_are_averaged(self):
        self.pinned(3)
        for ev in (11.0, 12.0):
            hand.type_reading(self.scene, None, "A", {"ev100": ev})
        tone = self.scene.document.tones[0]
        self.assertEqual(len(tone.readings), 3)
        self.assertEqual([reading_ev(r, self.scene.document) for r in tone.typed_readings], [11.0, 12.0])
        self.assertEqual([r.is_of_picture for r in tone.deciding_readings], [False, False])

    def test_a_removed_reading_comes_back_with_undo(self):
        self.pinned(3)
        hand.type_reading(self.scene, None, "A", {"ev100": 11.0})
        hand.drop_reading(self.scene, None, "A", 1)
        self.assertEqual(len(self.scene.kept["tones"][0]["readings"]), 1)
        hand.undo(self.scene, None)
        self.assertEqual(self.scene.kept["tones"][0]["readings"][1]["ev100"], 11.0)

    def test_a_placing_follows_a_renamed_tone_and_ends_with_a_removed_one(self):
        self.pinned(3, 7)
        hand.place_tone(self.scene, None, "A", 3)
        hand.describe_tone(self.scene, None, "A", name="cellar")
        self.assertEqual(self.scene.kept["placing"]["tone"], "cellar")
        hand.drop_tone(self.scene, None, "A")
        self.assertNotIn("tone", self.scene.kept["placing"])

    def test_two_tones_may_not_share_a_name(self):
        tones = self.pinned(3, 7)
        with self.assertRaises(hand.Refused):
            hand.describe_tone(self.scene, None, "A", name=tones[1]["name"])

    def test_a_scene_holds_forty_tones(self):
        for k in range(MAX_TONES):
            hand.add_tone(self.scene, None, f"tone {k}")
        marks = [t["mark"] for t in self.scene.kept["tones"]]
        self.assertEqual((len(set(marks)), marks[26]), (40, "AA"))
        with self.assertRaises(hand.Refused):
            hand.add_tone(self.scene, None, "one more")


class Light(PageTest):
    def test_without_a_scale_the_first_typed_reading_sets_it_for_all_pins(self):
        scene = scene_with_light(self.person, middle_ev100=None, absolute=False)
        for zone in (3, 7):
            hand.pin_tone(scene, None, band(zone), 0.5)
        self.assertIsNone(spotmeter.light_scale(scene.document, scene.picture))
        self.assertNotIn("ev100", scene.kept["tones"][1]["readings"][0])
        hand.type_reading(scene, None, "A", {"ev100": 9.0})
        self.assertEqual(scene.kept["tones"][1]["readings"][0]["ev100"], 13.0)

    def test_two_typed_readings_fit_the_contrast_too(self):
        scene = scene_with_light(self.person, middle_ev100=12.0, absolute=False)
        for zone in (3, 5, 7):
            hand.pin_tone(scene, None, band(zone), 0.5)
        hand.type_reading(scene, None, "A", {"ev100": 8.0})
        hand.type_reading(scene, None, "C", {"ev100": 14.0})
        scale = spotmeter.light_scale(scene.document, scene.picture)
        self.assertAlmostEqual(scale.slope, 1.5)
        self.assertAlmostEqual(scene.kept["tones"][1]["readings"][0]["ev100"], 11.0)

    def test_a_picture_in_candelas_keeps_its_scale_and_shows_residuals(self):
        scene = scene_with_light(self.person)
        hand.pin_tone(scene, None, band(5), 0.5)
        hand.type_reading(scene, None, "A", {"ev100": 12.5})
        scale = spotmeter.light_scale(scene.document, scene.picture)
        self.assertEqual((scale.offset, scale.residuals), (12.0, (0.5,)))

    def test_another_picture_is_read_at_the_same_pins(self):
        scene = scene_with_light(self.person, middle_ev100=12.0)
        hand.pin_tone(scene, None, band(5), 0.5)
        hand.type_reading(scene, None, "A", {"ev100": 12.3})
        old = scene.picture
        lifecycle.replace_picture(scene_of(self.person, scene.pk), pictures.exr(0.36, white=100), "new.exr")
        scene = self.fresh(scene)
        kinds = [r.get("kind", "spot") for r in scene.kept["tones"][0]["readings"]]
        self.assertEqual(sorted(kinds), ["picture", "spot"])
        self.assertAlmostEqual(scene.kept["tones"][0]["readings"][-1]["stops"], 1, places=2)
        self.assertNotEqual(scene.picture, old)

    def test_undo_after_another_picture_brings_back_the_picture_too(self):
        for pins in (True, False):
            scene = scene_with_light(self.person, middle_ev100=12.0)
            if pins:
                hand.pin_tone(scene, None, band(5), 0.5)
            old = scene.picture
            lifecycle.replace_picture(scene_of(self.person, scene.pk), pictures.exr(0.36, white=100), "new.exr")
            new = self.fresh(scene).picture
            hand.undo(self.fresh(scene), None)
            self.assertEqual(self.fresh(scene).picture, old)
            self.assertTrue(old.path.exists())
            hand.redo(self.fresh(scene), None)
            self.assertEqual(self.fresh(scene).picture, new)

    def test_two_replacements_of_one_picture_at_once_both_count(self):
        scene = scene_with_light(self.person, middle_ev100=12.0)
        first, second = scene_of(self.person, scene.pk), scene_of(self.person, scene.pk)
        lifecycle.replace_picture(first, pictures.exr(0.36, white=100), "one.exr")
        lifecycle.replace_picture(second, pictures.exr(0.36, white=100), "two.exr")
        self.assertEqual(self.fresh(scene).picture.original_name, "two.exr")
        hand.undo(self.fresh(scene), None)
        self.assertEqual(self.fresh(scene).picture.original_name, "one.exr")


class MakingScenes(PageTest):
    def test_a_refused_picture_leaves_no_scene_and_no_file(self):
        for data in (b"", b"not a picture"):
            with self.assertRaises(CoreError):
                lifecycle.new_scene(self.person, "Yard", data=data, filename="x.jpg")
        self.assertEqual((Scene.objects.count(), Picture.objects.count()), (0, 0))

    def test_a_scene_file_comes_in_with_letters_and_goes_out_the_same(self):
        text = '{"format": "dimgrey-scene", "version": 1, "title": "Kiln", "tones": [{"name": "a", "ev100": 9}, {"name": "b", "mark": "A"}]}'
        scene = lifecycle.import_scene(self.person, text)
        self.assertEqual([t["mark"] for t in scene.kept["tones"]], ["B", "A"])
        self.assertEqual(scene.title, "Kiln")

    def test_a_refused_scene_file_leaves_nothing(self):
        with self.assertRaises(DocumentError):
            lifecycle.import_scene(self.person, '{"format": "dimgrey-scene", "version": 1, "x": 1}')
        self.assertEqual(Scene.objects.count(), 0)

    def test_the_database_is_sqlite_with_foreign_keys(self):
        with connection.cursor() as cursor:
            self.assertEqual(cursor.execute("PRAGMA foreign_keys").fetchone()[0], 1)
