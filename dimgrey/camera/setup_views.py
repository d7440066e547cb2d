"""Pages of setups: list, editor with a scene's picture answering, carrying over, menu card, files."""

import json

from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dimgrey.camera.preview import look_of, preview_of
from dimgrey.camera.setup_forms import SLIDER_STEPS, AskForm, SetupFileForm, SetupForm, said
from dimgrey.core.camera import setups as core
from dimgrey.core.colour.chain import mixed_chain
from dimgrey.core.document import setupfile
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.cube import cube_text
from dimgrey.core.picture.tonemap import ToneMap
from dimgrey.core.shapes.check import DocumentError
from dimgrey.kit import setups
from dimgrey.kit.queries import cameras_of, setup_of, setups_of
from dimgrey.people import removal
from dimgrey.people.owned import of_mine
from dimgrey.scenes.queries import pictured_scenes
from dimgrey.scenes.situation import Situation
from dimgrey.web.answers import attached, refused
from dimgrey.web.forms import sent

of_mine_setup = of_mine(setup_of, "setup")


def _scenes(request):
    """Scenes that a setup can be seen on: the last ones, and the one that is asked for."""
    found = pictured_scenes(request.user, AskForm(request.POST or request.GET).number("scene"))
    return [scene for scene in found if scene.is_sound]


@require_safe
def index(request):
    return _index(request)


def _index(request, problem="", said="", status=200):
    context = {"setups": setups_of(request.user), "problem": problem, "said": said, "page": "setups"}
    return render(request, "camera/setups.html", context, status=status)


def new(request):
    return _edit(request, None)


@of_mine_setup
def edit(request, row):
    return _edit(request, row)


@require_POST
@of_mine(setup_of, "setup")
def remove(request, row):
    """Take a setup off the list; what was shot with it keeps its copy."""
    return redirect(f"{reverse('setups')}?{removal.remove(row)}")


def _edit(request, row):
    made, camera = (row.setup, row.camera) if row else (core.Setup(""), None)
    cameras, scenes = cameras_of(request.user), _scenes(request)
    scene = AskForm(request.GET).picked("scene", scenes) or (scenes[0] if scenes else None)
    form = SetupForm(sent(request)[0], made, cameras, scenes, camera, scene)
    problem = ""
    if request.method == "POST":
        scene, camera = form.scene_chosen() or scene, form.camera_chosen()
        try:
            made = form.made()
            kept = setups.keep_setup(request.user, made, camera, row)
            asked = f"?scene={scene.pk}" if form.scene_chosen() else ""
            return redirect(f"{reverse('setup', args=[kept.pk])}{asked}")
        except CoreError as wrong:
            problem = str(wrong)
    context = _context(request, row, made, camera, scene)
    context.update(form=form, problem=problem, scenes=scenes, cameras=cameras)
    return render(request, "camera/setup.html", context, status=422 if problem else 200)


def _context(request, row, made, camera, scene):
    other = AskForm(request.GET).picked("to", cameras_of(request.user))
    menu = core.carry(made, camera.controls, most_protection=_protection(camera)).menu if camera and made.name else ()
    situation = Situation(scene, request.user.tone_labels) if scene else None
    shown = preview_of(situation, made, measured=_curve(camera), with_detail=True) if situation else None
    return {
        "row": row,
        "made": made,
        "words": core.FILE_WORDS[made.file],
        "camera": camera,
        "menu": menu,
        "scene": scene,
        "preview": shown,
        "carried": core.carry(made, other.controls, most_protection=_protection(other)) if other else None,
        "other": other,
        "page": "setups",
    }


def _curve(camera):
    """(stops, L*) of a camera's measured curve, or None."""
    return camera.measured.curve if camera else None


def _protection(camera):
    return camera.item.protection_stops if camera else 0.0


def _tried(request):
    """(Situation of the scene, Setup, measured curve) of a setup that is being edited. Raises CoreError, Http404."""
    form = SetupForm(request.GET, None, cameras_of(request.user), _scenes(request))
    scene = form.scene_chosen()
    if scene is None:
        raise Http404("There is no such scene among yours.")
    return Situation(scene, request.user.tone_labels), form.made("trial"), _curve(form.camera_chosen())


@require_safe
def preview(request):
    """Picture, curve, detail and measures of a setup that is being edited: what is asked for when a slider rests."""
    try:
        situation, made, measured = _tried(request)
    except CoreError as wrong:
        return refused(str(wrong))
    shown = preview_of(situation, made, measured=measured, with_detail=True)
    return render(request, "camera/_preview.html", {"preview": shown})


@require_safe
def look(request):
    """What the painter needs while a slider moves. JSON."""
    try:
        return JsonResponse(look_of(*_tried(request)))
    except CoreError as wrong:
        return refused(str(wrong))


@require_POST
@of_mine_setup
def carry(request, row):
    """Keep a setup as one of another camera, under a name of its own."""
    other = AskForm(request.POST).picked("camera", cameras_of(request.user))
    return redirect("setup", row.pk if other is None else setups.carry_setup(request.user, row, other).pk)


@require_safe
@of_mine_setup
def menu_card(request, row):
    """The setup in the order of its camera's menus, to print."""
    made, camera = row.setup, row.camera
    carried = core.carry(made, camera.controls, most_protection=_protection(camera)) if camera else None
    context = {
        "row": row,
        "made": made,
        "carried": carried,
        "effects": _effects(made),
        "words": core.FILE_WORDS[made.file],
        "page": "setups",
    }
    return render(request, "camera/menu_card.html", context)


def _effects(made):
    """(name, change in words) of each effect that a setup has, for a card without a camera's menu."""
    return [(core.name_of(effect).capitalize(), said(SLIDER_STEPS * value)) for effect, value in made.effects.items()]


@require_safe
@of_mine_setup
def export(request, row, kind):
    made = row.setup
    if kind == "json":
        text = json.dumps(setupfile.plain(made, row.revision), indent=1, ensure_ascii=False) + "\n"
        return attached(text, "application/json", made.name, ".json", "setup")
    tone_map = ToneMap(mixed_chain(made.filter), kind="digital file", tone=made.tone)
    text = cube_text(tone_map, made.name, f"setup {made.name}, revision {row.revision}\nsRGB in, sRGB grey out")
    return attached(text, "text/plain; charset=utf-8", made.name, ".cube", "setup")


@require_POST
def import_file(request) -> HttpResponse:
    form = SetupFileForm(request.POST, request.FILES)
    if not form.is_valid() or form.typed.file.size > setupfile.MAX_BYTES:
        return _index(request, "Choose a setup file (JSON).", status=422)
    try:
        made = setupfile.load(form.typed.file.read().decode("utf-8"))
    except UnicodeDecodeError:
        return _index(request, "The file is not text. A setup file is JSON, saved as UTF-8.", status=422)
    except DocumentError as wrong:
        return _index(request, " ".join(wrong.mistakes), status=422)
    except CoreError as wrong:
        return _index(request, str(wrong), status=422)
    row, renamed = setups.import_setup(request.user, made)
    return _index(request, said=f"“{row.name}” came in{' under a new name' if renamed else ''}.")
