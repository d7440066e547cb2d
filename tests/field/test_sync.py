"""Acts come home exactly once, in their order, whatever breaks; two devices are joined where they do not meet."""

import json
import random
import uuid
from datetime import UTC, datetime, timedelta
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from dimgrey.core.colour import chainterms
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.plainform import document_of
from dimgrey.core.field import entry
from dimgrey.field.bundle import kit_of, scene_of
from dimgrey.frames.models import Frame
from dimgrey.kit.actions import import_items
from dimgrey.outings.actions import create_outing
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Revision, Scene
from dimgrey.scenes.situation import Situation
from dimgrey.site.config import ROOT
from tests import hand, picturefiles
from tests.documents import document
from tests.helpers import PageTest
from tests.share import many, share_of

TONES = [
    {"name": "coal", "role": "shadow", "ev100": 8, "colour": [0.05, 0.05, 0.05]},
    {"name": "lime wall", "role": "highlight", "ev100": 14, "colour": [0.6, 0.58, 0.55]},
    {"name": "ivy", "role": "background", "ev100": 11, "colour": [0.06, 0.11, 0.04]},
]
START = datetime(2026, 9, 1, 10, tzinfo=UTC)


def acts_of_a_day():
    """What a hand does on a day, in order: readings, placings, filters, light, frames."""
    done = [
        ("read", {"mark": "A", "reading": "8⅓"}),
        ("place", {"mark": "A", "zone": "3"}),
        ("log", {"shutter": "1/15", "aperture": "f/8", "note": "first"}),
        ("colour-choice", {"choice": "orange"}),
        ("shift", {"stops": "-1/3"}),
        ("add-tone", {"name": "cloud", "reading": "15"}),
        ("log", {"shutter": "1/4", "aperture": "f/16"}),
        ("setting", {"lead": "aperture", "value": "f/11"}),
        ("place", {"mark": "B", "print": "7"}),
        ("log", {}),
        ("kit-filter", {"filter": "Red, rim 8x"}),
        ("filter", {}),
        ("kit-filter", {"filter": "Grey 10 stops"}),
        ("wish", {"mark": "C", "wish": "II-III"}),
        ("read", {"mark": "B", "reading": "14", "replace": "on"}),
        ("take-guess", {"mark": ""}),
        ("tone", {"mark": "C", "name": "ivy, shaded", "role": "background"}),
        ("shift", {"stops": "1/3", "only": ""}),
        ("drop-tone", {"mark": "D"}),
    ]
    return [
        {"verb": verb, "act": str(uuid.UUID(int=k + 1)), "at": (START + timedelta(minutes=k)).isoformat(), **values}
        for k, (verb, values) in enumerate(done)
    ]


class Field(PageTest):
    def setUp(self):
        super().setUp()
        import_items(self.person, (ROOT / "demo/kit.json").read_text(encoding="utf-8"))
        self.outing = create_outing(self.person, "Tannet Yard")
        self.scene = self.made()

    def made(self):
        written = document(title="Kiln", medium={"kind": "film", "iso": 100}, tones=TONES)
        return lifecycle.create_scene(self.person, written, self.outing)

    def home(self, acts, base=None, own=(), scene=None, status=200):
        scene = scene or self.scene
        body = {"base": base, "own": list(own), "acts": acts}
        answer = self.client.post(
            reverse("field-acts", args=[scene.pk]), json.dumps(body), content_type="application/json"
        )
        self.assertEqual(answer.status_code, status, answer.content[:300])
        return answer.json()

    def states(self, answer):
        return [each["state"] for each in answer["acts"]]


class SameActs(Field):
    def test_what_the_phone_makes_of_a_day_is_what_the_desk_makes_of_it(self):
        """Every verb, act by act: the document on the phone and the one that is kept at home."""
        self.addCleanup(chainterms.drop)
        situation = Situation(self.fresh(self.scene))
        entry.lay_in(json.dumps(kit_of(self.person, [situation])))
        entry.open_scene("1", json.dumps(scene_of(situation)))
        acts = acts_of_a_day()
        phones = []
        for k in range(len(acts)):
            answer = json.loads(entry.told("1", json.dumps({"acts": acts[: k + 1]})))
            self.assertEqual(answer["refused"], {})
            phones.append(answer["document"])
        chainterms.drop()
        base = self.scene.head_id
        for k, act in enumerate(acts):
            answer = self.home([act], base, [each["act"] for each in acts[:k]])
            with self.subTest(act["verb"]):
                self.assertEqual(self.states(answer), ["kept"], answer["acts"])
                self.assertEqual(document_of(phones[k]), self.fresh(self.scene).document)
        self.assertEqual(list(Frame.objects.order_by("number").values_list("shutter", "aperture", "note")),
                         [("1/15", "f/8", "first"), ("1/4", "f/16", ""), ("1/10", "f/11", "")])  # fmt: skip


class Once(Field):
    def test_sent_twice_is_done_once(self):
        acts = acts_of_a_day()
        first, again = self.home(acts, self.scene.head_id), self.home(acts, self.scene.head_id)
        self.assertEqual(self.states(first), self.states(again))
        self.assertEqual(
            (Frame.objects.count(), Revision.objects.filter(act__isnull=False).count()), (3, len(acts) - 4)
        )

    @many
    def test_random_orders_of_break_kill_and_reload(self):
        """Below the interface: answers that are lost, phones that forget what they were told, lists that are cut anywhere."""
        day = acts_of_a_day()
        acts = [day[k] for k in (0, 1, 2, 4, 6)]
        for seed in share_of(range(500), "orders"):
            rng = random.Random(seed)
            self.assertEqual(self.a_day_of_breaks(rng, acts), (2, 3), seed)

    def a_day_of_breaks(self, rng, acts):
        """(frames, revisions by acts) on the server after a day."""
        from dimgrey.field.sync import take_in_acts

        Frame.objects.all().delete()
        Scene.objects.all().delete()
        scene = self.made()
        base, waiting, kept = scene.head_id, list(acts), []
        while waiting:
            cut = waiting[: rng.randint(1, 3)]
            answers = take_in_acts(self.person, scene.pk, base, kept, cut)
            self.assertEqual({each["state"] for each in answers}, {"kept"})
            if rng.random() < 0.3:
                continue  # the answer was lost, or the phone was killed before it wrote it down: all of it is sent again
            told = answers[: rng.randint(1, len(answers))] if rng.random() < 0.2 else answers
            kept += [each["act"] for each in told]
            waiting = [act for act in waiting if act["act"] not in kept]
            if rng.random() < 0.5:
                base = Scene.objects.get(pk=scene.pk).head_id  # it took the scene anew with the answer
        return Frame.objects.count(), Revision.objects.filter(act__isnull=False).count()

    def test_a_server_that_came_back_from_an_older_backup_asks_again(self):
        acts = acts_of_a_day()
        self.home(acts[:3], self.scene.head_id)
        ids = [act["act"] for act in acts[:5]]
        answer = self.client.post(
            reverse("field-known", args=[self.scene.pk]), json.dumps({"acts": ids}), content_type="application/json"
        )
        self.assertEqual(answer.json()["missing"], ids[3:])

    def test_500_acts_at_once_and_no_more(self):
        many = [
            {"verb": "shift", "act": str(uuid.uuid4()), "at": START.isoformat(), "stops": "1/3"} for _ in range(501)
        ]
        self.assertIn("at most 500", self.home(many, status=422)["problem"])
        for k, act in enumerate(many[:500]):
            act["stops"] = "1/3" if k % 2 else "-1/3"
        self.assertEqual(set(self.states(self.home(many[:500], self.scene.head_id))), {"kept"})

    def test_an_act_that_changes_nothing_is_done_and_known(self):
        placed = hand.place_tone(self.fresh(self.scene), None, "A", 3)
        act = {"verb": "place", "act": str(uuid.uuid4()), "at": START.isoformat(), "mark": "A", "zone": "3"}
        self.assertEqual(self.states(self.home([act], placed.head_id)), ["kept"])
        hand.place_tone(self.fresh(self.scene), None, "A", 5)
        asked = json.dumps({"acts": [act["act"]]})
        answer = self.client.post(reverse("field-known", args=[self.scene.pk]), asked, content_type="application/json")
        self.assertEqual(answer.json()["missing"], [])
        self.home([act], placed.head_id)
        self.assertEqual(self.fresh(self.scene).document.placing.zone, 5, "what the desk did since stands")


class Joined(Field):
    def at_the_desk(self, edit):
        edit(self.fresh(self.scene))

    def test_another_tone_at_the_desk_is_joined(self):
        base = self.scene.head_id
        self.at_the_desk(lambda scene: hand.describe_tone(scene, None, "B", name="white wall"))
        acts = [{"verb": "tone", "act": str(uuid.uuid4()), "at": START.isoformat(), "mark": "A", "name": "clinker"}]
        self.assertEqual(self.states(self.home(acts, base)), ["kept"])
        self.assertEqual(self.fresh(self.scene).document.names, ("clinker", "white wall", "ivy"))

    def test_the_same_tone_at_the_desk_is_shown_side_by_side_and_not_overwritten(self):
        base = self.scene.head_id
        self.at_the_desk(lambda scene: hand.describe_tone(scene, None, "A", name="soot"))
        acts = [{"verb": "tone", "act": str(uuid.uuid4()), "at": START.isoformat(), "mark": "A", "name": "clinker"}]
        answer = self.home(acts, base)["acts"][0]
        self.assertEqual((answer["state"], answer["theirs"]), ("stale", "A soot"))
        self.assertIn("The desk changed A soot too", answer["sentence"])
        self.assertEqual(self.fresh(self.scene).document.names[0], "soot")

    def test_readings_of_the_same_tone_are_both_kept(self):
        base = self.scene.head_id
        typed = {"ev100": 8.0, "kind": "spot"}
        self.at_the_desk(lambda scene: hand.type_reading(scene, None, "C", typed))
        acts = [{"verb": "read", "act": str(uuid.uuid4()), "at": START.isoformat(), "mark": "C", "reading": "8"}]
        self.assertEqual(self.states(self.home(acts, base)), ["kept"])
        self.assertEqual(len(self.fresh(self.scene).document.tone("C").readings), 2)

    def test_steps_of_light_add_up(self):
        base = self.scene.head_id
        self.at_the_desk(lambda scene: hand.shift_light(scene, None, -1.0))
        acts = [{"verb": "shift", "act": str(uuid.uuid4()), "at": START.isoformat(), "stops": "-1/3"}]
        self.assertEqual(self.states(self.home(acts, base)), ["kept"])
        coal = brief_of(self.fresh(self.scene).document).tones[0]
        self.assertAlmostEqual(coal.ev100, 8 - 4 / 3, places=3)

    def test_what_the_phone_did_before_is_no_stranger_to_it(self):
        base = self.scene.head_id
        place = lambda zone: {
            "verb": "place",
            "act": str(uuid.uuid4()),
            "at": START.isoformat(),
            "mark": "A",
            "zone": zone,
        }
        first, second = place("3"), place("4")
        self.home([first], base)
        # The answer was lost in part: the phone knows the first as kept, and still stands on the old revision.
        self.assertEqual(self.states(self.home([second], base, [first["act"]])), ["kept"])
        self.assertEqual(self.fresh(self.scene).document.placing.zone, 4)

    def test_what_was_taken_back_at_the_desk_counts_as_touched(self):
        placed = hand.place_tone(self.fresh(self.scene), None, "A", 3)
        base = placed.head_id
        hand.undo(self.fresh(self.scene), None)
        acts = [{"verb": "place", "act": str(uuid.uuid4()), "at": START.isoformat(), "mark": "A", "zone": "5"}]
        self.assertEqual(self.states(self.home(acts, base)), ["stale"])

    def test_a_step_is_taken_back_only_where_nothing_came_between(self):
        placed = hand.place_tone(self.fresh(self.scene), None, "A", 3)
        undo = {"verb": "undo", "act": str(uuid.uuid4()), "at": START.isoformat()}
        self.assertEqual(self.states(self.home([undo], self.scene.head_id)), ["stale"])
        self.assertEqual(self.states(self.home([{**undo, "act": str(uuid.uuid4())}], placed.head_id)), ["kept"])
        self.assertIsNone(self.fresh(self.scene).document.placing.zone)


class Doors(Field):
    def test_bad_acts_come_back_with_their_sentence_and_the_others_are_done(self):
        good, later = acts_of_a_day()[0], (datetime.now(UTC) + timedelta(hours=3)).isoformat()
        bad = [
            ({"verb": "fly"}, "There is no act “fly”"),
            ({"verb": "place", "mark": "Z", "zone": "4"}, "no tone Z"),
            ({"verb": "read", "mark": "A", "reading": "1/125"}, "time without an aperture"),
            ({"verb": "read", "mark": "A", "reading": "8", "at": later}, "has not come yet"),
            ({"verb": "log", "at": "9999-12-31T10:00:00+00:00"}, "none that pictures were made in"),
            ({"verb": "log", "at": "0001-01-01T10:00:00+00:00"}, "none that pictures were made in"),
            ({"verb": "log", "at": "1970-01-01T10:00:00+00:00"}, "before 2000"),
            ({"verb": "log", "shutter": "soon"}, "soon"),
        ]
        made = [{"act": str(uuid.uuid4()), "at": START.isoformat(), **values} for values, _ in bad]
        answer = self.home([*made, good], self.scene.head_id)
        for said, (values, sentence) in zip(answer["acts"], bad, strict=False):
            with self.subTest(values["verb"]):
                self.assertEqual(said["state"], "refused", said)
                self.assertIn(sentence, said["sentence"])
        self.assertEqual(self.states(answer)[-1], "kept")

    def test_bodies_that_are_none(self):
        address = reverse("field-acts", args=[self.scene.pk])
        for body in (
            "",
            "[]",
            "{}",
            '{"acts": 3}',
            '{"acts": [{"verb": 1}]}',
            '{"acts": [{"verb": "log", "act": "x"}]}',
            "[" * 9000,
        ):
            with self.subTest(body[:20]):
                answer = self.client.post(address, body, content_type="application/json")
                self.assertEqual(answer.status_code, 422)
                self.assertIn("problem", answer.json())
        self.assertEqual(Revision.objects.filter(scene=self.scene).count(), 1)

    def test_what_belongs_to_others_is_not_there(self):
        theirs = create_outing(self.other(), "Elsewhere")
        self.assertEqual(self.client.get(reverse("field-outing", args=[theirs.pk])).status_code, 404)
        scene = lifecycle.create_scene(theirs.owner, document(title="x"), theirs)
        for name in ("field-acts", "field-known"):
            answer = self.client.post(reverse(name, args=[scene.pk]), "{}", content_type="application/json")
            self.assertEqual(answer.status_code, 404)
        self.assertEqual(
            [each["pk"] for each in self.client.get(reverse("field-hello")).json()["outings"]], [self.outing.pk]
        )

    def test_an_outing_is_taken_along_with_what_its_pages_show(self):
        answer = self.client.get(reverse("field-outing", args=[self.outing.pk])).json()
        self.assertEqual([scene["title"] for scene in answer["scenes"]], ["Kiln"])
        self.assertIn("Red, rim 8x", [each["name"] for each in answer["kit"]["filters"]])
        self.assertEqual(
            len(answer["kit"]["terms"]["chains"]),
            len({json.dumps(c["through"]) for c in answer["kit"]["terms"]["chains"]}),
        )

    def test_files_of_the_runtime(self):
        page = self.client.get(reverse("field"))
        self.assertContains(page, "field-addresses")
        for name in ("pyodide.mjs", "pyodide.asm.mjs", "pyodide.asm.wasm", "pyodide-lock.json", "python_stdlib.zip"):
            answer = self.client.get(f"/field/python-314.0.7/{name}")
            self.assertEqual((answer.status_code, "immutable" in answer["Cache-Control"]), (200, True), name)
        self.assertEqual(answer["Content-Type"], "application/zip")
        for address in (
            "/field/python-314.0.7/secret",
            "/field/python-1/pyodide.mjs",
            "/field/core-abc.zip",
            "/field/python-314.0.7/",
        ):
            self.assertEqual(self.client.get(address).status_code, 404, address)
        keeper = self.client.get(reverse("field-service-worker"))
        self.assertEqual(keeper["Content-Type"], "text/javascript")
        self.assertIn(b"pyodide.asm.wasm", keeper.content)

    def test_the_first_visit_costs_at_most_nine_megabytes(self):
        import re

        kept = json.loads(
            re.match(r"const KEPT = (\{.*?\});\n", self.client.get(reverse("field-service-worker")).content.decode())[1]
        )
        runtime = [address for address in kept["files"] if not address.startswith("/static/")]
        whole = sum(len(self.client.get(address).content) for address in runtime)
        self.assertLess(whole, 6_000_000)  # the rest, styles and scripts, is under 300 kB packed


class Begun(Field):
    """Scenes that a phone began."""

    def send(self, came_as, written=None, **more):
        body = {"id": str(came_as), "document": json.dumps(written or TITLED), "outing": self.outing.pk, **more}
        return self.client.post(reverse("field-new-scene"), body)

    def test_it_comes_home_once_however_often_it_is_sent(self):
        came_as = uuid.uuid4()
        first, again = self.send(came_as).json()["scene"], self.send(came_as).json()["scene"]
        self.assertEqual((first["pk"], first["title"], first["outing"]), (again["pk"], "Lime wall", self.outing.pk))
        self.assertEqual(Scene.objects.filter(title="Lime wall").count(), 1)

    def test_a_picture_that_cannot_be_read_is_said_and_the_scene_is_kept(self):
        came_as = uuid.uuid4()
        answer = self.send(came_as, picture=SimpleUploadedFile("x.jpg", b"no picture")).json()
        self.assertIn("picture", answer["problem"])
        self.assertIsNone(answer["scene"]["picture"])
        better = SimpleUploadedFile("wall.jpg", picturefiles.jpeg(60, 40))
        self.assertEqual(self.send(came_as, picture=better).json()["scene"]["picture"]["width"], 60)
        self.assertEqual(Scene.objects.filter(title="Lime wall").count(), 1)

    def test_a_picture_that_there_is_no_room_for_is_said_and_the_scene_is_kept(self):
        more = SimpleUploadedFile("wall.jpg", picturefiles.jpeg(60, 40))
        with mock.patch("dimgrey.pictures.actions.most_of", return_value=100):
            answer = self.send(uuid.uuid4(), picture=more)
        self.assertEqual(answer.status_code, 200)
        self.assertIn("does not fit", answer.json()["problem"])
        self.assertIsNone(answer.json()["scene"]["picture"])
        self.assertEqual(Scene.objects.filter(title="Lime wall").count(), 1)

    def test_bad_ones_are_refused_with_a_sentence(self):
        for body, sentence in (
            ({"id": "x", "document": json.dumps(TITLED)}, "id:"),
            ({"id": str(uuid.uuid4()), "document": "{"}, "document: The file cannot be read. It is not JSON"),
            ({"id": str(uuid.uuid4()), "document": json.dumps({**TITLED, "colour": 3})}, "unknown key"),
            ({"id": str(uuid.uuid4())}, "document:"),
        ):
            with self.subTest(sentence):
                answer = self.client.post(reverse("field-new-scene"), body)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(sentence, answer.json()["problem"])
        self.assertEqual(Scene.objects.count(), 1)

    def test_an_outing_of_another_person_is_none(self):
        theirs = create_outing(self.other(), "Elsewhere")
        self.assertIsNone(self.send(uuid.uuid4(), outing=theirs.pk).json()["scene"]["outing"])


TITLED = {"format": "dimgrey-scene", "version": 5, "title": "Lime wall", "medium": {"kind": "film"}, "tones": []}
