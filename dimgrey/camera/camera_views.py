"""The simulated camera before a scene: live view, a shot against the plan, a bracket, and its scene-linear file."""

import base64
import io
import uuid
import zipfile
from dataclasses import replace

import numpy as np
from django import forms
from django.shortcuts import render
from django.utils import timezone
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.camera.setups import Setup
from dimgrey.core.document.briefing import setup_of
from dimgrey.core.document.meansline import made_with
from dimgrey.core.errors import CoreError, NotPlaced, OutOfRange
from dimgrey.core.measure.brackets import Bracket, offsets
from dimgrey.core.measure.exposure import marked_time
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_stops, parse_time
from dimgrey.core.measure.setting import SET, Setting
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.picture.match import Match
from dimgrey.core.planning.plan import filter_cost
from dimgrey.frames.actions import log_frame
from dimgrey.kit.queries import item_named
from dimgrey.people.owned import of_mine
from dimgrey.pictures import store
from dimgrey.pictures.views import encoded
from dimgrey.results import page
from dimgrey.results.actions import keep_result
from dimgrey.scenes.queries import scene_of
from dimgrey.scenes.situation import Situation
from dimgrey.standins.simulated_camera import CameraSetting, LensGlass, SimulatedCamera, hidden_fault
from dimgrey.web.answers import attached, refused
from dimgrey.web.forms import CoreField, PlainForm, text_input

LIVE_SIDE = 900
BARS = 32
MOST_COMPENSATION = 10
USUAL_APERTURE, USUAL_TIME = "f/8", "1/60"


def _compensation(text):
    """Stops of compensation as a camera has them. Raises CoreError."""
    stops = parse_stops(text, "compensation")
    if abs(stops) > MOST_COMPENSATION:
        sentence = f"Compensation goes to {MOST_COMPENSATION} stops (got {stops:g})."
        raise OutOfRange(sentence, parameter="compensation", code="compensation")
    return stops


class LockInput(forms.CheckboxInput):
    """A tick that stands for a number: the EV that is locked."""

    def value_from_datadict(self, data, files, name):
        return data.get(name)


class CameraForm(PlainForm):
    """What is set on the camera; the plan's setting where nothing is."""

    shutter = CoreField(parse_time, label="Shutter", widget=text_input(maxlength=12))
    aperture = CoreField(parse_aperture, label="Aperture", widget=text_input(maxlength=12))
    iso = CoreField(parse_speed, label="ISO", widget=text_input(maxlength=8, inputmode="numeric"))
    polarizer = forms.FloatField(
        required=False,
        min_value=0,
        max_value=100,
        label="Polarizer",
        widget=forms.NumberInput(
            {"type": "range", "step": 10, "class": "", "aria-label": "Polarizer, from off to strongest"}
        ),
        error_messages={"invalid": "The polarizer is turned from 0 to 100."},
    )
    compensation = CoreField(_compensation, label="Compensation in auto, stops", widget=text_input("0"))
    fault = forms.BooleanField(required=False, label="With a hidden fault of film or camera, to be found by comparing")
    locked = forms.FloatField(required=False, min_value=-30, max_value=30, label="Exposure locked", widget=LockInput())

    def marked(self, situation):
        """The Setting: what is typed, else the plan's, else a usual one."""
        result, increment = situation.plan, situation.document.increment
        typed = Setting(*(self.cleaned_data[name] for name in SET))
        speed = parse_speed(situation.document.medium.iso, increment)
        usual = parse_aperture(USUAL_APERTURE, increment), parse_time(USUAL_TIME, increment)
        return typed.over(Setting(*((result.aperture, result.shutter) if result else usual), speed))

    @property
    def turned(self):
        """How far the polarizer is turned, 0..1; None where nobody turned it."""
        at = self.typed.polarizer
        return None if at is None else at / 100


def _setting(marked):
    return CameraSetting(marked.aperture.exact, marked.shutter.exact, marked.iso.exact)


def camera_before(situation, full=False, with_fault=False):
    """A simulated camera before the scene. full: every pixel of the working copy. with_fault: its film, or itself, is off by an amount
    that it does not tell. Raises CoreError without a scale.
    """
    if situation.picture is None:
        raise CoreError("The simulated camera needs a scene with a picture.", code="no-picture")
    if situation.scale is None:
        raise CoreError("The picture's light has no scale yet: type one meter reading at a pin.", code="no-scale")
    planes = np.moveaxis(store.linear_of(situation.picture.path), 0, -1)
    step = 1 if full else max(1, -(-max(planes.shape[:2]) // LIVE_SIDE))
    glass = _glass(situation, planes.shape[:2], step)
    fault = _fault(situation) if with_fault else 0.0
    light = planes[::step, ::step].astype(np.float32)
    return SimulatedCamera(light, situation.scale.offset, glass=glass, fault_stops=fault)


def _fault(situation):
    """Stops by which the film or camera in use gives more light than the plan believes. A film keeps its true speed, whatever it is rated
    at; the kit's rated speed is where that was guessed from."""
    made = made_with(situation.document)
    if not made.film:
        return hidden_fault(made.camera)
    item = item_named(situation.scene.owner_id, "film", made.film)
    believed = parse_speed(situation.document.medium.iso).exact
    rated = parse_speed(item.item.iso_rated).exact if item else believed
    return hidden_fault(made.film) + float(np.log2(rated / believed))


def _glass(situation, size, step):
    """LensGlass of the scene's filters. size: height and width of the whole picture. step: of the pixels that are looked at."""
    result, brief, overhead = situation.plan, situation.brief, situation.overhead
    share = store.sky(situation.picture.path, overhead)
    sky = None if share is None else share[::step, ::step] / np.float32(255)
    polarized = None
    if overhead.polarizer is not None:
        polarized = np.zeros(size, np.float32) if sky is None else -overhead.polarized_stops(*size)
        polarized = polarized[::step, ::step] * (1 if sky is None else sky)
    graduated = replace(overhead, polarizer=None).left(None, *size)[::step] if overhead.graduated else None
    return LensGlass(
        left=graduated,
        stops=filter_cost(brief).stops if result is None else result.filter_cost.stops,
        chain=None if brief.medium.mixes_channels else brief.medium.chain(brief.light, brief.coloured),
        sky=sky,
        polarized=polarized,
    )


def _turned(situation, form):
    """How far the polarizer is turned, 0..1: as set; else to its strongest where one is on the lens, and off where none is."""
    if form.turned is not None:
        return form.turned
    return float(any(glass.name == "polarizer" for glass in situation.document.filters))


def setup_in(situation):
    """The Setup that the camera makes its file with; a plain one for film and where none is chosen."""
    part = situation.document.setup_in_use
    return setup_of(part) if part else Setup("none")


@require_safe
@of_mine(scene_of, "scene")
def camera(request, scene):
    """Live view of the simulated camera before the scene."""
    return _page(request, Situation(scene, request.user.tone_labels), CameraForm(request.GET))


@require_safe
@of_mine(scene_of, "scene")
def live(request, scene):
    """What the camera shows at a setting that is being changed; the field under the hand may be half typed, which is refused."""
    form = CameraForm(request.GET)
    if not form.is_valid():
        return refused(form.sentence())
    try:
        shown = _live(Situation(scene, request.user.tone_labels), form)
    except CoreError as wrong:
        return refused(str(wrong))
    return render(request, "camera/_finder.html", {"scene": scene, **shown})


def _page(request, situation, form, problem="", shot=None):
    context = {"scene": situation.scene, "setup": situation.document.setup_in_use, "form": form, "shot": shot}
    problem, set_on = problem or form.sentence(), form
    if not form.is_valid():  # the plan's setting stands, and what was typed stays in its fields
        set_on = CameraForm({})
        set_on.is_valid()
    try:
        context.update(_live(situation, set_on))
    except CoreError as wrong:
        problem = problem or str(wrong)
    if form.is_valid() and "shown" in context:
        context["form"] = context["shown"]
    context["problem"] = problem
    return render(request, "camera/camera.html", context, status=422 if problem else 200)


def _live(situation, form):
    """What the screen on the camera's back shows, in words and bars."""
    marked, increment = form.marked(situation), situation.document.increment
    setting, compensation = _setting(marked), form.typed.compensation or 0.0
    before = camera_before(situation)
    live = before.live(setup_in(situation), setting, _turned(situation, form))
    locked = form.typed.locked
    metered = before.metered(compensation) if locked is None else locked - compensation
    auto = before.setting(metered, setting.f_number, setting.iso)
    return {
        "shown": _shown(marked, form, compensation, before.metered(), _turned(situation, form)),
        "live": jpeg_address(encoded(live.grey, 82)),
        "histogram": _bars(live.histogram),
        "lost": (f"{live.lost_black * 100:.1f}", f"{live.lost_white * 100:.1f}"),
        "auto": format_time(marked_time(auto.time_s, increment)),
        "dial": f"{metered - setting.ev100:+.1f}".replace("-", "−"),
    }


def _shown(marked, form, compensation, metered_ev, turned):
    """The form with what the camera is set to. turned: of the polarizer, 0..1."""
    locked = form.typed.locked
    shown = CameraForm(
        initial={
            "aperture": format_aperture(marked.aperture),
            "shutter": format_time(marked.shutter),
            "iso": marked.iso.name,
            "polarizer": round(turned * 100),
            "compensation": f"{compensation:g}",
            "fault": form.typed.fault,
            "locked": None if locked is None else f"{locked:g}",
        }
    )
    if locked is None:
        shown.fields["locked"].widget.attrs["value"] = f"{metered_ev:.3f}"
    return shown


def _bars(shares):
    """Bars of a histogram, the tallest over the whole height."""
    tallest = max(max(shares), 1e-9)
    heights = [share / tallest * 78 for share in shares]
    return [
        {"x": round(k * 100 / BARS, 2), "height": round(height, 1), "y": round(80 - height, 1)}
        for k, height in enumerate(heights)
    ]


def jpeg_address(data):
    """JPEG bytes as an address that holds them."""
    return "data:image/jpeg;base64," + base64.b64encode(data).decode()


def _require_plan(situation):
    if situation.plan is None:
        raise NotPlaced(situation.wait, parameter="placing", code="nothing-placed")
    return situation.plan


@require_POST
@of_mine(scene_of, "scene")
def shoot(request, scene):
    """Take a picture with the simulated camera: it is logged like any frame and compared with the plan."""
    situation, form = Situation(scene, request.user.tone_labels), CameraForm(request.POST)
    if not form.is_valid():
        return _page(request, situation, form)
    try:
        _require_plan(situation)
        marked, made = form.marked(situation), setup_in(situation)
        shot = camera_before(situation, full=True, with_fault=form.typed.fault).shoot(
            made, _setting(marked), _turned(situation, form), timezone.now()
        )
        frame = log_frame(request.user, scene, uuid.uuid4(), marked, note="simulated camera")
        result = keep_result(frame, shot.jpeg, f"frame-{frame.number}.jpg", "camera file", Match())
    except CoreError as wrong:
        return _page(request, situation, form, str(wrong))
    taken = {
        "frame": frame,
        "result": result,
        "findings": page.findings(result.found),
        "rows": page.rail_rows(result.found, request.user.tone_labels),
        "jpeg": jpeg_address(shot.jpeg),
    }
    return _page(request, situation, form, shot=taken)


@require_POST
@of_mine(scene_of, "scene")
def shoot_bracket(request, scene):
    """Take the plan's bracket (or three frames a stop apart): every frame is logged; the files come as one archive."""
    situation, form = Situation(scene, request.user.tone_labels), CameraForm(request.POST)
    if not form.is_valid():
        return _page(request, situation, form)
    try:
        order = offsets(_require_plan(situation).brief.bracket or Bracket(3, 1.0))
        marked = form.marked(situation)
        before = camera_before(situation, full=True, with_fault=form.typed.fault)
        shots = before.bracket(setup_in(situation), _setting(marked), order, _turned(situation, form), timezone.now())
    except CoreError as wrong:
        return _page(request, situation, form, str(wrong))
    buffer, bracket = io.BytesIO(), uuid.uuid4()
    with zipfile.ZipFile(buffer, "w") as archive:
        for offset, shot in zip(order, shots, strict=True):
            used = marked._replace(shutter=marked_time(shot.setting.time_s, situation.document.increment))
            note = f"simulated camera, bracket {offset:+.1f}"
            log_frame(request.user, scene, uuid.uuid4(), used, note, bracket=bracket)
            archive.writestr(f"{shot.name}.jpg", shot.jpeg)
    return attached(buffer.getvalue(), "application/zip", scene.title, "-bracket.zip", "scene")


@require_safe
@of_mine(scene_of, "scene")
def raw_like(request, scene):
    """The light as the simulated camera's raw file holds it at the planned setting: scene-linear, 32-bit TIFF."""
    from tifffile import imwrite  # 0.2 s to import, and hardly anyone asks

    situation, form = Situation(scene), CameraForm(request.GET)
    if not form.is_valid():
        return refused(form.sentence())
    try:
        shot = camera_before(situation, full=True).shoot(Setup("raw", file="raw"), _setting(form.marked(situation)))
    except CoreError as wrong:
        return refused(str(wrong))
    buffer = io.BytesIO()
    imwrite(buffer, shot.linear, photometric="rgb", compression="zlib")
    return attached(buffer.getvalue(), "image/tiff", scene.title, "-linear.tif", "scene")
