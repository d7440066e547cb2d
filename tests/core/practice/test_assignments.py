"""A week of tasks that fits its season, place and kit; and checks that see whether the aim was met."""

from django.test import SimpleTestCase

from dimgrey.core.practice.assignments import TASKS, Again, Given, Seen, month_of, verdict_on, week_of
from dimgrey.core.practice.verdicts import HOURS


def seen(shares=(0.2, 0.2, 0.2, 0.2, 0.2), soft=0.5, below=0.1, zones=8.0, texture=5.0, **more):
    return Seen(shares, soft, below, zones, texture, **more)


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

    def test_a_month_has_each_task_once_in_a_week_that_fits_it(self):
        turn = [Given(month, 50.0, True, True, seed) for seed, month in enumerate((2, 2, 3, 3))]
        months = month_of(turn)
        keys = [key for week in months for key in week]
        self.assertEqual((len(keys), set(keys)), (len(set(keys)), set(TASKS)))
        self.assertTrue(all(2 <= len(week) <= 3 for week in months))
        self.assertTrue(any("mist" in week for week in months[:2]), "there is none in March")


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
        ):
            with self.subTest(key=key, advice=advice):
                self.assertTrue(verdict_on(key, (bad, good)).is_met, "the last one counts")
                found = verdict_on(key, (good, bad))
                self.assertFalse(found.is_met)
                self.assertIn(advice, found.text)

    def test_six_hours_are_those_of_one_scene_an_hour_apart(self):
        at = lambda hour, scene="a", **more: seen(hour=hour, scene=scene, **more)
        six = tuple(at(7.0 + k) for k in range(HOURS))
        self.assertTrue(verdict_on("window", six).is_met)
        for wrong, why in (
            ((*six[:5], at(11.5)), "half an hour apart"),
            ((*six[:5], at(15.0, "b")), "another scene"),
            ((*six[:5], seen()), "no hour"),
        ):
            found = verdict_on("window", wrong)
            self.assertFalse(found.is_met, why)
            self.assertIn("5 of 6 hours: 07:00", found.text, why)
        self.assertIn("log the frame", verdict_on("window", (seen(),)).text)

    def test_the_hour_with_the_longest_range_and_both_ends_is_named(self):
        kept, lost = (0.01, 0.3, 0.4, 0.27, 0.02), (0.02, 0.3, 0.4, 0.26, 0.02)
        hours = (seen(kept, zones=5.0, hour=8.0, scene="a"), seen(lost, zones=9.0, hour=12.25, scene="a"))
        found = verdict_on("window", hours)
        self.assertIn("from 5.0 to 9.0 zones. Most of it without a lost end at 08:00.", found.text)
        self.assertIn("Every hour loses one end", verdict_on("window", (hours[1], seen(lost, hour=15, scene="a"))).text)

    def test_a_walk_is_through_one_filter(self):
        through = lambda *names: tuple(seen(through=name) for name in names)
        self.assertTrue(verdict_on("one-filter", through("red", "red", "red")).is_met)
        self.assertIn("2 of 3 through red", verdict_on("one-filter", through("red", "red")).text)
        self.assertIn("1 of 3 was taken without", verdict_on("one-filter", through("red", "red", "")).text)
        self.assertIn("orange, red", verdict_on("one-filter", through("red", "red", "orange")).text)

    def test_an_old_scene_is_a_week_old_and_something_has_moved(self):
        again = lambda days, now: (seen(again=Again(days, (("door", 3.0, 3.1), ("wall", 7.0, now)))),)
        found = verdict_on("again", again(7, 6.66))
        self.assertTrue(found.is_met)
        self.assertTrue(found.text.startswith("After 7 days: wall VII then, VI⅔ now; door"), found.text)
        self.assertFalse(verdict_on("again", again(6, 6.0)).is_met)
        self.assertIn("6 days old", verdict_on("again", again(6, 6.0)).text)
        self.assertIn("Nothing has moved", verdict_on("again", again(60, 7.3)).text)
        self.assertIn("no key tone", verdict_on("again", (seen(again=Again(60, ())),)).text)
