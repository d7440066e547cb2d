"""What was removed goes for good after thirty days, or at once when asked; nothing else does."""

from datetime import timedelta

from django.core.management import call_command
from django.utils import timezone

from dimgrey.frames.actions import log_frame
from dimgrey.frames.models import Frame
from dimgrey.outings.actions import create_outing, set_removed
from dimgrey.outings.models import Outing
from dimgrey.pictures.models import Picture
from dimgrey.safekeeping.freeing import KEPT_FOR, free
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from dimgrey.scenes.queries import scene_of
from tests import hand
from tests import picturefiles as pictures
from tests.documents import document
from tests.helpers import PageTest, scene_with_light

TOKEN = "00000000-0000-4000-8000-000000000007"


class Removed(PageTest):
    def soon(self, days):
        return timezone.now() + timedelta(days=days)

    def test_a_removed_scene_is_kept_thirty_days_and_then_freed_with_its_picture(self):
        scene = scene_with_light(
            self.person, tones=[{"name": "wall", "readings": [{"ev100": 12}]}], placing={"tone": "wall", "zone": 7}
        )
        frame = log_frame(self.person, scene, TOKEN)
        stays = scene_with_light(self.person)
        lifecycle.set_removed(self.person, scene.pk, True)
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(free(now=self.soon(KEPT_FOR.days - 1)).scenes, 0)
            self.assertTrue(scene.picture.path.exists())
            self.assertEqual(free(now=self.soon(KEPT_FOR.days + 1)).scenes, 1)
        self.assertFalse(scene.picture.path.exists())
        self.assertTrue(stays.picture.path.exists())
        self.assertEqual(Frame.objects.get(pk=frame.pk).frozen.placing.tone, "wall", "the log keeps what was exposed")

    def test_one_brought_back_and_removed_again_has_its_time_anew(self):
        scene = scene_with_light(self.person)
        lifecycle.set_removed(self.person, scene.pk, True)
        Scene.objects.filter(pk=scene.pk).update(removed_at=timezone.now() - timedelta(days=40))
        lifecycle.set_removed(self.person, scene.pk, False)
        self.assertEqual(free().scenes, 0)
        lifecycle.set_removed(self.person, scene.pk, True)
        self.assertEqual(free().scenes, 0)

    def test_an_outing_takes_its_scenes_along(self):
        outing = create_outing(self.person, "Yard")
        lifecycle.create_scene(self.person, document(title="Kiln"), outing)
        set_removed(self.person, outing.pk, True)
        freed = free(now=self.soon(31))
        self.assertEqual((freed.outings, freed.scenes), (1, 1))
        self.assertFalse(Outing.objects.exists() or Scene.objects.exists())

    def test_another_picture_can_be_undone_for_thirty_days(self):
        scene = scene_with_light(self.person)
        old = scene.picture
        lifecycle.replace_picture(scene_of(self.person, scene.pk), pictures.exr(0.36, white=100), "new.exr")
        with self.captureOnCommitCallbacks(execute=True):
            self.assertEqual(free(now=self.soon(29)).pictures, 0)
            self.assertEqual(free(now=self.soon(31)).pictures, 1)
        self.assertFalse(old.path.exists())
        hand.undo(self.fresh(scene), None)
        now = self.fresh(scene)
        self.assertEqual(now.picture, Picture.objects.get(), "undone, it shows the picture that is there")
        self.assertEqual(self.client.get(f"/scenes/{now.pk}/").status_code, 200)

    def test_a_picture_that_was_undone_to_stays(self):
        scene = scene_with_light(self.person)
        lifecycle.replace_picture(scene_of(self.person, scene.pk), pictures.exr(0.36, white=100), "new.exr")
        hand.undo(self.fresh(scene), None)
        free(now=self.soon(31))
        self.assertEqual(self.fresh(scene).picture, scene.picture)

    def test_at_once_when_asked_and_only_ones_own(self):
        other = self.other()
        mine, theirs = scene_with_light(self.person), scene_with_light(other)
        for scene in (mine, theirs):
            lifecycle.set_removed(scene.owner, scene.pk, True)
        self.assertContains(self.client.get("/removed/"), "Delete all of it now")
        self.assertRedirects(self.client.post("/removed/free"), "/removed/")
        self.assertEqual(list(Scene.objects.all()), [theirs])

    def test_the_daily_run(self):
        scene = scene_with_light(self.person)
        lifecycle.set_removed(self.person, scene.pk, True)
        Scene.objects.update(removed_at=timezone.now() - timedelta(days=31))
        call_command("tidy")
        self.assertFalse(Scene.objects.exists())
