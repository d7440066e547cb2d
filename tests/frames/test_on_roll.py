"""A roll in a camera reaches the plans of its scenes, on every page, on the phone and in the log; others keep theirs."""

import json
import uuid

from dimgrey.core.colour import chainterms
from dimgrey.core.document.plainform import plain
from dimgrey.core.field import entry
from dimgrey.field.bundle import kit_of, scene_of
from dimgrey.frames.actions import begin_roll, end_roll, log_frame
from dimgrey.scenes import lifecycle
from dimgrey.scenes.situation import Situation
from tests import hand
from tests.documents import document
from tests.helpers import PageTest


class OnARoll(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = self.made("Slow")
        self.other = self.made("Quick")

    def made(self, film):
        written = document(
            title=f"Kiln on {film}",
            medium={"kind": "film", "name": film, "iso": 64},
            tones=[{"name": "coal", "role": "shadow", "ev100": 8}, {"name": "wall", "role": "highlight", "ev100": 14}],
        )
        return hand.place_tone(lifecycle.create_scene(self.person, written), None, "A", 3)

    def plan_of(self, scene):
        return Situation(self.fresh(scene)).plan

    def test_the_scene_takes_speed_and_development_and_gives_them_back(self):
        before, kept, others = self.plan_of(self.scene), self.fresh(self.scene).kept, self.plan_of(self.other)
        self.assertEqual((before.speed.name, before.development), ("64", "N-2"))
        roll = begin_roll(self.person, "Slow", "200", "N-1")
        after = self.plan_of(self.scene)
        self.assertEqual((after.speed.name, after.development, after.asked_step), ("200", "N-1", -2))
        self.assertEqual(self.plan_of(self.other), others)
        self.assertEqual(self.fresh(self.scene).kept, kept, "the document stays as it was")
        end_roll(roll)
        self.assertEqual(self.plan_of(self.scene), before)

    def test_pages_say_it(self):
        begin_roll(self.person, "Slow", "200", "N-1")
        page = self.client.get(f"/scenes/{self.scene.pk}/")
        self.assertContains(page, "On roll 1, rated ISO 200, developed N-1.")
        self.assertContains(page, "ISO 200")
        self.assertNotContains(self.client.get(f"/scenes/{self.other.pk}/"), "On roll 1")
        editor = self.client.get(f"/scenes/{self.scene.pk}/edit/camera")
        self.assertContains(editor, "The plan takes speed and development from")
        self.assertNotContains(editor, "do/develop")

    def test_a_frame_keeps_what_its_roll_had_whatever_comes_next(self):
        roll = begin_roll(self.person, "Slow", "200", "N-1")
        frame = log_frame(self.person, self.fresh(self.scene), uuid.uuid4())
        self.assertEqual((frame.iso, frame.made.development, frame.roll), ("200", "N-1", roll))
        end_roll(roll)
        begin_roll(self.person, "Slow", "50", "N+2")
        frame.refresh_from_db()
        then = Situation(frame.as_it_was)
        self.assertEqual((then.plan.speed.name, then.plan.development), ("200", "N-1"))
        self.assertIn("ISO 64 rated 200", frame.means)

    def test_the_phone_says_the_same(self):
        begin_roll(self.person, "Slow", "200", "N-1")
        situation = Situation(self.fresh(self.scene), self.person.tone_labels)
        bundle = scene_of(situation)
        self.assertEqual(bundle["document"]["medium"]["iso"], 64, "its acts are done on what is kept")
        self.assertEqual(bundle["document"], plain(self.fresh(self.scene).document))
        self.assertEqual(bundle["sheet"]["exposure"]["iso"], "ISO 200")
        entry.lay_in(json.dumps(kit_of(self.person, [situation]), default=str))
        self.addCleanup(chainterms.drop)
        entry.open_scene("1", json.dumps(bundle, default=str))
        told = json.loads(entry.told("1", '{"acts": []}'))
        self.assertEqual(told["sheet"], json.loads(json.dumps(bundle["sheet"], default=str)))

    def test_an_act_keeps_what_the_hand_said_and_no_more(self):
        begin_roll(self.person, "Slow", "200", "N-1")
        scene = hand.place_tone(self.fresh(self.scene), None, "A", 4)
        self.assertEqual((scene.kept["medium"]["iso"], scene.kept["medium"].get("developed")), (64, None))
