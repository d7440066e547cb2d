"""What a person practised and corrected, in an archive: answers, tasks with what came of them, first steps, corrections of the kit."""

from dimgrey.core.document import kit
from dimgrey.core.practice.answer import GivenAnswer
from dimgrey.kit.models import Item, ItemRevision
from dimgrey.practice.actions import keep_answers
from dimgrey.practice.models import Answer, Assignment, FirstSteps
from dimgrey.results.models import Result
from dimgrey.safekeeping.archive.rows import (
    CorrectionRow,
    FirstStepsRow,
    ItemNamed,
    ResultNamed,
    TaskRow,
    row_by_uid,
    told,
)
from dimgrey.scenes.models import Scene


def told_of_practice(person):
    """All of it as one dictionary."""
    tasks = Assignment.objects.owned_by(person).select_related("old_scene").prefetch_related("results__frame")
    steps = FirstSteps.objects.owned_by(person).select_related("scene").first()
    revisions = ItemRevision.objects.filter(item__owner=person).select_related("item").order_by("pk")
    return {
        "answers": [told(GivenAnswer, row) for row in Answer.objects.owned_by(person)],
        "tasks": [_task(row) for row in tasks],
        "first_steps": told(FirstStepsRow, steps, scene=uid_of(steps.scene)) if steps else None,
        "corrections": [
            told(CorrectionRow, row, item=ItemNamed(kind=row.item.kind, name=row.item.name)) for row in revisions
        ],
    }


def uid_of(row):
    """What a row is known by in archives, None for no row."""
    return row.uid if row else None


def _task(row):
    results = tuple(ResultNamed(frame=each.frame.token, digest=each.digest) for each in row.results.all())
    return told(TaskRow, row, old_scene=uid_of(row.old_scene), results=results)


def take_practice(person, rows, count):
    """Bring it in. rows: AfterwardsRow. count: Counter of what came. Raises CoreError."""
    if rows.answers:
        count["answers"] += keep_answers(person, rows.answers)
    for row in rows.tasks:
        count["tasks"] += _take_task(person, row)
    steps = rows.first_steps
    if steps and not FirstSteps.objects.owned_by(person).exists():
        FirstSteps.objects.create(owner=person, scene=row_by_uid(Scene, person, steps.scene), left=steps.left)
    for row in rows.corrections:
        count["corrections"] += _take_correction(person, row)


def _take_task(person, row):
    """1 for a task that was not there, else 0."""
    if Assignment.objects.owned_by(person).filter(span=row.span, week=row.week, key=row.key).exists():
        return 0
    old_scene = row_by_uid(Scene, person, row.old_scene)
    made = Assignment.objects.create(
        owner=person, key=row.key, span=row.span, begun=row.begun, week=row.week, old_scene=old_scene,
        is_met=row.is_met, text=row.text, done_at=row.done_at,
    )  # fmt: skip
    mine = Result.objects.owned_by(person)
    found = (mine.filter(frame__token=each.frame, digest=each.digest).first() for each in row.results)
    made.results.set([each for each in found if each is not None])
    return 1


def _take_correction(person, row):
    """1 for a correction that its item did not have, else 0."""
    item = Item.objects.owned_by(person).filter(kind=row.item.kind, name=row.item.name).first()
    if item is None or item.revisions.filter(at=row.at).exists():
        return 0
    made = ItemRevision.objects.create(
        item=item, before=kit.check(item.kind, row.before), values=kit.check(item.kind, row.values),
        change=row.change, correction=row.correction, undone_at=row.undone_at,
    )  # fmt: skip
    ItemRevision.objects.filter(pk=made.pk).update(at=row.at)
    return 1
