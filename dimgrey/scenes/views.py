"""Pages of a scene: the desk, its acts, its pictures, its card and its file."""

import io
import json

import numpy as np
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.utils.html import escape
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_POST
from PIL import Image

from dimgrey.core.document.scenefile import SceneFileError, scene_of
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.stops import format_aperture, format_stops, format_time
from dimgrey.core.picture.display import curve_for, display_table, squinted
from dimgrey.core.planning.zones import format_tone, zone_of
from dimgrey.frames.actions import new_token
from dimgrey.outings.queries import outing_of
from dimgrey.scenes import actions, desk, exports, forms, light, queries, rendering, seeing, store
from dimgrey.scenes.acts import ACTS
from dimgrey.scenes.models import Scene

EDITABLE = (
    "intent",
    "view",
    "crop",
    "seeing",
    "needs",
    "bracket",
    "add",
    "placing",
    "filter",
    "exposure",
    "camera",
    "picture",
    "tone",
)


def owned(request, pk, query=queries.scene_of):
    """The person's scene, or a 404 that does not tell whether another person has one."""
    try:
        return query(request.user, pk)
    except Scene.DoesNotExist:
        raise Http404("There is no such scene among yours.") from None


@require_GET
def show(request, pk):
    """The scene desk."""
    scene = owned(request, pk)
    previous, following, place, count = queries.neighbours(scene)
    context = {
        "desk": desk.desk_of(scene, request.user.tone_labels),
        "token": new_token(),
        "previous": previous,
        "following": following,
        "place": place,
        "count": count,
    }
    return render(request, "scenes/desk.html", context)


@require_POST
def act(request, pk, verb):
    """One act on a scene; answers with the fragments that changed, and with the sentence when it was refused."""
    scene = owned(request, pk, queries.scene_to_change)
    if verb not in ACTS:
        raise Http404(f"There is no act “{verb}”.")
    part, form_class, do = ACTS[verb]
    form = form_class(request.POST, scene.document)
    problem, status = None, 200
    try:
        if not form.is_valid():
            problem, status = _problem(form.sentence(), part, request), 422
        else:
            scene = do(scene, form)
    except actions.Stale as stale:
        problem, status = _problem(str(stale), "", request, notice=True), 409
        scene = owned(request, pk)
    except SceneFileError as refused:
        problem, status = _problem(" ".join(refused.mistakes), part, request), 422
    except CoreError as refused:
        problem, status = _problem(str(refused), part, request), 422
    if "HX-Request" not in request.headers and not problem:
        return redirect("desk", pk)
    opened = request.POST.get("open", "").split(",")
    redo_known = bool(problem) or verb in ("undo", "redo")
    context = {"desk": desk.desk_of(scene, request.user.tone_labels, problem, opened, redo_known)}
    template = "scenes/parts.html" if "HX-Request" in request.headers else "scenes/desk.html"
    if template == "scenes/desk.html":
        context["token"] = new_token()
    return render(request, template, context, status=status)


def _problem(sentence, part, request, notice=False):
    typed = {k: v for k, v in request.POST.items() if k not in ("csrfmiddlewaretoken", "stamp", "open")}
    return desk.Problem(sentence, part, typed.get("mark", ""), typed, notice)


@require_GET
def edit(request, pk, part):
    """The form of one part of the sheet, asked for when it is opened."""
    scene = owned(request, pk)
    shown = desk.desk_of(scene, request.user.tone_labels)
    kind, _, mark = part.partition("-")
    tone = next((t for t in shown.tones if t.mark == mark), None)
    if kind not in EDITABLE or (kind == "tone" and tone is None):
        raise Http404(f"There is no part “{part}” on this sheet.")
    context = {"desk": shown, "tone": tone, "proposal": shown.proposal if kind == "needs" else None}
    if kind == "seeing":
        try:
            context["seeing"] = seeing.seeing_of(scene)
        except store.PictureGone as gone:
            return HttpResponse(f'<p class="problem">{escape(str(gone))}</p>')
    return render(request, f"scenes/edit/{kind}.html", context)


@require_GET
def sight(request, pk):
    """What the ring sees: EV, shutter and aperture, zone, spread. JSON, asked for as the pointer moves."""
    scene = owned(request, pk, queries.scene_to_change)
    picture = queries.picture_of(scene)
    if picture is None:
        raise Http404("This scene has no picture.")
    try:
        x, y = float(request.GET["x"]), float(request.GET["y"])
        meter = light.meter_of(scene.document, picture)
        seen = meter.read(x, y, light.spot_deg(scene.document))
    except (KeyError, ValueError) as wrong:
        return JsonResponse({"error": str(wrong)}, status=400)
    return JsonResponse(_sighted(scene, picture, seen, y, request.user.tone_labels))


def _sighted(scene, picture, seen, y, labels):
    scale = light.light_scale(scene.document, picture)
    result, _ = desk.plan_or_wait(scene_of(scene.document))
    answer = {
        "spread": f"{seen.spread_stops:.1f}",
        "mixed": seen.spot.mixed,
        "clipped": seen.spot.clipped > 0.02,
        "names": [s.name for s in actions.suggested_names(scene.document, seen.spot, y)],
    }
    if scale is None:
        answer["ev"] = f"{format_stops(seen.spot.mean_stops, signed=True)} from middle"
        return answer
    answer["ev"] = f"EV {format_stops(seen.ev100)}"
    if seen.spot.mixed:
        answer["ends"] = f"{format_stops(seen.low_ev100)} to {format_stops(seen.high_ev100)}"
    pair = desk.pair_for(seen.ev100, scene.document)
    answer["pair"] = f"{format_time(pair[0])} {format_aperture(pair[1])}"
    if result:
        answer["zone"] = format_tone(
            zone_of(seen.ev100, result.setting_ev100), labels, desk.divisions_of(scene.document)
        )
    return answer


@require_GET
def grey(request, pk, key):
    """The grey view as JPEG, a pure function of its address, so that browsers may keep it for good."""
    shown = rendering.rendering_of(key)
    folder = queries.picture_folder(request.user, pk)
    if folder is None or folder.name[:8] != shown.picture:
        raise Http404("This scene has no such picture.")
    table = display_table(shown.stops, shown.slope, curve_for(shown.kind), shown.development, shown.look, shown.tone)
    try:
        pixels = store.grey(folder, shown.terms, table)
    except store.PictureGone as gone:
        return HttpResponse(str(gone), status=410, content_type="text/plain; charset=utf-8")
    if shown.look == "squint":
        pixels = squinted(pixels)
    if "small" in request.GET:  # for lists
        pixels = np.ascontiguousarray(pixels[::2, ::2])
    response = HttpResponse(encode_jpeg(pixels), content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


@require_GET
def contour_map(request, pk, key):
    """The tone map of a grey view as SVG, over the picture or, with ?alone=1, by itself for paper."""
    shown = rendering.rendering_of(key)
    folder = queries.picture_folder(request.user, pk)
    if folder is None or folder.name[:8] != shown.picture:
        raise Http404("This scene has no such picture.")
    try:
        outer = (float(request.GET.get("low", 0)), float(request.GET.get("high", 10)))
        drawing = seeing.contour_drawing(folder, shown, outer, "alone" in request.GET)
    except (ValueError, store.PictureGone) as wrong:
        return HttpResponse(str(wrong), status=410, content_type="text/plain; charset=utf-8")
    return _drawing(request, drawing, "private, max-age=31536000, immutable")


@require_GET
def over(request, pk, kind):
    """What lies over the present grey view: its twins, or where the eye goes."""
    scene = owned(request, pk)
    if kind not in ("twins", "eye") or queries.picture_of(scene) is None:
        raise Http404("There is no such drawing of this scene.")
    try:
        return _drawing(request, seeing.scene_drawing(scene, kind), "no-store")
    except store.PictureGone as gone:
        return HttpResponse(str(gone), status=410, content_type="text/plain; charset=utf-8")


def _drawing(request, drawing, keep):
    response = render(request, "scenes/draw/drawing.svg", {"d": drawing}, content_type="image/svg+xml")
    response["Cache-Control"] = keep
    return response


@require_GET
def export(request, pk, name):
    """The grey picture, its map, chain and measures as files for other programs."""
    scene = owned(request, pk)
    if name not in exports.EXPORTS or queries.picture_of(scene) is None:
        raise Http404("There is no such file of this scene.")
    try:
        data, content_type = exports.EXPORTS[name](scene)
    except store.PictureGone as gone:
        return HttpResponse(str(gone), status=410, content_type="text/plain; charset=utf-8")
    response = HttpResponse(data, content_type=content_type)
    response["Content-Disposition"] = f'attachment; filename="{slugify(scene.title) or "scene"}-{name}"'
    return response


def encode_jpeg(pixels, quality=85):
    """JPEG bytes of an 8-bit grey or colour array."""
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "JPEG", quality=quality)
    return buffer.getvalue()


@require_GET
def colour(request, pk, folder):
    """The colour view: the picture as it looks, kept by the browser."""
    picture = queries.picture_of(owned(request, pk))
    if picture is None or str(picture.folder) != str(folder):
        raise Http404("This scene has no such picture.")
    try:
        data = (picture.path / store.COLOUR).read_bytes()
    except OSError:
        return HttpResponse("The picture's file is missing. Upload it again.", status=410, content_type="text/plain")
    response = HttpResponse(data, content_type="image/jpeg")
    response["Cache-Control"] = "private, max-age=31536000, immutable"
    return response


@require_GET
def scene_file(request, pk):
    """The scene as an open scene file."""
    scene = owned(request, pk)
    text = json.dumps({**scene.document, "title": scene.title}, indent=1, ensure_ascii=False)
    response = HttpResponse(text + "\n", content_type="application/json")
    response["Content-Disposition"] = f'attachment; filename="{slugify(scene.title) or "scene"}.json"'
    return response


def new(request):
    """A new scene: from a picture, from nothing but a name, or from a scene file."""
    outing = outing_of(request.user, request.GET.get("outing") or request.POST.get("outing"))
    form = forms.NewSceneForm(request.POST or None, request.FILES or None)
    problem = ""
    if request.method == "POST" and form.is_valid():
        file = form.cleaned_data["picture"]
        try:
            data = file.read() if file else None
            scene = actions.new_scene(
                request.user,
                form.cleaned_data["title"],
                outing,
                form.cleaned_data["kind"],
                data,
                file.name if file else "",
            )
            return redirect("desk", scene.pk)
        except CoreError as refused:
            problem = str(refused)
    status = 422 if request.method == "POST" else 200
    return render(request, "scenes/new.html", {"form": form, "outing": outing, "problem": problem}, status=status)


@require_POST
def import_file(request):
    """A new scene from a scene file; every mistake is named, and nothing is kept of a refused file."""
    outing = outing_of(request.user, request.POST.get("outing"))
    form = forms.SceneFileForm(request.POST, request.FILES)
    mistakes = ["Choose a scene file first."]
    if form.is_valid():
        file = form.cleaned_data["file"]
        try:
            text = _text(file)
            return redirect("desk", actions.import_scene(request.user, text, outing).pk)
        except SceneFileError as refused:
            mistakes = refused.mistakes
    context = {"form": forms.NewSceneForm(), "outing": outing, "mistakes": mistakes}
    return render(request, "scenes/new.html", context, status=422)


def _text(file):
    if file.size > 4_000_000:
        raise SceneFileError([f"The file has {file.size / 1e6:.1f} MB; a scene file holds at most 1 MB. Split it."])
    try:
        return file.read().decode("utf-8")
    except UnicodeDecodeError:
        raise SceneFileError(["The file is not text. A scene file is JSON, saved as UTF-8."]) from None


@require_POST
def replace_picture(request, pk):
    """Another picture for the scene; a refused one leaves the old in place."""
    scene = owned(request, pk)
    form = forms.PictureForm(request.POST, request.FILES)
    problem = "Choose a picture first."
    if form.is_valid():
        file = form.cleaned_data["picture"]
        try:
            actions.replace_picture(scene, file.read(), file.name)
            return redirect("desk", pk)
        except CoreError as refused:
            problem = str(refused)
    scene = owned(request, pk)
    context = {
        "desk": desk.desk_of(scene, request.user.tone_labels, desk.Problem(problem, "picture")),
        "token": new_token(),
    }
    return render(request, "scenes/desk.html", context, status=422)


@require_POST
def remove(request, pk):
    """Take a scene off the lists; home offers to bring it back."""
    if not actions.set_removed(request.user, pk, True):
        raise Http404("There is no such scene among yours.")
    return redirect("home")


@require_POST
def bring_back(request, pk):
    if not actions.set_removed(request.user, pk, False):
        raise Http404("There is no such scene among yours.")
    return redirect("desk", pk)
