"""Acts that are sent late, twice or many at once: each counts once, and a refused one loses nothing."""

import json
import uuid
from datetime import UTC, datetime, timedelta

from django.utils import timezone

from dimgrey.core.acts.verb import verb_named, verb_names
from dimgrey.core.document.model import MAX_NOTES
from dimgrey.core.document.tones import MAX_READINGS
from dimgrey.frames.models import Frame
from dimgrey.scenes import lifecycle
from dimgrey.scenes.acts import By, form_of
from dimgrey.scenes.models import Revision
from dimgrey.scenes.sheet.registry import parts
from dimgrey.scenes.situation import Situation
from dimgrey.scenes.tonerows import tone_rows
from tests import hand
from tests.documents import document
from tests.helpers import PageTest, band, scene_with_light


class ListOfActs(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)
        hand.pin_tone(self.scene, None, band(3), 0.5)
        hand.pin_tone(self.scene, None, band(7), 0.5)

    def send(self, *acts, **more):
        body = json.dumps(list(acts))
        return self.client.post(f"/scenes/{self.scene.pk}/do", body, content_type="application/json", **more)

    def readings(self):
        return [r.ev100 for r in self.fresh(self.scene).document.tone("A").typed_readings]

    def test_a_reading_counts_once_however_often_it_is_sent(self):
        read = {"verb": "read", "act": str(uuid.uuid4()), "mark": "A", "reading": "9"}
        for _ in range(3):
            told = self.send(read).json()["acts"]
            self.assertEqual([each["state"] for each in told], ["kept"])
        self.assertEqual(self.readings(), [9.0])
        self.send(read, read, {**read, "act": str(uuid.uuid4()), "reading": "10"})
        self.assertEqual(self.readings(), [9.0, 10.0])

    def test_what_appends_is_taken_whatever_happened_since_and_the_rest_is_stale(self):
        stamp = self.fresh(self.scene).stamp
        self.act(self.scene, "place", mark="A", zone="3")
        told = self.send(
            {"verb": "read", "act": str(uuid.uuid4()), "mark": "A", "reading": "9", "stamp": stamp},
            {"verb": "place", "act": str(uuid.uuid4()), "mark": "B", "zone": "6", "stamp": stamp},
            {"verb": "pin", "act": str(uuid.uuid4()), "x": 0.5, "y": 0.5, "stamp": stamp},
        ).json()
        self.assertEqual([each["state"] for each in told["acts"]], ["kept", "stale", "kept"])
        self.assertEqual(told["stamp"], self.fresh(self.scene).stamp)
        document = self.fresh(self.scene).document
        self.assertEqual((document.placing.zone, len(document.tones), self.readings()), (3, 3, [9.0]))

    def test_a_refused_act_says_why_and_the_later_ones_are_done(self):
        told = self.send(
            {"verb": "read", "mark": "A", "reading": "very bright"},
            {"verb": "glow"},
            {"verb": "read", "mark": "A", "reading": "9"},
        ).json()["acts"]
        self.assertEqual([each["state"] for each in told], ["refused", "refused", "kept"])
        self.assertIn("is not a number of stops", told[0]["sentence"])
        self.assertEqual(told[1]["sentence"], "There is no act “glow”.")
        self.assertEqual(self.readings(), [9.0])

    def test_frames_are_logged_once_at_the_time_they_were_made(self):
        self.act(self.scene, "place", mark="A", zone="3")
        made = timezone.now() - timedelta(hours=2)
        log = {"verb": "log", "act": str(uuid.uuid4()), "at": made.isoformat(), "note": "from the hill"}
        self.send(log, log)
        frame = Frame.objects.get()
        self.assertEqual((frame.note, frame.exposed_at), ("from the hill", made))

    def test_readings_keep_the_time_they_were_taken_at(self):
        at = datetime(2026, 9, 1, 10, 20, tzinfo=UTC)
        self.send({"verb": "read", "act": str(uuid.uuid4()), "mark": "A", "reading": "9", "at": at.isoformat()})
        (reading,) = self.fresh(self.scene).document.tone("A").typed_readings
        self.assertEqual(reading.taken_at, "2026-09-01T10:20:00+00:00")
        self.assertEqual(Revision.objects.latest("pk").done_at, at)
        ahead = (timezone.now() + timedelta(hours=1)).isoformat()
        (told,) = self.send({"verb": "read", "mark": "A", "reading": "9", "at": ahead}).json()["acts"]
        self.assertIn("That time has not come yet", told["sentence"])

    def test_what_is_no_list_of_acts_is_refused_whole(self):
        for body in ("{", '{"verb": "undo"}', "[1]", '[{"act": 1}]', '[{"verb": "read", "mark": [1]}]', "[" * 9000):
            with self.subTest(body=body[:20]):
                answer = self.client.post(f"/scenes/{self.scene.pk}/do", body, content_type="application/json")
                self.assertEqual(answer.status_code, 422)
                self.assertTrue(answer.json()["problem"])
        self.assertEqual(self.send(*[{"verb": "undo"}] * 501).status_code, 422)

    def test_an_id_of_another_scene_is_not_taken_for_this_one(self):
        other, act = scene_with_light(self.person), uuid.uuid4()
        hand.add_tone(other, By(act=act), "wall")
        hand.add_tone(other, By(act=act), "wall again")
        self.assertEqual(self.fresh(other).document.names, ("wall",))


class Table(PageTest):
    def test_every_verb_has_a_form_and_every_part_a_template(self):
        from django.template.loader import get_template

        self.assertGreater(len(verb_names()), 55)
        for verb in verb_names():
            self.assertEqual(form_of(verb).verb.name, verb)
        for part in parts():
            get_template(part.template)
            self.assertLessEqual(set(part.acts), set(verb_names()), part.key)
        self.assertIsNone(verb_named("glow"))

    def test_acts_that_append_are_readings_pins_tones_and_frames(self):
        appends = {verb for verb in verb_names() if verb_named(verb).appends}
        self.assertEqual(appends, {"pin", "pin-area", "add-tone", "estimate", "read", "log"})

    def test_a_step_back_that_is_sent_twice_is_taken_once(self):
        scene = scene_with_light(self.person)
        for name in ("wall", "coal"):
            hand.add_tone(scene, None, name)
        undo = {"verb": "undo", "act": str(uuid.uuid4())}
        for _ in range(2):
            self.client.post(f"/scenes/{scene.pk}/do", json.dumps([undo]), content_type="application/json")
            self.assertEqual(self.fresh(scene).document.names, ("wall",))
        redo = {"verb": "redo", "act": str(uuid.uuid4())}
        for _ in range(2):
            self.client.post(f"/scenes/{scene.pk}/do", json.dumps([redo]), content_type="application/json")
            self.assertEqual(self.fresh(scene).document.names, ("wall", "coal"))


class Fuller(PageTest):
    """What a scene cannot hold any more is refused in a sentence, and what is there stays."""

    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)
        hand.add_tone(self.scene, None, "wall", {"ev100": 9.0})

    def test_the_forty_first_reading(self):
        for _ in range(MAX_READINGS - 1):
            hand.type_reading(self.scene, None, "A", {"ev100": 9.0})
        answer = self.act(self.scene, "read", mark="A", reading="9")
        self.assertEqual(answer.status_code, 422)
        self.assertContains(answer, "40", status_code=422)
        self.assertEqual(len(self.fresh(self.scene).document.tone("A").readings), MAX_READINGS)
        self.assertEqual(self.client.get(f"/scenes/{self.scene.pk}/scene.json").status_code, 200)

    def test_full_notes(self):
        full = self.scene.document.with_(
            notes="x" * (MAX_NOTES - 3), medium=type(self.scene.document.medium)("digital raw")
        )
        hand.change(self.scene, None, "notes", lambda document: full)
        from dimgrey.core.document.means import SetupPart

        with self.assertRaises(hand.CoreError):
            hand.use_setup(self.scene, None, SetupPart("hard"), "a reason that does not fit any more")
        self.assertIsNone(self.fresh(self.scene).document.setup)

    def test_a_mix_that_is_not_one(self):
        for sent in ("0.5, 0.5, 0.5", "1, 0", "red light"):
            with self.subTest(sent):
                answer = self.act(self.scene, "camera", kind="digital raw", iso="100", increment="third", light="D55",
                                  channel_mix=sent)  # fmt: skip
                self.assertEqual(answer.status_code, 422)
        self.assertEqual(self.fresh(self.scene).document.medium.kind, "film")

    def test_the_figure_of_a_silhouette_is_free_in_the_row_as_in_the_plan(self):
        tones = [{"name": "wall", "role": "subject", "ev100": 9}, {"name": "sky", "role": "sky", "ev100": 13}]
        self.scene = lifecycle.create_scene(self.person, document(tones=tones, placing={"school": "silhouette"}))
        situation = Situation(self.fresh(self.scene))
        rows = {row.name: row.needs_texture for row in tone_rows(situation)}
        self.assertEqual(rows, {tone.name: tone.needs_texture for tone in situation.plan.tones})
        self.assertEqual(rows, {"wall": False, "sky": True})
        editor = self.client.get(f"/scenes/{self.scene.pk}/edit/tone-A").content.decode()
        self.assertIn('<option value="free" selected>', editor)
