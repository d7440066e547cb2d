"""What came of the frames, in an archive: rolls, results with their files and finishing plans, picks, light studies; out and in again.

What was measured comes in as it was and is checked key by key, because pages show it: measuring it again would take seconds a picture.
"""

import uuid

from dimgrey.core.document.frozen import frozen_document, frozen_plan
from dimgrey.core.finishing.finishingplan import finish_file, require_finish
from dimgrey.finishing.models import Finishing
from dimgrey.frames.models import Frame, Roll
from dimgrey.judging.pick.models import Candidate, Pick
from dimgrey.judging.studies.models import Study, StudyPicture
from dimgrey.outings.models import Outing
from dimgrey.results.models import Result
from dimgrey.safekeeping.archive.restoring_practice import take_practice, told_of_practice, uid_of
from dimgrey.safekeeping.archive.rows import (
    CandidateRow,
    FrameRow,
    PickRow,
    ResultRow,
    RollRow,
    StudyPictureRow,
    StudyRow,
    row_by_uid,
    told,
)
from dimgrey.scenes.models import Scene


def told_of(person):
    """(everything as one dictionary, the pictures that it names)."""
    pictures = []
    folder = lambda picture: pictures.append(picture) or picture.folder.hex if picture else None
    frames = Frame.objects.owned_by(person).select_related("picture")
    results = Result.objects.owned_by(person).select_related("picture", "frame", "finishing").order_by("pk")
    return {
        "rolls": [told(RollRow, roll) for roll in Roll.objects.owned_by(person)],
        "frames": [
            told(FrameRow, frame, id=frame.token, picture=folder(frame.picture))
            for frame in frames
            if frame.picture or frame.bracket
        ],
        "results": [_result(result, folder) for result in results],
        "picks": [_pick(pick) for pick in Pick.objects.owned_by(person).order_by("pk")],
        "studies": [_study(study, folder) for study in Study.objects.owned_by(person).order_by("pk")],
        **told_of_practice(person),
    }, pictures


def _result(result, folder):
    plan = getattr(result, "finishing", None)
    return told(
        ResultRow, result, frame=result.frame.token, picture=folder(result.picture),
        finish=plan.kept if plan else None, enlarger=plan.enlarger if plan else None,
    )  # fmt: skip


def _pick(pick):
    rows = pick.candidates.select_related("result__frame")
    candidates = tuple(
        CandidateRow(
            frame=row.result.frame.token, digest=row.result.digest, laid=row.laid, look=row.look, kept=row.kept
        )
        for row in rows
    )
    return told(PickRow, pick, candidates=candidates)


def _study(study, folder):
    rows = study.pictures.select_related("picture", "scene")
    pictures = tuple(
        StudyPictureRow(picture=folder(row.picture), scene=uid_of(row.scene), laid=row.laid, at=row.at, note=row.note)
        for row in rows
    )
    return told(StudyRow, study, outing=uid_of(study.outing), pictures=pictures)


class Afterwards:
    """One archive's results on their way in. incoming: has person, count, and picture(folder). rows: AfterwardsRow."""

    def __init__(self, incoming, rows):
        self.incoming, self.person, self.count, self.rows = incoming, incoming.person, incoming.count, rows

    def wanted(self):
        """Names of the pictures of what is not here yet, None among them."""
        known = set(Result.objects.owned_by(self.person).values_list("frame__token", "digest"))
        yield from (row.picture for row in self.rows.results if (uuid.UUID(row.frame), row.digest) not in known)
        framed = Frame.objects.owned_by(self.person).exclude(picture=None).values_list("token", flat=True)
        shown = {str(token) for token in framed}
        yield from (row.picture for row in self.rows.frames if row.id not in shown)
        studies = set(Study.objects.owned_by(self.person).values_list("title", flat=True))
        yield from (each.picture for row in self.rows.studies if row.title not in studies for each in row.pictures)

    def take_rolls(self):
        """Rolls, before the log names them."""
        known = set(Roll.objects.owned_by(self.person).values_list("number", flat=True))
        for row in self.rows.rolls:
            if row.number in known:
                continue
            made = Roll(
                owner=self.person, number=row.number, film=row.film, rated=row.rated, development=row.development,
                note=row.note, begun_at=row.begun_at, ended_at=row.ended_at,
            )  # fmt: skip
            made.full_clean(exclude=["owner"])
            made.save()

    def take(self):
        """Everything else, after the log."""
        frames = {
            str(frame.token): frame for frame in Frame.objects.owned_by(self.person).select_related("scene__picture")
        }
        for row in self.rows.frames:
            self.frame(frames.get(row.id), row)
        for row in self.rows.results:
            self.result(frames.get(row.frame), row)
        for row in self.rows.picks:
            self.pick(row)
        for row in self.rows.studies:
            self.study(row)
        take_practice(self.person, self.rows, self.count)

    def frame(self, frame, row):
        """The picture that a frame was planned on, and its bracket, where they are not there yet."""
        if frame is None or frame.picture_id:
            return
        scene = frame.scene
        frame.picture = scene.picture if scene and scene.picture else self.incoming.picture(row.picture)
        frame.bracket = row.bracket
        if frame.picture and frame_is_sound(frame):
            frame.grey = grey_of(frame)
        frame.save(update_fields=["picture", "bracket", "grey"])

    def result(self, frame, row):
        if frame is None:
            return
        if frame.results.filter(digest=row.digest).exists():
            self.count["there already"] += 1
            return
        made = Result(
            owner=self.person, frame=frame, kind=row.kind, digest=row.digest, refused=row.refused, laid=row.laid,
            found=row.found, picture=self.incoming.picture(row.picture),
        )  # fmt: skip
        made.full_clean(exclude=["owner", "frame", "picture", "laid", "found"])
        made.save()
        if row.finish:
            kept = finish_file(require_finish(row.finish))
            Finishing.objects.create(owner=self.person, result=made, kept=kept, enlarger=row.enlarger)
        self.count["results"] += 1

    def pick(self, row):
        mine = Result.objects.owned_by(self.person)
        found = [mine.filter(digest=each.digest, frame__token=each.frame).first() for each in row.candidates]
        if not found or None in found or Candidate.objects.filter(pick__owner=self.person, result__in=found).exists():
            return
        made = Pick(owner=self.person, title=row.title, subject=list(row.subject), reason=row.reason)
        made.decided_at = row.decided_at
        made.save()
        for result, each in zip(found, row.candidates, strict=True):
            Candidate.objects.create(pick=made, result=result, laid=each.laid, look=each.look, kept=each.kept)
        self.count["picks"] += 1

    def study(self, row):
        if Study.objects.owned_by(self.person).filter(title=row.title).exists():
            self.count["there already"] += 1
            return
        made = Study.objects.create(
            owner=self.person, title=row.title, outing=row_by_uid(Outing, self.person, row.outing),
            heading_deg=row.heading_deg, subject=list(row.subject), crop=list(row.crop),
        )  # fmt: skip
        for each in row.pictures:
            StudyPicture.objects.create(
                study=made, picture=self.incoming.picture(each.picture), laid=each.laid, at=each.at, note=each.note,
                scene=row_by_uid(Scene, self.person, each.scene),
            )  # fmt: skip
        self.count["light studies"] += 1


def frame_is_sound(frame):
    """Whether a frame's frozen plan and document can be read."""
    return bool(frame.document and frozen_document(frame.document) and frozen_plan(frame.plan))


def grey_of(frame):
    """Address of the grey view that a frame was planned with."""
    from dimgrey.scenes.situation import Situation

    return Situation(frame.as_it_was).grey
