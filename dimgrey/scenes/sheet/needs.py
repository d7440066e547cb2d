"""Aperture: what it and the time are chosen for, and a proposal with its trade."""

import math
from dataclasses import dataclass, replace

from django import forms

from dimgrey.core.document.means import GlassPart
from dimgrey.core.document.model import NeedsPart
from dimgrey.core.document.scale import focal_35mm
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.notation import parse_aperture, parse_speed
from dimgrey.core.measure.readings import parse_distance
from dimgrey.core.measure.stops import format_aperture, format_time, written_aperture
from dimgrey.core.planning.choosing import Means, Needs, metres, propose
from dimgrey.scenes import actions
from dimgrey.scenes.acts import Act, ActForm
from dimgrey.scenes.sheet.part import Part
from dimgrey.web.forms import CoreField, text_input

USUAL_DISTANCE_M = 10.0


class NeedsForm(ActForm):
    near = CoreField(parse_distance, label="Sharp from", widget=text_input("2 m"))
    far = CoreField(parse_distance, label="to", widget=text_input("infinity"))
    motion = forms.ChoiceField(
        choices=[("", "does not matter"), ("freeze", "freeze"), ("blur", "blur")], required=False, label="Motion"
    )
    speed = forms.FloatField(
        min_value=0,
        max_value=1000,
        required=False,
        label="Speed, m/s",
        widget=text_input("1.5 walking", decimal=True),
    )
    distance = CoreField(parse_distance, label="at", widget=text_input("10 m"))
    support = forms.ChoiceField(choices=[("tripod", "tripod"), ("hand", "hand")], required=False, label="Held by")

    def first(self, situation):
        needs = situation.document.needs
        return {
            "near": _metres(needs.near_m),
            "far": _metres(needs.far_m),
            "speed": f"{needs.speed_m_s:g}" if needs.speed_m_s else "",
            "distance": _metres(needs.distance_m),
            "motion": needs.motion,
            "support": needs.support,
        }

    def clean(self):
        data = super().clean()
        near, far = data.get("near"), data.get("far")
        if near is not None and far is not None and not near < far:
            self.add_error("near", f"The near distance must lie before the far one (got {near:g} and {far:g} m).")
        if (near is None) != (far is None) and not self.errors:
            self.add_error("near", "Depth needs both a near and a far distance; far may be infinity.")
        return data

    def needs(self):
        data = self.cleaned_data
        return NeedsPart(
            near_m=data["near"],
            far_m="infinity" if data["far"] == math.inf else data["far"],
            speed_m_s=data["speed"] or 0.0,
            distance_m=data["distance"],
            motion=data["motion"],
            support=data["support"],
        )


class TakeForm(ActForm):
    """A proposal that is taken: aperture, speed, neutral density."""

    aperture = CoreField(parse_aperture, required=True, widget=forms.HiddenInput)
    iso = CoreField(parse_speed, required=True, widget=forms.HiddenInput)
    nd = forms.FloatField(min_value=0, max_value=20, required=False, widget=forms.HiddenInput)

    def parts(self):
        data, document = self.cleaned_data, self.document
        others = tuple(glass for glass in document.filters if glass.name != "nd")
        nd = (GlassPart("nd", stops=data["nd"]),) if data["nd"] else ()
        return {
            "camera": replace(document.camera, shutter=None, aperture=written_aperture(data["aperture"])),
            "medium": replace(document.medium, iso=int(data["iso"].name)),
            "filters": (*others, *nd),
        }


def _metres(value):
    return "" if value is None else value if isinstance(value, str) else f"{value:g} m"


def _line(situation):
    """What aperture and time are chosen for, in words."""
    needs, said = situation.document.needs, []
    if needs.near_m is not None:
        said.append(f"sharp from {_metres(needs.near_m)} to {_metres(needs.far_m)}")
    if needs.motion:
        said.append(f"{needs.motion} {needs.speed_m_s:g} m/s")
    if needs.support:
        said.append("on a tripod" if needs.support == "tripod" else "held by hand")
    return {"words": ", ".join(said) or "not said what matters"}


@dataclass(frozen=True)
class Proposed:
    """A proposal ready to show, and what taking it changes. problem: a sentence when the needs contradict themselves."""

    line: str = ""
    depth: str = ""
    bar: tuple = ()
    trades: tuple = ()
    aperture: str = ""
    iso: str = ""
    nd: str = ""
    problem: str = ""


def needs_of(document, wind_m_s=0.0):
    """Needs of a scene document, or None when nothing was asked for."""
    part = document.needs
    if part == NeedsPart():
        return None
    return Needs(
        near_m=part.near_m,
        far_m=math.inf if isinstance(part.far_m, str) else part.far_m,
        speed_m_s=part.speed_m_s,
        distance_m=USUAL_DISTANCE_M if part.distance_m is None else part.distance_m,
        motion=part.motion,
        support=part.support or "tripod",
        wind_m_s=wind_m_s,
    )


def means_of(situation):
    """Means of a scene: its lens, camera and medium."""
    camera, lens, brief = situation.document.camera, situation.document.lens, situation.brief
    frame, focal_35, limits = camera.frame_mm, focal_35mm(situation.document, situation.facts), brief.limits
    return Means(
        focal_mm=lens.focal_mm or focal_35 * math.hypot(*frame) / math.hypot(36, 24),
        focal_35mm=focal_35,
        frame_mm=frame,
        f_min=limits.f_min,
        f_max=limits.f_max,
        time_min_s=limits.time_min_s,
        time_max_s=limits.time_max_s,
        iso=brief.medium.iso,
        iso_max=brief.medium.iso if brief.medium.is_film else float(camera.iso_max),
        increment=brief.increment,
        hand_factor=camera.hand_factor,
        stabiliser_stops=camera.stabiliser_stops,
    )


def proposal_of(situation):
    """Proposed for a scene's needs, or None without a plan or without needs."""
    result = situation.plan
    needs = needs_of(situation.document, situation.sky.seen.conditions.wind_m_s if situation.sky else 0.0)
    if result is None or needs is None:
        return None
    taken = sum(glass.stops or 0 for glass in situation.brief.filters if glass.name == "nd")
    try:
        found = propose(result.exposure_ev100 + taken, needs, means_of(situation))
    except CoreError as refused:
        return Proposed(problem=str(refused))
    depth, bar = _depth(found, needs)
    line = f"{format_time(found.shutter)} {format_aperture(found.aperture)} ISO {found.iso.name}"
    if found.nd_stops:
        line += f", neutral density {found.nd_stops:g}"
    return Proposed(
        line, depth, bar, found.trades, written_aperture(found.aperture), found.iso.name, f"{found.nd_stops:g}"
    )


def _depth(found, needs):
    """(words, bar) of the depth: places in percent on a scale that gives near distances room."""
    if found.depth is None:
        return "", ()
    far, focus = metres(found.depth.far_m), metres(found.focus_m)
    scale = max(needs.near_m * 1.2, 0.1)
    place = lambda metres: f"{100 * (1 - scale / (scale + min(metres, 1e9))):.1f}"
    ends = (found.depth.near_m, found.depth.far_m, found.focus_m, needs.near_m, needs.far_m)
    return f"Focus at {focus}: sharp from {metres(found.depth.near_m)} to {far}.", tuple(map(place, ends))


def _editor(situation, forms, mark):
    return {"form": forms["needs"], "proposal": proposal_of(situation), "has_plan": situation.plan is not None}


PART = Part(
    key="needs",
    title="Aperture",
    order=90,
    line=_line,
    editor=_editor,
    opens="Choose",
    shown=lambda situation: situation.plan is not None,
    acts={
        "needs": Act(
            NeedsForm, lambda scene, form, by: actions.set_parts(scene, by, "what matters", needs=form.needs())
        ),
        "take": Act(TakeForm, lambda scene, form, by: actions.set_parts(scene, by, "proposed setting", **form.parts())),
    },
)
