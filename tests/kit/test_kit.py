"""The kit over HTTP: items, names that are taken, retiring, import with clashes, and use on a scene."""

import json

from django.core.files.uploadedfile import SimpleUploadedFile

from dimgrey.kit import actions
from dimgrey.kit.drawings import drawing_of
from dimgrey.kit.models import Item
from dimgrey.scenes import lifecycle
from dimgrey.site.config import ROOT
from tests.documents import document
from tests.helpers import PageTest


class Kit(PageTest):
    def film(self, **values):
        return actions.keep_item(
            self.person, "film", "Sheet film", {"iso": "80", "development": "N-2 6 +2/3, N 9", **values}
        )

    def test_an_item_is_made_changed_and_drawn(self):
        self.client.post(
            "/kit/new/lens", {"name": "Zoom", "focal_min_mm": "24", "focal_max_mm": "70", "f_min": "f4", "f_max": "22"}
        )
        item = Item.objects.get()
        self.assertEqual((item.values["f_min"], item.values["focal_max_mm"]), ("f/4", 70.0))
        self.client.post(
            f"/kit/{item.pk}/",
            {"name": "Zoom II", "focal_min_mm": "28", "focal_max_mm": "70", "f_min": "f/4", "f_max": "f/22"},
        )
        item.refresh_from_db()
        self.assertEqual((item.name, item.values["focal_min_mm"]), ("Zoom II", 28.0))
        self.assertContains(self.client.get(f"/kit/{item.pk}/"), "Focal length, mm")
        self.assertContains(self.client.get(f"/kit/{self.film(exponent='1.3').pk}/"), "given for metered time")

    def test_the_page_shows_each_item_with_its_drawing_and_facts(self):
        actions.import_items(self.person, (ROOT / "demo" / "kit.json").read_text(encoding="utf-8"))
        actions.keep_item(self.person, "surface", "Slip", {"zone": "7"})
        page = self.client.get("/kit/").content.decode()
        for fact in (
            "film, 121 × 97 mm", "1/500 to 1s in halves", "24 to 70 mm", "f/4 to f/22, from 0.4 m", "150 mm<",
            "negative, ISO 80, rated 125, fine grain", "developed N-2 to N+2", "holds texture III½ to VI½", "factor 4 on its rim",
            "10 stops", "spot, 1°", "usually goes on VII", "stabiliser 4 stops", "sees like extended red",
        ):  # fmt: skip
            self.assertIn(fact, page)
        self.assertEqual(page.count('viewBox="-6 -6 372'), sum(1 for row in Item.objects.all() if drawing_of(row.item)))

    def test_a_refused_item_says_why_under_its_field_and_keeps_what_was_typed(self):
        answer = self.client.post("/kit/new/lens", {"name": "Zoom", "focal_min_mm": "70", "focal_max_mm": "24"})
        self.assertContains(answer, "the longest focal length (24 mm) is below the shortest (70 mm).", status_code=422)
        self.assertContains(answer, 'value="24"', status_code=422)
        self.film()
        answer = self.client.post("/kit/new/film", {"name": "Sheet film"})
        self.assertContains(answer, "There is a film “Sheet film” already.", status_code=422)
        self.assertEqual(Item.objects.count(), 1)

    def test_what_plans_use_is_retired_and_the_rest_deleted(self):
        film, other = self.film(), actions.keep_item(self.person, "film", "Other", {})
        scene = lifecycle.new_scene(self.person, "Yard")
        self.act(scene, "kit", film="Sheet film")
        self.assertEqual(self.fresh(scene).kept["kit"], {"film": "Sheet film"})
        self.client.post(f"/kit/{film.pk}/retire")
        self.client.post(f"/kit/{other.pk}/retire")
        film.refresh_from_db()
        self.assertTrue(film.retired)
        self.assertFalse(Item.objects.filter(name="Other").exists())
        self.assertEqual(self.fresh(scene).kept["medium"]["iso"], 80, "the plan keeps its copy")
        self.assertNotContains(self.client.get(f"/scenes/{scene.pk}/edit/camera"), "<option>Sheet film</option>")
        self.client.post(f"/kit/{film.pk}/retire", {"back": "yes"})
        film.refresh_from_db()
        self.assertFalse(film.retired)

    def test_a_gone_item_is_refused_by_name(self):
        scene = lifecycle.new_scene(self.person, "Yard")
        self.assertContains(
            self.act(scene, "kit", camera="Old box"), "The kit has no longer the camera “Old box”.", status_code=422
        )
        self.assertContains(
            self.act(scene, "kit-filter", filter="Pink"), "The kit has no filter “Pink” any more.", status_code=422
        )

    def test_a_filter_of_the_kit_replaces_one_of_its_kind(self):
        actions.keep_item(self.person, "filter", "Orange 4x", {"glass": "orange", "factor": "4"})
        actions.keep_item(self.person, "filter", "Grey", {"glass": "nd", "stops": "10"})
        scene = lifecycle.create_scene(
            self.person,
            document(title="Yard", filters=[{"name": "red"}, {"name": "nd", "stops": 3}]),
        )
        self.act(scene, "kit-filter", filter="Orange 4x")
        self.assertEqual(
            self.fresh(scene).kept["filters"], [{"name": "orange", "factor": 4.0}, {"name": "nd", "stops": 3}]
        )
        self.act(scene, "kit-filter", filter="Grey")
        self.assertEqual(
            self.fresh(scene).kept["filters"], [{"name": "nd", "stops": 10.0}, {"name": "orange", "factor": 4.0}]
        )

    def test_duplicates_get_a_free_name(self):
        film = self.film()
        self.client.post(f"/kit/{film.pk}/duplicate")
        self.client.post(f"/kit/{film.pk}/duplicate")
        self.assertEqual(
            set(Item.objects.values_list("name", flat=True)), {"Sheet film", "Sheet film (2)", "Sheet film (3)"}
        )

    def test_a_kit_goes_out_comes_in_and_clashes_become_copies(self):
        self.film()
        text = self.client.get("/kit/kit.json").content
        send = lambda data: self.client.post("/kit/import", {"file": SimpleUploadedFile("kit.json", data)})
        self.assertContains(send(text), "0 new, 1 were there already.")
        changed = json.loads(text)
        changed["items"][0]["iso"] = "100"
        self.assertContains(send(json.dumps(changed).encode()), "1 under a taken name came in as copies")
        self.assertEqual(Item.objects.count(), 2)
        changed["items"][0]["speed"] = 3
        self.assertContains(send(json.dumps(changed).encode()), "items[0].speed: unknown key.", status_code=422)
        self.assertContains(send(b"\xff\xfe"), "The file is not text.", status_code=422)
        self.assertEqual(Item.objects.count(), 2)

    def test_the_demo_kit_fits(self):
        new, passed, renamed = actions.import_items(self.person, (ROOT / "demo/kit.json").read_text(encoding="utf-8"))
        self.assertEqual((new, passed, renamed), (18, 0, 0))
        for item in Item.objects.all():
            self.assertEqual(self.client.get(f"/kit/{item.pk}/").status_code, 200)

    def test_the_kit_of_another_is_not_there(self):
        item = actions.keep_item(self.other(), "film", "Secret", {})
        self.assertEqual(self.client.get(f"/kit/{item.pk}/").status_code, 404)
        for path in ("duplicate", "retire"):
            self.assertEqual(self.client.post(f"/kit/{item.pk}/{path}").status_code, 404)
        self.assertNotContains(self.client.get("/kit/"), "Secret")
        scene = lifecycle.new_scene(self.person, "Yard")
        self.assertEqual(self.act(scene, "kit", film="Secret").status_code, 422)
