"""Pages where the means are chosen: the filter bench, setups side by side, one setup on a whole outing."""

from django import forms
from django.http import Http404
from django.shortcuts import render
from django.views.decorators.http import require_safe

from dimgrey.camera.bench import bench_of
from dimgrey.camera.preview import preview_of
from dimgrey.core.measure.stops import counted_stops
from dimgrey.kit.queries import setup_of, setups_of
from dimgrey.people.owned import of_mine, owned
from dimgrey.scenes.queries import scene_of, scenes_of
from dimgrey.scenes.situation import Situation
from dimgrey.web.forms import TypedForm

MOST_COMPARED = 4
MOST_STOPS = 2


@require_safe
@of_mine(scene_of, "scene")
def bench(request, scene):
    """Every filter on this scene at once, with advice."""
    return bench_page(request, scene)


def bench_page(request, scene, problem="", status=200):
    situation = Situation(scene, request.user.tone_labels)
    context = {"bench": bench_of(situation, request.user), "situation": situation, "problem": problem}
    return render(request, "camera/bench.html", context, status=status)


class CompareForm(TypedForm):
    """Which setups, and at which exposure; numbers that are no setup of the person are passed over."""

    setup = forms.TypedMultipleChoiceField(coerce=int, required=False)
    stops = forms.FloatField(min_value=-MOST_STOPS, max_value=MOST_STOPS, required=False)

    def __init__(self, data, rows):
        super().__init__(data)
        self.fields["setup"].choices = [(str(row.pk), row.name) for row in rows]

    def chosen(self, rows):
        self.is_valid()
        picked = getattr(self.typed, "setup", ())
        return [row for row in rows if row.pk in picked][:MOST_COMPARED] or rows[:2]

    def stops_chosen(self):
        """Stops from the plan's exposure, in thirds."""
        self.is_valid()
        return round((getattr(self.typed, "stops", None) or 0.0) * 3) / 3


@require_safe
@of_mine(scene_of, "scene")
def compare(request, scene):
    """Two to four setups on one scene, each with its measures; keep one with the reason."""
    return compare_page(request, scene)


def compare_page(request, scene, problem="", status=200):
    rows = list(setups_of(request.user))
    form = CompareForm(request.GET, rows)
    chosen, stops = form.chosen(rows), form.stops_chosen()
    situation = Situation(scene, request.user.tone_labels)
    previews = [(row, preview_of(situation, row.setup, stops)) for row in chosen]
    in_use = scene.document.setup_in_use
    context = {
        "scene": scene,
        "situation": situation,
        "rows": rows,
        "chosen": {row.pk for row in chosen},
        "previews": previews if scene.picture else [],
        "stops": f"{stops:.4g}",
        "stops_words": counted_stops(stops, signed=True) if stops else "as planned",
        "in_use": in_use.name if in_use else "",
        "problem": problem,
    }
    return render(request, "camera/compare.html", context, status=status)


@require_safe
def on_outing(request, pk, setup_pk):
    """One setup on every scene of an outing."""
    row = owned(setup_of, request.user, setup_pk, "setup")
    found = scenes_of(request.user).filter(outing_id=pk).exclude(picture=None)
    scenes = [scene for scene in found if scene.is_sound]
    if not scenes:
        raise Http404("There is no scene with a picture on that outing.")
    previews = [preview_of(Situation(scene, request.user.tone_labels), row.setup) for scene in scenes]
    context = {"row": row, "previews": previews, "outing": scenes[0].outing}
    return render(request, "camera/on_outing.html", context)
