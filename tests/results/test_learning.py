"""Learning from the log: a hidden fault is found, corrected with one act, undone with one; plans keep their numbers."""

import uuid
from dataclasses import replace

from dimgrey.core.document import kit as kit_rules
from dimgrey.core.document.meansline import MadeWith
from dimgrey.core.results.finding import Found, FoundTone
from dimgrey.frames.actions import log_frame
from dimgrey.frames.models import Frame
from dimgrey.kit.models import Item, ItemRevision
from dimgrey.results.learning import evidence_of, proposals_of
from dimgrey.results.models import Result
from dimgrey.scenes import lifecycle
from tests import hand
from tests.documents import document
from tests.helpers import PageTest


def fell(name, role, planned, actual, end=0):
    """A tone of a result: where it was to fall and fell. end: 1 lost in white."""
    return FoundTone(name, role, planned=planned, actual=actual, planned_fall=planned, fall=actual, end=end, free=False)


class Learning(PageTest):
    def setUp(self):
        super().setUp()
        self.film = Item.objects.create(
            owner=self.person, kind="film", name="Slow", values=kit_rules.check("film", {"iso": "125"})
        )
        written = document(
            title="Yard",
            medium={"kind": "film", "iso": 125},
            kit={"film": "Slow"},
            tones=[{"name": "wall", "ev100": 13}],
        )
        self.scene = lifecycle.create_scene(self.person, written)
        self.scene = hand.place_tone(self.scene, None, "A", 7)

    def compared(self, stops, film="Slow", contrast=0.0, tones=(), kind="camera file"):
        """A frame whose result was measured so."""
        frame = log_frame(self.person, self.scene, uuid.uuid4())
        frame.made = replace(frame.made, film=film)
        frame.save()
        found = Found(
            kind=kind, tones=tuple(tones), a=stops, a_half=0.05, b=contrast, b_half=0.01, unexplained=stops, spread=0.05, places=40,
            share=1.0,
        )  # fmt: skip
        return Result.objects.create(owner=self.person, frame=frame, found=found, digest=uuid.uuid4().hex)

    def test_nothing_is_said_before_there_is_evidence(self):
        self.assertContains(self.client.get("/learn/"), "No frame was compared yet")
        for _ in range(3):
            self.compared(0.6)
        page = self.client.get("/learn/")
        self.assertContains(page, "Nothing to correct")
        self.assertContains(page, "3 compared frames")

    def test_a_faster_film_is_proposed_applied_and_taken_back(self):
        for off in (0.62, 0.7, 0.66, 0.71, 0.6, 0.68, 0.64, 0.69):
            self.compared(off)
        page = self.client.get("/learn/")
        self.assertContains(page, "Film Slow: ⅔ stop lighter than planned")
        self.assertContains(page, "8 frames: +0.66 stop, 95 % interval")
        self.assertContains(page, "Your speed for it goes from 125 to 200.")
        kept = self.fresh(self.scene).kept
        self.client.post("/learn/apply", {"key": "exposure:film:Slow"})
        self.film.refresh_from_db()
        self.assertEqual(self.film.values["iso"], "200")
        self.assertEqual(self.fresh(self.scene).kept, kept, "plans made before keep the old number")
        page = self.client.get("/learn/")
        self.assertNotContains(page, "Correct it")
        again = self.client.post("/learn/apply", {"key": "exposure:film:Slow"})
        self.assertContains(again, "no longer propose that", status_code=409)
        revision = ItemRevision.objects.get()
        self.client.post(f"/learn/corrections/{revision.pk}/undo")
        self.film.refresh_from_db()
        self.assertEqual(self.film.values["iso"], "125")
        self.assertContains(self.client.get("/learn/"), "Film Slow: ⅔ stop lighter than planned")
        self.assertEqual(self.client.post(f"/learn/corrections/{revision.pk}/undo").status_code, 409)

    def test_frames_from_before_a_correction_do_not_speak_again_and_new_ones_can_contradict_it(self):
        for off in (0.62, 0.7, 0.66, 0.71, 0.6, 0.68):
            self.compared(off)
        self.client.post("/learn/apply", {"key": "exposure:film:Slow"})
        self.assertEqual(proposals_of(self.person, evidence_of(self.person)), ())
        for off in (-0.4, -0.36, -0.41, -0.35, -0.39, -0.4):
            self.compared(off)
        (found,) = proposals_of(self.person, evidence_of(self.person))
        self.assertIn("from 200 to 160", found.change.words)

    def test_undo_keeps_what_was_changed_by_hand_meanwhile(self):
        for off in (0.62, 0.7, 0.66, 0.71, 0.6, 0.68):
            self.compared(off)
        self.client.post("/learn/apply", {"key": "exposure:film:Slow"})
        row = Item.objects.get()
        row.values = {**row.values, "grain": "coarse"}
        row.save()
        self.client.post(f"/learn/corrections/{ItemRevision.objects.get().pk}/undo")
        row.refresh_from_db()
        self.assertEqual((row.values["iso"], row.values["grain"]), ("125", "coarse"))

    def test_an_item_that_is_not_in_the_kit_is_told_and_not_applied(self):
        for off in (0.5, 0.52, 0.48, 0.51, 0.5, 0.49):
            self.compared(off, film="Borrowed")
        self.assertContains(self.client.get("/learn/"), "It is not in your kit")
        self.assertEqual(self.client.post("/learn/apply", {"key": "exposure:film:Borrowed"}).status_code, 409)

    def test_own_habits_are_told_of_surfaces(self):
        snow = fell("fresh snow", "highlight", 7.5, 6.8)
        for _ in range(6):
            self.compared(0.0, tones=[snow])
        self.assertContains(
            self.client.get("/learn/"),
            "Snow in sun: lands ⅔ lower than you plan it, apart from the rest of the picture (6 readings",
        )

    def test_headroom_is_told_by_tones_that_were_lost(self):
        camera = Item.objects.create(
            owner=self.person,
            kind="camera",
            name="Box",
            values=kit_rules.check("camera", {"senses": "colour sensor", "headroom": 3.3}),
        )
        for k in range(8):
            tone = fell("t", "other", 6.6 + k / 4, 7.0, int(k > 4))
            result = self.compared(0.0, film="", tones=[tone])
            Frame.objects.filter(pk=result.frame_id).update(made=MadeWith(camera="Box"))
        self.assertContains(self.client.get("/learn/"), "Camera Box: white begins at +2.7 stops")
        self.client.post("/learn/apply", {"key": "headroom:camera:Box"})
        camera.refresh_from_db()
        self.assertAlmostEqual(camera.values["headroom"], 2.72, delta=0.02)

    def test_one_item_is_drawn_over_time_and_nobody_elses_frames_speak(self):
        for off in (0.2, 0.3):
            self.compared(off)
        self.assertContains(self.client.get("/learn/?item=film:Slow"), "Over time: Slow")
        self.client.force_login(self.other())
        with self.settings(DIMGREY_LOCAL=False):
            self.assertContains(self.client.get("/learn/"), "No frame was compared yet")
