"""One address takes an act, or a list of acts: each is read by its verb's keys, done, and answered."""

from dataclasses import dataclass
from typing import Any

from django import forms
from django.http import Http404, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST

from dimgrey.core.acts.keys import sent_id, sent_verb
from dimgrey.core.acts.verb import require_verb, verb_named
from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.check import DocumentError
from dimgrey.people.owned import owned
from dimgrey.scenes import actions, desk, queries
from dimgrey.scenes.acts import By, form_of
from dimgrey.scenes.forms import SentForm
from dimgrey.scenes.pages import page_named
from dimgrey.scenes.sheet.page import Problem
from dimgrey.scenes.sheet.registry import part_of
from dimgrey.web.forms import JsonField, TypedForm

MOST_ACTS = 500
STALE, REFUSED = 409, 422
STATES = {STALE: "stale", REFUSED: "refused"}


@dataclass(frozen=True)
class Answer:
    """What became of an act. status: 200, STALE or REFUSED, with the sentence. parameter, code: the key that was refused, or "", and why."""

    scene: Any
    status: int = 200
    sentence: str = ""
    parameter: str = ""
    code: str = ""


def answer_to(scene, do):
    """Answer of an act. do: () -> scene, which may raise. Whatever is refused leaves the scene as it was."""
    try:
        return Answer(do())
    except actions.Stale as stale:
        return Answer(scene, STALE, str(stale))
    except DocumentError as refused:
        return Answer(scene, REFUSED, " ".join(refused.mistakes))
    except CoreError as refused:
        return Answer(scene, REFUSED, str(refused), refused.parameter, refused.code)


def sent_act(scene, values):
    """Answer of an act as a program or a phone sends it. values: its verb, what it says, its stamps."""

    def do():
        verb = require_verb(sent_verb(values))
        return actions.done(scene, By.sent(values, verb.appends), verb, verb.said(values, scene.document))

    return answer_to(scene, do)


@require_POST
def act(request, pk, verb):
    """One act on a scene; answers with the fragments that changed, and with the sentence when it was refused."""
    scene = owned(queries.scene_to_change, request.user, pk, "scene")
    found = verb_named(verb)
    if found is None:
        raise Http404(f"There is no act “{verb}”.")
    scene, problem, status = _posted(scene, found, request.POST)
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


def _posted(scene, verb, data):
    """(scene, Problem or None, status) of an act that a page posted. data: what its form reads."""
    part = part_of(verb.name)
    form = form_of(verb.name)(data, scene.document, look=part.acts[verb.name] if part else None)
    if form.is_valid():
        answer = answer_to(scene, lambda: actions.done(scene, By.sent(data, verb.appends), verb, form.said))
        if answer.status == 200:
            return answer.scene, None, 200
        if answer.status == STALE:
            return scene, Problem(answer.sentence, notice=True), STALE
        if answer.parameter in form.fields:
            form.add_error(answer.parameter, forms.ValidationError(answer.sentence, code=answer.code))
        sentence = answer.sentence
    else:
        sentence = form.sentence()
    key = verb.about or (part.key if part else "")
    return scene, Problem(sentence, key, _mark(form, scene), verb.name, form), REFUSED


def _mark(form, scene):
    """The letter of the tone that an act was about, "" when it is gone: the sentence must still be seen."""
    mark = getattr(form.typed, "mark", None) or ""
    return mark if scene.document.tone(mark) else ""


class ListForm(TypedForm):
    """A list of acts as JSON: [{"verb": "read", "act": id, "at": time, "stamp": state, ...}, ...], oldest first."""

    acts = JsonField()

    def clean_acts(self):
        acts = self.typed.acts
        if not isinstance(acts, list) or len(acts) > MOST_ACTS:
            raise forms.ValidationError(f"acts: must be a list of at most {MOST_ACTS} acts.")
        for k, each in enumerate(acts):
            if not (isinstance(each, dict) and isinstance(sent_verb(each), str) and all(map(_is_plain, each.values()))):
                raise forms.ValidationError(f"acts[{k}]: needs a verb, and text or numbers.")
        return acts


def _is_plain(value):
    return isinstance(value, str | int | float | bool) or (
        isinstance(value, list) and all(isinstance(each, str) for each in value)
    )


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
    for sent in form.typed.acts:
        answer, told = sent_act(scene, sent), {"act": sent_id(sent), "verb": sent_verb(sent)}
        if answer.status == 200:
            scene = answer.scene
            answers.append({**told, "state": "kept", "stamp": scene.stamp})
        else:
            scene = owned(queries.scene_to_change, request.user, pk, "scene")
            answers.append({**told, "state": STATES[answer.status], "sentence": answer.sentence})
    return JsonResponse({"acts": answers, "stamp": scene.stamp})
