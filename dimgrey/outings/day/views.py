"""Home, and the page of an outing with its light table."""

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_POST, require_safe

from dimgrey.outings import actions
from dimgrey.outings.day import forms, lightwindows
from dimgrey.outings.day.home import home_of, older_of
from dimgrey.outings.day.page import now_of, page_of, visits_of
from dimgrey.outings.day.pages import on_home
from dimgrey.outings.day.queries import scenes_on
from dimgrey.outings.day.table import light_table
from dimgrey.outings.queries import outing_of
from dimgrey.people import owned
from dimgrey.scenes.lifecycle import copy_scenes, order_scenes
from dimgrey.scenes.rail import ramp
from dimgrey.web.answers import refused

of_mine = owned.of_mine(outing_of, "outing")


@require_safe
def home(request):
    """What a person sees first: the next outing and its light, the last scene, every outing with its scenes."""
    home = home_of(request.user, timezone.now())
    context = {"home": home, "brought": on_home(request.user), "ramp": ramp(), "page": "home"}
    return render(request, "day/home.html", context)


@require_safe
def older(request):
    """Outings of one year, or scenes without an outing, a page at a time."""
    form = forms.OlderForm(request.GET)
    if not form.is_valid():
        return redirect("home")
    asked = form.typed.of
    title, outings, scenes, shown = older_of(request.user, asked, form.typed.page or 1)
    context = {"title": title, "outings": outings, "scenes": scenes, "shown": shown, "of": asked, "page": "home"}
    return render(request, "day/older.html", context)


@require_POST
def new(request):
    form = forms.NewOutingForm(request.POST)
    if not form.is_valid():
        return redirect("home")
    outing = actions.create_outing(request.user, form.typed.title, zone=form.typed.zone or "UTC")
    return redirect("outing", outing.pk)


def _shown(request, outing, facts_form=None, problem="", part="", status=200, conditions=None, asked=None):
    scenes = scenes_on(request.user, outing)
    titles, visits = visits_of(outing, request.user.tone_labels)
    context = {
        "page": page_of(outing, scenes, timezone.now().date(), request.user.tone_labels, asked),
        "form": facts_form or forms.FactsForm.of(outing),
        "conditions": conditions or forms.ConditionsForm(outing=outing),
        "titles": titles,
        "visits": visits,
        "problem": problem,
        "part": part,
    }
    return render(request, "day/outing.html", context, status=status)


@require_safe
@of_mine
def outing(request, outing):
    """The outing with its sky sheet, light of the day, scenes, cautions, leaving list and other visits."""
    form = forms.MomentForm(request.GET)
    return _shown(request, outing, asked=form.typed if form.is_valid() else None)


@require_safe
@of_mine
def moment(request, outing):
    """The sky sheet and the light of each scene at a chosen time: what the slider asks for."""
    form = forms.MomentForm(request.GET)
    scenes = scenes_on(request.user, outing)
    table = light_table(outing, scenes)
    if table is None or not form.is_valid():
        return refused(form.sentence() or "No date or place yet.")
    now = now_of(outing, scenes, table, form.typed, request.user.tone_labels)
    return render(request, "day/_now.html", {"now": now})


@require_POST
@of_mine
def change(request, outing):
    form = forms.FactsForm(request.POST)
    if not form.is_valid():
        return _shown(request, outing, form, part="facts", status=422)
    actions.change_outing(outing, **form.facts())
    return redirect("outing", outing.pk)


@require_POST
@of_mine
def gpx(request, outing):
    """The place from a GPX file."""
    form = forms.GpxForm(request.POST, request.FILES)
    if not form.is_valid():
        return _shown(request, outing, problem=form.sentence(), part="gpx", status=422)
    found = form.typed.file
    name = {"place_name": found.name} if found.name and not outing.place_name else {}
    place = found.coordinates
    actions.change_outing(outing, latitude_deg=place.latitude_deg, longitude_deg=place.longitude_deg, **name)
    return redirect("outing", outing.pk)


@require_POST
@of_mine
def conditions(request, outing):
    form = forms.ConditionsForm(request.POST, outing)
    if not form.is_valid():
        return _shown(request, outing, part="conditions", status=422, conditions=form)
    actions.type_conditions(outing, form.typed.hour, **form.values())
    return redirect("outing", outing.pk)


@require_POST
@of_mine
def check(request, outing):
    """Tick the leaving list; answers nothing, the tick stands already."""
    form = forms.CheckForm(request.POST)
    if not form.is_valid():
        return refused(form.sentence())
    actions.set_checked(outing, form.typed.code, form.typed.checked)
    return HttpResponse(status=204)


@require_POST
@of_mine
def dismiss(request, outing):
    form = forms.DismissForm(request.POST)
    if form.is_valid():
        actions.dismiss_caution(outing, form.typed.code, not form.typed.back)
    return redirect("outing", outing.pk)


@require_POST
@of_mine
def order(request, outing):
    """The scenes' order as the page shows it, as numbers."""
    order_scenes(outing, forms.OrderForm(request.POST).pks())
    return HttpResponse(status=204) if "HX-Request" in request.headers else redirect("outing", outing.pk)


@require_POST
@of_mine
def again(request, outing):
    """A second visit to the place: the same intents, views and means, without readings, pictures and date."""
    visit = actions.create_visit(outing)
    copy_scenes(outing, visit)
    return redirect("outing", visit.pk)


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


@require_safe
@of_mine
def windows_file(request, outing):
    """The wanted light of the coming days as an iCalendar file."""
    scenes = scenes_on(request.user, outing)
    found = lightwindows.coming_windows(outing, scenes, lightwindows.first_day_of(outing, timezone.now().date()))
    response = HttpResponse(
        lightwindows.calendar(outing, found, timezone.now()), content_type="text/calendar; charset=utf-8"
    )
    response["Content-Disposition"] = f'attachment; filename="{slugify(outing.title) or "outing"}-light.ics"'
    return response
