"""Acts of the light plan, among the other acts of a scene: each one revision, undone like any other.

A lamp that changes moves the readings of the tones that are bound to what it lights, in the same act.
"""

import math
import re
from dataclasses import replace

from dimgrey.core.document import edits, lightplan
from dimgrey.core.document.edits import Refused
from dimgrey.core.errors import CoreError
from dimgrey.core.lamps.backwards import Wish, solved
from dimgrey.core.lamps.exposure import incident_ev100
from dimgrey.core.lamps.illuminance import illuminance
from dimgrey.core.lamps.lamp import FLASH, LASTING, WINDOW
from dimgrey.core.lamps.patterns import PATTERNS, arranged
from dimgrey.core.lamps.places import lit_places
from dimgrey.core.lamps.subjects import SITTER
from dimgrey.core.measure.exposure import illuminance_lux
from dimgrey.core.measure.notation import parse_aperture
from dimgrey.core.planning.prints import Printing
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.pages import add_page
from dimgrey.scenes.sheet.registry import add_act
from dimgrey.scenes.situation import Situation
from dimgrey.studio import forms
from dimgrey.studio.lit import LitScene
from dimgrey.studio.views import plan_page

EDGE_DEG = 110.0
"""Angle from which a lamp stands behind the subject and draws an edge."""
MOST_LONGER = 3
"""Stops by which the exposure gives way to wishes that lamps cannot meet."""
LEAST_LUX_S = 1e-6
"""Lux seconds before the subject below which there is nothing to expose for."""
LEAST_MOVED = 0.02
"""Stops below which a tone's reading stays."""


def _lighting(scene):
    if scene.document.lighting is None:
        raise Refused("This scene has no light plan yet.", code="no-light-plan")
    return scene.document.lighting


def _changed(scene, by, label, edit):
    """Keep a change of the light plan, and move what is bound to its light. edit: document -> document."""
    _lighting(scene)
    situation = Situation(scene)

    def whole(document):
        after = edit(document)
        return _moved(situation, document, after) if document.lighting.lit else after

    return actions.change(scene, by, label, whole)


def _moved(situation, before, after):
    """A document whose bound tones read what the changed lamps give them."""
    ev_before, ev_after = (_evs(situation, document) for document in (before, after))
    moved = {}
    for each in after.lighting.lit:
        if each.place in ev_before and each.place in ev_after:
            stops = ev_after[each.place] - ev_before[each.place]
            if abs(stops) >= LEAST_MOVED:
                moved[each.tone] = round(stops, 3)
    return edits.with_tones_moved(after, moved) if moved else after


def _evs(situation, document):
    """place -> EV100 of an incident reading there: what a lamp does to a surface, whatever that is made of."""
    lit = LitScene(situation, document.lighting)
    time = lit.camera.exposure_time_s
    found = lit_places(lit.view, lit.lamps, {}, lit.camera, document.lighting.ambient_lux)
    return {each.place.name: incident_ev100(each.light, time) for each in found}


def _begin(scene, form, by):
    situation = Situation(scene)

    def edit(document):
        made = lightplan.begun(document)
        return lightplan.exposed_for(made, LitScene(situation, made.lighting).light_before)

    return actions.change(scene, by, "light plan", edit)


def _expose(scene, form, by):
    lit = LitScene(Situation(scene))
    light = lit.light_before
    if light.lux_seconds(lit.camera.exposure_time_s) < LEAST_LUX_S:
        raise Refused(
            "Every lamp stands behind: a meter before the face reads nothing. Wish a zone instead.", code="no-light"
        )
    return _changed(scene, by, "exposed for this light", lambda document: lightplan.exposed_for(document, light))


def _set_lamp(scene, form, by):
    fields, index = form.fields_of_lamp(), form.cleaned_data["index"]
    reading = form.cleaned_data["reading"]
    if reading:
        fields["strength"] = _strength_for(scene, fields, index, reading)
    return _changed(
        scene, by, f"lamp {fields['name']}", lambda document: lightplan.with_lamp(document, index, **fields)
    )


def _strength_for(scene, fields, index, reading):
    """The strength at which a lamp, placed so, gives what a meter at the subject reads of it alone."""
    lit = LitScene(Situation(scene))
    lamp = replace(
        lit.lamps[index] if index < len(lit.lamps) else lit.lamps[0], **{**fields, "strength": 1.0, "is_on": True}
    )
    if lamp.kind not in (LASTING, FLASH, WINDOW):
        raise CoreError("A reflector is not read by itself: give the share that it gives back.", code="reading")
    middle = lit.view.middle
    per_one = float(illuminance(lamp, middle, [middle], [_towards(lamp, middle)])[0])
    wanted = _wanted(reading, lamp, lit.camera)
    if per_one <= 0:
        raise CoreError("From there it does not reach the subject.", code="reading")
    # Light grows with the square of a guide number.
    return round((wanted / per_one) ** (0.5 if lamp.is_flash else 1.0), 4)


def _towards(lamp, middle):
    away = [a - m for a, m in zip(lamp.at, middle, strict=True)]
    length = sum(each**2 for each in away) ** 0.5
    return tuple(each / length for each in away)


def _wanted(reading, lamp, camera):
    """Lux of a reading, lux seconds of a flash. reading: "f/8", "EV 9", "500 lx". Raises CoreError."""
    text = reading.strip().lower()
    if lamp.is_flash:
        return parse_aperture(reading).exact ** 2 * 250 / camera.iso
    lux = re.fullmatch(r"([\d.]+)\s*(?:lx|lux)", text)
    if lux:
        return float(lux.group(1))
    ev = re.fullmatch(r"(?:ev\s*)?(-?[\d.]+)", text)
    if not ev:
        raise CoreError(
            f"“{reading}” is no reading of this lamp. Write EV 9 or 500 lx; for a flash f/8.",
            parameter="reading",
            code="reading",
        )
    return illuminance_lux(float(ev.group(1)))


def _move_lamp(scene, form, by):
    data = form.cleaned_data
    where = {name: data[name] for name in ("angle_deg", "away_m", "height_m")}
    return _changed(scene, by, "move a lamp", lambda document: lightplan.with_lamp(document, data["index"], **where))


def _add_lamp(scene, form, by):
    count = len(_lighting(scene).lamps)
    return _changed(scene, by, "another lamp", lambda document: lightplan.with_lamp(document, count))


def _drop_lamp(scene, form, by):
    index = form.cleaned_data["index"]
    return _changed(scene, by, "remove a lamp", lambda document: lightplan.without_lamp(document, index))


def _pattern(scene, form, by):
    key = form.cleaned_data["pattern"]

    def edit(document):
        lamps = lightplan.lamps_of(document.lighting) or lightplan.lamps_of(lightplan.begun(type(document)()).lighting)
        return lightplan.with_lamps(document, arranged(key, lamps, document.lighting.subject))

    return _changed(scene, by, f"light: {PATTERNS[key].title}", edit)


def _subject(scene, form, by):
    parts = form.parts()
    return _changed(scene, by, "subject", lambda document: lightplan.with_subject(document, **parts))


def _wish(scene, form, by):
    data, lit = form.cleaned_data, LitScene(Situation(scene))
    names = {each.place.name for each in lit.places}
    if data["place"] not in names or (data["over"] and data["over"] not in names):
        raise Refused("That place is not in this picture.", code="no-place")
    edit = lambda document: lightplan.with_wish(document, data["place"], data["zone"], data["over"])
    return _changed(scene, by, f"wish for {data['place']}", edit)


def _usual_wishes(scene, form, by):
    """What a face usually wants in the print: the lit side by its complexion, and an edge that gets a stop of light more than it."""
    lit = LitScene(Situation(scene))
    if lit.lighting.subject != SITTER:
        raise Refused(
            "Usual wishes are those of a face: wish a zone for a place of the table yourself.", code="no-face"
        )
    side = lit.sides[0] or "right"
    plan = lit.situation.plan
    printing = plan.printing if plan else Printing(lit.document.medium.kind)
    low, high = lit.surfaces["skin"].wished
    on_skin = round(printing.fall_for((low + high) / 2), 1)
    shares = lit.surfaces["hair"].reflectance / lit.surfaces["skin"].reflectance
    on_edge = round(1.0 + math.log2(shares), 1)
    edges = [lamp for lamp in lit.lamps if lamp.is_on and abs(lamp.angle_deg) >= EDGE_DEG]

    def edit(document):
        made = lightplan.with_wish(document, f"cheek {side}", on_skin)
        for lamp in edges[:1]:
            hair = "right" if lamp.angle_deg > 0 else "left"
            made = lightplan.with_wish(made, f"hair {hair}", on_edge, f"cheek {side}")
        return made

    return _changed(scene, by, "usual wishes of a face", edit)


def _drop_wish(scene, form, by):
    place = form.cleaned_data["place"]
    return _changed(scene, by, f"no wish for {place}", lambda document: lightplan.without_wish(document, place))


def _solve(scene, form, by):
    lit = LitScene(Situation(scene))
    if not lit.lighting.wishes:
        raise Refused("Wish a zone for one place at least.", code="no-wish")
    longer, found = _exposed_longer(lit)

    def edit(document):
        made = lightplan.with_lamps(document, found.lamps)
        return lightplan.exposed_longer(made, longer) if longer else made

    return _changed(scene, by, "lamps for the wishes", edit)


def _exposed_longer(lit):
    """(stops of more exposure, Solution): where the lamps are too weak for the wishes and no plan holds the exposure, that gives way, by a stop each time."""
    best = (0, solution_of(lit, lit.camera))
    for stops in range(1, 1 + (0 if lit.situation.plan else MOST_LONGER)):
        if not best[1].unmet:
            break
        # One stop more is one stop more of everything, whether by time or by aperture.
        found = solution_of(lit, replace(lit.camera, f_number=lit.camera.f_number / 2 ** (stops / 2)))
        if len(found.unmet) < len(best[1].unmet):
            best = (stops, found)
    return best


def solution_of(lit, camera):
    """backwards.Solution for the wishes of a LitScene that its places have. camera: exposure.Camera."""
    names = {each.place.name for each in lit.places}
    wishes = tuple(
        Wish(wish.place, wish.zone, wish.over)
        for wish in lit.lighting.wishes
        if wish.place in names and (not wish.over or wish.over in names)
    )
    shares = {part: surface.reflectance for part, surface in lit.surfaces.items()}
    return solved(lit.view, lit.lamps, shares, camera, wishes, lit.lighting.ambient_lux)


def _keep(scene, form, by):
    name = form.cleaned_data["name"]
    return _changed(scene, by, f"keep lamps “{name}”", lambda document: lightplan.with_kept(document, name))


def _again(scene, form, by):
    name = form.cleaned_data["name"]
    return _changed(scene, by, f"lamps “{name}”", lambda document: lightplan.kept_again(document, name))


def _bind(scene, form, by):
    data = form.cleaned_data
    if data["tone"] not in scene.document.names:
        raise Refused("There is no such tone.", code="no-tone")
    if data["place"] and data["place"] not in {each.place.name for each in LitScene(Situation(scene)).places}:
        raise Refused("That place is not in this picture.", code="no-place")
    _lighting(scene)
    edit = lambda document: lightplan.bound(document, data["tone"], data["place"])
    return actions.change(scene, by, f"light of {data['tone']}", edit)


for verb, form, do in (
    ("light-begin", ActForm, _begin),
    ("light-expose", ActForm, _expose),
    ("lamp-set", forms.LampForm, _set_lamp),
    ("lamp-move", forms.MoveForm, _move_lamp),
    ("lamp-add", ActForm, _add_lamp),
    ("lamp-drop", forms.IndexForm, _drop_lamp),
    ("light-pattern", forms.PatternForm, _pattern),
    ("light-subject", forms.SubjectForm, _subject),
    ("light-wish", forms.WishForm, _wish),
    ("light-usual", ActForm, _usual_wishes),
    ("light-wish-drop", forms.PlaceForm, _drop_wish),
    ("light-solve", ActForm, _solve),
    ("lamps-keep", forms.NamedForm, _keep),
    ("lamps-again", forms.NamedForm, _again),
    ("light-bind", forms.BindForm, _bind),
):
    add_act(verb, Act(form, do))
add_page("light-plan", "light-plan", plan_page)
