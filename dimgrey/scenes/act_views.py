"""One address takes an act, or a list of acts: each is read by its form, done, and answered."""

import json

from django import forms
from django.http import Http404, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from dimgrey.core.document.schema import DocumentError
from dimgrey.core.errors import CoreError
from dimgrey.people.owned import owned
from dimgrey.scenes import actions, desk, queries
from dimgrey.scenes.forms import SentForm
from dimgrey.scenes.pages import page_named
from dimgrey.scenes.sheet.registry import act_named
from dimgrey.scenes.sheet.shown import Problem
from dimgrey.web.forms import JsonField

MOST_ACTS = 500
STALE, REFUSED = 409, 422


@require_POST
def act(request, pk, verb):
    """One act on a scene; answers with the fragments that changed, and with the sentence when it was refused."""
    scene = owned(queries.scene_to_change, request.user, pk, "scene")
    found = act_named(verb)
    if found is None:
        raise Http404(f"There is no act “{verb}”.")
    scene, problem, status = _done(scene, verb, *found, request.POST)
    if status == STALE:
        scene = owned(queries.scene_of, request.user, pk, "scene")
    sent = SentForm(request.POST)
    if "HX-Request" in request.headers:
        redo_known = bool(problem) or verb in ("undo", "redo")
        shown = desk.desk_of(scene, request.user.tone_labels, problem, sent.opened(), redo_known)
        return render(request, "scenes/parts.html", {"desk": shown}, status=status)
    page = page_named(sent.page_name())
    if problem is None:
        return redirect(page[0] if page else "desk", pk)
    if page:
        return page[1](request, owned(queries.scene_of, request.user, pk, "scene"), problem.message, status)
    shown = desk.desk_of(scene, request.user.tone_labels, problem, sent.opened())
    return render(request, "scenes/desk.html", {"desk": shown}, status=status)


def _done(scene, verb, part, act, data):
    """(scene, Problem or None, status) of one act. data: what its form reads."""
    form = act.form(data, scene.document)
    key = act.part or (part.key if part else "")
    problem = lambda sentence: Problem(sentence, key, _mark(form, scene), verb, form)
    if not form.is_valid():
        return scene, problem(form.sentence()), REFUSED
    try:
        return act.do(scene, form, form.by(act.appends)), None, 200
    except actions.Stale as stale:
        return scene, Problem(str(stale), notice=True), STALE
    except DocumentError as refused:
        return scene, problem(" ".join(refused.mistakes)), REFUSED
    except CoreError as refused:
        return scene, problem(str(refused)), REFUSED


def _mark(form, scene):
    """The letter of the tone that an act was about, "" when it is gone: the sentence must still be seen."""
    mark = form.cleaned_data.get("mark", "") if hasattr(form, "cleaned_data") else ""
    return mark if scene.document.tone(mark) else ""


class ListForm(forms.Form):
    """A list of acts as JSON: [{"verb": "read", "act": id, "at": time, "stamp": state, ...}, ...], oldest first."""

    acts = JsonField()

    def clean_acts(self):
        acts = self.cleaned_data["acts"]
        if not isinstance(acts, list) or len(acts) > MOST_ACTS:
            raise forms.ValidationError(f"acts: must be a list of at most {MOST_ACTS} acts.")
        for k, each in enumerate(acts):
            plain = isinstance(each, dict) and all(isinstance(v, str | int | float | bool) for v in each.values())
            if not plain or not isinstance(each.get("verb"), str):
                raise forms.ValidationError(f"acts[{k}]: needs a verb, and text or numbers.")
        return acts


@require_POST
def acts(request, pk):
    """A list of acts, done one after another, each exactly once. Answers what became of each, as JSON.

    state: "kept" (now or before), "stale" or "refused" with the sentence. A later act is done whatever became of the
    earlier ones.
    """
    scene = owned(queries.scene_to_change, request.user, pk, "scene")
    form = ListForm({"acts": request.body.decode("utf-8", "replace")})
    if not form.is_valid():
        return JsonResponse({"problem": form.errors["acts"][0]}, status=REFUSED)
    answers = []
    for sent in form.cleaned_data["acts"]:
        found = act_named(sent["verb"])
        answer = {"act": sent.get("act"), "verb": sent["verb"]}
        if found is None:
            answers.append({**answer, "state": "refused", "sentence": f"There is no act “{sent['verb']}”."})
            continue
        values = {key: json.dumps(v) if isinstance(v, bool) else v for key, v in sent.items() if key != "verb"}
        scene, problem, status = _done(scene, sent["verb"], *found, values)
        if problem is None:
            answers.append({**answer, "state": "kept", "stamp": scene.stamp})
        else:
            scene = owned(queries.scene_to_change, request.user, pk, "scene")
            state = "stale" if status == STALE else "refused"
            answers.append({**answer, "state": state, "sentence": problem.message})
    return JsonResponse({"acts": answers, "stamp": scene.stamp})
