"""What a person practised and corrected, in an archive: answers, tasks with what came of them, first steps, corrections of the kit."""

from django.utils.dateparse import parse_date

from dimgrey.archive.checked import moment, refuse, row_by_uid, text
from dimgrey.core.document import kit
from dimgrey.core.practice.assignments import TASKS
from dimgrey.kit.models import Item, ItemRevision
from dimgrey.practice.actions import keep_answers
from dimgrey.practice.forms import require_answer
from dimgrey.practice.models import Answer, Assignment, FirstSteps
from dimgrey.results.models import Result
from dimgrey.scenes.models import Scene

ANSWER = ("act", "kind", "subject", "off", "is_right", "in_stops", "level", "at")
TASK = ("key", "span", "begun", "week", "is_met", "text", "done_at")
CORRECTIONS = ("exposure", "contrast", "headroom")


def told_of_practice(person):
    """All of it as one dictionary."""
    tasks = Assignment.objects.owned_by(person).select_related("old_scene").prefetch_related("results__frame")
    steps = FirstSteps.objects.owned_by(person).select_related("scene").first()
    revisions = ItemRevision.objects.filter(item__owner=person).select_related("item").order_by("pk")
    return {
        "answers": list(Answer.objects.owned_by(person).values(*ANSWER)),
        "tasks": [_task(row) for row in tasks],
        "first_steps": {"scene": steps.scene.uid if steps.scene else None, "left": steps.left} if steps else None,
        "corrections": [
            {
                "item": {"kind": row.item.kind, "name": row.item.name},
                **{
                    name: getattr(row, name) for name in ("before", "values", "change", "correction", "at", "undone_at")
                },
            }
            for row in revisions
        ],
    }


def _task(row):
    return {
        **{name: getattr(row, name) for name in TASK},
        "old_scene": row.old_scene.uid if row.old_scene else None,
        "results": [{"frame": each.frame.token, "digest": each.digest} for each in row.results.all()],
    }


def take_practice(person, told, count):
    """Bring it in. told: as told_of_practice gave it. count: Counter of what came. Raises CoreError."""
    if told.get("answers"):
        count["answers"] += keep_answers(person, [require_answer(row) for row in told["answers"]])
    for row in told.get("tasks", ()):
        count["tasks"] += _take_task(person, row)
    steps = told.get("first_steps")
    if steps and not FirstSteps.objects.owned_by(person).exists():
        scene = row_by_uid(Scene, person, steps["scene"])
        FirstSteps.objects.create(owner=person, scene=scene, left=steps["left"] is True)
    for row in told.get("corrections", ()):
        count["corrections"] += _take_correction(person, row)


def _take_task(person, row):
    """1 for a task that was not there, else 0."""
    week, begun = parse_date(text(row["week"])), parse_date(text(row["begun"]))
    if row["key"] not in TASKS or row["span"] not in Assignment.Span.values or None in (week, begun):
        refuse("a task")
    if Assignment.objects.owned_by(person).filter(span=row["span"], week=week, key=row["key"]).exists():
        return 0
    made = Assignment.objects.create(
        owner=person,
        key=row["key"],
        span=row["span"],
        begun=begun,
        week=week,
        old_scene=row_by_uid(Scene, person, row["old_scene"]),
        is_met=row["is_met"] is True,
        text=text(row["text"], 300),
        done_at=moment(row["done_at"]),
    )
    mine = Result.objects.owned_by(person)
    found = (mine.filter(frame__token=each["frame"], digest=each["digest"]).first() for each in row["results"])
    made.results.set([each for each in found if each is not None])
    return 1


def _take_correction(person, row):
    """1 for a correction that its item did not have, else 0."""
    named = {"kind": text(row["item"]["kind"]), "name": text(row["item"]["name"])}
    item = Item.objects.owned_by(person).filter(**named).first()
    at = moment(row["at"])
    if item is None or at is None or item.revisions.filter(at=at).exists():
        return 0
    if row["correction"] not in ("", *CORRECTIONS):
        refuse("a correction")
    made = ItemRevision.objects.create(
        item=item,
        before=kit.check(item.kind, dict(row["before"])),
        values=kit.check(item.kind, dict(row["values"])),
        change=text(row["change"], 300),
        correction=row["correction"],
        undone_at=moment(row["undone_at"]),
    )
    ItemRevision.objects.filter(pk=made.pk).update(at=at)
    return 1
