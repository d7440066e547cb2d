"""What came of the frames, in an archive: rolls, results with their files and finishing plans, picks, light studies; out and in again.

What was measured comes in as it was and is checked key by key, because pages show it: measuring it again would take seconds a picture.
"""

import uuid

from django.utils.dateparse import parse_datetime

from dimgrey.archive.checked import keys, moment, number, refuse, row_by_uid, text
from dimgrey.archive.practised import take_practice, told_of_practice
from dimgrey.core.document.frozen import frozen_document, frozen_plan
from dimgrey.core.learning.finishingplan import finish_file, require_finish
from dimgrey.core.learning.scans import KINDS
from dimgrey.frames.models import Frame, Roll
from dimgrey.outings.models import Outing
from dimgrey.results.models import Candidate, Finishing, Pick, Result
from dimgrey.scenes.models import Scene
from dimgrey.studies.models import Study, StudyPicture

ROLL = ("number", "film", "rated", "development", "note")
TONE = {
    "name": str,
    "role": str,
    "planned": float,
    "actual": float,
    "planned_fall": float,
    "fall": float,
    "end": int,
    "free": bool,
}
FOUND = {
    "kind": str,
    "a": float,
    "a_half": float,
    "b": float,
    "b_half": float,
    "spread": float,
    "places": int,
    "share": float,
}
PART = {"kind": str, "size": float, "half": float, "tone": str}
SAID = {"kind": str, "what": str, "next": str, "short": str}
LAID = {"is_mirrored": bool, "is_negative": bool, "agreeing": int, "alike": float, "share": float}
LOOK = {"sharpness": float, "lost_black": float, "lost_white": float, "parting": float}


def told_of(person):
    """(everything as one dictionary, the pictures that it names)."""
    pictures = []
    folder = lambda picture: pictures.append(picture) or picture.folder.hex if picture else None
    frames = Frame.objects.owned_by(person).select_related("picture")
    results = Result.objects.owned_by(person).select_related("picture", "frame", "finishing").order_by("pk")
    return {
        "rolls": [
            {**{name: getattr(roll, name) for name in ROLL}, "begun_at": roll.begun_at, "ended_at": roll.ended_at}
            for roll in Roll.objects.owned_by(person)
        ],
        "frames": [
            {"id": frame.token, "picture": folder(frame.picture), "bracket": frame.bracket, "grey": frame.grey}
            for frame in frames
            if frame.picture or frame.bracket
        ],
        "results": [_result(result, folder) for result in results],
        "picks": [_pick(pick) for pick in Pick.objects.owned_by(person).order_by("pk")],
        "studies": [_study(study, folder) for study in Study.objects.owned_by(person).order_by("pk")],
        **told_of_practice(person),
    }, pictures


def _result(result, folder):
    finishing = getattr(result, "finishing", None)
    return {
        "frame": result.frame.token,
        "picture": folder(result.picture),
        **{name: getattr(result, name) for name in ("kind", "laid", "refused", "found", "digest")},
        "finish": finishing.kept if finishing else None,
        "enlarger": finishing.enlarger if finishing else {},
    }


def _pick(pick):
    rows = pick.candidates.select_related("result__frame")
    return {
        **{name: getattr(pick, name) for name in ("title", "subject", "reason", "decided_at")},
        "candidates": [
            {
                "frame": row.result.frame.token,
                "digest": row.result.digest,
                "laid": row.laid,
                "look": row.look,
                "kept": row.kept,
            }
            for row in rows
        ],
    }


def _study(study, folder):
    rows = study.pictures.select_related("picture", "scene")
    return {
        **{name: getattr(study, name) for name in ("title", "heading_deg", "subject", "crop")},
        "outing": study.outing.uid if study.outing else None,
        "pictures": [
            {
                "picture": folder(row.picture),
                "scene": row.scene.uid if row.scene else None,
                "laid": row.laid,
                "at": row.at,
                "note": row.note,
            }
            for row in rows
        ],
    }


class Afterwards:
    """One archive's results on their way in. incoming: has person, count, and picture(folder)."""

    def __init__(self, incoming):
        self.incoming, self.person, self.count = incoming, incoming.person, incoming.count

    def rolls(self, told):
        """Rolls, before the log names them."""
        known = set(Roll.objects.owned_by(self.person).values_list("number", flat=True))
        for row in told.get("rolls", ()):
            if row["number"] in known:
                continue
            made = Roll(owner=self.person, **{name: row[name] for name in ROLL})
            made.begun_at, made.ended_at = parse_datetime(row["begun_at"]), moment(row["ended_at"])
            made.full_clean(exclude=["owner"])
            made.save()

    def take(self, told):
        """Everything else, after the log."""
        frames = {
            str(frame.token): frame for frame in Frame.objects.owned_by(self.person).select_related("scene__picture")
        }
        for row in told.get("frames", ()):
            self.frame(frames.get(row["id"]), row)
        for row in told.get("results", ()):
            self.result(frames.get(row["frame"]), row)
        for row in told.get("picks", ()):
            self.pick(row)
        for row in told.get("studies", ()):
            self.study(row)
        take_practice(self.person, told, self.count)

    def frame(self, frame, row):
        """The picture that a frame was planned on, and its bracket, where they are not there yet."""
        if frame is None or frame.picture_id:
            return
        scene = frame.scene
        frame.picture = scene.picture if scene and scene.picture else self.incoming.picture(row["picture"])
        frame.bracket = uuid.UUID(row["bracket"]) if row["bracket"] else None
        if frame.picture and frame_is_sound(frame):
            frame.grey = grey_of(frame)
        frame.save(update_fields=["picture", "bracket", "grey"])

    def result(self, frame, row):
        if frame is None:
            return
        if frame.results.filter(digest=row["digest"]).exists():
            self.count["there already"] += 1
            return
        made = Result(
            owner=self.person, frame=frame, kind=row["kind"], digest=text(row["digest"], 64), refused=text(row["refused"], 400),
            laid=require_laid(row["laid"]), found=require_found(row["found"]), picture=self.incoming.picture(row["picture"]),
        )  # fmt: skip
        made.full_clean(exclude=["owner", "frame", "picture", "laid", "found"])
        made.save()
        if row["finish"]:
            enlarger = {
                name: number(value)
                for name, value in dict(row["enlarger"]).items()
                if name in ("base", "first", "step", "count")
            }
            kept = finish_file(require_finish(row["finish"]))
            Finishing.objects.create(owner=self.person, result=made, kept=kept, enlarger=enlarger)
        self.count["results"] += 1

    def pick(self, row):
        title, rows = text(row["title"], 120), row["candidates"]
        found = [
            Result.objects.owned_by(self.person).filter(digest=each["digest"], frame__token=each["frame"]).first()
            for each in rows
        ]
        if not rows or None in found or Candidate.objects.filter(pick__owner=self.person, result__in=found).exists():
            return
        subject = [number(each) for each in row["subject"]]
        made = Pick(owner=self.person, title=title, subject=subject[:2], reason=text(row["reason"], 300))
        made.decided_at = moment(row["decided_at"])
        made.save()
        for result, each in zip(found, rows, strict=True):
            look = require_look(each["look"])
            Candidate.objects.create(
                pick=made, result=result, laid=require_laid(each["laid"]), look=look, kept=each["kept"] is True
            )
        self.count["picks"] += 1

    def study(self, row):
        title = text(row["title"], 120)
        if Study.objects.owned_by(self.person).filter(title=title).exists():
            self.count["there already"] += 1
            return
        numbers = lambda values, count: [number(each) for each in values] if len(values) == count else refuse("a study")
        made = Study.objects.create(
            owner=self.person,
            title=title,
            outing=row_by_uid(Outing, self.person, row["outing"]),
            heading_deg=None if row["heading_deg"] is None else number(row["heading_deg"]),
            subject=numbers(row["subject"], 2),
            crop=numbers(row["crop"], 4),
        )
        for each in row["pictures"]:
            StudyPicture.objects.create(
                study=made, picture=self.incoming.picture(each["picture"]), scene=row_by_uid(Scene, self.person, each["scene"]),
                laid=require_laid(each["laid"]), at=moment(each["at"]), note=text(each["note"], 120),
            )  # fmt: skip
        self.count["light studies"] += 1


def frame_is_sound(frame):
    """Whether a frame's frozen plan and document can be read."""
    return bool(frame.document and frozen_document(frame.document) and frozen_plan(frame.plan))


def grey_of(frame):
    """Address of the grey view that a frame was planned with."""
    from dimgrey.scenes.situation import Situation

    return Situation(frame.as_it_was).grey


def require_laid(laid):
    """How a result lies, as it is kept; {} for not at all. Raises CoreError."""
    if not laid:
        return {}
    rows = laid["matrix"]
    if len(rows) != 3 or any(len(row) != 3 for row in rows):
        refuse("how a picture lies")
    return {**keys(laid, LAID), "matrix": [[number(each) for each in row] for row in rows]}


def require_found(found):
    """What was found of a result, as it is kept; {} for nothing. Raises CoreError."""
    if not found:
        return {}
    span = lambda value: (
        None if value is None else [number(each) for each in value] if len(value) == 2 else refuse("a wish")
    )
    maybe = lambda value: None if value is None else number(value)
    if found["kind"] not in KINDS:
        refuse("the kind of a result")
    return {
        **keys(found, FOUND),
        "unexplained": maybe(found["unexplained"]),
        "tones": [
            {**keys(tone, TONE), "wished": span(tone["wished"]), "own": maybe(tone["own"])} for tone in found["tones"]
        ],
        "parts": [
            {**keys(part, PART), "filters": [text(each, 60) for each in part["filters"]]} for part in found["parts"]
        ],
        "said": [keys(said, SAID) for said in found["said"]],
    }


def require_look(look):
    """What a pick found of a frame, as it is kept. Raises CoreError."""
    maybe = lambda name: None if look[name] is None else number(look[name])
    return {
        **keys(look, LOOK),
        **{name: maybe(name) for name in ("first_pull", "tilt_deg", "lean_deg")},
        "moved": [text(each, 30) for each in look["moved"]],
    }
