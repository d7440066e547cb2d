"""Practice: where one stands, a round of ten, and the answers that come home."""

import random
import secrets
from pathlib import Path
from typing import NamedTuple

from django.http import JsonResponse
from django.shortcuts import redirect, render
from django.templatetags.static import static
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.errors import CoreError
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.practice.assignments import TASKS
from dimgrey.core.practice.drills import KINDS, question
from dimgrey.core.practice.spacing import level_of, progress_of, round_of
from dimgrey.core.results.corrections import habits
from dimgrey.people.owned import of_mine
from dimgrey.pictures.store import PictureGone
from dimgrey.practice import actions, firststeps, outcome, weeks
from dimgrey.practice import composition as simplified
from dimgrey.practice.forms import AnswersForm, GiveForm, SceneForm, StepsForm
from dimgrey.practice.material import material_of
from dimgrey.practice.models import Assignment
from dimgrey.practice.queries import assignment_of, due_of, errors_over_time, history_of
from dimgrey.results.learning import evidence_of
from dimgrey.results.queries import result_of, results_to_pick
from dimgrey.scenes.queries import pictured_scenes, scene_of, scenes_of
from dimgrey.web import service_workers
from dimgrey.web.answers import refused

SERVICE_WORKER = Path(__file__).with_name("service_worker.js").read_text(encoding="utf-8")
FILES = (
    "book/notes.css", "book/notes.js", "practice/kept.js", "practice/practice.css", "practice/round.js", "site/base.css", "site/mark.svg",
    "site/page.js", "vendor/bootstrap.min.css", "vendor/text-400.woff2", "vendor/text-600.woff2", "vendor/text-800.woff2",
)  # fmt: skip
"""What the pages of a round are drawn and run with, beside what their scripts import."""
WIDTH, HEIGHT, MOST_STOPS = 300, 60, 2.0
FEWEST = 5
"""Answers of a kind from which it is said whether to train it."""


@require_safe
def practice(request):
    """Progress of every kind, and the way into a round."""
    history = history_of(request.user)
    rows = [_row(request.user, progress_of(kind, history[kind])) for kind in KINDS if kind in history]
    context = {
        "rows": rows,
        "due": len(due_of(request.user, timezone.now())),
        "train": _train(rows),
        "count": sum(row.progress.count for row in rows),
        "version": service_workers.version_of(service_workers.with_imports(*FILES)),
        "page": "practice",
    }
    return render(request, "practice/index.html", context)


@require_safe
def service_worker(request):
    """The service worker that keeps rounds for when there is no network."""
    files = [static(name) for name in service_workers.with_imports(*FILES)]
    addresses = {"page": reverse("practice"), "round": reverse("practice-round")}
    return service_workers.answer(
        SERVICE_WORKER,
        version=service_workers.version_of(service_workers.with_imports(*FILES)),
        files=files,
        **addresses,
    )


class Row(NamedTuple):
    """One kind of drill as the page shows it. progress: Progress. right, off, before: in words. line: of errors over time, "" for none."""

    progress: object
    name: str
    right: str
    off: str
    before: str
    line: str


def _row(person, found):
    off = "" if found.off is None else f"{found.off:.2f} stop"
    before = "" if found.before is None else f"{found.before:.2f} before"
    points = errors_over_time(person, found.kind)
    line = _line([value for _, value in points]) if len(points) > 1 else ""
    return Row(found, KINDS[found.kind].name, f"{found.right * 100:.0f} %", off, before, line)


def _line(values):
    """SVG path of errors over time, the newest at the right."""
    step = WIDTH / (len(values) - 1)
    y = lambda value: HEIGHT - min(value / MOST_STOPS, 1) * (HEIGHT - 4) - 2
    return "M" + "L".join(f"{k * step:.1f} {y(value):.1f}" for k, value in enumerate(values))


def _train(rows):
    """One plain sentence on what to train; "" before there is anything to say."""
    told = [row for row in rows if row.progress.count >= FEWEST]
    weak = [row for row in told if row.progress.right < 0.8]
    if not weak:
        return "Nothing stands out: go on as you do." if told else ""
    row = min(weak, key=lambda each: each.progress.right)
    worst = row.progress.worst
    off = row.progress.off
    by = f", {format_stops(off)} stop off on average" if off and off >= 1 / 6 else ""
    about = f", most of all {worst[0]}" if worst else ""
    return f"Train {row.name}{about}{by}."


@require_safe
def round_page(request):
    """A round of ten, whole in the page: it goes on without a network."""
    material, shown = material_of(request.user)
    history, rng = history_of(request.user), random.Random(secrets.randbits(64))
    make = lambda kind, level: question(kind, rng, level, material)
    # What one's own frames miss becomes a card: a surface that always lands too low is asked for its compensation.
    own = [("compensation", bias.name) for bias in habits(evidence_of(request.user))]
    asked = round_of([*own, *due_of(request.user, timezone.now())], history, make, list(KINDS), rng)
    cards = [_card(each, shown, level_of(history.get(each.kind, ()))) for each in asked]
    return render(request, "practice/round.html", {"cards": cards, "page": "practice"})


def _in_the_book(kind):
    page, place = KINDS[kind].page, KINDS[kind].place
    return reverse("book-page", args=[page]) + (f"#{place}" if place else "")


def _card(asked, shown, level):
    """A Question as the page takes it."""
    picture = shown.get(asked.picture)
    return {
        "kind": asked.kind,
        "name": KINDS[asked.kind].name,
        "subject": asked.subject[:60],
        "ask": asked.ask,
        "why": asked.why,
        "book": _in_the_book(asked.kind),
        "options": [
            {"text": option.text, "off": round(option.off, 3), "colour": option.colour} for option in asked.options
        ],
        "patches": list(asked.patches),
        "picture": picture.address if picture else "",
        "shape": picture.shape if picture else 0,
        "at": list(asked.at) if asked.at else None,
        "bars": [round(share, 4) for share in asked.bars],
        "inStops": asked.in_stops,
        "level": level,
    }


@require_POST
def answers(request):
    """Answers of a round, of now or of days ago."""
    form = AnswersForm(request.POST)
    if not form.is_valid():
        return refused(form.sentence())
    return JsonResponse({"new": actions.keep_answers(request.user, form.typed.answers)})


def _week(request, problem="", status=200):
    rows = weeks.week_for(request.user, timezone.localdate())
    return _tasks(request, rows, Assignment.Span.WEEK, problem, status)


def _month(request, problem="", status=200):
    rows = weeks.month_for(request.user, timezone.localdate())
    return _tasks(request, rows, Assignment.Span.MONTH, problem, status)


def _tasks(request, rows, span, problem, status):
    today = timezone.localdate()
    # The light of a day is that of today, or of the first day of a week to come.
    lights = {day: weeks.light_of(request.user, day) for day in {max(row.week, today) for row in rows}}
    told = [_task(row, lights[max(row.week, today)]) for row in rows]
    context = {
        "tasks": told,
        "span": span,
        "results": results_to_pick(request.user),
        "scenes": pictured_scenes(request.user),
        "met": sum(row.is_met for row in rows),
        "problem": problem,
        "page": "practice",
    }
    return render(request, "practice/tasks.html", context, status=status)


def _task(row, light):
    """One task as its page shows it. light: when its day has which light, in words."""
    task = TASKS[row.key]
    return {
        "row": row,
        "task": task,
        "light": light.get(task.light, ""),
        "given": outcome.given_for(row) if task.count > 1 or row.text else [],
    }


def _page_of(row):
    return _month if row.span == Assignment.Span.MONTH else _week


@require_safe
def week(request):
    """The tasks of this week."""
    return _week(request)


@require_safe
def month(request):
    """The tasks of the month that goes on."""
    return _month(request)


@require_POST
def begin_month(request):
    """Four weeks of tasks."""
    weeks.begin_month(request.user, timezone.localdate())
    return redirect("practice-month")


@require_POST
@of_mine(assignment_of, "task")
def give(request, row):
    """Give a result for a task."""
    form, page = GiveForm(request.POST), _page_of(row)
    if not form.is_valid():
        return page(request, form.sentence(), 422)
    result = result_of(request.user, form.typed.result)
    if result is None:
        return page(request, "There is no such picture among yours.", 422)
    try:
        outcome.give(row, result, scene_of(request.user, form.typed.scene))
    except (CoreError, PictureGone) as wrong:
        return page(request, str(wrong), 422)
    return redirect(_address(row))


@require_POST
@of_mine(assignment_of, "task")
def take_back(request, row):
    """Take a result back from a task."""
    form = GiveForm(request.POST)
    result = result_of(request.user, form.typed.result) if form.is_valid() else None
    if result is None:
        return _page_of(row)(request, form.sentence() or "There is no such picture among yours.", 422)
    outcome.take_back(row, result)
    return redirect(_address(row))


def _address(row):
    return f"{reverse(f'practice-{row.span}')}#task-{row.pk}"


@require_safe
def patterns(request):
    """One scene simplified: the one asked for, else the latest."""
    form = SceneForm(request.GET)
    asked = form.typed.scene if form.is_valid() else None
    scenes = pictured_scenes(request.user, asked)
    scene = next((each for each in scenes if each.pk == asked), scenes[0] if scenes else None)
    context = {"scenes": scenes, "scene": scene, "page": "practice"}
    if scene is not None:
        try:
            context["views"], context["height"] = simplified.views_of(scene, request.user.tone_labels)
        except (PictureGone, CoreError) as wrong:
            context["problem"] = str(wrong)
    return render(request, "practice/patterns.html", context)


@require_POST
def first_steps(request):
    """Show the first steps again, on a scene or on the newest one; or no more of them."""
    form = StepsForm(request.POST, scenes_of(request.user))
    scene = form.scene_asked() if form.is_valid() else None
    if form.is_valid() and form.typed.act == "leave":
        firststeps.leave(request.user)
    else:
        scene = firststeps.take_up(request.user, scene)
    return redirect("desk", scene.pk) if scene else redirect("home")
