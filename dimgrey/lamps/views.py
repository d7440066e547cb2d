"""The light plan of a scene: drawn from above and from the side, with what the subject looks like; its card; two lamps plans side by side."""

import io
from dataclasses import replace

import numpy as np
from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe
from PIL import Image

from dimgrey.core.cautions.registry import raised
from dimgrey.core.document import lightplan
from dimgrey.core.errors import CoreError
from dimgrey.core.lamps.lightpatterns import PATTERNS
from dimgrey.lamps import card, forms, rendered
from dimgrey.lamps.drawing import drawing_of
from dimgrey.lamps.litplan import LitScene
from dimgrey.lamps.page import compared, lamp_label, lamp_rows, place_rows, ramp_steps, setting_words, wish_rows
from dimgrey.people.owned import of_mine
from dimgrey.pictures.views import FOR_GOOD
from dimgrey.scenes.acts import form_of
from dimgrey.scenes.queries import scene_of
from dimgrey.scenes.situation import Situation
from dimgrey.web.answers import attached, refused

QUALITY = 88


@require_safe
@of_mine(scene_of, "scene")
def light_plan(request, scene):
    """The light plan, or what to do to begin one."""
    return plan_page(request, scene)


def plan_page(request, scene, problem="", status=200):
    situation = Situation(scene, request.user.tone_labels)
    context = {"situation": situation, "scene": scene, "problem": problem, "page": "light-plan"}
    if scene.document.lighting is None:
        return render(request, "lamps/begin.html", context, status=status)
    lit = LitScene(situation)
    context |= {
        "lit": lit,
        "setting": setting_words(lit),
        "drawing": drawing_of(lit, lamp_label(lit)),
        "patterns": PATTERNS.items(),
        "lamps": lamp_rows(lit, _lamp_form(lit)),
        "places": place_rows(lit, situation.labels),
        "steps": ramp_steps(situation.labels),
        "wishes": wish_rows(lit, situation.labels),
        "subject_words": ", ".join([lit.lighting.subject, *(surface.name for surface in lit.surfaces.values())]),
        "subject_form": _subject_form(lit),
        "cautions": raised("lamps", lightplan.lamp_case(scene.document, situation.plan)),
        "kept": scene.document.lighting.kept,
        "tones": [tone.name for tone in scene.document.tones],
        "bound": {each.tone: each.place for each in scene.document.lighting.lit},
    }
    return render(request, "lamps/plan.html", context, status=status)


def _lamp_form(lit):
    """(number, Lamp) -> its form with what stands in it."""

    def made(number, lamp):
        form = form_of("lamp-set")(None, lit.document)
        form.initial = {**forms.first_of_lamp(lamp, lit.lighting.unit), "index": number - 1}
        form.auto_id = f"lamp-{number}-%s"
        return form

    return made


def _subject_form(lit):
    form = form_of("light-subject")(None, lit.document)
    form.initial = forms.first_of_subject(lit.lighting)
    return form


@require_safe
@of_mine(scene_of, "scene")
def preview(request, scene, version):
    """What the subject looks like in the greys of the scene's medium. version: of what it
    depends on, so that an address never changes under it."""
    if scene.document.lighting is None:
        return refused("This scene has no light plan any more.", 404)
    try:
        made = LitScene(Situation(scene)).grey()
    except CoreError as wrong:
        return refused(str(wrong))
    return _jpeg(made)


@require_safe
@of_mine(scene_of, "scene")
def kept_preview(request, scene, number, version):
    """The same with lamps that were kept. number: their place in the list, from 1."""
    kept = scene.document.lighting.kept if scene.document.lighting else ()
    if not 1 <= number <= len(kept):
        return refused("Those lamps are not kept any more.", 404)
    lighting = _with_lamps(scene.document.lighting, kept[number - 1].lamps)
    return _jpeg(LitScene(Situation(scene), lighting).grey())


def _with_lamps(lighting, lamps):
    return replace(lighting, lamps=lamps)


def _jpeg(grey):
    buffer = io.BytesIO()
    Image.fromarray(np.ascontiguousarray(grey)).save(buffer, "JPEG", quality=QUALITY)
    answer = HttpResponse(buffer.getvalue(), content_type="image/jpeg")
    answer["Cache-Control"] = FOR_GOOD
    return answer


@require_POST
@of_mine(scene_of, "scene")
def take_picture(request, scene):
    """The computed subject becomes the scene's picture, with its places as key tones: sighting, placing, twins, filters work on it."""
    situation = Situation(scene, request.user.tone_labels)
    if scene.document.lighting is None:
        return plan_page(request, scene, "This scene has no light plan yet.", 422)
    try:
        rendered.take(scene, LitScene(situation))
    except CoreError as wrong:
        return plan_page(request, scene, str(wrong), 422)
    return redirect("desk", scene.pk)


@require_safe
@of_mine(scene_of, "scene")
def compare(request, scene):
    """The lamps in use beside those that were kept."""
    if scene.document.lighting is None:
        return redirect("light-plan", scene.pk)
    situation = Situation(scene, request.user.tone_labels)
    used = LitScene(situation)
    columns = [("in use", used, 0)]
    for k, kept in enumerate(scene.document.lighting.kept, 1):
        columns.append((kept.name, LitScene(situation, _with_lamps(scene.document.lighting, kept.lamps)), k))
    context = {"scene": scene, "situation": situation, "columns": columns, "rows": compared(columns, situation.labels)}
    return render(request, "lamps/compare.html", context)


@require_safe
@of_mine(scene_of, "scene")
def card_pdf(request, scene):
    """The light plan on one page."""
    if scene.document.lighting is None:
        return refused("This scene has no light plan yet.", 404)
    made = card.light_card(LitScene(Situation(scene, request.user.tone_labels)))
    return attached(made, "application/pdf", scene.title, "-light.pdf", "scene")
