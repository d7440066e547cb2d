from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from dimgrey.core.errors import CoreError
from dimgrey.core.measure.stops import format_stops
from dimgrey.frames import actions
from dimgrey.frames.forms import CsvForm, LogForm, SettingsForm
from dimgrey.frames.models import Frame
from dimgrey.frames.queries import frames_of
from dimgrey.scenes import desk
from dimgrey.scenes.models import Scene
from dimgrey.scenes.queries import scene_of


@require_POST
def log(request, pk):
    """“Exposed”: log a frame of a scene. The same form sent twice logs one."""
    form = LogForm(request.POST)
    try:
        scene = scene_of(request.user, pk)
    except Scene.DoesNotExist:
        raise Http404("There is no such scene among yours.") from None
    if form.is_valid():
        try:
            frame = actions.log_frame(
                request.user, pk, form.cleaned_data["token"], form.settings(), form.cleaned_data["note"]
            )
            return redirect("frame", frame.pk)
        except CoreError as refused:
            sentence = str(refused)
    else:
        sentence = next(iter(form.errors.values()))[0]
    problem = desk.Problem(sentence, "log", typed=request.POST.dict())
    context = {"desk": desk.desk_of(scene, request.user.tone_labels, problem), "token": actions.new_token()}
    return render(request, "scenes/desk.html", context, status=422)


@require_GET
def index(request):
    """Every frame, newest first."""
    return render(
        request, "frames/index.html", {"frames": [_line(frame) for frame in frames_of(request.user)], "page": "frames"}
    )


def _line(frame):
    off = (
        "as planned"
        if abs(frame.difference_stops) < 1 / 6
        else f"{format_stops(frame.difference_stops, signed=True)} stop"
    )
    if not frame.plan:
        off = "no plan"
    return {"frame": frame, "off": off, "placing": frame.plan.get("placing") if frame.plan else None}


def show(request, pk):
    """One frame with its frozen plan; what was really set can be corrected."""
    try:
        frame = frames_of(request.user).get(pk=pk)
    except Frame.DoesNotExist:
        raise Http404("There is no such frame in your log.") from None
    form = SettingsForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        kept = SettingsForm({"aperture": frame.aperture, "shutter": frame.shutter, "iso": frame.iso})
        kept.is_valid()
        actions.correct_frame(request.user, pk, {**kept.settings(), **form.settings()}, form.cleaned_data["note"])
        return redirect("frame", pk)
    problem = next(iter(form.errors.values()))[0] if form.errors else ""
    context = {**_line(frame), "problem": problem, "typed": request.POST, "plan": _plan_lines(frame)}
    return render(request, "frames/frame.html", context, status=422 if problem else 200)


def _plan_lines(frame):
    return [
        {
            "name": t["name"],
            "ev": format_stops(t["ev100"]),
            "zone": desk.zone_words(t["zone_after_filter"]),
            "texture": t["texture"],
        }
        for t in frame.plan.get("tones", [])
    ]


@require_GET
def as_csv(request):
    response = HttpResponse(actions.frames_as_csv(frames_of(request.user)), content_type="text/csv; charset=utf-8")
    response["Content-Disposition"] = 'attachment; filename="frames.csv"'
    return response


@require_POST
def import_csv(request):
    """Frames from a CSV log, all or none."""
    form = CsvForm(request.POST, request.FILES)
    mistakes = ["Choose a CSV file first."]
    if form.is_valid():
        try:
            text = form.cleaned_data["file"].read(4_000_000).decode("utf-8-sig")
            actions.import_frames(request.user, text)
            return redirect("frames")
        except UnicodeDecodeError:
            mistakes = ["The file is not text. Save the log as CSV in UTF-8."]
        except actions.CsvError as refused:
            mistakes = refused.mistakes
    context = {"frames": [_line(frame) for frame in frames_of(request.user)], "mistakes": mistakes}
    return render(request, "frames/index.html", context, status=422)
