"""Practice over HTTP: a round of ten that is whole in the page, answers that come home once, progress in words."""

import itertools
import json
import uuid
from datetime import UTC, datetime, timedelta
from unittest.mock import patch

from django.utils import timezone

from dimgrey.core.practice.answer import GivenAnswer
from dimgrey.core.practice.drills import KINDS
from dimgrey.core.results.corrections import Evidence
from dimgrey.core.shapes.plain import checked_part
from dimgrey.outings.models import Outing
from dimgrey.pictures import store
from dimgrey.practice import weeks
from dimgrey.practice.actions import keep_answers
from dimgrey.practice.firststeps import note_of
from dimgrey.practice.models import Answer, Assignment, Card
from dimgrey.results.models import Result
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from dimgrey.scenes.situation import Situation
from tests import hand
from tests.documents import document
from tests.helpers import PageTest, band, scene_with_light
from tests.results.test_results import ResultTest, file_of


def answer(kind="compensation", subject="grass", right=True, off=1.0, at=None, **more):
    return {
        "act": str(uuid.uuid4()), "kind": kind, "subject": subject, "off": 0.0 if right else off, "is_right": right, "in_stops": True,
        "level": 0, "at": (at or timezone.now()).isoformat(), **more,
    }  # fmt: skip


class Rounds(PageTest):
    def setUp(self):
        super().setUp()
        # Rounds are drawn: here one after another, and the same on every day.
        drawn = patch("secrets.randbits", side_effect=itertools.count(7))
        drawn.start()
        self.addCleanup(drawn.stop)

    def cards(self):
        return self.client.get("/practice/round").context["cards"]

    def send(self, *answers):
        return self.client.post("/practice/answers", {"answers": json.dumps(answers)})

    def test_without_pictures_of_ones_own_there_are_ten_cards_all_the_same(self):
        cards = self.cards()
        self.assertEqual(len(cards), 10)
        self.assertTrue(all(not card["picture"] for card in cards))
        for card in cards:
            self.assertEqual(sum(option["off"] == 0 for option in card["options"]), 1)
        self.assertContains(self.client.get("/practice/"), "Ten cards")

    def test_a_picture_without_usable_tones_asks_nothing_of_them(self):
        scene_with_light(self.person, title="Unplanned")
        kinds = {card["kind"] for _ in range(4) for card in self.cards()}
        self.assertNotIn("pin", kinds)
        self.assertIn("compensation", kinds)

    def test_answers_are_kept_once_whatever_is_sent_again_and_cards_move(self):
        one, two = answer(right=False), answer("ends", "slide")
        self.assertEqual(self.send(one, two).json(), {"new": 2})
        self.assertEqual(self.send(one, two).json(), {"new": 0})
        self.assertEqual(Answer.objects.count(), 2)
        missed, known = Card.objects.get(kind="compensation"), Card.objects.get(kind="ends")
        self.assertLess(missed.due, known.due)

    def test_two_devices_and_late_answers_are_counted_in_their_order(self):
        now = timezone.now()
        self.send(answer(at=now))
        self.send(answer(right=False, at=now - timedelta(days=3)))
        self.assertEqual(Answer.objects.count(), 2)
        self.assertGreater(Card.objects.get().due, now - timedelta(days=1))
        self.send(answer(at=now + timedelta(days=400)))
        self.assertLess(Answer.objects.order_by("at").last().at, now + timedelta(days=1), "a clock that is ahead")

    def test_months_of_absence_leave_a_round_to_be_played(self):
        old = datetime(2025, 11, 1, tzinfo=UTC)
        keep_answers(self.person, [checked_part(GivenAnswer, answer("ends", "slide", at=old))], now=old)
        self.assertContains(self.client.get("/practice/"), "1 due")
        self.assertIn(("ends", "slide"), {(card["kind"], card["subject"]) for card in self.cards()})

    def test_what_ones_own_frames_miss_is_asked(self):
        rows = tuple(Evidence(k, k, 0.0, 0.0, {}, (("black cloth", -0.7),)) for k in range(6))
        with patch("dimgrey.practice.views.evidence_of", return_value=rows):
            found = {(card["kind"], card["subject"]) for card in self.cards()}
        self.assertIn(("compensation", "black cloth"), found)

    def test_a_damaged_card_begins_anew(self):
        self.send(answer())
        Card.objects.update(state={"card_id": "soup"})
        self.assertEqual(self.send(answer()).json(), {"new": 1})

    def test_progress_says_what_to_train(self):
        self.send(
            *[answer(subject="snow in sun", right=False, off=1.0) for _ in range(6)],
            *[answer("patch", "zone V") for _ in range(6)],
        )
        page = self.client.get("/practice/")
        self.assertContains(page, "Train compensation, most of all snow in sun, 1 stop off on average.")
        self.assertContains(page, "100 %")

    def test_bad_answers_are_refused_whole(self):
        good = answer()
        for wrong in (
            {**good, "kind": "soup"}, {**good, "subject": ""}, {**good, "subject": "x" * 61}, {**good, "off": -1}, {**good, "off": 1e9},
            {**good, "is_right": "yes"}, {**good, "at": "yesterday"}, {**good, "at": "2026-05-01T09:00:00"}, {**good, "act": "1"},
            {**good, "level": 9}, 5, {}, {**good, "subject": 5},
        ):  # fmt: skip
            with self.subTest(wrong=wrong):
                self.assertEqual(self.send(good, wrong).status_code, 422)
        for text in ("", "{", "[]", "5", json.dumps([good] * 401)):
            self.assertEqual(self.client.post("/practice/answers", {"answers": text}).status_code, 422)
        self.assertEqual((Answer.objects.count(), Card.objects.count()), (0, 0))

    def test_nobody_elses_answers_count(self):
        self.send(*[answer(right=False) for _ in range(6)])
        self.client.force_login(self.other())
        with self.settings(DIMGREY_LOCAL=False):
            self.assertNotContains(self.client.get("/practice/"), "Train compensation")


class TheBook(PageTest):
    def test_every_kind_of_drill_leads_to_a_place_in_the_book(self):
        for drill in KINDS.values():
            shown = self.client.get(f"/book/{drill.page}/")
            self.assertContains(shown, f'id="{drill.place}"' if drill.place else "<h1>")


class OwnPictures(ResultTest):
    def test_own_scenes_are_asked_about_with_their_own_figures(self):
        found = {}
        for _ in range(12):
            for card in self.client.get("/practice/round").context["cards"]:
                if card["picture"]:
                    found.setdefault(card["kind"], card)
        self.assertIn("pin", found)
        pin = found["pin"]
        self.assertEqual(self.client.get(pin["picture"]).status_code, 200)
        self.assertTrue(all(0 <= each <= 1 for each in pin["at"]))
        self.assertIn("Yard", pin["why"])


class Weeks(ResultTest):
    def test_a_week_is_the_same_however_often_it_is_looked_at(self):
        first = [each["row"].key for each in self.client.get("/practice/week").context["tasks"]]
        self.assertEqual(len(first), len(set(first)))
        self.assertGreaterEqual(len(first), 5)
        self.assertEqual([each["row"].key for each in self.client.get("/practice/week").context["tasks"]], first)
        self.assertContains(self.client.get("/practice/week"), "Log a frame and give it the picture")

    def test_what_came_of_it_is_looked_at_and_told(self):
        self.add(file_of(self.shot()))
        self.client.get("/practice/week")
        result = Result.objects.get()
        verdicts = {}
        for row in Assignment.objects.exclude(key="again"):
            self.client.post(f"/practice/tasks/{row.pk}/give", {"result": result.pk})
            row.refresh_from_db()
            self.assertTrue(row.text)
            verdicts[row.key] = row.is_met
        page = self.client.get("/practice/week")
        self.assertContains(page, "Met." if any(verdicts.values()) else "Not yet.")
        self.assertNotIn(True, [verdicts.get("night"), verdicts.get("one-light")], "a yard at noon is no night")
        self.assertFalse(verdicts.get("window", False), "one hour is not six")

    def test_another_persons_picture_or_none_is_refused(self):
        self.client.get("/practice/week")
        row = Assignment.objects.first()
        for wrong, words in (
            ({}, "Choose a picture"),
            ({"result": 999}, "no such picture among yours"),
            ({"result": "x"}, "number"),
        ):
            self.assertContains(self.client.post(f"/practice/tasks/{row.pk}/give", wrong), words, status_code=422)
        self.add(file_of(self.shot()))
        result = Result.objects.get()
        result.picture.delete()
        self.assertContains(
            self.client.post(f"/practice/tasks/{row.pk}/give", {"result": result.pk}), "is gone", status_code=422
        )
        self.client.force_login(self.other())
        with self.settings(DIMGREY_LOCAL=False):
            self.assertEqual(self.client.post(f"/practice/tasks/{row.pk}/give", {"result": result.pk}).status_code, 404)


class SeveralPictures(ResultTest):
    """Tasks that ask for more than one picture, a month of them, and an old scene seen again."""

    def task(self, key):
        monday = weeks.monday_of(timezone.localdate())
        return Assignment.objects.create(owner=self.person, week=monday, begun=monday, key=key)

    def result_at(self, hour, off=0.0):
        """The result of a frame exposed at an hour of the third of March."""
        frame = self.logged(exposed_at=datetime(2026, 3, 3, hour, 10, tzinfo=UTC))
        self.add(file_of(self.shot(off, frame)), frame=frame)
        return Result.objects.get(frame=frame)

    def give(self, row, result, **more):
        answer = self.client.post(f"/practice/tasks/{row.pk}/give", {"result": result.pk, **more})
        row.refresh_from_db()
        return answer

    def test_a_window_is_met_at_six_hours_an_hour_apart(self):
        row = self.task("window")
        for count, hour in enumerate((8, 9, 10, 12, 14), start=1):
            self.give(row, self.result_at(hour, off=0.1 * count))
            self.assertEqual((row.is_met, row.results.count()), (False, count))
            self.assertIn(f"{count} of 6 hours", row.text)
        self.give(row, self.result_at(16))
        self.assertTrue(row.is_met, row.text)
        self.assertIn("08:10, 09:10, 10:10, 12:10, 14:10, 16:10", row.text)
        page = self.client.get("/practice/week")
        self.assertContains(page, "Take back</button>", count=6)
        first = row.results.order_by("frame__exposed_at").first()
        self.client.post(f"/practice/tasks/{row.pk}/take-back", {"result": first.pk})
        row.refresh_from_db()
        self.assertEqual((row.is_met, row.results.count()), (False, 5))

    def test_a_walk_needs_one_filter_on_every_picture(self):
        row = self.task("one-filter")
        self.give(row, self.result_at(9))
        self.assertIn("without a filter", row.text)
        self.client.post(f"/practice/tasks/{row.pk}/take-back", {"result": Result.objects.get().pk})
        row.refresh_from_db()
        self.assertEqual((row.text, row.results.count()), ("", 0))
        self.act(self.scene, "filter", filter="yellow")
        self.scene = self.fresh(self.scene)
        for hour in (10, 11, 12):
            self.give(row, self.result_at(hour))
        self.assertTrue(row.is_met, row.text)
        self.assertIn("yellow", row.text)

    def test_an_old_scene_is_held_against_its_plan(self):
        row, result = self.task("again"), self.result_at(9, off=1.0)
        self.assertContains(self.give(row, result), "Choose the old scene", status_code=422)
        Scene.objects.update(created_at=datetime(2026, 1, 2, tzinfo=UTC))
        self.give(row, result, scene=self.scene.pk)
        self.assertTrue(row.is_met, row.text)
        self.assertIn("After 60 days", row.text)
        self.assertIn(" then, ", row.text)
        Scene.objects.update(created_at=datetime(2026, 3, 1, tzinfo=UTC))
        self.give(row, result, scene=self.scene.pk)
        self.assertIn("2 days old", row.text)
        self.assertFalse(row.is_met)

    def test_another_place_than_the_old_scene_is_refused(self):
        other = scene_with_light(self.person)
        hand.place_tone(hand.pin_tone(other, None, 0.3, 0.5), None, "A", 6.0)
        row = self.task("again")
        answer = self.give(row, self.result_at(9), scene=other.pk)
        self.assertEqual((answer.status_code, row.text), (422, ""))

    def test_a_month_is_begun_once_and_has_each_task_once(self):
        self.assertContains(self.client.get("/practice/month"), "Begin a month")
        for _ in range(2):
            self.client.post("/practice/month/begin")
        rows = Assignment.objects.filter(span="month")
        keys = [row.key for row in rows]
        self.assertEqual(len(keys), len(set(keys)))
        self.assertEqual(len({row.week for row in rows}), 4)
        self.assertContains(self.client.get("/practice/month"), "Week of", count=4)
        later = timezone.localdate() + timedelta(weeks=5)
        self.assertEqual(weeks.month_for(self.person, later), [], "it has ended, another can be begun")
        self.client.force_login(self.other())
        with self.settings(DIMGREY_LOCAL=False):
            self.assertContains(self.client.get("/practice/month"), "Begin a month")

    def test_the_days_light_is_said_where_the_place_is_known(self):
        self.assertEqual(weeks.light_of(self.person, timezone.localdate()), {})
        outing = Outing.objects.create(
            owner=self.person, title="Yard", latitude_deg=38.7, longitude_deg=-9.1, zone="UTC"
        )
        said = weeks.light_of(self.person, datetime(2026, 12, 21, tzinfo=UTC).date())
        self.assertRegex(said["low sun"], r"^Low sun 07:5\d to 08:5\d and 16:\d\d to 17:1\d\.$")
        self.assertRegex(said["dark"], r"^Dark until 07:2\d and from 17:(4[6-9]|50)\.$")
        outing.latitude_deg = 69.0
        outing.save()
        self.assertEqual(weeks.light_of(self.person, datetime(2026, 12, 21, tzinfo=UTC).date())["day"], "")


class Patterns(ResultTest):
    def test_a_scene_is_seen_six_ways_with_what_to_ask(self):
        page = self.client.get("/practice/patterns")
        for title in ("Squint", "Two tones", "Three tones", "Empty space", "Leading lines", "Edges"):
            self.assertContains(page, f"<h2>{title}</h2>")
        for view in page.context["views"]:
            self.assertEqual(self.client.get(view.address).status_code, 200, view.key)
            self.assertTrue(view.ask.endswith((".", "?")))
        self.assertContains(page, "% of it is empty")

    def test_another_number_shows_the_latest_and_a_lost_file_is_said(self):
        self.assertContains(self.client.get("/practice/patterns?scene=999"), "Squint")
        self.assertContains(self.client.get("/practice/patterns?scene=x"), "Squint")
        for file in self.scene.picture.path.iterdir():
            file.unlink()
        store.drop_files(self.scene.picture.path)
        self.assertContains(self.client.get("/practice/patterns"), "missing or damaged")

    def test_without_a_picture_it_says_what_to_do(self):
        self.scene.picture.delete()
        self.assertContains(self.client.get("/practice/patterns"), "No picture yet")


class FirstSteps(PageTest):
    """Three notes on the desk, on the first scene that somebody plans."""

    def note(self, scene):
        """Number of the note that a scene's desk shows, 0 for none."""
        shown = note_of(Situation(Scene.objects.get(pk=scene.pk)))
        page = self.client.get(f"/scenes/{scene.pk}/").content.decode()
        self.assertEqual(shown.words in page if shown else False, 'class="beside-note"' in page)
        return shown.number if shown else 0

    def test_each_is_gone_when_it_is_done(self):
        scene = scene_with_light(self.person, title="First")
        self.assertEqual(self.note(scene), 1)
        scene = hand.pin_tone(scene, None, band(3), 0.5)
        self.assertEqual(self.note(scene), 2)
        scene = hand.place_tone(scene, None, "A", 3)
        self.assertEqual(self.note(scene), 3)
        scene = hand.do(scene, None, "filter", filter="orange")
        self.assertEqual(self.note(scene), 0)
        self.assertEqual(
            self.note(scene_with_light(self.person, title="Second")), 0, "who has placed one knows the way"
        )

    def test_none_where_the_picture_asks_first_or_there_is_none(self):
        unscaled = scene_with_light(self.person, title="Unscaled", absolute=False, middle_ev100=None)
        self.assertEqual(self.note(unscaled), 0)
        self.assertEqual(self.note(lifecycle.create_scene(self.person, document(title="Bare"))), 0)

    def test_they_are_put_away_and_asked_back(self):
        scene = scene_with_light(self.person, title="First")
        said = {"scene": scene.pk}
        self.assertRedirects(self.client.post("/practice/first", {**said, "act": "leave"}), f"/scenes/{scene.pk}/")
        self.assertEqual(self.note(scene), 0)
        other = scene_with_light(self.person, title="Second")
        self.assertEqual(self.note(other), 0)
        self.assertRedirects(self.client.post("/practice/first", {"act": "back"}), f"/scenes/{other.pk}/")
        self.assertEqual((self.note(other), self.note(scene)), (1, 0))
        self.client.post("/practice/first", {**said, "act": "back"})
        self.assertEqual((self.note(other), self.note(scene)), (0, 1))

    def test_asked_back_where_all_is_done_they_lead_to_where_something_is_left(self):
        done = scene_with_light(self.person, title="Done")
        hand.pin_tone(done, None, band(3), 0.5)
        hand.place_tone(Scene.objects.get(pk=done.pk), None, "A", 3)
        hand.do(Scene.objects.get(pk=done.pk), None, "filter", filter="orange")
        said = {"act": "back", "scene": done.pk}
        self.assertRedirects(self.client.post("/practice/first", said), "/")
        other = scene_with_light(self.person, title="Left")
        self.assertRedirects(self.client.post("/practice/first", said), f"/scenes/{other.pk}/")
        self.assertEqual(self.note(other), 1)

    def test_without_a_picture_home_says_what_to_do(self):
        self.assertRedirects(self.client.post("/practice/first", {"act": "back"}), "/")
        theirs = scene_with_light(self.other(), title="Theirs")
        self.assertRedirects(self.client.post("/practice/first", {"act": "back", "scene": theirs.pk}), "/")
        self.assertEqual(self.client.post("/practice/first", {"act": "eat", "scene": "x"}).status_code, 302)
