"""A picture without exposure data asks one question, and has a scale."""

from PIL import Image

from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from tests import hand, picturefiles
from tests.helpers import PageTest


class Asked(PageTest):
    def scene(self, data=None):
        scene = lifecycle.new_scene(self.person, "Yard", data=data or picturefiles.jpeg(600, 400), filename="yard.jpg")
        return Scene.objects.get(pk=scene.pk)

    def act(self, scene, verb, **said):
        stamp = Scene.objects.get(pk=scene.pk).stamp
        return self.client.post(
            f"/scenes/{scene.pk}/do/{verb}", {"stamp": stamp, **said}, headers={"HX-Request": "true"}
        )

    def test_one_answer_gives_every_pin_an_ev_and_is_told_as_a_guess(self):
        scene = self.scene()
        hand.pin_tone(scene, None, 0.6, 0.5)
        page = self.client.get(f"/scenes/{scene.pk}/")
        self.assertContains(page, "<b>Taken in</b>")
        answer = self.act(scene, "taken-in", light="sun")
        self.assertNotContains(answer, "<b>Taken in</b>")
        self.assertContains(answer, "A guess from “sun”, good to 1 stop")
        written = Scene.objects.get(pk=scene.pk).document
        self.assertIsNotNone(written.tones[0].readings[0].ev100)
        placed = self.act(scene, "place", mark="A", print="5")
        self.assertContains(placed, "Read one tone with a meter.")
        card = self.client.get(f"/scenes/{scene.pk}/card")
        self.assertContains(card, "guess from “sun”")
        # A reading takes its place, and nothing is a guess any more.
        self.assertNotContains(self.act(scene, "read", mark="A", reading="12", sure="on"), "guess from")
        for _ in range(3):
            self.act(scene, "undo")
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/"), "<b>Taken in</b>")

    def test_it_is_asked_only_where_nothing_else_says_it(self):
        for data in (picturefiles.jpeg(600, 400, exif=picturefiles.exif()), picturefiles.exr(0.36, white=100)):
            self.assertNotContains(self.client.get(f"/scenes/{self.scene(data).pk}/"), "<b>Taken in</b>")
        bare = lifecycle.new_scene(self.person, "Bare")
        self.assertNotContains(self.client.get(f"/scenes/{bare.pk}/"), "<b>Taken in</b>")
        self.assertContains(self.act(bare, "taken-in", light="sun"), "no picture whose light", status_code=422)

    def test_a_picture_of_nothing_says_what_to_do(self):
        for level in (0, 255):
            scene = self.scene(picturefiles.saved(Image.new("L", (300, 200), level), "PNG"))
            answer = self.act(scene, "taken-in", light="haze")
            self.assertContains(answer, "Type a reading at one pin.", status_code=422)

    def test_another_picture_is_asked_about_anew(self):
        scene = self.scene()
        self.act(scene, "taken-in", light="sun")
        lifecycle.replace_picture(Scene.objects.get(pk=scene.pk), picturefiles.png(), "other.png")
        self.assertContains(self.client.get(f"/scenes/{scene.pk}/"), "<b>Taken in</b>")
