"""Pages where the means are chosen: filter bench, setups side by side, the simulated camera, test shots."""

import base64
import io
import uuid
import zipfile

import numpy as np
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_POST
from PIL import Image

from dimgrey.core.camera import setups as core
from dimgrey.core.camera import testshot
from dimgrey.core.colour.encoding import grey8_of_lightness, luminance, mean_lightness, srgb_of_linear
from dimgrey.core.document.scenefile import scene_of
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.brackets import Bracket, offsets
from dimgrey.core.measure.exposure import marked_time
from dimgrey.core.measure.stops import format_aperture, format_time, parse_aperture, parse_speed, parse_time
from dimgrey.core.picture.tonemap import ToneMap
from dimgrey.core.planning.zones import format_tone
from dimgrey.frames.actions import log_frame
from dimgrey.kit import setups as kit_setups
from dimgrey.pictures.read import read_picture
from dimgrey.scenes import actions, light, store
from dimgrey.scenes.bench import bench_of
from dimgrey.scenes.desk import plan_or_wait
from dimgrey.scenes.preview import preview_of
from dimgrey.scenes.queries import picture_of, scenes_of
from dimgrey.scenes.views import owned
from dimgrey.standins.camera import Exposure, SimulatedCamera

MOST_COMPARED = 4
LIVE_SIDE = 900


@require_GET
def bench(request, pk):
    """Every filter on this scene at once, with advice."""
    return _bench(request, owned(request, pk))


def _bench(request, scene, problem="", status=200):
    context = {"bench": bench_of(scene, request.user), "problem": problem}
    return render(request, "scenes/bench.html", context, status=status)


def _stamp(request):
    text = request.POST.get("stamp", "")
    return int(text) if text.isdecimal() else None


def _acted(request, pk, act):
    """Do an act and go back to the bench; a refusal is shown there."""
    scene = owned(request, pk)
    try:
        act(scene)
    except CoreError as refused:
        return _bench(request, owned(request, pk), str(refused), 422)
    return redirect("bench", pk)


@require_POST
def use_way(request, pk):
    way = request.POST.get("way", "")
    if request.POST.get("kit") == "yes":
        return _acted(request, pk, lambda scene: actions.use_kit_filter(scene, _stamp(request), way))
    return _acted(request, pk, lambda scene: actions.use_way(scene, _stamp(request), way))


@require_POST
def take_advice(request, pk):
    """Do what a proposal says: a filter or mix, or effects on the setup. Undo on the desk takes it back."""

    def act(scene):
        code = request.POST.get("code", "")
        proposal = next((p for p in bench_of(scene, request.user).proposals if p.code == code), None)
        if proposal is None:
            raise CoreError("That advice no longer fits this plan.", code="no-advice")
        actions.take_advice(scene, _stamp(request), proposal)

    return _acted(request, pk, act)


# --- side by side ------------------------------------------------------------------------------------------------------------------


@require_GET
def compare(request, pk):
    """Two to four setups on one scene, each with its measures; keep one with the reason."""
    scene = owned(request, pk)
    rows = list(kit_setups.setups_of(request.user.pk))
    chosen = [row for row in rows if str(row.pk) in request.GET.getlist("setup")][:MOST_COMPARED] or rows[:2]
    stops = request.GET.get("stops", "0")
    extra = float(stops) if stops in ("-1", "0", "1") else 0.0
    previews = [
        (row, preview_of(scene, kit_setups.checked(row.values), request.user.tone_labels, extra)) for row in chosen
    ]
    context = {
        "scene": scene,
        "rows": rows,
        "chosen": {row.pk for row in chosen},
        "previews": previews if picture_of(scene) else [],
        "stops": stops,
        "in_use": scene.document.get("setup", {}).get("name"),
    }
    return render(request, "scenes/compare.html", context)


@require_POST
def keep_setup(request, pk):
    """Use a setup for the scene; the reason goes to its notes."""
    scene = owned(request, pk)
    row = (
        kit_setups.setup_of(request.user, int(request.POST["setup"]))
        if request.POST.get("setup", "").isdecimal()
        else None
    )
    if row is None:
        raise Http404("There is no such setup among yours.")
    actions.use_setup(scene, None, kit_setups.scene_part(row), request.POST.get("reason", "")[:200])
    return redirect("desk", pk)


@require_GET
def on_outing(request, pk, setup_pk):
    """One setup on every scene of an outing."""
    row = kit_setups.setup_of(request.user, setup_pk)
    scenes = list(scenes_of(request.user).filter(outing_id=pk).exclude(picture=None))
    if row is None or not scenes:
        raise Http404("There is no such setup, or no scene with a picture.")
    made = kit_setups.checked(row.values)
    previews = [preview_of(scene, made, request.user.tone_labels) for scene in scenes]
    return render(request, "scenes/on_outing.html", {"row": row, "previews": previews, "outing": scenes[0].outing})


# --- the simulated camera ------------------------------------------------------------------------------------------------------------


def _camera_of(scene, full=False):
    """A simulated camera before the scene: (camera, its crop of the light). Raises CoreError without light or scale."""
    picture = picture_of(scene)
    if picture is None:
        raise CoreError("The simulated camera needs a scene with a picture.", code="no-picture")
    scale = light.light_scale(scene.document, picture)
    if scale is None:
        raise CoreError("The picture's light has no scale yet: type one meter reading at a pin.", code="no-scale")
    planes = np.moveaxis(store.linear_of(picture.path), 0, -1)
    if not full:
        step = max(1, -(-max(planes.shape[:2]) // LIVE_SIDE))
        planes = planes[::step, ::step]
    return SimulatedCamera(planes.astype(np.float32), scale.offset)


def _setting(request_data, scene, result):
    """(Exposure, marked values) from what was typed; the plan's setting where nothing was."""
    increment = scene.document.get("increment", "third")
    iso = parse_speed(request_data.get("iso") or scene.document.get("medium", {}).get("iso", 100), increment)
    aperture = (
        parse_aperture(request_data["aperture"], increment)
        if request_data.get("aperture")
        else result.aperture
        if result
        else parse_aperture("f/8", increment)
    )
    shutter = (
        parse_time(request_data["shutter"], increment)
        if request_data.get("shutter")
        else result.shutter
        if result
        else parse_time("1/60", increment)
    )
    return Exposure(aperture.exact, shutter.exact, iso.exact), {"aperture": aperture, "shutter": shutter, "iso": iso}


def _setup_of_scene(scene):
    part = scene.document.get("setup")
    return (
        core.setup(
            part["name"],
            part.get("effects"),
            part.get("filter", "none"),
            part.get("protection_stops", 0),
            part.get("file", "both"),
        )
        if part
        else core.Setup("none")
    )


@require_GET
def camera(request, pk):
    """Live view of the simulated camera before the scene."""
    return _camera(request, owned(request, pk), request.GET)


def _camera(request, scene, data, problem="", shot=None, status=200):
    result, _ = plan_or_wait(scene_of(scene.document))
    context = {"scene": scene, "setup": scene.document.get("setup"), "problem": problem, "shot": shot}
    try:
        exposure, marked = _setting(data, scene, result)
        camera = _camera_of(scene)
        polarizer = min(max(float(data.get("polarizer") or 0), 0), 100) / 100
        live = camera.live(_setup_of_scene(scene), exposure, polarizer)
        locked = data.get("locked", "")
        compensation = float(data.get("compensation") or 0)
        metered = float(locked) - compensation if locked else camera.metered(compensation)
        auto = camera.setting(metered, exposure.f_number, exposure.iso)
        context.update(
            texts={
                "aperture": format_aperture(marked["aperture"]),
                "shutter": format_time(marked["shutter"]),
                "iso": marked["iso"].name,
            },
            polarizer=round(polarizer * 100),
            compensation=data.get("compensation") or "0",
            locked=locked,
            lock_at=f"{camera.metered():.3f}",
            live=_data_uri(live.grey),
            histogram=[
                {
                    "x": round(k * 100 / 32, 2),
                    "height": round(min(n * 600, 80), 1),
                    "y": round(80 - min(n * 600, 80), 1),
                }
                for k, n in enumerate(live.histogram)
            ],
            lost=(f"{live.lost_black * 100:.1f}", f"{live.lost_white * 100:.1f}"),
            auto=format_time(marked_time(auto.time_s, scene.document.get("increment", "third"))),
            dial=f"{metered - exposure.ev100:+.1f}".replace("-", "−"),
        )
    except (CoreError, ValueError) as refused:
        context["problem"] = context["problem"] or str(refused)
        status = 422
    return render(request, "scenes/camera.html", context, status=status)


def _data_uri(pixels):
    buffer = io.BytesIO()
    Image.fromarray(pixels).save(buffer, "JPEG", quality=82)
    return "data:image/jpeg;base64," + base64.b64encode(buffer.getvalue()).decode()


def _ready(request, scene):
    """(plan, exposure, what to log) for a shot. Raises CoreError while nothing is placed."""
    result, wait = plan_or_wait(scene_of(scene.document))
    if result is None:
        raise CoreError(wait, code="nothing-placed")
    return result, *_setting(request.POST, scene, result)


@require_POST
def shoot(request, pk):
    """Take a picture with the simulated camera: it is logged like any frame and compared with the plan."""
    scene = owned(request, pk)
    try:
        result, exposure, marked = _ready(request, scene)
        camera = _camera_of(scene, full=True)
        shot = camera.shoot(
            _setup_of_scene(scene),
            exposure,
            min(max(float(request.POST.get("polarizer") or 0), 0), 100) / 100,
            timezone.now(),
        )
        frame = log_frame(request.user, pk, uuid.uuid4(), marked, note="simulated camera")
        compared = _compared(scene, result, np.asarray(Image.open(io.BytesIO(shot.jpeg))), request.user.tone_labels)
    except (CoreError, ValueError) as refused:
        return _camera(request, scene, request.POST, str(refused), status=422)
    taken = {
        "frame": frame,
        "compared": compared,
        "jpeg": "data:image/jpeg;base64," + base64.b64encode(shot.jpeg).decode(),
    }
    return _camera(request, scene, request.POST, shot=taken)


@require_POST
def shoot_bracket(request, pk):
    """Take the plan's bracket (or three frames a stop apart): every frame is logged; the files come as one archive."""
    scene = owned(request, pk)
    try:
        result, exposure, marked = _ready(request, scene)
        order = offsets(result.scene.bracket or Bracket(3, 1.0))
        shots = _camera_of(scene, full=True).bracket(_setup_of_scene(scene), exposure, order, now=timezone.now())
        increment = scene.document.get("increment", "third")
        for offset, shot in zip(order, shots, strict=True):
            used = {**marked, "shutter": marked_time(shot.exposure.time_s, increment)}
            log_frame(request.user, pk, uuid.uuid4(), used, note=f"simulated camera, bracket {offset:+.1f}")
    except (CoreError, ValueError) as refused:
        return _camera(request, scene, request.POST, str(refused), status=422)
    buffer = io.BytesIO()
    with zipfile.ZipFile(buffer, "w") as archive:
        for shot in shots:
            archive.writestr(f"{shot.name}.jpg", shot.jpeg)
    response = HttpResponse(buffer.getvalue(), content_type="application/zip")
    response["Content-Disposition"] = 'attachment; filename="bracket.zip"'
    return response


@require_GET
def raw_like(request, pk):
    """The light as the simulated camera's raw file holds it at the planned setting: scene-linear, 32-bit TIFF."""
    from tifffile import imwrite

    scene = owned(request, pk)
    result, _ = plan_or_wait(scene_of(scene.document))
    try:
        exposure, _ = _setting(request.GET, scene, result)
        shot = _camera_of(scene, full=True).shoot(core.Setup("raw", file="raw"), exposure)
    except (CoreError, ValueError) as refused:
        return HttpResponse(str(refused), status=422, content_type="text/plain; charset=utf-8")
    buffer = io.BytesIO()
    imwrite(buffer, shot.linear, photometric="rgb", compression="zlib")
    response = HttpResponse(buffer.getvalue(), content_type="image/tiff")
    response["Content-Disposition"] = f'attachment; filename="{slugify(scene.title) or "scene"}-linear.tif"'
    return response


# --- the test shot ---------------------------------------------------------------------------------------------------------------------


def _planned_zones(scene, result):
    """name -> zone that the in-camera file should show: after filter and setup."""
    tone = _setup_of_scene(scene).tone
    shown = {t.name: t for t in result.tones}
    pinned = [entry["name"] for entry in scene.document.get("tones", []) if "at" in entry and entry["name"] in shown]
    return {name: 5 + float(core.toned_stops(shown[name].zone_after_filter - 5, tone)) for name in pinned}


def _compared(scene, result, grey, labels, matrix=None):
    """Comparison of a grey 8-bit shot with the plan, in words."""
    places = {entry["name"]: entry["at"] for entry in scene.document.get("tones", []) if "at" in entry}
    planned = _planned_zones(scene, result)
    height, width = grey.shape[:2]
    shown = {}
    for name in planned:
        x, y = testshot.moved(matrix, *places[name]) if matrix is not None else places[name]
        if not (0 <= x <= 1 and 0 <= y <= 1):
            continue
        row, column, reach = min(int(y * height), height - 1), min(int(x * width), width - 1), max(2, width // 150)
        patch = grey[max(row - reach, 0) : row + reach + 1, max(column - reach, 0) : column + reach + 1]
        shown[name] = float(testshot.zone_of_lightness(mean_lightness(patch)))
    found = testshot.compare(planned, shown)
    word = lambda zone: format_tone(min(max(zone, 0), 10), labels)
    rows = [
        {"name": t.name, "planned": word(t.planned), "shown": word(t.shown), "off": f"{t.off:+.1f}".replace("-", "−")}
        for t in found.tones
    ]
    return {"rows": rows, "advice": found.advice}


def test_shot(request, pk):
    """A picture that the camera just made, against the plan, zone by zone."""
    scene = owned(request, pk)
    result, wait = plan_or_wait(scene_of(scene.document))
    context, status = (
        {"scene": scene, "wait": wait, "pins": [t for t in scene.document.get("tones", []) if "at" in t]},
        200,
    )
    if request.method == "POST":
        try:
            if result is None:
                raise CoreError(wait, code="nothing-placed")
            file = request.FILES.get("file")
            if file is None:
                raise CoreError("Choose the picture that the camera made.", code="no-file")
            context["compared"] = _test(scene, result, file, request)
        except CoreError as refused:
            context["problem"], status = str(refused), 422
    return render(request, "scenes/test_shot.html", context, status=status)


def _test(scene, result, file, request):
    picture = picture_of(scene)
    if picture is None:
        raise CoreError("This scene has no picture whose pins a shot could be held against.", code="no-picture")
    read = read_picture(file.read(), file.name)
    grey = _shown_grey(read)
    points = [request.POST.get(key, "").strip() for key in ("p1", "p2", "p3")]
    matrix = None
    if any(points):
        matrix = _matrix(scene, points)
    else:
        testshot.require_same_frame((picture.view_width, picture.view_height), (grey.shape[1], grey.shape[0]))
    return _compared(scene, result, grey, request.user.tone_labels, matrix)


def _shown_grey(read):
    """8-bit grey of a picture as its file shows it, shape (h, w)."""
    if read.scene_linear:
        tone_map = ToneMap((0.21, 0.72, 0.07, 0, 0, 0), kind="digital file")
        return grey8_of_lightness(tone_map.lightness(np.asarray(read.linear, np.float32)))
    encoded = srgb_of_linear(np.maximum(luminance(np.asarray(read.linear, np.float32)), 0))
    return np.round(np.clip(encoded, 0, 1) * 255).astype(np.uint8)


def _matrix(scene, points):
    """Map from three pins to three typed places "x, y" in percent of the shot."""
    pins = [entry["at"] for entry in scene.document.get("tones", []) if "at" in entry][:3]
    if len(pins) < 3:
        raise CoreError("Matching needs three pinned tones.", code="points-few")
    try:
        there = [tuple(float(cell) / 100 for cell in text.split(",")) for text in points]
    except ValueError:
        there = []
    if len(there) != 3 or any(len(point) != 2 for point in there):
        raise CoreError("Write the three places as percent of width and height: 40, 62.", code="points")
    return testshot.affine_from_points(pins, there)
