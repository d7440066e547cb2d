from django import forms
from django.shortcuts import redirect, render
from django.views.decorators.http import require_GET, require_POST

from dimgrey.outings.actions import create_outing
from dimgrey.outings.queries import outings_of
from dimgrey.scenes.queries import removed_scenes_of, scenes_of
from dimgrey.scenes.sheets import sheet_line


class OutingForm(forms.Form):
    title = forms.CharField(max_length=120)


@require_GET
def home(request):
    """Outings with their scenes, each with its exposure; what to do first when there is none."""
    outings = [
        {"outing": outing, "scenes": [sheet_line(scene, request.user.tone_labels) for scene in outing.scenes.all()]}
        for outing in outings_of(request.user)
    ]
    loose = [sheet_line(scene, request.user.tone_labels) for scene in scenes_of(request.user).filter(outing=None)]
    removed = removed_scenes_of(request.user)[:5]
    return render(
        request, "outings/home.html", {"outings": outings, "loose": loose, "removed": removed, "page": "home"}
    )


@require_POST
def new(request):
    form = OutingForm(request.POST)
    if form.is_valid():
        create_outing(request.user, form.cleaned_data["title"])
    return redirect("home")
