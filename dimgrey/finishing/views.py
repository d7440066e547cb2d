"""The finishing plan of a result: its page, its picture at once, its areas, and the files it leaves as; and the same at the enlarger."""

import json

import numpy as np
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.cautions.safety import CLOSING, TEXTS
from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.errors import CoreError
from dimgrey.core.finishing import enlarger
from dimgrey.core.finishing.enlarger import EnlargerSetting
from dimgrey.core.finishing.finishingplan import FEATHER, doubts, finish_file, load_finish
from dimgrey.core.shapes.plain import whole_part
from dimgrey.finishing import finishing, worksheet
from dimgrey.finishing.forms import AreaForm, EnlargerForm, FinishFileForm, FinishForm
from dimgrey.people.owned import of_mine
from dimgrey.pictures.store import PictureGone
from dimgrey.pictures.views import encoded, gone
from dimgrey.results.queries import result_of
from dimgrey.results.views import or_reason
from dimgrey.web.answers import attached, refused
from dimgrey.web.forms import sent

MOST_FILE_BYTES = 1_000_000


@of_mine(result_of, "result")
def finish(request, result):
    """The plan: shown, and kept when sent."""
    if result.picture is None:
        return _without(request, result)
    plan = finishing.finishing_of(result)
    form = FinishForm(sent(request)[0], plan.finish, finishing.tones_of(result))
    problem = ""
    if request.method == "POST":
        problem = form.sentence()
        if form.is_valid():
            try:
                finishing.keep(plan, form.made())
                return redirect("finish", result.pk)
            except CoreError as wrong:
                problem = str(wrong)
    return _page(request, result, plan, form, problem)


def _without(request, result):
    context = {
        "result": result,
        "frame": result.frame,
        "problem": "The file of this result is gone: there is nothing to finish.",
    }
    return render(request, "finishing/finish.html", context, status=410)


def _page(request, result, plan, form=None, problem=""):
    made = plan.finish
    try:
        shown = finishing.shown_of(result)
    except PictureGone as failed:
        return gone(failed)
    context = {
        "result": result,
        "frame": result.frame,
        "form": form or FinishForm(None, made, finishing.tones_of(result)),
        "outlines": worksheet.outlines(made, shown.shape[1] / shown.shape[0]),
        "drawn_height": round(worksheet.WIDTH * shown.shape[0] / shown.shape[1], 1),
        "doubts": doubts(made),
        "can_undo": bool(plan.past),
        "file_form": FinishFileForm(),
        "problem": problem,
        "page": "frames",
    }
    return render(request, "finishing/finish.html", context, status=422 if problem else 200)


@require_POST
@of_mine(result_of, "result")
def preview(request, result):
    """The finished picture of what the form says, as JPEG; nothing is kept."""
    plan = finishing.finishing_of(result)
    form = FinishForm(request.POST, plan.finish, finishing.tones_of(result))
    if not form.is_valid():
        return refused(form.sentence())
    return or_reason(lambda: _jpeg(finishing.preview(result, form.made())))


@require_safe
@of_mine(result_of, "result")
def picture(request, result):
    """The finished picture as it is kept."""
    return or_reason(lambda: _jpeg(finishing.preview(result, finishing.finishing_of(result).finish)))


def _jpeg(lightness):
    return HttpResponse(encoded(np.ascontiguousarray(grey8_of_lightness(lightness)), 88), content_type="image/jpeg")


def _act(view):
    """An act on the plan of a result: (request, result, plan) -> None, or a refusal shown on the page."""

    @require_POST
    @of_mine(result_of, "result")
    def done(request, result, *args):
        plan = finishing.finishing_of(result)
        try:
            view(request, result, plan, *args)
        except CoreError as wrong:
            return _page(request, result, plan, None, str(wrong))
        return redirect("finish", result.pk)

    return done


@_act
def add_area(request, result, plan):
    """An area drawn by hand, or about a key tone."""
    form = AreaForm(request.POST)
    if not form.is_valid():
        raise CoreError(form.sentence(), code="area")
    typed = form.typed
    if typed.tone:
        corners = finishing.outline_of_tone(result, typed.tone)
        finishing.add_area(plan, name=typed.tone, outline=corners, feather=FEATHER, tone=typed.tone, why="")
    else:
        finishing.add_area(plan, name=typed.name, outline=tuple(map(tuple, form.corners())), feather=FEATHER)


def remove_area(request, pk, number):
    """Take an area off."""
    return _act(lambda request, result, plan: finishing.remove_area(plan, number))(request, pk)


@_act
def undo(request, result, plan):
    """The state before."""
    finishing.undo(plan)


@_act
def propose(request, result, plan):
    """Begin again from what is proposed."""
    finishing.keep(plan, finishing.proposal(result))


@_act
def import_finish(request, result, plan):
    """A plan from a file."""
    form = FinishFileForm(request.POST, request.FILES)
    if not form.is_valid():
        raise CoreError("Choose a finishing plan first.", code="no-file")
    try:
        text = form.typed.file.read(MOST_FILE_BYTES).decode("utf-8")
    except UnicodeDecodeError:
        raise CoreError("The file is not text. A finishing plan is JSON in UTF-8.", code="finish") from None
    finishing.keep(plan, load_finish(text))


# --- files ------------------------------------------------------------------------------------------------------------


@require_safe
@of_mine(result_of, "result")
def export(request, result, kind):
    """The plan as a file: work sheet as SVG or PDF, JSON, the global part as .cube, the picture as 16-bit TIFF."""
    return or_reason(lambda: _file(request, result, finishing.finishing_of(result).finish, kind))


def _file(request, result, plan, kind):
    title = result.frame.title
    if kind == "json":
        text = json.dumps(finish_file(plan), indent=1, ensure_ascii=False)
        return attached(text, "application/json", title, "-finish.json")
    if kind == "cube":
        return attached(worksheet.cube(plan, title), "text/plain; charset=utf-8", title, "-finish.cube")
    if kind == "tif":
        return attached(finishing.full_tiff(result, plan), "image/tiff", title, "-finished.tif")
    sheet = worksheet.sheet_of(result, plan)
    if kind == "pdf":
        return attached(worksheet.pdf(sheet), "application/pdf", title, "-work-sheet.pdf")
    return render(request, "finishing/worksheet.svg", {"sheet": sheet}, content_type="image/svg+xml")


# --- at the enlarger --------------------------------------------------------------------------------------------------


@of_mine(result_of, "result")
def printing(request, result):
    """The plan in seconds: strip, grade, sequence, and a timer."""
    plan = finishing.finishing_of(result)
    data, _ = sent(request)
    set_on = plan.enlarger or EnlargerSetting()
    form = EnlargerForm(data, initial=whole_part(set_on))
    problem = form.sentence() if data else ""
    if data and form.is_valid():
        set_on = EnlargerSetting(**form.cleaned_data)
        finishing.set_enlarger(plan, set_on)
    context = {"result": result, "frame": result.frame, "form": form, "page": "frames", "closing": CLOSING}
    context["cautions"] = [TEXTS["chemicals"], TEXTS["mains"]]
    try:
        context |= _sequence(result, plan.finish, set_on)
    except CoreError as wrong:
        problem = problem or str(wrong)
    context["problem"] = problem
    return render(request, "finishing/printing.html", context, status=422 if problem else 200)


def _sequence(result, plan, set_on):
    areas = [(area.name, area.stops, area.why) for area in plan.areas]
    steps = enlarger.sequence(set_on.base, areas, plan.edge_stops)
    density = _density(result)
    told = {
        "strips": enlarger.strip(set_on.first, set_on.step, set_on.count),
        "steps": steps,
        "warnings": list(enlarger.warnings(set_on.base, steps)),
        "plain": [{"kind": s.kind, "name": s.name, "seconds": s.seconds, "begins": s.begins} for s in steps],
    }
    if density:
        grade, off = enlarger.grade_for(density, set_on.condenser)
        told |= {"grade": grade, "density": f"{density:.2f}", "grade_off": off}
    return told


def _density(result):
    """Density range of the negative between its darkest and lightest tone that is not lost, or None with fewer than two."""
    falls = [tone.fall for tone in (result.found.tones if result.found else ()) if not tone.end]
    spread = max(falls) - min(falls) if len(falls) > 1 else 0
    return min(max(enlarger.density_range(spread), 0.3), 2.5) if spread > 0.5 else None
