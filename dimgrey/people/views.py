from io import BytesIO
from urllib.parse import urlsplit

import segno
from django.conf import settings
from django.contrib.auth.decorators import login_not_required
from django.http import HttpResponse, HttpResponseBadRequest, HttpResponseRedirect
from django.shortcuts import redirect, render
from django.urls import reverse
from django.utils.http import url_has_allowed_host_and_scheme
from django.views.decorators.http import require_POST, require_safe

from dimgrey.people import pairing
from dimgrey.people.actions import set_look
from dimgrey.people.forms import LookForm, PairForm


@require_POST
def look(request):
    """Change how pictures are looked at, and go back to where one was."""
    form = LookForm(request.POST, request.user)
    if not form.is_valid():
        return HttpResponseBadRequest("Choose a surround, a mode, the tone labels or the words from the list.")
    chosen = dict(form.cleaned_data)
    back = chosen.pop("back")
    set_look(request.user, **chosen)
    is_page = back.startswith("/") and url_has_allowed_host_and_scheme(back, allowed_hosts=None)
    return HttpResponseRedirect(back) if is_page else redirect("home")


def phone(request):
    """The page "Phone": a code to pair one, and those that are paired."""
    reach = reach_of(request)
    code = pairing.new_code(request.user) if request.method == "POST" and reach else ""
    paired = pairing.devices_of(request.user)
    return render(request, "people/phone.html", {"code": code, "reach": reach, "devices": paired, "page": "phone"})


def reach_of(request):
    """Where a phone finds this server, such as "http://192.168.1.5:8023"; "" while it listens to itself only."""
    here = urlsplit(request.build_absolute_uri("/"))
    if here.hostname not in ("127.0.0.1", "localhost", "::1"):
        return f"{here.scheme}://{here.netloc}"
    return f"http://{settings.DIMGREY_LAN[0]}:{here.port or 80}" if settings.DIMGREY_LAN else ""


@require_safe
def code_picture(request, code):
    """The address that pairs with a code, as a square to be scanned."""
    drawn = BytesIO()
    address = reach_of(request) + reverse("pair", args=[code])
    segno.make(address, error="m").save(drawn, kind="svg", scale=6, border=4, dark="#000", light="#fff")
    answer = HttpResponse(drawn.getvalue(), content_type="image/svg+xml")
    answer["Cache-Control"] = "no-store"
    return answer


@login_not_required
def pair(request, code=""):
    """What a phone sees that has scanned the code: one press pairs it, so that a glance at the address does not."""
    form = PairForm(request.POST if request.method == "POST" else None, initial={"code": code})
    problem = ""
    if form.is_valid():
        try:
            pairing.pair(request, form.typed.code, form.typed.name)
            return redirect("field")
        except pairing.WrongCode as wrong:
            problem = str(wrong)
    elif form.is_bound:
        problem = "Type the code that the computer shows, eight letters and figures."
    return render(request, "people/pair.html", {"form": form, "problem": problem}, status=422 if problem else 200)


@require_POST
def drop_device(request, pk):
    """End a paired device's way in."""
    pairing.drop(request.user, pk)
    return redirect("phone")
