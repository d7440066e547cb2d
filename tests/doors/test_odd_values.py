"""Values that once broke a page: each is refused in a sentence, and every page still stands."""

import json
import uuid

from dimgrey.core.acts.verb import verb_names
from dimgrey.kit.queries import items_of
from tests.doors.door import DoorTest
from tests.helpers import scene_with_light

NO_NUMBERS = ("inf", "-inf", "nan", "1e999")


class Numbers(DoorTest):
    def test_no_row_of_a_film_holds_what_is_no_number(self):
        for value in NO_NUMBERS:
            for name, sent in (("table", f"4:6, 15:{value}"), ("table", f"{value}:6")):
                with self.subTest(value, field=name):
                    answer = self.client.post("/kit/new/film", {"name": f"Film {value}", name: sent})
                    self.require_whole(value, answer, refused=True)
            with self.subTest(value, field="limits"):
                answer = self.client.post("/kit/new/camera", {"name": f"Camera {value}", "limits": f"100: {value}/4"})
                self.require_whole(value, answer)
        self.assertEqual([item.name for item in items_of(self.person) if item.kind == "film"], [])


class WithoutLamps(DoorTest):
    def test_acts_on_lamps_of_a_scene_that_has_none(self):
        """As in a tab that still shows the light plan that another tab took back."""
        scene = scene_with_light(self.person)
        lamps = [name for name in verb_names() if name.startswith(("light-", "lamp"))]
        self.assertGreater(len(lamps), 8)
        values = {
            "lamp": "1",
            "tone": "A",
            "place": "face",
            "wish": "II-III",
            "stops": "1",
            "kind": "bulb",
            "name": "x",
        }
        for name in lamps:
            for sent in ({}, values, {"pattern": "three-quarter"}, {"subject": "sitter"}):
                for page in ("", "light-plan"):
                    with self.subTest(name, sent=sent, page=page):
                        answer = self.client.post(f"/scenes/{scene.pk}/do/{name}", {**sent, "page": page})
                        self.assertLess(answer.status_code, 500, answer.content[:200])
                        self.client.post(f"/scenes/{scene.pk}/do/undo", {})
                        listed = json.dumps([{"verb": name, "act": str(uuid.uuid4()), **sent}])
                        answer = self.client.post(f"/scenes/{scene.pk}/do", {"acts": listed})
                        self.assertLess(answer.status_code, 500, answer.content[:200])
                        self.client.post(f"/scenes/{scene.pk}/do/undo", {})
        for address in (
            "light-plan",
            "light-plan.pdf",
            "light-plan/preview-x.jpg",
            "light-plan/kept-0-x.jpg",
            "light-plan/compare",
        ):
            with self.subTest(address):
                self.assertLess(self.client.get(f"/scenes/{scene.pk}/{address}").status_code, 500)
        self.require_whole("after all of them", self.client.get("/"))


class PracticeAnswers(DoorTest):
    GOOD = {
        "act": "00000000-0000-4000-8000-000000000001", "kind": "zone", "subject": "coal", "off": 0.5, "is_right": True,
        "in_stops": False, "level": 1, "at": "2026-09-01T10:00:00+00:00",
    }  # fmt: skip

    def test_answers_that_no_round_gives(self):
        odd = (
            ["x"],
            {"a": 1},
            None,
            True,
            1e400,
            "0001-01-01T00:00:00+00:00",
            "9999-12-31T23:59:59-12:00",
            "\0",
            "",
            -1,
        )
        for key in self.GOOD:
            for value in odd:
                with self.subTest(key, value=value):
                    sent = json.dumps({"answers": [{**self.GOOD, "act": str(uuid.uuid4()), key: value}]})
                    answer = self.client.post("/practice/answers", {"answers": json.dumps([{**self.GOOD, key: value}])})
                    self.assertLess(answer.status_code, 500, answer.content[:200])
                    answer = self.client.post("/practice/answers", sent, content_type="application/json")
                    self.assertLess(answer.status_code, 500, answer.content[:200])
        for address in ("/practice/", "/practice/week", "/practice/month", "/practice/patterns"):
            self.assertLess(self.client.get(address).status_code, 500, address)


class Back(DoorTest):
    def test_a_way_back_that_is_no_page_leads_home(self):
        for back in ("1", "home", "[x", "//evil.example/", "https://evil.example/", "\\\\evil.example", "", "frames/"):
            with self.subTest(back):
                answer = self.client.post("/look", {"surround": "dark", "back": back})
                self.assertEqual((answer.status_code, answer["Location"]), (302, "/"))
        self.assertEqual(self.client.post("/look", {"back": "/frames/?page=2"})["Location"], "/frames/?page=2")
