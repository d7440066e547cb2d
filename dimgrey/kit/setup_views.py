"""Pages of setups: list, editor with a scene's picture answering, carrying over, menu card, files."""

import json
from dataclasses import replace

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_POST

from dimgrey.core.camera import setups as core
from dimgrey.core.colour.chain import CHANNEL_MIXES, mixed_chain
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.cube import cube_text
from dimgrey.core.picture.tonemap import ToneMap
from dimgrey.kit import setups
from dimgrey.scenes.preview import preview_of
from dimgrey.scenes.queries import scenes_of

SLIDERS = tuple((effect, words, 0 if effect in core.ONE_SIDED else -100) for effect, words in core.EFFECTS.items())


def _mine(request, pk):
    row = setups.setup_of(request.user, pk)
    if row is None:
        raise Http404("There is no such setup among yours.")
    return row


@require_GET
def index(request):
    return _index(request)


def _index(request, problem="", said="", status=200):
    context = {"setups": setups.setups_of(request.user.pk), "problem": problem, "said": said, "page": "kit"}
    return render(request, "kit/setups.html", context, status=status)


def read_setup(data):
    """The core's Setup of a form's data. Raises CoreError."""
    effects = {}
    for effect, _, _ in SLIDERS:
        try:
            effects[effect] = float(data.get(effect.replace(" ", "_"), 0) or 0) / 100
        except ValueError:
            raise CoreError(f"{effect.capitalize()} is a number.", parameter=effect, code="effect") from None
    try:
        protection = float(data.get("protection") or 0)
    except ValueError:
        raise CoreError(
            "Highlight protection is a number of stops.", parameter="protection", code="protection"
        ) from None
    tags = [tag.strip()[:30] for tag in data.get("tags", "").split(",") if tag.strip()]
    return core.setup(
        data.get("name", ""),
        effects,
        data.get("filter", "none"),
        protection,
        data.get("file", "both"),
        data.get("notes", ""),
        tags,
    )


def new(request):
    return _edit(request, None)


def edit(request, pk):
    return _edit(request, _mine(request, pk))


def _edit(request, row):
    problem, status = "", 200
    cameras = setups.cameras_of(request.user)
    made = setups.checked(row.values) if row else core.Setup("")
    camera = row.camera if row else None
    if request.method == "POST":
        camera = next((c for c in cameras if str(c.pk) == request.POST.get("camera")), None)
        try:
            made = read_setup(request.POST)
            kept = setups.keep_setup(request.user, made, camera, row)
            scene = request.POST.get("scene", "")
            return redirect(f"/setups/{kept.pk}/{'?scene=' + scene if scene.isdecimal() else ''}")
        except CoreError as refused:
            problem, status = str(refused), 422
    return render(request, "kit/setup.html", _context(request, row, made, camera, cameras, problem), status=status)


def _context(request, row, made, camera, cameras, problem):
    scenes = list(scenes_of(request.user).exclude(picture=None))
    wanted = request.POST.get("scene") or request.GET.get("scene", "")
    scene = next((s for s in scenes if str(s.pk) == wanted), scenes[0] if scenes else None)
    other = next((c for c in cameras if str(c.pk) == request.GET.get("to")), None)
    controls = setups.controls_of(camera)
    return {
        "row": row,
        "made": made,
        "sliders": [
            (effect, effect.replace(" ", "_"), words, low, round(made.effect(effect) * 100))
            for effect, words, low in SLIDERS
        ],
        "filters": tuple(CHANNEL_MIXES),
        "files": core.FILE_WORDS,
        "cameras": cameras,
        "camera": camera,
        "menu": core.carry(made, controls, most_protection=_protection(camera)).menu if controls and made.name else (),
        "scenes": scenes,
        "scene": scene,
        "preview": preview_of(scene, made, request.user.tone_labels, measured=_measured(camera), with_detail=True)
        if scene
        else None,
        "carried": core.carry(made, setups.controls_of(other), most_protection=_protection(other)) if other else None,
        "other": other,
        "problem": problem,
        "page": "kit",
    }


def _measured(camera):
    """(stops, L*) of a camera's measured curve, or None."""
    found = camera.calibration if camera else {}
    return (found["stops"], found["lightness"]) if found.get("stops") else None


def _protection(camera):
    return camera.values.get("protection_stops", 0.0) if camera else 0.0


@require_GET
def preview(request):
    """The picture and the curve of a setup that is being edited: what the sliders ask for."""
    scene = (
        scenes_of(request.user).filter(pk=int(request.GET["scene"])).first()
        if request.GET.get("scene", "").isdecimal()
        else None
    )
    if scene is None:
        raise Http404("There is no such scene among yours.")
    try:
        made = read_setup({**request.GET.dict(), "name": request.GET.get("name") or "trial"})
    except CoreError as refused:
        return HttpResponse(str(refused), status=422, content_type="text/plain; charset=utf-8")
    camera = next((c for c in setups.cameras_of(request.user) if str(c.pk) == request.GET.get("camera")), None)
    shown = preview_of(scene, made, request.user.tone_labels, measured=_measured(camera), with_detail=True)
    return render(request, "kit/_preview.html", {"preview": shown})


@require_POST
def carry(request, pk):
    """Keep a setup as one of another camera, under a name of its own."""
    row = _mine(request, pk)
    other = next((c for c in setups.cameras_of(request.user) if str(c.pk) == request.POST.get("camera")), None)
    if other is None:
        return redirect("setup", pk)
    carried = core.carry(setups.checked(row.values), setups.controls_of(other), most_protection=_protection(other))
    made, _ = setups.import_setup(
        request.user, core.as_json(replace(carried.setup, name=f"{row.name}, {other.name}"[:60]))
    )
    made.camera = other
    made.save(update_fields=["camera"])
    return redirect("setup", made.pk)


@require_GET
def menu_card(request, pk):
    """The setup in the order of its camera's menus, to print."""
    row = _mine(request, pk)
    made = setups.checked(row.values)
    carried = (
        core.carry(made, setups.controls_of(row.camera), most_protection=_protection(row.camera))
        if row.camera
        else None
    )
    return render(
        request,
        "kit/menu_card.html",
        {"row": row, "made": made, "carried": carried, "words": core.FILE_WORDS[made.file], "page": "kit"},
    )


@require_GET
def export(request, pk, kind):
    row = _mine(request, pk)
    made = setups.checked(row.values)
    if kind == "json":
        text, content_type = (
            json.dumps(core.as_json(made, row.revision), indent=1, ensure_ascii=False) + "\n",
            "application/json",
        )
    else:
        tone_map = ToneMap(mixed_chain(made.filter).terms, kind="digital file", tone=made.tone)
        text, content_type = (
            cube_text(tone_map, made.name, f"setup {made.name}, revision {row.revision}\nsRGB in, sRGB grey out"),
            "text/plain; charset=utf-8",
        )
    response = HttpResponse(text, content_type=content_type)
    response["Content-Disposition"] = f'attachment; filename="{slugify(made.name) or "setup"}.{kind}"'
    return response


@require_POST
def bring_in(request):
    file = request.FILES.get("file")
    if file is None or file.size > 200_000:
        return _index(request, "Choose a setup file (JSON).", status=422)
    try:
        row, renamed = setups.import_setup(request.user, json.loads(file.read().decode("utf-8")))
    except (UnicodeDecodeError, json.JSONDecodeError, RecursionError):
        return _index(request, 'The file is not JSON. A setup file starts with {"format": "dimgrey-setup".', status=422)
    except CoreError as refused:
        return _index(request, str(refused), status=422)
    return _index(request, said=f"“{row.name}” came in{' under a new name' if renamed else ''}.")
