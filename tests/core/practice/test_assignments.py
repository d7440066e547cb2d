"""A week of tasks that fits its season, place and kit; and checks that see whether the aim was met."""

from django.test import SimpleTestCase

from dimgrey.core.practice.assignments import TASKS, Given, Seen, verdict_on, week_of


def seen(shares=(0.2, 0.2, 0.2, 0.2, 0.2), soft=0.5, below=0.1, zones=8.0, texture=5.0):
    return Seen(shares, soft, below, zones, texture)


class Weeks(SimpleTestCase):
    def test_a_week_has_seven_different_tasks_and_the_next_begins_elsewhere(self):
        for seed in range(12):
            week = week_of(Given(11, 40.0, True, True, seed))
            self.assertEqual((len(week), len(set(week))), (7, 7))
        self.assertNotEqual(week_of(Given(11, 40.0, seed=1)), week_of(Given(11, 40.0, seed=2)))

    def test_mist_and_night_follow_the_season_on_both_sides_of_the_equator(self):
        every = lambda month, latitude: {
            key for seed in range(10) for key in week_of(Given(month, latitude, True, True, seed))
        }
        self.assertIn("mist", every(11, 50.0))
        self.assertNotIn("mist", every(6, 50.0))
        self.assertIn("mist", every(5, -40.0))
        self.assertNotIn("mist", every(12, -40.0))
        self.assertNotIn("night", every(6, 50.0))
        self.assertIn("night", every(6, None))

    def test_what_needs_a_filter_or_an_old_scene_is_left_out_without(self):
        bare = {key for seed in range(10) for key in week_of(Given(11, 40.0, False, False, seed))}
        self.assertFalse(bare & {"one-filter", "again"})

    def test_every_task_says_its_aim_how_to_meter_and_what_to_look_for(self):
        for key, task in TASKS.items():
            for text in (task.aim, task.meter, task.look):
                self.assertTrue(text.endswith("."), key)


class Checks(SimpleTestCase):
    def test_each_aim_is_met_on_one_side_of_its_limit_and_told_on_the_other(self):
        for key, good, bad, advice in (
            ("night", seen((0.4, 0.2, 0.3, 0.09, 0.01)), seen((0.3, 0.29, 0.3, 0.1, 0.01)), "Place the light lower"),
            ("night", seen((0.4, 0.2, 0.39, 0.01, 0.0)), seen((0.4, 0.2, 0.395, 0.005, 0.0)), "lacks its accent"),
            (
                "silhouette",
                seen((0.1, 0.1, 0.5, 0.2, 0.1), below=0.03),
                seen((0.1, 0.1, 0.5, 0.2, 0.1), below=0.029),
                "not black yet",
            ),
            ("silhouette", seen((0.1, 0.1, 0.5, 0.2, 0.1)), seen((0.1, 0.1, 0.51, 0.2, 0.09)), "not bright enough"),
            (
                "texture",
                seen((0.01, 0.3, 0.4, 0.27, 0.02)),
                seen((0.01, 0.3, 0.4, 0.27, 0.02), texture=2.9),
                "rake over it",
            ),
            ("texture", seen((0.01, 0.3, 0.4, 0.27, 0.02)), seen((0.02, 0.3, 0.4, 0.26, 0.02)), "One end is lost"),
            ("mist", seen(soft=0.9), seen(soft=0.89), "thicker mist"),
            ("two-tones", seen((0.4, 0.1, 0.25, 0.1, 0.15)), seen((0.4, 0.1, 0.26, 0.1, 0.14)), "Harder light"),
            ("already", seen((0.0, 0.1, 0.3, 0.3, 0.3)), seen((0.0, 0.11, 0.3, 0.3, 0.29)), "come closer"),
            ("window", seen(zones=6.0), seen(zones=5.9), "lacks one end"),
        ):
            with self.subTest(key=key, advice=advice):
                self.assertTrue(verdict_on(key, good).is_met)
                found = verdict_on(key, bad)
                self.assertFalse(found.is_met)
                self.assertIn(advice, found.text)
