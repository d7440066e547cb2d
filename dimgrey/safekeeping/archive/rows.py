"""Rows of the archive's JSON files: what each may say, declared once; written and read from here.

Rows without a sentence of their own say what the model of the same name keeps.
"""

from dataclasses import dataclass
from datetime import date, datetime

from dimgrey.core.camera.calibration import Measured
from dimgrey.core.document.kit import KINDS
from dimgrey.core.finishing.enlarger import EnlargerSetting
from dimgrey.core.judging.pick import Look
from dimgrey.core.picture.match import Match
from dimgrey.core.picture.measures import Measures
from dimgrey.core.practice.answer import GivenAnswer
from dimgrey.core.practice.assignments import TASKS
from dimgrey.core.results.finding import Found
from dimgrey.core.results.resultkinds import KINDS as RESULT_KINDS
from dimgrey.core.shapes.declare import (
    YES_NO,
    Shaped,
    exactly,
    extent,
    key,
    many,
    needed,
    number,
    one_of,
    or_empty,
    or_none,
    part,
    several,
    text,
)
from dimgrey.core.shapes.moments import DAY, ID, MOMENT, day, id_of, moment
from dimgrey.core.shapes.plain import checked_part, whole_part
from dimgrey.practice.models import Assignment

OBJECT = {"type": "object"}
CORRECTIONS = ("exposure", "contrast", "headroom")
WHOLE = number(0, kind="integer")


def an_id():
    """A key with the id of something else, or None."""
    return key(or_none(ID), reads=id_of)


def when():
    """A key with a moment, or None."""
    return key(or_none(MOMENT), reads=moment)


@dataclass(frozen=True, kw_only=True)
class MeasuredRow(Shaped):
    kind: str = needed(one_of(*KINDS))
    name: str = needed(text(60))
    values: Measured = part(Measured)


@dataclass(frozen=True, kw_only=True)
class SetupRow(Shaped):
    """setup: of the open setup format. camera: its name, "" for none."""

    setup: dict = needed(OBJECT)
    camera: str = key(text(60), "")


@dataclass(frozen=True, kw_only=True)
class OutingRow(Shaped):
    uid: str = needed(ID, reads=id_of)
    title: str = needed(text(120))
    intent: str = key(text(0), "")
    notes: str = key(text(0), "")
    bring: str = key(text(0), "")
    date: object = key(or_none(DAY), reads=day)
    place_name: str = key(text(120), "")
    latitude_deg: float | None = key(or_none(number(-90, 90)))
    longitude_deg: float | None = key(or_none(number(-180, 180)))
    zone: str = key(text(60), "UTC")
    tidal: bool = key(YES_NO, False)
    forecast: bool = key(YES_NO, False)
    terrain: tuple = key(several(exactly(2, number())), ())
    checked: tuple = key(several(text(60)), ())
    typed_conditions: dict = key(OBJECT, {})
    dismissed: tuple = key(several(text(60)), ())
    series: str | None = an_id()
    removed: bool = key(YES_NO, False)

    def contradictions(self):
        if (self.latitude_deg is None) != (self.longitude_deg is None):
            yield "latitude_deg: a place has both coordinates, or none."


@dataclass(frozen=True, kw_only=True)
class StateRow(Shaped):
    """One state of a scene. parent: number of the state before, from 0."""

    label: str = needed(text(200))
    at: datetime | None = when()
    done_at: datetime | None = when()
    act: str | None = an_id()
    parent: int | None = key(or_none(WHOLE))
    picture: str | None = an_id()
    document: dict = needed(OBJECT)


@dataclass(frozen=True, kw_only=True)
class SceneRow(Shaped):
    """number: of the scene where it was written, by which the log names it. head: number of its present state."""

    uid: str = needed(ID, reads=id_of)
    number: int | None = key(or_none(WHOLE))
    title: str = needed(text(200))
    outing: str | None = an_id()
    position: int = needed(WHOLE)
    removed: bool = needed(YES_NO)
    picture: str | None = an_id()
    head: int = needed(WHOLE)
    states: tuple = many(StateRow, 20_000)

    def contradictions(self):
        if self.head >= len(self.states):
            yield "head: there is no such state."
        if any(state.parent is not None and state.parent >= k for k, state in enumerate(self.states)):
            yield "states: each comes after the one before it."


@dataclass(frozen=True, kw_only=True)
class PictureRow(Shaped):
    name: str = key(text(255), "picture")
    simulated_light: bool = key(YES_NO, False)
    kind: str = key(text(24), "")


@dataclass(frozen=True, kw_only=True)
class RollRow(Shaped):
    number: int = needed(number(1, 1_000_000, "integer"))
    film: str = needed(text(60))
    rated: str = needed(text(16))
    development: str = key(text(8), "")
    note: str = key(text(200), "")
    begun_at: datetime = needed(MOMENT, reads=moment)
    ended_at: datetime | None = when()


@dataclass(frozen=True, kw_only=True)
class FrameRow(Shaped):
    """What the log's lines do not say of a frame. id: its own."""

    id: str = needed(ID, reads=id_of)
    picture: str | None = an_id()
    bracket: str | None = an_id()
    grey: str = key(text(2000), "")


@dataclass(frozen=True, kw_only=True)
class ResultNamed(Shaped):
    """A result by its frame's id and its file's digest."""

    frame: str = needed(ID, reads=id_of)
    digest: str = needed(text(64))


@dataclass(frozen=True, kw_only=True)
class ResultRow(ResultNamed):
    """finish: of the open finishing plan."""

    kind: str = key(text(16), "")
    picture: str | None = an_id()
    laid: Match | None = or_empty(Match)
    refused: str = key(text(400), "")
    found: Found | None = or_empty(Found)
    finish: dict | None = key(or_none(OBJECT))
    enlarger: EnlargerSetting | None = or_empty(EnlargerSetting)


@dataclass(frozen=True, kw_only=True)
class CandidateRow(ResultNamed):
    laid: Match | None = or_empty(Match)
    look: Look | None = or_empty(Look)
    kept: bool = needed(YES_NO)


@dataclass(frozen=True, kw_only=True)
class PickRow(Shaped):
    title: str = needed(text(120))
    subject: tuple = needed(exactly(2, number()))
    reason: str = key(text(300), "")
    decided_at: datetime | None = when()
    candidates: tuple = many(CandidateRow, 500)


@dataclass(frozen=True, kw_only=True)
class StudyPictureRow(Shaped):
    picture: str | None = an_id()
    scene: str | None = an_id()
    laid: Match | None = or_empty(Match)
    at: datetime | None = when()
    note: str = key(text(120), "")


@dataclass(frozen=True, kw_only=True)
class StudyRow(Shaped):
    title: str = needed(text(120))
    heading_deg: float | None = key(or_none(number()))
    subject: tuple = needed(exactly(2, number()))
    crop: tuple = needed(exactly(4, number()))
    outing: str | None = an_id()
    pictures: tuple = many(StudyPictureRow, 5_000)


@dataclass(frozen=True, kw_only=True)
class TaskRow(Shaped):
    key: str = needed(one_of(*TASKS))
    span: str = needed(one_of(*Assignment.Span.values))
    begun: date = needed(DAY, reads=day)
    week: date = needed(DAY, reads=day)
    is_met: bool = needed(YES_NO)
    text: str = needed(text(300))
    done_at: datetime | None = when()
    old_scene: str | None = an_id()
    results: tuple = many(ResultNamed, 500)


@dataclass(frozen=True, kw_only=True)
class FirstStepsRow(Shaped):
    scene: str | None = an_id()
    left: bool = needed(YES_NO)


@dataclass(frozen=True, kw_only=True)
class ItemNamed(Shaped):
    kind: str = key(text(8), "")
    name: str = key(text(60), "")


@dataclass(frozen=True, kw_only=True)
class CorrectionRow(Shaped):
    """before, values: of the item, as the kit has them."""

    item: ItemNamed = part(ItemNamed)
    before: dict = needed(OBJECT)
    values: dict = needed(OBJECT)
    change: str = needed(text(300))
    correction: str = needed(one_of("", *CORRECTIONS))
    at: datetime = needed(MOMENT, reads=moment)
    undone_at: datetime | None = when()


@dataclass(frozen=True, kw_only=True)
class AfterwardsRow(Shaped):
    """The whole of results.json."""

    rolls: tuple = many(RollRow, 100_000)
    frames: tuple = many(FrameRow, 500_000)
    results: tuple = many(ResultRow, 500_000)
    picks: tuple = many(PickRow, 100_000)
    studies: tuple = many(StudyRow, 10_000)
    answers: tuple = many(GivenAnswer, 5_000_000)
    tasks: tuple = many(TaskRow, 100_000)
    first_steps: FirstStepsRow | None = or_empty(FirstStepsRow)
    corrections: tuple = many(CorrectionRow, 100_000)


@dataclass(frozen=True, kw_only=True)
class OldPictureRow(Shaped):
    name: str = needed(text(255))
    digest: str = needed(text(64))
    problem: str = key(text(300), "")
    measures: Measures | None = or_empty(Measures)
    decision: str = key(text(8), "")
    reason: str = key(text(24), "")
    picture: str | None = an_id()

    def contradictions(self):
        if not self.problem and self.measures is None:
            yield "problem: a picture that was read has measures, another says what is wrong with it."


@dataclass(frozen=True, kw_only=True)
class BatchRow(Shaped):
    title: str = needed(text(120))
    made_at: datetime | None = when()
    pictures: tuple = many(OldPictureRow, 100_000)


@dataclass(frozen=True, kw_only=True)
class WaitingRow(Shaped):
    """A file that waits to be read. subject: of a scene its uid, of a frame its id, of a second look and of a light study the title."""

    purpose: str = needed(one_of("scene", "frame", "batch", "study"))
    subject: str = needed(text(120))
    name: str = needed(text(255))
    is_first: bool = key(YES_NO, False)
    named: str = key(text(120), "")
    kind: str = key(one_of("", *RESULT_KINDS), "")
    is_group: bool = key(YES_NO, False)
    place: int = key(WHOLE, 0)


ROWS = (MeasuredRow, SetupRow, OutingRow, SceneRow, PictureRow, AfterwardsRow, BatchRow, WaitingRow)
BEGUN = 233
"""What the rows said when the archive's version began: what came since is its minor revision."""


def minor():
    """The archive's minor revision: how many keys and words its version has gained."""
    return sum(map(extent, ROWS)) - BEGUN


def row_of(row, data, path="", lenient=False):
    """A row of what JSON held. path: of it in the archive. lenient: keys that are not known here are kept in `beyond`.

    Raises DocumentError with every mistake.
    """
    return checked_part(row, data, path, lenient)


def told(row, source, **more):
    """Plain values of a row. source: a model that has its keys as fields. more: keys that it has otherwise."""
    names = [name for name in row.__dataclass_fields__ if name not in more and name != "beyond"]
    return whole_part(row(**{name: getattr(source, name) for name in names}, **more))


def left_out(row):
    """How many keys of a newer program a row has, with the rows in it: what this one cannot keep."""
    inner = (value if isinstance(value, tuple) else (value,) for value in vars(row).values())
    return len(row.beyond) + sum(left_out(each) for values in inner for each in values if isinstance(each, Shaped))


def row_by_uid(model, person, uid):
    """A person's row of a model by its uid, None for none."""
    return model.objects.owned_by(person).filter(uid=uid).first() if uid else None
