"""One Situation per request: each thing is computed once, and only what is asked for."""

from unittest import mock

from django.template.loader import render_to_string

from dimgrey.core.planning import otherschools, planwords
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.scenes.desk import desk_of
from tests import hand
from tests.helpers import PageTest, band, scene_with_light


class Once(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)
        for zone in (3, 7):
            self.scene = hand.pin_tone(self.scene, None, band(zone), 0.5)
        self.scene = hand.place_tone(self.scene, None, "A", 3)

    def plans(self, ask):
        """How many plans are computed while a page is asked for."""
        with (
            mock.patch.object(planwords, "plan", wraps=planwords.plan) as own,
            mock.patch.object(otherschools, "plan", wraps=otherschools.plan) as others,
        ):
            ask()
        return own.call_count, others.call_count

    def test_the_placing_editor_plans_each_school_once(self):
        counted = self.plans(lambda: self.client.get(f"/scenes/{self.scene.pk}/edit/placing"))
        self.assertLessEqual(sum(counted), len(SCHOOLS))

    def test_an_editor_that_shows_no_plan_computes_none(self):
        self.assertEqual(self.plans(lambda: self.client.get(f"/scenes/{self.scene.pk}/edit/intent")), (0, 0))

    def test_the_whole_desk_plans_once(self):
        shown = lambda: render_to_string("scenes/parts.html", {"desk": desk_of(self.fresh(self.scene))})
        self.assertEqual(self.plans(shown), (1, 0))
