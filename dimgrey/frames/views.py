"""The log: logging a frame, the list, one frame with the plan it was made with, CSV out and in."""

import io

from django.http import StreamingHttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.errors import CoreError
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning.zones import format_tone
from dimgrey.core.sky.clock import zone_named
from dimgrey.frames import actions, csvlog
from dimgrey.frames.forms import CsvForm, LogForm, SettingsForm, kept_settings, logged
from dimgrey.frames.queries import frame_of, frames_of
from dimgrey.people.owned import of_mine
from dimgrey.scenes import desk
from dimgrey.scenes.queries import scene_of
from dimgrey.scenes.sheet.shown import Problem
from dimgrey.web.forms import sent

AS_PLANNED_STOPS = 1 / 6


@require_POST
@of_mine(scene_of, "scene")
def log(request, scene):
    """“Exposed”: log a frame of a scene. The same form sent twice logs one."""
    form = LogForm(request.POST, scene.document)
    sentence = form.sentence()
    if form.is_valid():
        try:
            return redirect("frame", logged(scene, form).pk)
        except CoreError as refused:
            sentence = str(refused)
    problem = Problem(sentence, "log", verb="log", form=form)
    return render(
        request, "scenes/desk.html", {"desk": desk.desk_of(scene, request.user.tone_labels, problem)}, status=422
    )


@require_safe
def index(request):
    """Every frame, newest first."""
    return _index(request)


def _index(request, mistakes=(), status=200, said=""):
    lines = [_line(frame) for frame in frames_of(request.user)]
    context = {"frames": lines, "mistakes": mistakes, "said": said, "page": "frames"}
    return render(request, "frames/index.html", context, status=status)


def _line(frame):
    off = f"{format_stops(frame.difference_stops, signed=True)} stop"
    if abs(frame.difference_stops) < AS_PLANNED_STOPS:
        off = "as planned"
    return {"frame": frame, "off": off if frame.frozen else "no plan", "planned": frame.frozen, **_local(frame)}


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
        settings = {**kept_settings(frame), **form.settings()}
        actions.correct_frame(request.user, frame.pk, settings, form.cleaned_data["note"], form.cleaned_data["exposed"])
        return redirect("frame", frame.pk)
    context = {**_line(frame), "form": form, "tones": _tones(frame)}
    return render(request, "frames/frame.html", context, status=422 if form.errors else 200)


def _tones(frame):
    planned = frame.frozen
    return [
        {
            "name": tone.name,
            "ev": format_stops(tone.ev100),
            "fall": format_tone(tone.zone),
            "printed": "not recorded" if tone.printed is None else format_tone(tone.printed),
            "texture": tone.texture,
        }
        for tone in (planned.tones if planned else ())
    ]


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
    file = io.TextIOWrapper(form.cleaned_data["file"].file, encoding="utf-8-sig", newline="")
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
