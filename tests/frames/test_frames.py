"""The log: frozen plans, double clicks, corrections, CSV both ways."""

import csv
import io
import uuid
from datetime import UTC, datetime

from django.core.files.uploadedfile import SimpleUploadedFile

from dimgrey.frames.actions import begin_roll, log_frame, put_on_roll
from dimgrey.frames.csvlog import CsvError, csv_lines, import_frames
from dimgrey.frames.models import Frame
from dimgrey.frames.queries import rolls_of
from dimgrey.outings.actions import create_outing
from dimgrey.people.models import Person
from dimgrey.scenes import lifecycle
from dimgrey.scenes.models import Scene
from tests import hand
from tests.documents import document
from tests.helpers import PageTest, band, scene_with_light


class Log(PageTest):
    def setUp(self):
        super().setUp()
        self.scene = scene_with_light(self.person)
        hand.pin_tone(self.scene, None, band(3), 0.5)
        hand.place_tone(self.scene, None, "A", 3)

    def log(self, token=None, **values):
        return self.client.post(f"/scenes/{self.scene.pk}/log", {"token": token or uuid.uuid4(), **values})

    def test_a_frame_is_the_plan_unless_said_otherwise(self):
        self.log(note="first")
        frame = Frame.objects.get()
        self.assertEqual((frame.shutter, frame.aperture, frame.iso, frame.note), ("1/60", "f/8", "100", "first"))
        self.assertEqual((frame.difference_stops, frame.number), (0, 1))

    def test_what_was_really_set_is_kept_with_its_difference(self):
        self.log(shutter="1/30", aperture="f/11")
        self.log(shutter="1/15")
        self.assertEqual([f.difference_stops for f in Frame.objects.order_by("number")], [0, 2])

    def test_a_double_click_logs_one_frame(self):
        token = uuid.uuid4()
        places = {self.log(token)["Location"] for _ in range(3)}
        self.assertEqual((Frame.objects.count(), len(places)), (1, 1))

    def test_later_edits_never_change_the_frozen_plan(self):
        self.log()
        frozen = Frame.objects.get().plan
        hand.place_tone(self.scene, None, "A", 5)
        hand.describe_tone(self.scene, None, "A", name="other")
        self.assertEqual(Frame.objects.get().plan, frozen)
        self.scene.delete()
        self.assertEqual(Frame.objects.get().plan, frozen)
        self.assertContains(self.client.get(f"/frames/{Frame.objects.get().pk}/"), "The plan it was made with")

    def test_bad_settings_are_a_sentence_and_no_frame(self):
        answer = self.log(shutter="1/0", note="kept words")
        self.assertContains(answer, "Exposure time must be more than 0 s (got 1/0).", status_code=422)
        self.assertContains(answer, "kept words", status_code=422)
        self.assertEqual(self.log(token="not a token").status_code, 422)
        hand.unplace(self.fresh(self.scene), None)
        hand.drop_tone(self.fresh(self.scene), None, "A")
        self.assertContains(self.log(), "Sight a tone on the picture", status_code=422)
        self.assertEqual(Frame.objects.count(), 0)

    def test_times_are_told_by_the_clocks_of_the_place(self):
        self.log()
        at = datetime(2027, 6, 21, 11, 30, tzinfo=UTC)
        Frame.objects.update(exposed_at=at)
        for page in ("/frames/", f"/frames/{Frame.objects.get().pk}/"):
            self.assertContains(self.client.get(page), "11:30")
        outing = create_outing(self.person, title="Far off", zone="Europe/Lisbon")
        Scene.objects.filter(pk=self.scene.pk).update(outing=outing)
        for page in ("/frames/", f"/frames/{Frame.objects.get().pk}/"):
            answer = self.client.get(page)
            self.assertContains(answer, "12:30")
            self.assertContains(answer, "Europe/Lisbon")

    def test_a_correction_keeps_the_plan_and_moves_the_difference(self):
        self.log()
        frame = Frame.objects.get()
        self.client.post(f"/frames/{frame.pk}/", {"shutter": "1/125", "note": "clouded over"})
        after = Frame.objects.get()
        self.assertEqual(
            (after.shutter, after.aperture, after.note, after.difference_stops), ("1/125", "f/8", "clouded over", -1)
        )
        self.assertEqual(after.plan, frame.plan)
        self.assertEqual(self.client.post(f"/frames/{frame.pk}/", {"shutter": "soon"}).status_code, 422)

    def test_frames_of_another_are_not_there(self):
        self.log()
        frame = Frame.objects.get()
        Frame.objects.update(owner=self.other())
        self.assertEqual(self.client.get(f"/frames/{frame.pk}/").status_code, 404)
        self.assertNotContains(self.client.get("/frames/"), "Steps")


class Csv(PageTest):
    HEAD = "exposed_at,scene,aperture,shutter,iso,note\n"

    def test_a_log_goes_out_and_comes_in_the_same(self):
        text = (
            self.HEAD
            + '2026-05-01T09:30:00+00:00,Kiln,f/8,1/125,100,"mist, rising"\n2026-05-01T09:40:00,Yard,f/11,2 s,400,\n'
        )
        self.assertEqual(import_frames(self.person, text), (2, 0))
        out = "".join(csv_lines(Frame.objects.order_by("number")))
        rows = list(csv.DictReader(io.StringIO(out)))
        self.assertEqual(
            [(r["scene"], r["aperture"], r["shutter"], r["note"]) for r in rows],
            [("Kiln", "f/8", "1/125", "mist, rising"), ("Yard", "f/11", "2 s", "")],
        )
        self.assertEqual(import_frames(self.person, out), (0, 2), "the same log twice is not doubled")
        self.assertEqual(import_frames(self.person, text), (0, 2), "nor is one without ids")

    def test_plans_numbers_order_and_scenes_come_back(self):
        scene = self.planned()
        for k in range(3):
            log_frame(self.person, scene, uuid.uuid4(), note=f"'{k}' of three")
        Frame.objects.filter(number=2).update(number=7)
        out = "".join(csv_lines(Frame.objects.order_by("number")))
        before = [self.facts(frame) for frame in Frame.objects.order_by("number")]
        Frame.objects.all().delete()
        self.assertEqual(import_frames(self.person, out), (3, 0))
        self.assertEqual([self.facts(frame) for frame in Frame.objects.order_by("number")], before)
        other = Person.objects.create_user("elsewhere")
        import_frames(other, out)
        there = Frame.objects.owned_by(other).first()
        self.assertIsNone(there.scene, "a scene's number says nothing of another person's scenes")
        self.assertIsNotNone(there.frozen)

    @staticmethod
    def facts(frame):
        kept = (frame.number, frame.token, frame.scene_id, frame.note, frame.plan, frame.document, frame.exposed_at)
        return (*kept, frame.difference_stops)

    def planned(self):
        tone = {"name": "wall", "readings": [{"ev100": 12}]}
        return lifecycle.create_scene(
            self.person,
            document(title="Wall", tones=[tone], placing={"tone": "wall", "zone": 7, "school": "highlight"}),
        )

    def test_a_log_of_any_size_comes_in_whole(self):
        rows = "".join(
            f"2026-05-01T09:{k // 60 % 60:02}:{k % 60:02},Kiln {k},f/8,1/125,100,{'x' * 480}\n" for k in range(12_000)
        )
        self.assertEqual(import_frames(self.person, self.HEAD + rows), (12_000, 0))

    def test_cells_that_a_spreadsheet_would_run_are_held(self):
        import_frames(self.person, self.HEAD + "2026-05-01T09:30:00,=1+1,f/8,1/125,100,@cmd\n")
        row = "".join(csv_lines(Frame.objects.all())).splitlines()[1]
        self.assertIn("'=1+1", row)
        self.assertIn("'@cmd", row)

    def test_each_faulty_line_is_named_and_none_is_kept(self):
        good = "2026-05-01T09:30:00,Kiln,f/8,1/125,100,\n"
        cases = [
            ("exposed_at,scene\n", "Line 1: the column “aperture” is missing."),
            (self.HEAD.replace("note", "mood") + good, "Line 1: unknown column “mood”."),
            (self.HEAD + good + "yesterday,Kiln,f/8,1/125,100,\n", "Line 3: “yesterday” is not a time."),
            (self.HEAD + good.replace("f/8", "f/7.5"), "Line 2: f/7.5 is not a marked value."),
            (self.HEAD + good.replace("1/125", "1/0"), "Line 2: Exposure time must be more than 0 s"),
            (self.HEAD + "2026-05-01T09:30:00,Kiln\n", "Line 2: the line has another number of cells"),
            (self.HEAD + "2026-13-45T99:30:00,Kiln,f/8,1/125,100,\n", "Line 2: “2026-13-45T99:30:00” is not a time."),
        ]
        for text, sentence in cases:
            with self.subTest(sentence=sentence), self.assertRaises(CsvError) as refused:
                import_frames(self.person, text)
            with self.subTest(sentence=sentence):
                self.assertTrue(
                    any(line.startswith(sentence) for line in refused.exception.mistakes), refused.exception.mistakes
                )
        self.assertEqual(Frame.objects.count(), 0)

    def test_the_page_names_the_mistakes(self):
        answer = self.client.post("/frames/import", {"file": SimpleUploadedFile("log.csv", b"a,b\n1,2\n")})
        self.assertContains(answer, "unknown column “a”", status_code=422)
        self.assertContains(
            self.client.post("/frames/import", {"file": SimpleUploadedFile("log.csv", b"\xff\xfe\x00")}),
            "not text",
            status_code=422,
        )


class Corrections(PageTest):
    """The log's time, by the clocks of the place."""

    def setUp(self):
        super().setUp()
        outing = create_outing(self.person, "Yard", zone="Asia/Kolkata")
        tone = {"name": "wall", "role": "highlight", "ev100": 14}
        placing = {"school": "known tone", "tone": "wall", "zone": 7}
        scene = lifecycle.create_scene(self.person, document(title="Wall", tones=[tone], placing=placing), outing)
        self.frame = log_frame(self.person, scene, uuid.uuid4(), exposed_at=datetime(2026, 9, 1, 10, 20, tzinfo=UTC))
        self.url = f"/frames/{self.frame.pk}/"

    def correct(self, **values):
        return self.client.post(self.url, {"shutter": "1/125", "aperture": "f/8", "iso": "100", **values})

    def test_it_is_shown_and_corrected_in_the_zone_of_the_place(self):
        self.assertContains(self.client.get(self.url), 'value="2026-09-01T15:50"')
        self.correct(exposed="2026-09-01T16:05")
        self.frame.refresh_from_db()
        self.assertEqual(self.frame.exposed_at, datetime(2026, 9, 1, 10, 35, tzinfo=UTC))
        self.correct(exposed="")
        self.frame.refresh_from_db()
        self.assertEqual(
            self.frame.exposed_at, datetime(2026, 9, 1, 10, 35, tzinfo=UTC), "nothing typed, nothing changed"
        )

    def test_a_time_that_has_not_come_and_one_that_is_none_are_refused(self):
        for typed, sentence in (("2126-01-01T10:00", "has not come yet"), ("yesterday", "Write day and time")):
            self.assertContains(self.correct(exposed=typed), sentence, status_code=422)
        self.frame.refresh_from_db()
        self.assertEqual(self.frame.exposed_at, datetime(2026, 9, 1, 10, 20, tzinfo=UTC))

    def test_a_struck_frame_is_in_no_list_and_can_be_put_back(self):
        number, roll = self.frame.number, begin_roll(self.person, "Sheet", "100")
        put_on_roll(self.frame, roll)
        self.client.post(f"{self.url}strike")
        listed = self.client.get("/frames/")
        self.assertContains(listed, "1 struck out")
        self.assertEqual((self.client.get(self.url).status_code, rolls_of(self.person).get().count), (404, 0))
        self.assertNotIn(b"1/60", b"".join(self.client.get("/frames.csv").streaming_content))
        again = log_frame(self.person, self.frame.scene, self.frame.token)
        self.assertEqual((again.pk, Frame.objects.count()), (self.frame.pk, 0), "sent again it stays struck")
        other = log_frame(self.person, self.frame.scene, uuid.uuid4())
        self.assertEqual(other.number, number + 1, "its number is not given to another")
        put_on_roll(other, roll)
        self.assertRedirects(self.client.post(f"/frames/{self.frame.pk}/back"), self.url)
        self.assertEqual({frame.roll_number for frame in Frame.objects.all()}, {1, 2})
        self.assertEqual(self.client.post(f"/frames/{self.frame.pk}/back").status_code, 404)

    def test_an_act_on_one_scene_strikes_no_frame_of_another(self):
        other = lifecycle.create_scene(self.person, document(title="Other"))
        hand.do(other, None, "strike-out", line=str(self.frame.token))
        self.assertEqual(Frame.objects.count(), 1)
        hand.do(Scene.objects.get(pk=self.frame.scene_id), None, "strike-out", line=str(self.frame.token))
        self.assertEqual(Frame.objects.count(), 0)

    def test_several_frames_are_struck_put_back_and_put_on_a_roll_together(self):
        later = [log_frame(self.person, self.frame.scene, uuid.uuid4()) for _ in range(3)]
        ticked = [self.frame.pk, later[1].pk]
        page = self.client.post("/frames/several", {"frames": ticked, "act": "strike"}, follow=True)
        self.assertContains(page, f"Struck out: frames {self.frame.number}, {later[1].number}.")
        self.assertEqual(set(Frame.objects.all()), {later[0], later[2]})
        act = Frame.every.get(pk=self.frame.pk).struck_by
        self.assertContains(self.client.post(f"/frames/back/{act}", follow=True), "as planned")
        self.assertEqual(Frame.objects.count(), 4)
        self.assertEqual(self.client.post(f"/frames/back/{act}").status_code, 404)
        roll = begin_roll(self.person, "Sheet", "100")
        self.client.post("/frames/several", {"frames": ticked, "act": "roll", "roll": roll.number})
        self.assertEqual([f.pk for f in Frame.objects.filter(roll=roll).order_by("roll_number")], ticked)

    def test_what_several_frames_cannot_be_asked_for_is_said_and_changes_nothing(self):
        for said in ({"act": "strike"}, {"frames": [10**9], "act": "strike"}, {"frames": [self.frame.pk], "act": "eat"},
                     {"frames": [self.frame.pk], "act": "roll"}, {"frames": [self.frame.pk], "act": "roll", "roll": "77"}):  # fmt: skip
            self.assertEqual(self.client.post("/frames/several", said).status_code, 422, said)
        for said in ("x", str(uuid.uuid4()), "0" * 32):
            self.assertNotContains(self.client.get("/frames/", {"struck": said}), "Struck out:")
        self.assertEqual(Frame.objects.get().roll, None)
