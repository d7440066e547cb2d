"""Results of frames: brought in, laid over their plans, shown under a divider, mended, let go."""

import zlib

import numpy as np
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.errors import CoreError
from dimgrey.frames.queries import bracket_of, frame_of
from dimgrey.people import removal
from dimgrey.people.owned import of_mine
from dimgrey.pictures import derived
from dimgrey.pictures.arrivals import arriving
from dimgrey.pictures.store import PictureGone
from dimgrey.pictures.views import encoded, gone, jpeg_response
from dimgrey.results import actions, page
from dimgrey.results.comparison import lightness_of, planned_of, printed_over_plan
from dimgrey.results.forms import KindForm, PointsForm, ResultsForm
from dimgrey.results.queries import result_of, results_of
from dimgrey.web.answers import refused

SMALL_SIDE = 240
SURROUND = 0x69
"""Grey of the page around a picture."""


def section(request, frame, problem="", form=None):
    """What a frame's page shows of its results."""
    results = list(results_of(frame))
    rows = [{"result": each, "words": page.short(each), "kind": page.kind_words(each)} for each in results]
    others = [each for each in bracket_of(frame) if each.pk != frame.pk] if frame.bracket else []
    coming = arriving(frame.owner, actions.PURPOSE, frame.pk)
    told = {"frame": frame, "results": rows, "problem": problem, "bracket": others, "arriving": coming}
    return {**told, "form": form or ResultsForm()}


@require_POST
@of_mine(frame_of, "frame")
def add(request, frame):
    """Files for a frame. One leads to its comparison; several come back to the frame."""
    form = ResultsForm(request.POST, request.FILES)
    if not form.is_valid():
        return _refused(request, frame, form, form.sentence())
    typed = form.typed
    kept, mistakes = actions.bring(frame, typed.files, typed.kind, typed.group)
    if typed.group:
        return refused(" ".join(mistakes)) if mistakes else HttpResponse(status=204)
    if mistakes:
        return _refused(request, frame, form, " ".join(mistakes))
    return redirect("result", kept[0]) if len(kept) == 1 else redirect("frame", frame.pk)


def _refused(request, frame, form, sentence):
    """The frame's results with the sentence why something was refused."""
    return render(request, "results/of_frame.html", {"shown": section(request, frame, sentence, form)}, status=422)


@require_safe
@of_mine(result_of, "result")
def show(request, result):
    """One result against its plan."""
    return _page(request, result)


def _page(request, result, problem="", form=None):
    pins = _pins(result)
    context = {
        "result": result,
        "frame": result.frame,
        "kind": page.kind_words(result),
        "findings": page.findings(result.found),
        "why": page.why(result),
        "rows": page.rail_rows(result.found, request.user.tone_labels) if result.found else (),
        "ramp": page.ramp(request.user.tone_labels),
        "problem": problem,
        "kind_form": KindForm(initial={"kind": result.kind}),
        "points": form or PointsForm(None, pins, initial=_places(result, pins)),
        "can_mend": len(pins) >= 3 and result.picture is not None and result.frame.picture is not None,
        "version": version_of(result),
    }
    return render(request, "results/result.html", context, status=422 if problem else 200)


def version_of(result):
    """Number that changes with how a result lies over its plan."""
    return zlib.crc32(repr([result.laid, result.kind]).encode())


def _pins(result):
    scene = result.frame.as_it_was
    return [tone for tone in scene.document.tones if tone.at is not None][:3] if scene else []


def _places(result, pins):
    """Where the pins lie in the result now, as the form writes places."""
    if result.laid is None:
        return {}
    at = [result.laid.at(*pin.at) for pin in pins]
    flags = {"is_mirrored": result.laid.is_mirrored, "is_negative": result.laid.is_negative}
    return {**{f"p{k}": f"{x * 100:.1f}, {y * 100:.1f}" for k, (x, y) in enumerate(at, 1)}, **flags}


@require_POST
@of_mine(result_of, "result")
def lay(request, result):
    """Lay a result over its plan by three points."""
    pins = _pins(result)
    form = PointsForm(request.POST, pins)
    if len(pins) < 3:
        return _page(request, result, "Three points need three pinned tones in the plan.")
    if not form.is_valid():
        return _page(request, result, form.sentence(), form)
    typed = form.typed
    try:
        planned = [pin.at for pin in pins]
        actions.lay_by_points(result, planned, form.places(), typed.is_mirrored, typed.is_negative)
    except CoreError as wrong:
        return _page(request, result, str(wrong), form)
    return redirect("result", result.pk)


@require_POST
@of_mine(result_of, "result")
def again(request, result):
    """Find again by itself how a result lies, and measure it."""
    actions.compare(result)
    return redirect("result", result.pk)


@require_POST
@of_mine(result_of, "result")
def kind(request, result):
    """Say what kind of file it is."""
    form = KindForm(request.POST)
    if not form.is_valid():
        return _page(request, result, form.sentence())
    actions.name_kind(result, form.typed.kind)
    return redirect("result", result.pk)


@require_POST
@of_mine(result_of, "result")
def remove(request, result):
    """Take a result off its frame."""
    return redirect(f"{reverse('frame', args=[result.frame_id])}?{removal.remove(result)}")


# --- pictures ---------------------------------------------------------------------------------------------------------


@require_safe
@of_mine(result_of, "result")
def over(request, result, version):
    """The result in grey as it lies over the plan's picture, the surround where it shows nothing. version: of how it lies."""
    if result.laid is None:
        raise Http404("It does not lie over the plan's picture.")

    def make():
        made, inside, _ = printed_over_plan(planned_of(result.frame), result.picture, result.laid, result.kind)
        return np.where(inside, grey8_of_lightness(made), SURROUND).astype(np.uint8)

    return _picture(result, f"over-{version}", make)


@require_safe
@of_mine(result_of, "result")
def own(request, result):
    """The result in grey as its file is."""
    return _picture(result, "own", lambda: _own_grey(result))


@require_safe
@of_mine(result_of, "result")
def small(request, result):
    """A small grey of the result for lists."""
    return _picture(result, "small", lambda: _shrunk(_own_grey(result)))


def _own_grey(result):
    try:
        planned = planned_of(result.frame)
    except CoreError:
        planned = None
    return grey8_of_lightness(lightness_of(result.picture, planned))


def _shrunk(grey):
    step = max(1, max(grey.shape) // SMALL_SIDE)
    height, width = (n // step * step for n in grey.shape)
    blocks = grey[:height, :width].reshape(height // step, step, width // step, step)
    return blocks.mean(axis=(1, 3)).astype(np.uint8)


def _picture(result, name, make):
    """JPEG of a view of a result, kept beside its picture once made. make: () -> 8-bit greys."""
    if result.picture is None:
        raise Http404("The file of this result is gone.")
    data = lambda: derived.kept_small(result.picture.path, f"result-{name}", lambda: encoded(make()))
    return or_reason(lambda: jpeg_response(data()))


def or_reason(answer):
    """What `answer` gives, or in plain text why it cannot be given: a file that is gone, a plan that cannot be."""
    try:
        return answer()
    except PictureGone as failed:
        return gone(failed)
    except CoreError as wrong:
        return refused(str(wrong))


@require_safe
@of_mine(result_of, "result")
def difference(request, result, version):
    """The map of the difference, as a fragment. version: of how the result lies."""
    if result.laid is None or result.picture is None:
        raise Http404("It does not lie over the plan's picture.")
    try:
        planned = planned_of(result.frame)
        made, _, told = printed_over_plan(planned, result.picture, result.laid, result.kind)
        drawn = page.difference_drawing(planned, made, told)
    except CoreError as wrong:
        return refused(str(wrong))
    return render(request, "results/_difference.html", {"drawing": drawn})
