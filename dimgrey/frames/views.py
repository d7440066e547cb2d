"""The log: logging a frame, the list, one frame with the plan it was made with, CSV out and in."""

import io

from django.core.paginator import Paginator
from django.http import Http404, StreamingHttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.errors import CoreError
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning.planwords import texture_of
from dimgrey.core.planning.prints import Print
from dimgrey.core.planning.tonewords import Words
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.sky.clock import zone_named
from dimgrey.frames import actions, csvlog
from dimgrey.frames.forms import (
    ChosenForm,
    CsvForm,
    PlaceForm,
    RollForm,
    SettingsForm,
    SeveralForm,
    StruckForm,
    kept_setting,
    logged,
)
from dimgrey.frames.pages import beside, links, sections_of
from dimgrey.frames.queries import (
    LISTED,
    bracket_of,
    chosen_frames,
    columns_of,
    every_frame_of,
    frame_of,
    frames_of,
    just_struck,
    roll_of,
    rolls_of,
    struck_frame_of,
    struck_frames_of,
)
from dimgrey.people.owned import of_mine
from dimgrey.scenes import desk
from dimgrey.scenes.acts import form_of
from dimgrey.scenes.queries import scene_of
from dimgrey.scenes.sheet.page import Problem
from dimgrey.web.forms import sent

AS_PLANNED_STOPS = 1 / 6
A_PAGE = 40
MOST_STRUCK = 20
"""Struck frames that the list offers to put back, the last ones."""
SHOWN = tuple(name for name in LISTED if name not in ("development", "school"))
"""Columns that the list tells in one cell."""


@require_POST
@of_mine(scene_of, "scene")
def log(request, scene):
    """“Exposed”: log a frame of a scene. The same form sent twice logs one."""
    form = form_of("log")(request.POST, scene.document)
    sentence = form.sentence()
    if form.is_valid():
        try:
            return redirect("frame", logged(scene, form.said).pk)
        except CoreError as refused:
            sentence = str(refused)
    problem = Problem(sentence, "log", verb="log", form=form)
    return render(
        request, "scenes/desk.html", {"desk": desk.desk_of(scene, request.user.tone_labels, problem)}, status=422
    )


@require_safe
def index(request):
    """Every frame, newest first, or those chosen."""
    return _index(request)


def _index(request, mistakes=(), status=200, said="", roll_form=None):
    form = ChosenForm(request.GET or {}, columns_of(request.user))
    wanted, sort, page = form.wanted()
    pages = Paginator(chosen_frames(request.user, wanted, sort), A_PAGE)
    shown = pages.get_page(page)
    told = beside(shown.object_list)
    asked = request.GET.copy()
    asked.pop("page", None)
    context = {
        "frames": [{**_line(frame), **told[frame.pk]} for frame in shown],
        "shown": shown,
        "form": form,
        "chosen": bool(wanted),
        "asked": asked.urlencode(),
        "links": links(),
        "struck": struck_frames_of(request.user)[:MOST_STRUCK],
        "just_struck": _just_struck(request),
        "rolls": rolls_of(request.user),
        "roll_form": roll_form or RollForm(),
        "mistakes": mistakes,
        "said": said,
        "page": "frames",
    }
    return render(request, "frames/index.html", context, status=status)


def _just_struck(request):
    form = StruckForm(request.GET)
    return just_struck(request.user, form.typed.struck) if form.is_valid() else None


def _line(frame):
    off = f"{format_stops(frame.difference_stops, signed=True)} stop"
    if abs(frame.difference_stops) < AS_PLANNED_STOPS:
        off = "as planned"
    made = ", ".join(value for name in SHOWN if (value := getattr(frame.made, name, "")) and value != "none")
    off = off if frame.frozen else "no plan"
    return {"frame": frame, "off": off, "planned": frame.frozen, "made": made, **_local(frame)}


def _local(frame):
    """When it was exposed, by the clocks of its place."""
    zone = _zone(frame)
    return {"exposed": frame.exposed_at.astimezone(zone), "zone": zone.key}


def _zone(frame):
    outing = frame.scene.outing if frame.scene else None
    return zone_named(outing.zone if outing else "UTC")


@of_mine(frame_of, "frame")
def show(request, frame):
    """One frame with its frozen plan; what was really set can be corrected."""
    form = SettingsForm.of(frame, sent(request)[0], _zone(frame))
    if request.method == "POST" and form.is_valid():
        used = form.setting().over(kept_setting(frame))
        actions.correct_frame(request.user, frame.pk, used, form.typed.note, form.typed.exposed)
        return redirect("frame", frame.pk)
    return _show(request, frame, form)


def _show(request, frame, form, problem=""):
    place = PlaceForm(initial={"roll": frame.roll.number if frame.roll else None, "roll_number": frame.roll_number})
    context = {
        **_line(frame),
        "form": form,
        "tones": _tones(frame, request.user.tone_labels),
        "sections": sections_of(request, frame),
        "place": place if frame.made and frame.made.film else None,
        "problem": problem,
        "bracket": bracket_of(frame) if frame.bracket else (),
    }
    return render(request, "frames/frame.html", context, status=422 if form.errors or problem else 200)


@require_POST
@of_mine(frame_of, "frame")
def place(request, frame):
    """A frame's place on a roll."""
    form, again = PlaceForm(request.POST), SettingsForm.of(frame, None, _zone(frame))
    if not form.is_valid():
        return _show(request, frame, again, form.sentence())
    number = form.typed.roll
    roll = rolls_of(request.user).filter(number=number).first() if number else None
    if number and roll is None:
        return _show(request, frame, again, f"There is no roll {number}. Begin it on the list of frames.")
    try:
        actions.put_on_roll(frame, roll, form.typed.roll_number)
    except CoreError as refused:
        return _show(request, frame, again, str(refused))
    return redirect("frame", frame.pk)


@require_POST
@of_mine(frame_of, "frame")
def strike(request, frame):
    """A frame that never was: out of the log until it is put back."""
    return _struck([frame])


def _struck(frames):
    return redirect(f"{reverse('frames')}?struck={actions.strike_frames(frames)}")


@require_POST
def several(request):
    """What is done with all frames that were ticked."""
    known = frames_of(request.user)
    form = SeveralForm(request.POST, known.values_list("pk", flat=True))
    if not form.is_valid():
        return _index(request, status=422, said=form.sentence())
    chosen = list(known.filter(pk__in=form.typed.frames))
    if form.typed.act == "strike":
        return _struck(chosen)
    roll = rolls_of(request.user).filter(number=form.typed.roll).first() if form.typed.roll else None
    if roll is None:
        return _index(request, status=422, said="Say the number of a roll in your list, or begin one.")
    actions.put_all_on_roll(chosen, roll)
    return redirect("roll", roll.pk)


@require_POST
def put_several_back(request, act):
    """Frames that were struck out together stand again."""
    if not actions.put_back_frames(request.user, act):
        raise Http404("Nothing of yours was struck out by that.")
    return redirect("frames")


@require_POST
@of_mine(struck_frame_of, "struck frame")
def put_back(request, frame):
    """A frame that was struck out stands again."""
    actions.strike_frame(every_frame_of(request.user), str(frame.struck_by), None)
    return redirect("frame", frame.pk)


@require_POST
def begin_roll(request):
    """A roll goes into a camera."""
    form = RollForm(request.POST)
    if not form.is_valid():
        return _index(request, [form.sentence()], 422, roll_form=form)
    actions.begin_roll(request.user, form.typed.film, **form.told())
    return redirect("frames")


@of_mine(roll_of, "roll")
def roll(request, roll):
    """A roll: how it is rated and developed, and its frames in order."""
    form = RollForm.of(roll, sent(request)[0])
    if request.method == "POST" and form.is_valid():
        actions.change_roll(roll, **form.told())
        return redirect("roll", roll.pk)
    frames = frames_of(request.user).filter(roll=roll).order_by("roll_number")
    told = beside(frames)
    lines = [{**_line(frame), **told[frame.pk]} for frame in frames]
    context = {"roll": roll, "form": form, "frames": lines, "page": "frames"}
    return render(request, "frames/roll.html", context, status=422 if form.errors else 200)


@require_POST
@of_mine(roll_of, "roll")
def end_roll(request, roll):
    """Take a roll out of the camera, or put it back."""
    actions.end_roll(roll, roll.ended_at is None)
    return redirect("roll", roll.pk)


def _tones(frame, labels):
    """The tones as the sheet had them. labels: "zones" or "stops"."""
    planned, words = frame.frozen, Words(labels)
    return [
        {
            "name": tone.name,
            "ev": format_stops(tone.ev100),
            "fall": words.zone(tone.zone_after_filter),
            "printed": "not recorded" if tone.print is None else words.printed(Print(tone.print, tone.beyond_paper)),
            "texture": texture_of(tone.texture, _held(tone) > MIDDLE, tone.needs_texture),
        }
        for tone in (planned.tones if planned else ())
    ]


def _held(tone):
    """By what a FrozenTone's texture was judged; its fall where that was not kept."""
    return tone.zone_after_filter if tone.held is None else tone.held


@require_safe
def as_csv(request):
    lines = csvlog.csv_lines(frames_of(request.user).order_by("number").iterator(chunk_size=200))
    response = StreamingHttpResponse(lines, content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="frames.csv"'
    return response


@require_POST
def import_csv(request):
    """Frames from a CSV log, all or none."""
    form = CsvForm(request.POST, request.FILES)
    if not form.is_valid():
        return _index(request, ["Choose a CSV file first."], 422)
    file = io.TextIOWrapper(form.typed.file.file, encoding="utf-8-sig", newline="")
    try:
        new, known = csvlog.import_frames(request.user, file)
    except UnicodeDecodeError:
        return _index(request, ["The file is not text. Save the log as CSV in UTF-8."], 422)
    except csvlog.CsvError as refused:
        return _index(request, refused.mistakes, 422)
    finally:
        file.detach()
    there = f", {known} were in the log already" if known else ""
    return _index(request, said=f"{new} frames came in{there}.")
