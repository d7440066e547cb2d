"""Home, and the page of an outing with its light table."""

from functools import wraps

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_GET, require_POST

from dimgrey.core.errors import CoreError
from dimgrey.outings import actions, coming, forms, queries
from dimgrey.outings.compass import compass
from dimgrey.outings.home import home_of
from dimgrey.outings.page import now_lines, page_of, visits_of
from dimgrey.outings.table import light_table
from dimgrey.scenes.queries import scenes_of


def of_mine(view):
    """Hands the view one of the person's outings; any other number is not found."""

    @wraps(view)
    def found(request, pk, *args):
        outing = queries.outing_of(request.user, pk)
        if outing is None:
            raise Http404("There is no such outing among yours.")
        return view(request, outing, *args)

    return found


@require_GET
def home(request):
    """What a person sees first: the next outing and its light, the last scene, every outing with its scenes."""
    return render(request, "outings/home.html", {"home": home_of(request.user, timezone.now()), "page": "home"})


@require_POST
def new(request):
    form = forms.NewOutingForm(request.POST)
    if not form.is_valid():
        return redirect("home")
    outing = actions.create_outing(request.user, form.cleaned_data["title"], zone=form.cleaned_data["zone"] or "UTC")
    return redirect("outing", outing.pk)


def _shown(request, outing, facts_form=None, problem="", part="", status=200):
    scenes = list(scenes_of(request.user).filter(outing=outing))
    titles, visits = visits_of(outing, request.user.tone_labels)
    context = {
        "page": page_of(outing, scenes, timezone.now().date(), request.user.tone_labels),
        "form": facts_form or forms.FactsForm.of(outing),
        "titles": titles,
        "visits": visits,
        "problem": problem,
        "part": part,
    }
    return render(request, "outings/outing.html", context, status=status)


@require_GET
@of_mine
def outing(request, outing):
    """The outing with its light table, scenes, cautions, leaving list and other visits."""
    return _shown(request, outing)


@require_GET
@of_mine
def moment(request, outing):
    """The compass plan and the light of each scene at a chosen time: what the slider asks for."""
    form = forms.TimeForm(request.GET)
    scenes = list(scenes_of(request.user).filter(outing=outing))
    table = light_table(outing, scenes)
    if table is None or not form.is_valid():
        return HttpResponse(
            forms.first_error(form) or "No date or place yet.", status=422, content_type="text/plain; charset=utf-8"
        )
    clock = form.cleaned_data["time"]
    context = {
        "table": table,
        "compass": compass(outing, table, clock),
        "lines": now_lines(outing, scenes, table, clock, request.user.tone_labels),
    }
    return render(request, "outings/_now.html", context)


@require_POST
@of_mine
def change(request, outing):
    form = forms.FactsForm(request.POST)
    if not form.is_valid():
        return _shown(request, outing, form, forms.first_error(form), "facts", 422)
    actions.change_outing(outing, **form.facts())
    return redirect("outing", outing.pk)


@require_POST
@of_mine
def gpx(request, outing):
    """The place from a GPX file."""
    form = forms.GpxForm(request.POST, request.FILES)
    if not form.is_valid():
        return _shown(request, outing, problem=forms.first_error(form), part="gpx", status=422)
    found = form.cleaned_data["file"]
    name = {"place_name": found.name} if found.name and not outing.place_name else {}
    place = found.coordinates
    actions.change_outing(outing, latitude_deg=place.latitude_deg, longitude_deg=place.longitude_deg, **name)
    return redirect("outing", outing.pk)


@require_POST
@of_mine
def conditions(request, outing):
    form = forms.ConditionsForm(request.POST)
    problem = forms.first_error(form)
    if not problem:
        values = dict(form.cleaned_data)
        try:
            actions.type_conditions(outing, values.pop("hour"), **values)
        except CoreError as refused:
            problem = str(refused)
    if problem:
        return _shown(request, outing, problem=problem, part="conditions", status=422)
    return redirect("outing", outing.pk)


@require_POST
@of_mine
def check(request, outing):
    """Tick the leaving list; answers nothing, the tick stands already."""
    try:
        actions.set_checked(outing, request.POST.get("code", ""), request.POST.get("checked") == "on")
    except CoreError as refused:
        return HttpResponse(str(refused), status=422, content_type="text/plain; charset=utf-8")
    return HttpResponse(status=204)


@require_POST
@of_mine
def dismiss(request, outing):
    actions.dismiss_caution(outing, request.POST.get("code", "")[:40], request.POST.get("back") != "yes")
    return redirect("outing", outing.pk)


@require_POST
@of_mine
def order(request, outing):
    """The scenes' order as the page shows it, as numbers."""
    pks = [int(pk) for pk in request.POST.getlist("scene") if pk.isdecimal() and len(pk) < 19]
    actions.order_scenes(outing, pks)
    return HttpResponse(status=204) if request.headers.get("HX-Request") else redirect("outing", outing.pk)


@require_POST
@of_mine
def again(request, outing):
    return redirect("outing", actions.visit_again(outing).pk)


@require_POST
@of_mine
def remove(request, outing):
    actions.set_removed(request.user, outing.pk, True)
    return redirect("home")


@require_POST
@of_mine
def bring_back(request, outing):
    actions.set_removed(request.user, outing.pk, False)
    return redirect("outing", outing.pk)


@require_GET
@of_mine
def windows_file(request, outing):
    """The wanted light of the coming days as an iCalendar file."""
    scenes = list(scenes_of(request.user).filter(outing=outing))
    found = coming.coming_windows(outing, scenes, coming.first_day_of(outing, timezone.now().date()))
    response = HttpResponse(coming.calendar(outing, found, timezone.now()), content_type="text/calendar; charset=utf-8")
    response["Content-Disposition"] = f'attachment; filename="{slugify(outing.title) or "outing"}-light.ics"'
    return response
