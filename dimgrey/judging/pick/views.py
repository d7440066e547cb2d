"""The pick: groups of near-identical frames, one group large and side by side under one loupe, and what was kept and why."""

import numpy as np
from django.http import Http404
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.match import laid
from dimgrey.judging.pick import picking
from dimgrey.judging.pick.forms import ChooseForm, DecideForm, SubjectForm, WordsForm
from dimgrey.judging.pick.queries import pick_of
from dimgrey.people import removal
from dimgrey.people.owned import of_mine
from dimgrey.pictures.store import PictureGone
from dimgrey.pictures.views import encoded, gone, jpeg_response
from dimgrey.results.models import Result
from dimgrey.results.queries import results_to_pick
from dimgrey.results.views import SURROUND

LARGE_SIDE = 1400
MOST_DECIDED = 20
"""Picks that the list shows, the last ones; words find the others."""


def picks(request):
    """Groups that were found, frames to choose among by hand, and what was picked before."""
    return _picks(request)


def _picks(request, problem="", status=200):
    form = WordsForm(request.GET)
    decided, reasons = picking.reasons_of(request.user, form.typed.words if form.is_valid() else "")
    context = {
        "groups": picking.groups_of(request.user),
        "others": results_to_pick(request.user),
        "decided": decided.prefetch_related("candidates__result__frame")[:MOST_DECIDED],
        "reasons": reasons,
        "form": WordsForm(initial=form.data.dict() if form.data else {}),
        "problem": problem,
        "page": "frames",
    }
    return render(request, "pick/picks.html", context, status=status)


@require_POST
def begin(request):
    """A pick among chosen results."""
    rows = Result.objects.owned_by(request.user).exclude(picture=None)
    form = ChooseForm(request.POST, rows.values_list("pk", flat=True))
    if not form.is_valid():
        return _picks(request, form.sentence(), 422)
    chosen = rows.filter(pk__in=form.typed.results).select_related("picture", "frame__picture", "frame__scene")
    try:
        return redirect("pick", picking.make_pick(request.user, chosen).pk)
    except CoreError as refused:
        return _picks(request, str(refused), 422)


@require_safe
@of_mine(pick_of, "pick")
def pick(request, row):
    """One pick."""
    return _pick(request, row)


def _pick(request, row, problem="", status=200):
    candidates = list(row.candidates.select_related("result__frame", "result__picture"))
    places = picking.order_of(candidates) if candidates else []
    context = {
        "pick": row,
        "places": [_shown(candidate, place, k) for k, (candidate, place) in enumerate(places, 1)],
        "subject": [round(each * 100, 1) for each in row.subject],
        "form": DecideForm(None, ()),
        "problem": problem,
        "many": len(candidates) > 4,
        "page": "frames",
    }
    return render(request, "pick/pick.html", context, status=status)


def _shown(candidate, place, number):
    look = candidate.look
    degrees = lambda angle: "not told" if angle is None else f"{round(angle, 1) + 0.0:.1f}°".replace("-", "−")
    return {
        "candidate": candidate,
        "number": number,
        "reasons": ", ".join(place.reasons),
        "sharpness": f"{look.sharpness:.1f}",
        "lost": f"{look.lost_black * 100:.1f} / {look.lost_white * 100:.1f} %",
        "parting": f"{look.parting:.1f} zones",
        "pull": {None: "not among them", 1: "first"}.get(look.first_pull, f"place {look.first_pull}"),
        "tilt": degrees(look.tilt_deg),
        "lean": degrees(look.lean_deg),
    }


@require_POST
@of_mine(pick_of, "pick")
def subject(request, row):
    """Say where the subject is."""
    form = SubjectForm(request.POST)
    if not form.is_valid():
        return _pick(request, row, "Touch the subject in the first picture.", 422)
    try:
        picking.set_subject(row, form.typed.x / 100, form.typed.y / 100)
    except CoreError as refused:
        return _pick(request, row, str(refused), 422)
    return redirect("pick", row.pk)


@require_POST
@of_mine(pick_of, "pick")
def decide(request, row):
    """Keep one or two."""
    form = DecideForm(request.POST, row.candidates.values_list("pk", flat=True))
    if not form.is_valid():
        return _pick(request, row, form.sentence(), 422)
    try:
        picking.decide(row, form.typed.kept, form.typed.reason)
    except CoreError as refused:
        return _pick(request, row, str(refused), 422)
    return redirect("pick", row.pk)


@require_POST
@of_mine(pick_of, "pick")
def drop(request, row):
    """Take a pick off the list; its frames and files stay."""
    return redirect(f"{reverse('picks')}?{removal.remove(row)}")


@require_safe
@of_mine(pick_of, "pick")
def over(request, row, candidate):
    """A frame of a pick as it lies over the first one."""
    found = row.candidates.select_related("result__picture").filter(pk=candidate).first()
    first = row.candidates.select_related("result__picture").first()
    if found is None or found.result.picture is None or first.result.picture is None:
        raise Http404("There is no such frame in this pick.")
    try:
        here = picking.lightness_at(first.result.picture, LARGE_SIDE)
        own = picking.lightness_at(found.result.picture, LARGE_SIDE)
    except PictureGone as failed:
        return gone(failed)
    shown, inside = laid(own, found.laid, here.shape[::-1])
    return jpeg_response(encoded(np.where(inside, grey8_of_lightness(shown), SURROUND).astype(np.uint8), 90))
