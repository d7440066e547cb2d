"""Pages of a scene: the desk, its editors, what the ring sees, what lies over the picture, its files."""

import json

from django.conf import settings
from django.http import Http404, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.document.scenefile import MAX_BYTES, text_of
from dimgrey.core.errors import CoreError
from dimgrey.core.judging.proposals import intent_line
from dimgrey.core.shapes.check import DocumentError
from dimgrey.outings.queries import outing_of
from dimgrey.people.owned import of_mine, owned
from dimgrey.pictures.addresses import rendering_of
from dimgrey.pictures.arrivals import arriving
from dimgrey.pictures.store import PictureGone
from dimgrey.pictures.upload import source_of
from dimgrey.pictures.views import FOR_GOOD, gone, own_folder
from dimgrey.scenes import desk, drawings, exports, forms, lifecycle, queries
from dimgrey.scenes.sheet.page import Problem, ShownPart
from dimgrey.scenes.sheet.picture import PictureForm
from dimgrey.scenes.sheet.registry import part_named
from dimgrey.scenes.sighting import sighted
from dimgrey.scenes.situation import Situation
from dimgrey.web.answers import attached, refused
from dimgrey.web.forms import sent

KILN = settings.BASE_DIR / "demo" / "snapshots" / "a_kiln_and_sky.jpg"
"""The picture that one may take who has none at hand."""
MOST_UPLOADED = 4 * MAX_BYTES
"""More than a scene file holds, so that the sentence about its size comes from the core."""

of_mine_scene = of_mine(queries.scene_of, "scene")


@require_safe
@of_mine_scene
def show(request, scene):
    """The scene desk."""
    if not scene.is_sound:
        return render(request, "scenes/unshown.html", {"scene": scene}, status=422)
    previous, following, place, count = queries.neighbours(scene)
    steps = {"previous": previous, "following": following, "place": place, "count": count}
    steps["arriving"] = arriving(request.user, lifecycle.PURPOSE, scene.pk)
    return render(request, "scenes/desk.html", {"desk": desk.desk_of(scene, request.user.tone_labels), **steps})


@require_safe
@of_mine_scene
def edit(request, scene, part):
    """The form of one part of the sheet, or of one tone ("tone-A"), asked for when it is opened."""
    kind, _, mark = part.partition("-")
    found = part_named("tones" if kind == "tone" else kind)
    if found is None or found.editor is None or (kind == "tone" and scene.document.tone(mark) is None):
        raise Http404(f"There is no part “{part}” on this sheet.")
    shown = ShownPart(found, Situation(scene, request.user.tone_labels))
    if not found.shown(shown.situation):
        raise Http404(f"This scene has no part “{part}”.")
    template = "scenes/sheet/_tone.html" if kind == "tone" else found.template
    context = {"part": shown, "e": shown.edited(mark), "situation": shown.situation, "editing": True}
    return render(request, template, context)


@require_safe
@of_mine_scene
def nearer(request, scene):
    """What brings the scene nearer to what is wanted, asked for once the sheet stands; with ?deeply=1 all pairs are tried."""
    situation = Situation(scene, request.user.tone_labels)
    form = forms.NearerForm(request.GET)
    deeply = form.is_valid() and form.typed.deeply
    found = situation.looked_deeply() if deeply else situation.judged
    line = intent_line(situation.wanted, situation.plan, found)
    context = {"situation": situation, "judged": found, "line": line, "deeply": deeply}
    return render(request, "scenes/_nearer.html", context)


@require_safe
@of_mine(queries.scene_to_change, "scene")
def sight(request, scene):
    """What the ring sees: EV, shutter and aperture, zone, spread. JSON, asked for as the pointer moves."""
    if scene.picture is None:
        raise Http404("This scene has no picture.")
    form = forms.PlaceInPictureForm(request.GET)
    if not form.is_valid():
        return JsonResponse({"error": "A place in the picture is given as fractions from 0 to 1."}, status=400)
    try:
        return JsonResponse(sighted(Situation(scene, request.user.tone_labels), **form.cleaned_data))
    except CoreError as wrong:
        return JsonResponse({"error": str(wrong)}, status=400)


@require_safe
def contour_map(request, folder, key):
    """The tone map of a grey view as SVG, over the picture or, with ?alone=1, by itself for paper."""
    path, form = own_folder(request, folder), forms.ContourForm(request.GET)
    if not form.is_valid():
        raise Http404("There is no such map.")
    try:
        drawing = drawings.contour_drawing(path, rendering_of(key), form.outer(), form.typed.alone)
    except PictureGone as failed:
        return gone(failed)
    return _drawing(request, drawing, FOR_GOOD)


@require_safe
@of_mine_scene
def over(request, scene, kind):
    """What lies over the present grey view: its twins, where the eye goes, or what is taken for sky."""
    if kind not in drawings.KINDS or scene.picture is None:
        raise Http404("There is no such drawing of this scene.")
    try:
        return _drawing(request, drawings.drawing_of(Situation(scene, request.user.tone_labels), kind), "no-store")
    except PictureGone as failed:
        return gone(failed)


def _drawing(request, drawing, keep):
    response = render(request, "scenes/draw/drawing.svg", {"d": drawing}, content_type="image/svg+xml")
    response["Cache-Control"] = keep
    return response


@require_safe
@of_mine_scene
def export(request, scene, name):
    """The grey picture, its map, chain and measures as files for other programs."""
    if name not in exports.EXPORTS or scene.picture is None:
        raise Http404("There is no such file of this scene.")
    try:
        data, content_type = exports.EXPORTS[name][1](Situation(scene, request.user.tone_labels))
    except PictureGone as failed:
        return gone(failed)
    except CoreError as refused_file:
        return refused(str(refused_file))
    return attached(data, content_type, scene.title, f"-{name}", "scene")


@require_safe
@of_mine_scene
def scene_file(request, scene):
    """The scene as an open scene file, with the place and day of its outing."""
    if not scene.is_sound:
        text = json.dumps(scene.kept, indent=1, ensure_ascii=False)
    else:
        # A scene leaves its outing with the place and day, or its light could not be planned elsewhere.
        place = scene.outing.place if scene.outing else scene.document.place
        text = text_of(scene.document.with_(title=scene.title, place=place))
    return attached(text, "application/json", scene.title, ".json", "scene")


def new(request):
    """A new scene: from a picture, from nothing but a name, or from a scene file."""
    outing = outing_of(request.user, forms.OutingNumberForm(request.POST or request.GET).number())
    form = forms.NewSceneForm(*sent(request))
    if request.method == "POST" and form.is_valid():
        typed = form.typed
        file = typed.picture
        picture = {"data": source_of(file), "filename": file.name} if file else {}
        if typed.kiln:
            picture = {"data": KILN, "filename": KILN.name}
        try:
            kind = typed.kind or "film"
            return redirect("desk", lifecycle.new_scene(request.user, typed.title, outing, kind, **picture).pk)
        except CoreError as refused:
            form.add_error("picture", str(refused))
    status = 422 if request.method == "POST" else 200
    context = {"form": form, "file_form": forms.SceneFileForm(), "outing": outing, "page": "new"}
    return render(request, "scenes/new.html", context, status=status)


@require_POST
def import_file(request):
    """A new scene from a scene file; every mistake is named, and nothing is kept of a refused file."""
    outing = outing_of(request.user, forms.OutingNumberForm(request.POST).number())
    form = forms.SceneFileForm(request.POST, request.FILES)
    mistakes = ["Choose a scene file first."]
    if form.is_valid():
        try:
            return redirect("desk", lifecycle.import_scene(request.user, _text(form.typed.file), outing).pk)
        except DocumentError as refused:
            mistakes = refused.mistakes
    context = {"form": forms.NewSceneForm(), "file_form": forms.SceneFileForm(), "outing": outing, "mistakes": mistakes}
    return render(request, "scenes/new.html", context, status=422)


def _text(file):
    try:
        return file.read(MOST_UPLOADED).decode("utf-8")
    except UnicodeDecodeError:
        raise DocumentError(["The file is not text. A scene file is JSON, saved as UTF-8."], "scene-file") from None


@require_POST
@of_mine_scene
def replace_picture(request, scene):
    """Another picture for the scene; a refused one leaves the old in place."""
    form = PictureForm(request.POST, scene.document)
    form.files = request.FILES
    problem = "Choose a picture first."
    if form.is_valid():
        file = form.typed.picture
        try:
            lifecycle.replace_picture(scene, source_of(file), file.name)
            return redirect("desk", scene.pk)
        except CoreError as refused:
            problem = str(refused)
    scene = owned(queries.scene_of, request.user, scene.pk, "scene")
    shown = desk.desk_of(scene, request.user.tone_labels, Problem(problem, "picture"))
    return render(request, "scenes/desk.html", {"desk": shown}, status=422)


@require_POST
def remove(request, pk):
    """Take a scene off the lists; home offers to bring it back."""
    if not lifecycle.set_removed(request.user, pk, True):
        raise Http404("There is no such scene among yours.")
    return redirect("home")


@require_POST
def bring_back(request, pk):
    if not lifecycle.set_removed(request.user, pk, False):
        raise Http404("There is no such scene among yours.")
    return redirect("desk", pk)
