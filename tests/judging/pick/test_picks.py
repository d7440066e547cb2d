"""The pick over HTTP: groups by time and likeness, an order with reasons, one or two kept for a reason that is found again."""

import io
import uuid
from datetime import timedelta

import numpy as np
from PIL import Image
from scipy.ndimage import gaussian_filter

from dimgrey.frames.actions import log_frame
from dimgrey.frames.models import Frame
from dimgrey.judging.pick.models import Pick
from dimgrey.judging.pick.picking import groups_of
from dimgrey.results.models import Result
from tests.reference.shots import DEMO
from tests.results.test_results import ResultTest, file_of, jpeg_of, results_added


class Picking(ResultTest):
    @classmethod
    def setUpTestData(cls):
        """Three frames of one scene: plain, blurred, and darker with something that moved."""
        super().setUpTestData()
        plain = np.asarray(Image.open(io.BytesIO(cls.shot()))).astype(float)
        moved = plain.copy()
        moved[30:80, 560:660] = 30
        for k, grey in enumerate((plain, gaussian_filter(plain, 2.0), moved)):
            frame = log_frame(cls.scene.owner, cls.scene, uuid.uuid4()) if k else cls.frame
            results_added(cls.visitor(), frame, file_of(jpeg_of(np.clip(grey, 0, 255).astype(np.uint8)), f"{k}.jpg"))

    def three(self):
        return list(Result.objects.order_by("pk"))

    def begin(self, results):
        return self.client.post("/picks/begin", {"results": [each.pk for each in results]}, follow=True)

    def test_like_frames_close_in_time_are_one_group(self):
        results = self.three()
        self.assertEqual(
            [[each.pk for each in group] for group in groups_of(self.person)], [[each.pk for each in results]]
        )
        Frame.objects.filter(pk=results[2].frame_id).update(exposed_at=results[0].frame.exposed_at + timedelta(hours=1))
        self.assertEqual([len(group) for group in groups_of(self.person)], [2])
        self.assertContains(self.client.get("/picks/"), "2 frames that look alike")

    def test_the_order_is_proposed_with_its_reasons_and_nothing_is_kept_by_itself(self):
        page = self.begin(self.three())
        self.assertContains(page, "% less sharp at the subject")
        self.assertContains(page, "differs from the first at the upper right")
        self.assertEqual(Pick.objects.get().candidates.filter(kept=True).count(), 0)
        places = [row["candidate"].result.pk for row in page.context["places"]]
        self.assertEqual(places[-1], Result.objects.order_by("pk")[1].pk, "the blurred one comes last")
        pick = Pick.objects.get()
        answer = self.client.get(f"/picks/{pick.pk}/over-{pick.candidates.first().pk}.jpg")
        self.assertEqual((answer.status_code, answer["Content-Type"]), (200, "image/jpeg"))
        self.assertEqual(self.client.get(f"/picks/{pick.pk}/over-9999.jpg").status_code, 404)

    def test_one_or_two_are_kept_and_reasons_are_summed_up_and_found(self):
        self.begin(self.three())
        pick = Pick.objects.get()
        ids = list(pick.candidates.values_list("pk", flat=True))
        url = f"/picks/{pick.pk}/decide"
        for wrong, words in (([], "Keep one frame, or two."), (ids, "Keep one frame, or two."), ([9999], "9999")):
            self.assertContains(self.client.post(url, {"kept": wrong}), words, status_code=422)
        self.client.post(url, {"kept": ids[:1], "reason": "sharper, the shadow"})
        self.client.post(url, {"kept": ids[:2], "reason": "Sharper"})
        self.assertEqual(list(pick.candidates.values_list("kept", flat=True)), [True, True, False])
        page = self.client.get("/picks/?words=sharp")
        self.assertContains(page, "kept: frame")
        self.assertContains(page, ">sharper</a>")
        self.assertContains(self.client.get("/picks/?words=fog"), "No pick has these words.")
        self.client.post(f"/picks/{pick.pk}/drop")
        self.assertEqual((Pick.objects.count(), Result.objects.count()), (0, 3))

    def test_the_subject_can_be_said_and_frames_are_looked_at_again(self):
        self.begin(self.three())
        pick = Pick.objects.get()
        before = pick.candidates.first().look.sharpness
        self.client.post(f"/picks/{pick.pk}/subject", {"x": "12", "y": "80"})
        self.assertNotEqual(Pick.objects.get().candidates.first().look.sharpness, before)
        self.assertContains(
            self.client.post(f"/picks/{pick.pk}/subject", {"x": "far"}), "Touch the subject", status_code=422
        )

    def test_one_frame_or_another_scene_is_refused(self):
        results = self.three()
        self.assertContains(self.begin(results[:1]), "Choose 2 to 12 frames", status_code=422)
        self.assertContains(self.begin([]), "Choose at least two frames.", status_code=422)
        other = np.asarray(Image.open(DEMO / "snapshots" / "d_white_ware.jpg").convert("L"))
        self.add(file_of(jpeg_of(other), "other.jpg"), frame=self.logged())
        answer = self.begin([results[0], Result.objects.order_by("pk").last()])
        self.assertContains(answer, "pick among like ones", status_code=422)
        self.assertEqual(Pick.objects.count(), 0)

    def test_nobody_else_sees_it(self):
        self.begin(self.three())
        pick = Pick.objects.get()
        self.client.force_login(self.other())
        with self.settings(DIMGREY_LOCAL=False):
            for path in ("", f"over-{pick.candidates.first().pk}.jpg"):
                self.assertEqual(self.client.get(f"/picks/{pick.pk}/{path}").status_code, 404)
            self.assertContains(self.begin(Result.objects.all()), "", status_code=422)
