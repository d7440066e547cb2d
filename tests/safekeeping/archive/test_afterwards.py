"""What came of the frames goes out and comes in again: rolls, results, finishing plans, picks, light studies."""

import copy
import io
import json
import uuid
import zipfile

import tifffile
from django.utils import timezone

from dimgrey.core.practice.answer import GivenAnswer
from dimgrey.finishing import finishing
from dimgrey.frames.actions import begin_roll
from dimgrey.frames.models import Frame, Roll
from dimgrey.judging.pick import picking
from dimgrey.judging.pick.models import Pick
from dimgrey.judging.studies.actions import add_scenes, make_study
from dimgrey.judging.studies.models import Study
from dimgrey.kit.actions import correct_item, keep_item
from dimgrey.kit.models import Item, ItemRevision
from dimgrey.pictures.models import Picture
from dimgrey.practice.actions import keep_answers
from dimgrey.practice.firststeps import leave, take_up
from dimgrey.practice.models import Answer, Assignment, Card, FirstSteps
from dimgrey.practice.outcome import give
from dimgrey.practice.weeks import begin_month
from dimgrey.results.models import Result
from dimgrey.safekeeping.archive.restoring import restore_archive
from dimgrey.safekeeping.archive.unpacking import ArchiveError
from dimgrey.safekeeping.archive.writing import pieces
from dimgrey.scenes.models import Scene
from tests.results.test_results import ResultTest, file_of, yard_light


def told(person):
    """Everything of a person that came of frames, without numbers of rows."""
    results = Result.objects.owned_by(person).select_related("frame", "finishing").order_by("digest")
    return {
        "rolls": list(Roll.objects.owned_by(person).values_list("number", "film", "rated", "development")),
        "places": sorted(frame.place_on_film for frame in Frame.objects.owned_by(person)),
        "results": [
            [
                str(r.frame.token),
                r.kind,
                r.laid,
                r.found,
                r.digest,
                r.picture is not None,
                getattr(r, "finishing", None) and r.finishing.kept,
            ]
            for r in results
        ],
        "picks": [
            [p.title, p.reason, p.subject, [[c.result.digest, c.laid, c.look, c.kept] for c in p.candidates.all()]]
            for p in Pick.objects.owned_by(person)
        ],
        "studies": [
            [s.title, s.heading_deg, s.subject, [row.laid for row in s.pictures.all()]]
            for s in Study.objects.owned_by(person)
        ],
        "answers": sorted(str(row) for row in Answer.objects.owned_by(person).values_list("act", "kind", "off", "at")),
        "tasks": [
            [t.key, t.span, str(t.week), t.is_met, t.text, t.done_at, [r.digest for r in t.results.order_by("digest")]]
            for t in Assignment.objects.owned_by(person)
        ],
        "steps": list(FirstSteps.objects.owned_by(person).values_list("scene__uid", "left")),
        "corrections": [
            [r.item.name, r.before, r.values, r.change, r.correction, r.at, r.undone_at]
            for r in ItemRevision.objects.filter(item__owner=person)
        ],
        "greys": [bool(frame.grey) for frame in Frame.objects.owned_by(person).order_by("number")],
    }


class WithEverything(ResultTest):
    """A person with a roll, results, a finishing plan, a pick, a study, answers and tasks."""

    KIND = "film"

    def setUp(self):
        super().setUp()
        original = next(self.scene.picture.path.glob("original*"))
        tifffile.imwrite(original, yard_light())
        begin_roll(self.person, "film", "200", "N+1")
        second = self.logged()
        self.add(file_of(self.shot(0.5)))
        self.add(file_of(self.shot(0.1)), frame=second)
        first, other = Result.objects.order_by("pk")
        plan = finishing.finishing_of(first)
        finishing.add_area(plan, name="sky", outline=((0, 0), (1, 0), (1, 0.3)))
        pick = picking.make_pick(self.person, [first, other])
        picking.decide(pick, [pick.candidates.first().pk], "calm")
        keep_answers(
            self.person,
            [
                GivenAnswer(
                    act=str(uuid.uuid4()), kind="ends", subject="slide", off=0.0, is_right=True, in_stops=False, level=0,
                    at=timezone.now(),
                )
            ],
        )  # fmt: skip
        begin_month(self.person, timezone.localdate())
        give(Assignment.objects.get(key="window"), first)
        take_up(self.person)
        leave(self.person)
        meter = keep_item(self.person, "meter", "Old meter", {})
        correct_item(meter, {"calibration_stops": 0.3}, "+⅓ from 12 frames", "exposure")
        add_scenes(make_study(self.person, "Lime wall", heading_deg=20.0), [self.scene])


class Afterwards(WithEverything):
    def archive(self):
        return b"".join(pieces(self.person))

    def test_a_round_trip_after_everything_is_lost(self):
        before, data = told(self.person), self.archive()
        for model in (Assignment, FirstSteps, Item, Answer, Card, Study, Pick, Result, Frame, Roll, Scene):
            for row in model.objects.all():
                row.delete()
        self.assertEqual(Picture.objects.count(), 0)
        count = restore_archive(self.person, io.BytesIO(data))
        self.assertEqual(told(self.person), before)
        self.assertEqual((count["results"], count["picks"], count["light studies"]), (2, 1, 1))
        result = Result.objects.order_by("pk").first()
        for path in (
            f"/results/{result.pk}/",
            f"/results/{result.pk}/finish",
            "/frames/",
            "/learn/",
            "/picks/",
            "/studies/",
        ):
            self.assertEqual(self.client.get(path).status_code, 200, path)
        self.assertContains(self.client.get(f"/results/{result.pk}/"), "lighter than planned")

    def test_twice_is_once_and_another_person_has_it_too(self):
        before, data, count = told(self.person), self.archive(), Picture.objects.count()
        restore_archive(self.person, io.BytesIO(data))
        self.assertEqual(told(self.person), before)
        self.assertEqual(Picture.objects.count(), count)
        other = self.other()
        restore_archive(other, io.BytesIO(data))
        self.assertEqual(told(other), before)

    def test_what_is_not_what_was_written_there_is_refused_and_nothing_is_kept(self):
        data = self.archive()
        with zipfile.ZipFile(io.BytesIO(data)) as archive:
            names = {name: archive.read(name) for name in archive.namelist()}
        good = json.loads(names["results.json"])
        for path, value in (
            (("results", 0, "found", "a"), "lighter"), (("results", 0, "found", "tones", 0, "planned"), None), (("results", 0, "found", "said"), 5),
            (("results", 0, "laid", "matrix"), [[1]]), (("results", 0, "kind"), "soup"), (("results", 0, "finish"), {"format": "x"}),
            (("results", 0, "digest"), 5), (("rolls", 0, "number"), "a"), (("picks", 0, "candidates", 0, "look", "sharpness"), {}),
            (("studies", 0, "crop"), [0, 1]), (("studies", 0, "pictures", 0, "laid", "alike"), "x"), (("results", 0, "picture"), "../../etc"),
            (("tasks", 0, "key"), "soup"), (("tasks", 0, "week"), "Monday"), (("tasks", 0, "text"), 5), (("corrections", 0, "correction"), "x"),
            (("corrections", 0, "values"), {"soup": 1}), (("corrections", 0, "item"), 5),
        ):  # fmt: skip
            wrong = copy.deepcopy(good)
            at = wrong
            for key in path[:-1]:
                at = at[key]
            at[path[-1]] = value
            buffer = io.BytesIO()
            with zipfile.ZipFile(buffer, "w") as archive:
                for name, content in names.items():
                    archive.writestr(name, json.dumps(wrong) if name == "results.json" else content)
            other = self.other() if not hasattr(self, "someone") else self.someone
            self.someone = other
            with self.subTest(path=path), self.assertRaises(ArchiveError):
                restore_archive(other, buffer)
            self.assertEqual((Result.objects.owned_by(other).count(), Roll.objects.owned_by(other).count()), (0, 0))

    def test_an_archive_of_before_has_none_and_is_taken(self):
        with zipfile.ZipFile(io.BytesIO(self.archive())) as archive:
            names = {name: archive.read(name) for name in archive.namelist() if name != "results.json"}
        buffer = io.BytesIO()
        with zipfile.ZipFile(buffer, "w") as archive:
            for name, content in names.items():
                archive.writestr(name, content)
        other = self.other()
        self.assertEqual(restore_archive(other, buffer)["frames"], 2)
        self.assertLess(Frame.objects.owned_by(other).first().exposed_at, timezone.now())
