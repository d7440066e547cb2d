"""Light studies: begun, filled with pictures or scenes, compared under one crop and one exposure, and an hour chosen for a new scene."""

import zlib

from django.http import Http404
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.errors import CoreError
from dimgrey.core.picture.crop import EDGES
from dimgrey.judging.studies import actions, lights
from dimgrey.judging.studies.forms import FrameForm, LightsForm, ScenesForm, StudyForm, TimeForm
from dimgrey.judging.studies.queries import outings_of, studies_of, study_of
from dimgrey.outings.models import Outing
from dimgrey.people import removal
from dimgrey.people.owned import of_mine
from dimgrey.pictures.arrivals import arriving
from dimgrey.pictures.store import PictureGone
from dimgrey.pictures.views import encoded, gone, jpeg_response
from dimgrey.scenes.queries import pictured_scenes, scenes_of
from dimgrey.web.forms import sent


def studies(request):
    """Every study, and a form for a new one."""
    form = StudyForm(sent(request)[0], outings_of(request.user))
    if request.method == "POST" and form.is_valid():
        typed = form.typed
        made = actions.make_study(request.user, typed.title, _outing(request, typed.outing), typed.heading)
        return redirect("study", made.pk)
    context = {"studies": studies_of(request.user), "form": form, "page": "frames"}
    return render(request, "studies/index.html", context, status=422 if form.errors else 200)


def _outing(request, pk):
    return Outing.objects.owned_by(request.user).filter(pk=pk).first() if pk else None


@require_safe
@of_mine(study_of, "study")
def study(request, row):
    """One study."""
    return _page(request, row)


def _page(request, row, problem="", status=200):
    shown = lights.shown_of(row)
    zone = lights.zone_of(row)
    # Its pictures change with the crop, and with those that share its exposure.
    version = zlib.crc32(repr((row.crop, [each.row.pk for each in shown])).encode())
    rows = [
        {
            "shown": each,
            "version": version,
            "parting": _signed(each.hour.parting) if each.hour else "",
            "key": _signed(each.hour.key) if each.hour else "",
            "form": TimeForm(
                initial={
                    "at": each.row.at.astimezone(zone).replace(tzinfo=None) if each.row.at else None,
                    "note": each.row.note,
                }
            ),
        }
        for each in shown
    ]
    crop = dict(zip(EDGES, (round(v * 100, 1) for v in row.crop), strict=True))
    place = {"x": round(row.subject[0] * 100, 1), "y": round(row.subject[1] * 100, 1)}
    context = {
        "study": row,
        "lights": rows,
        "ev": lights.study_ev([each.row for each in shown]) if shown else None,
        "form": StudyForm.of(row, outings_of(request.user, row.outing_id)),
        "lights_form": LightsForm(),
        "arriving": arriving(request.user, actions.PURPOSE, row.pk),
        "frame_form": FrameForm(initial={**crop, **place}),
        "scenes": pictured_scenes(request.user),
        "problem": problem,
        "page": "frames",
    }
    return render(request, "studies/study.html", context, status=422 if problem and status == 200 else status)


def _signed(value):
    """A number with its sign, to a tenth."""
    return f"{round(value, 1) + 0.0:+.1f}".replace("-", "−")


def _act(view):
    """An act on a study: (request, study, ...) -> a sentence of what went wrong, or "". It is shown on the page."""

    @require_POST
    @of_mine(study_of, "study")
    def done(request, row, **more):
        problem = view(request, row, **more)
        return _page(request, row, problem) if problem else redirect("study", row.pk)

    return done


@_act
def add(request, row):
    """Pictures for a study."""
    form = LightsForm(request.POST, request.FILES)
    return " ".join(actions.add_files(row, form.typed.files)) if form.is_valid() else form.sentence()


@_act
def add_scenes(request, row):
    """Scenes for a study."""
    known = scenes_of(request.user).exclude(picture=None)
    form = ScenesForm(request.POST, known.values_list("pk", flat=True))
    if not form.is_valid():
        return form.sentence()
    return " ".join(actions.add_scenes(row, known.filter(pk__in=form.typed.scenes)))


@_act
def change(request, row):
    """Title, place and heading."""
    form = StudyForm(request.POST, outings_of(request.user, row.outing_id))
    if not form.is_valid():
        return form.sentence()
    typed = form.typed
    actions.change_study(row, title=typed.title, outing=_outing(request, typed.outing), heading_deg=typed.heading)
    return ""


@_act
def frame(request, row):
    """Subject and crop of all pictures."""
    form = FrameForm(request.POST)
    if not form.is_valid():
        return form.sentence()
    actions.change_study(row, **form.told())
    return ""


@_act
def time(request, row, light):
    """When a light was."""
    form, found = TimeForm(request.POST), _light(row, light)
    if not form.is_valid():
        return form.sentence()
    actions.set_time(found, form.moment(lights.zone_of(row)), form.typed.note)
    return ""


@require_POST
@of_mine(study_of, "study")
def drop(request, row, light):
    """Take a light out."""
    return redirect(f"{reverse('study', args=[row.pk])}?{removal.remove(_light(row, light))}")


def _light(study, pk):
    found = study.pictures.select_related("picture", "scene__picture").filter(pk=pk).first()
    if found is None:
        raise Http404("There is no such picture in this study.")
    return found


@require_POST
@of_mine(study_of, "study")
def choose(request, row, light):
    """The hour of one light becomes the wanted light of a new scene."""
    chosen = _light(row, light)
    shown = next(each for each in lights.shown_of(row) if each.row.pk == chosen.pk)
    if shown.hour is None:
        return _page(request, row, "The file of this picture is gone; its light cannot be told any more.")
    try:
        scene = actions.scene_of_hour(request.user, row, chosen, shown.hour)
    except CoreError as wrong:
        return _page(request, row, str(wrong))
    return redirect("desk", scene.pk)


@require_POST
@of_mine(study_of, "study")
def remove(request, row):
    """Take a study off the list, with its own files."""
    return redirect(f"{reverse('studies')}?{removal.remove(row)}")


@require_safe
@of_mine(study_of, "study")
def picture(request, row, light, version):
    """One light as the study shows it. version: of crop and exposure, so that it can be kept."""
    try:
        return jpeg_response(encoded(lights.picture_of(row, _light(row, light)), 88))
    except PictureGone as failed:
        return gone(failed)
