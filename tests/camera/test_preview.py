"""Readings, schools, ways out, aperture and time, brackets and changes of light at the desk."""

from datetime import UTC, datetime, timedelta

from dimgrey.core.document.means import MediumPart
from dimgrey.core.document.tonebriefing import tone_ev
from dimgrey.core.measure.readings import reading_age
from dimgrey.core.planning.scoring import score
from dimgrey.scenes import lifecycle
from dimgrey.scenes.situation import Situation
from tests import hand
from tests.documents import document
from tests.helpers import PageTest, band, scene_with_light


class MeansTest(PageTest):
    def setUp(self):
        super().setUp()
        written = document(title="Yard", medium={"kind": "film"}, camera={"aperture": "f/8"})
        self.scene = lifecycle.create_scene(self.person, written)
        for name, role, ev in (("coal", "shadow", 8.0), ("wall", "highlight", 14.0), ("sky", "sky", 15.0)):
            self.scene = hand.add_tone(self.scene, None, name, {"ev100": ev})
            mark = self.scene.document.tones[-1].mark
            self.scene = hand.describe_tone(self.scene, None, mark, role=role, texture="needed")

    def kept(self):
        return self.fresh(self.scene).kept

    def evs(self):
        document = self.fresh(self.scene).document
        return {tone.name: round(tone_ev(tone, document), 3) for tone in document.tones}

    def ev_of(self, scene, k):
        document = self.fresh(scene).document
        return tone_ev(document.tones[k], document)

    def part(self, name):
        return self.client.get(f"/scenes/{self.scene.pk}/edit/{name}").content.decode()


class Light(MeansTest):
    def test_the_light_drops_and_every_reading_moves_together(self):
        self.act(self.scene, "shift", stops="-⅔")
        self.assertEqual(self.evs(), {"coal": 7.333, "wall": 13.333, "sky": 14.333})
        self.assertEqual(self.kept()["tones"][0]["readings"][0]["ev100"], 8.0, "the reading stays as it was taken")
        self.act(self.scene, "undo")
        self.assertEqual(self.evs()["wall"], 14.0)

    def test_one_tone_is_read_again_and_the_rest_moves_with_it(self):
        self.act(self.scene, "read", mark="B", reading="13", others="on")
        self.assertEqual(self.evs(), {"coal": 7.0, "wall": 13.0, "sky": 14.0})

    def test_a_picture_keeps_its_scale_when_the_light_changes(self):
        scene = scene_with_light(self.person, absolute=False)
        for zone in (3, 5):
            scene = hand.pin_tone(scene, None, band(zone), 0.5)
        scene = hand.type_reading(scene, None, "A", {"ev100": 10.0})
        before = self.ev_of(scene, 1)
        scene = hand.type_reading(scene, None, "A", {"ev100": 9.0}, others=True)
        self.assertAlmostEqual(self.ev_of(scene, 1), before - 1, places=3)
        self.assertAlmostEqual(self.ev_of(scene, 0), 9.0, places=3)
        scene = hand.pin_tone(scene, None, band(7), 0.5)
        self.assertAlmostEqual(self.ev_of(scene, 2), before + 2, places=3)

    def test_changes_that_are_none_are_refused(self):
        for stops, sentence in (
            ("0", "by something (got 0)"),
            ("40", "up to 10 stops"),
            ("much", "is not a number of stops"),
        ):
            self.assertContains(self.act(self.scene, "shift", stops=stops), sentence, status_code=422)
        bare = lifecycle.new_scene(self.person, "Bare")
        self.assertContains(self.act(bare, "shift", stops="1"), "No tone is read yet", status_code=422)

    def test_without_a_meter_the_guide_estimates(self):
        self.act(self.scene, "estimate", light="overcast")
        tone = self.kept()["tones"][-1]
        self.assertEqual((tone["name"], tone["readings"][0]["kind"]), ("grey in overcast", "estimate"))
        self.assertAlmostEqual(tone["readings"][0]["ev100"], 13.4, delta=0.2)
        self.assertIn("Overcast, level ground", self.part(f"tone-{tone['mark']}"))

    def test_readings_age(self):
        now = datetime(2027, 6, 1, 12, tzinfo=UTC)
        taken = lambda minutes: (now - timedelta(minutes=minutes)).isoformat()
        for minutes, low_sun, expected in ((0.5, False, ("", False)), (5, False, ("5 min ago", False)), (5, True, ("5 min ago", True)),
                                           (25, False, ("25 min ago", True)), (120, False, ("2 h ago", True)), (2000, False, ("31 May", False))):  # fmt: skip
            self.assertEqual(reading_age(taken(minutes), now, low_sun), expected, minutes)
        self.assertEqual(reading_age("noon", now, False), ("", False))


class SchoolsAndProposals(MeansTest):
    def test_other_schools_stand_side_by_side_and_one_click_takes_one(self):
        page = self.part("placing")
        self.assertIn("Highlight first", page)
        self.assertIn("sky on VII", page)
        self.act(self.scene, "school", school="highlight")
        self.assertEqual(self.kept()["placing"], {"school": "highlight", "hold": "before filter"})

    def test_targets_are_kept_across_schools_and_taken_back(self):
        self.act(
            self.scene,
            "school",
            school="shadow",
            shadows="empty",
            under="0.3333",
            white="textured",
            hold="before filter",
        )
        placing = self.kept()["placing"]
        self.assertEqual((placing["shadows"], placing["under_stops"]), ("empty", 0.3333))
        self.assertNotIn("white", placing)
        self.assertContains(self.client.get(f"/scenes/{self.scene.pk}/"), "coal on I")
        self.act(self.scene, "school", school="highlight")
        self.assertEqual(self.kept()["placing"]["under_stops"], 0.3333)
        self.act(self.scene, "school", school="highlight", under="0", shadows="full")
        self.assertEqual(self.kept()["placing"], {"school": "highlight", "hold": "before filter"})

    def test_each_proposal_is_taken_with_one_click_and_does_just_that(self):
        medium = MediumPart("digital raw")
        hand.set_parts(self.fresh(self.scene), None, "medium", medium=medium)
        self.act(self.scene, "school", school="shadow")
        self.assertContains(self.client.get(f"/scenes/{self.scene.pk}/"), f"/scenes/{self.scene.pk}/nearer")
        page = self.client.get(f"/scenes/{self.scene.pk}/nearer").content.decode()
        found = Situation(self.fresh(self.scene)).proposals
        self.assertTrue(found)
        for each in found:
            self.assertIn(each.what, page.replace("&#x27;", "'"))
        self.act(self.scene, "take-proposal", code=found[0].code)
        after = Situation(self.fresh(self.scene))
        self.assertAlmostEqual(score(after.plan).value, found[0].score, places=6)
        self.act(self.scene, "refuse", code="bracket=3x1")
        self.assertEqual(self.kept()["wanted"]["refused"], ["bracket=3x1"])

    def test_films_table_shows_time_and_exposure(self):
        rows = [{"step": -2, "minutes": 6, "stops": 0.6667}, {"step": 0, "minutes": 10}]
        made = document(medium={"kind": "film", "development": rows}, filters=[{"name": "graduated", "stops": 1}])
        hand.set_parts(
            self.fresh(self.scene),
            None,
            "medium",
            medium=made.medium,
            filters=made.filters,
        )
        self.assertContains(self.client.get(f"/scenes/{self.scene.pk}/"), "develop N-2 for 6 min, exposed +⅔")


class ApertureAndTime(MeansTest):
    def test_a_proposal_for_depth_is_shown_and_taken(self):
        self.act(self.scene, "needs", near="2 m", far="infinity", support="tripod")
        self.assertEqual(self.kept()["needs"], {"near_m": 2.0, "far_m": "infinity", "support": "tripod"})
        page = self.part("needs")
        self.assertIn("sharp from", page)
        self.assertIn("depth-bar", page)
        self.act(self.scene, "take", aperture="f/16", iso="100", nd="3")
        self.assertEqual(self.kept()["camera"]["aperture"], "f/16")
        self.assertIn({"name": "nd", "stops": 3.0}, self.kept()["filters"])

    def test_needs_that_contradict_themselves_are_refused(self):
        for values, sentence in (
            ({"near": "5", "far": "3"}, "The near distance must lie before the far one (got 5 and 3 m)."),
            ({"near": "5"}, "Depth needs both a near and a far distance"),
            ({"near": "close"}, "“close” is not a distance. Write 2.5 m, 80 cm or infinity."),
            ({"near": "0", "far": "3"}, "A distance is 1 cm to 100 km (got 0)."),
            ({"speed": "-4"}, "Speed: must be 0 to 1000 (got -4)."),
        ):
            with self.subTest(sentence):
                self.assertContains(self.act(self.scene, "needs", **values), sentence, status_code=422)
                self.assertNotIn("needs", self.kept())

    def test_a_bracket_is_drawn_with_what_each_frame_holds(self):
        answer = self.act(self.scene, "bracket", count="3", step="2", order="- 0 +").content.decode()
        self.assertIn("frame-bar", answer)
        self.assertEqual(self.kept()["bracket"], {"count": 3, "step": 2.0, "order": "- 0 +"})
        self.assertIn("holds", self.part("bracket"))
        self.assertContains(self.client.get(f"/scenes/{self.scene.pk}/card"), "Bracket")
        for values, sentence in (({"count": "4"}, "Frames: must be 3, 5 or 7 (got 4)."), ({"count": "3", "step": "9"}, "⅓ to 2 stops apart (got 9)"), ({"count": "3", "step": "wide"}, "is not a number of stops")):  # fmt: skip
            self.assertContains(self.act(self.scene, "bracket", **values), sentence, status_code=422)
        self.act(self.scene, "bracket", count="")
        self.assertNotIn("bracket", self.kept())

    def test_a_long_exposure_offers_a_timer(self):
        self.assertNotContains(self.client.get(f"/scenes/{self.scene.pk}/"), 'id="start-timer"')
        film = {"kind": "film", "iso": 100, "reciprocity": {"exponent": 1.3, "onset_s": 1}}
        made = document(medium=film, filters=[{"name": "nd", "stops": 10}])
        hand.set_parts(self.fresh(self.scene), None, "night", medium=made.medium, filters=made.filters)
        page = self.client.get(f"/scenes/{self.scene.pk}/").content.decode()
        # coal 8 on III sets 10, less 10 stops: 64 s at f/8, and 64 ** 1.3 = 223 s for the film.
        self.assertIn('data-seconds="222.', page)
