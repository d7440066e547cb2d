"""Aperture: what it and the time are chosen for, and a proposal with its trade."""

import math
from dataclasses import dataclass

from dimgrey.core.document.lightscale import focal_35mm
from dimgrey.core.document.model import NeedsPart
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.readings import LENGTHS_M
from dimgrey.core.measure.stops import format_aperture, format_time, written_aperture
from dimgrey.core.planning.choosing import Means, Needs, propose
from dimgrey.scenes.acts import Look
from dimgrey.scenes.sheet.part import Part

USUAL_DISTANCE_M = 10.0


def _first(situation):
    needs = situation.document.needs
    return {
        "near": _told(needs, needs.near_m),
        "far": _told(needs, needs.far_m),
        "speed": f"{needs.speed_m_s:g}" if needs.speed_m_s else "",
        "distance": _told(needs, needs.distance_m),
        "motion": needs.motion,
        "support": needs.support,
        "shallow": needs.shallow,
    }


def _told(needs, value):
    return (
        ""
        if value is None
        else value
        if isinstance(value, str)
        else f"{value / LENGTHS_M[needs.unit]:.4g} {needs.unit}"
    )


def _words(situation):
    """What aperture and time are chosen for, in words; "" where nobody said."""
    needs, said = situation.document.needs, []
    if needs.near_m is not None:
        said.append(f"sharp from {_told(needs, needs.near_m)} to {_told(needs, needs.far_m)}")
    if needs.shallow:
        said.append("shallow depth")
    if needs.motion:
        said.append(f"{needs.motion} {needs.speed_m_s:g} m/s")
    if needs.support:
        said.append("on a tripod" if needs.support == "tripod" else "held by hand")
    return ", ".join(said)


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
        shallow=part.shallow,
        unit=part.unit,
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
    far, focus = needs.told(found.depth.far_m), needs.told(found.focus_m)
    scale = max(needs.near_m * 1.2, 0.1)
    place = lambda metres: f"{100 * (1 - scale / (scale + min(metres, 1e9))):.1f}"
    ends = (found.depth.near_m, found.depth.far_m, found.focus_m, needs.near_m, needs.far_m)
    return f"Focus at {focus}: sharp from {needs.told(found.depth.near_m)} to {far}.", tuple(map(place, ends))


def _editor(situation, acts, mark):
    return {"form": acts.of("needs"), "proposal": proposal_of(situation), "has_plan": situation.plan is not None}


PART = Part(
    key="needs",
    title="Depth",
    order=110,
    at_rest=True,
    holds=_words,
    line=lambda situation: {"words": _words(situation) or "not said what matters"},
    editor=_editor,
    opens="Choose",
    shown=lambda situation: situation.plan is not None,
    acts={"needs": Look(_first), "take": Look()},
)
