"""The hill over the tone ground: the picture's own tones in zones, moved by what moves them."""

import numpy as np

from dimgrey.core.planning.zones import MIDDLE
from dimgrey.pictures import store
from dimgrey.scenes.dragging import live_of
from dimgrey.scenes.histogram import HIGHEST, LOWEST, PER_ZONE, fall_counts, hill_path
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from tests import hand
from tests.helpers import PageTest, band, scene_with_light

FALLS = LOWEST + (np.arange((HIGHEST - LOWEST) * PER_ZONE) + 0.5) / PER_ZONE


class Hill(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person, medium={"kind": "film", "iso": 100, "developed": 0})
        hand.pin_tone(self.scene, None, band(5), 0.5)
        hand.place_tone(self.scene, None, "A", zone=5)

    def situation(self):
        return Situation(Scene.objects.get(pk=self.scene.pk))

    def test_it_counts_the_picture_and_nothing_twice(self):
        counts = np.array(fall_counts(self.situation()))
        self.assertAlmostEqual(counts.sum(), 1, places=3)
        seen = self.situation()
        zones = seen.rendering.tone_map.zones(*store.seen(seen.picture.path, seen.overhead))
        self.assertAlmostEqual(float(counts @ FALLS), float(np.clip(zones, LOWEST, HIGHEST).mean()), delta=0.1)

    def test_a_stop_less_light_moves_it_a_zone_down(self):
        before = np.array(fall_counts(self.situation()))
        hand.place_tone(self.scene, None, "A", zone=4)
        after = np.array(fall_counts(self.situation()))
        np.testing.assert_allclose(after[:-PER_ZONE], before[PER_ZONE:], atol=0.02)

    def test_a_filter_changes_its_form_and_a_crop_its_shares(self):
        whole = fall_counts(self.situation())
        hand.do(self.scene, None, "crop", ratio="whole")
        self.assertEqual(fall_counts(self.situation()), whole)
        hand.use_colour_choice(self.scene, None, "red")
        self.assertAlmostEqual(sum(fall_counts(self.situation())), 1, places=3)

    def test_the_path_is_closed_and_stands_over_the_rail(self):
        seen = self.situation()
        path = hill_path(seen, fall_counts(seen))
        self.assertTrue(path.startswith("M50 100L") and path.endswith("L1050 100Z"))
        self.assertIn('id="hill"', self.client.get(f"/scenes/{self.scene.pk}/").content.decode())
        self.assertEqual((hill_path(seen, ()), MIDDLE), ("", 5))

    def test_what_the_scripts_answer_with_is_the_plan(self):
        seen = self.situation()
        told = live_of(seen)
        for tone in seen.plan.tones:
            mark = seen.document.marks[tone.name]
            self.assertAlmostEqual(told["tones"][mark], tone.fall, places=3)
            at = np.interp(tone.fall, told["falls"], np.arange(len(told["falls"])) / told["perZone"])
            self.assertAlmostEqual(float(at), tone.printed, delta=0.02)
        side = told["side"]
        self.assertEqual(side["name"], "shutter")
        nearest = min(side["marked"], key=lambda each: abs(each[0] - side["now"]))[1]
        self.assertContains(self.client.get(f"/scenes/{self.scene.pk}/"), f'data-side="shutter">{nearest}<')
