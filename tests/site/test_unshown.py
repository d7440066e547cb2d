"""A scene that cannot be shown, of whatever cause, takes nothing else down and can leave."""

from dimgrey.outings.actions import create_outing
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from tests.documents import document
from tests.helpers import PageTest


class Unshown(PageTest):
    def test_home_outing_setups_and_field_stand_and_offer_export_and_removal(self):
        self.client.raise_request_exception = False
        outing = create_outing(self.person, "Yard", zone="UTC")
        good = lifecycle.create_scene(self.person, document(title="Good"), outing)
        for k, wrong in enumerate(
            ({"medium": {"kind": "soup"}}, {"tones": 5}, {"version": "x"}, {"lens": {"focal_35mm": "a"}})
        ):
            bad = lifecycle.create_scene(self.person, document(title=f"Bad {k}"), outing if k % 2 else None)
            Scene.objects.filter(pk=bad.pk).update(kept={**bad.kept, **wrong})
            with self.subTest(wrong=wrong), self.assertLogs("dimgrey", "ERROR"):
                home = self.client.get("/")
                self.assertContains(home, "Cannot be shown")
                self.assertContains(home, f"/scenes/{bad.pk}/scene.json")
                self.assertContains(home, f"/scenes/{good.pk}/")
                for page in (
                    f"/outings/{outing.pk}/",
                    "/setups/new",
                    "/field/hello",
                    f"/field/outings/{outing.pk}.json",
                ):
                    self.assertEqual(self.client.get(page).status_code, 200, page)
                desk = self.client.get(f"/scenes/{bad.pk}/")
                self.assertContains(desk, "cannot be shown", status_code=422)
                self.assertEqual(self.client.get(f"/scenes/{bad.pk}/scene.json").json()["title"], f"Bad {k}")
                self.client.post(f"/scenes/{bad.pk}/remove")
                self.assertNotContains(self.client.get("/"), f"/scenes/{bad.pk}/scene.json")
