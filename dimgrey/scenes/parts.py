"""Parts of the plan sheet beyond its lines: ways out, brackets, other schools, a proposal for aperture and time."""

import math
from dataclasses import dataclass
from datetime import UTC, datetime

from dimgrey.core.errors import CoreError
from dimgrey.core.measure.stops import format_aperture, format_seconds, format_stops, format_time
from dimgrey.core.planning.choosing import Means, Needs, propose
from dimgrey.core.planning.otherschools import other_schools
from dimgrey.core.planning.waysout import ways_out
from dimgrey.scenes import light

STALE_MINUTES, STALE_LOW_SUN_MINUTES = 10, 3
"""How long a typed reading is taken as fresh: outdoors, and within an hour of sunrise or sunset. Defaults."""
OLD_HOURS = 12


def others_of(result, words):
    """Other schools in words, for the table beside the chosen one."""
    if result is None:
        return ()
    return tuple(
        {
            "key": other.school,
            "name": other.name,
            "difference": ""
            if other.difference_stops is None
            else f"{format_stops(-other.difference_stops, signed=True)} stops",
            "places": f"{other.places} on {words.zone(other.zone)}" if other.zone is not None else "",
            "lost": ", ".join(other.lost) or "nothing",
            "why_not": other.why_not,
        }
        for other in other_schools(result)
    )


def ways_out_of(result):
    """Ways out of a plan whose scene exceeds its medium; () when it fits."""
    return ways_out(result) if result else ()


def bracket_lines(result):
    """The frames of the bracket: offset, time, what each holds, and its bar on the rail. () without one."""
    if result is None:
        return ()
    low, high = result.scene.medium.dependable
    place = lambda zone: min(max((zone + 0.5) / 11 * 100, 0), 100)
    return tuple(
        {
            "offset": format_stops(frame.offset_stops, signed=True) if frame.offset_stops else "0",
            "shutter": format_time(frame.shutter),
            "holds": ", ".join(frame.holds) or "no tone well",
            "x": f"{place(low - frame.offset_stops):.2f}%",
            "width": f"{place(high - frame.offset_stops) - place(low - frame.offset_stops):.2f}%",
            "y": round(26 + 11 * k / len(result.bracket_frames), 1),
        }
        for k, frame in enumerate(result.bracket_frames)
    )


@dataclass(frozen=True)
class Proposed:
    """A proposal ready to show, and what taking it changes. problem: a sentence when the needs contradict themselves."""

    line: str
    depth: str
    bar: tuple
    trades: tuple
    aperture: str
    iso: str
    nd: str
    problem: str = ""


def needs_of(document, wind_m_s=0.0):
    """Needs of a scene document, or None when nothing was asked for."""
    wanted = document.get("needs")
    if not wanted:
        return None
    far = wanted.get("far_m")
    return Needs(
        near_m=wanted.get("near_m"),
        far_m=math.inf if isinstance(far, str) else far,
        speed_m_s=wanted.get("speed_m_s", 0.0),
        distance_m=wanted.get("distance_m", 10.0),
        motion=wanted.get("motion", ""),
        support=wanted.get("support", "tripod"),
        wind_m_s=wind_m_s,
    )


def means_of(document, picture, core_scene):
    """Means of a scene document: its lens, camera and medium."""
    camera, lens = document.get("camera", {}), document.get("lens", {})
    frame = tuple(camera.get("frame_mm", (36.0, 24.0)))
    focal_35 = light.focal_35mm(document, picture)
    limits = core_scene.limits
    iso = core_scene.medium.iso
    return Means(
        focal_mm=lens.get("focal_mm") or focal_35 * math.hypot(*frame) / math.hypot(36, 24),
        focal_35mm=focal_35,
        frame_mm=frame,
        f_min=limits.f_min,
        f_max=limits.f_max,
        time_min_s=limits.time_min_s,
        time_max_s=limits.time_max_s,
        iso=iso,
        iso_max=iso if core_scene.medium.is_film else float(camera.get("iso_max", 6400)),
        increment=core_scene.increment,
        hand_factor=camera.get("hand_factor", 1.0),
        stabiliser_stops=camera.get("stabiliser_stops", 0.0),
    )


def proposal_of(document, picture, core_scene, result, wind_m_s=0.0):
    """Proposed for a scene's needs, or None without a plan or without needs."""
    needs = needs_of(document, wind_m_s)
    if result is None or needs is None:
        return None
    taken = sum(glass.stops or 0 for glass in core_scene.filters if glass.name == "nd")
    try:
        found = propose(result.exposure_ev100 + taken, needs, means_of(document, picture, core_scene))
    except CoreError as refused:
        return Proposed("", "", (), (), "", "", "", str(refused))
    depth, bar = _depth(found, needs)
    line = f"{format_time(found.shutter)} {format_aperture(found.aperture)} ISO {found.iso.name}"
    if found.nd_stops:
        line += f", neutral density {found.nd_stops:g}"
    return Proposed(line, depth, bar, found.trades, f"f/{found.aperture.name}", found.iso.name, f"{found.nd_stops:g}")


def _depth(found, needs):
    """(words, bar) of the depth: places in percent on a scale that gives near distances room."""
    if found.depth is None:
        return "", ()
    far = "infinity" if math.isinf(found.depth.far_m) else f"{found.depth.far_m:.3g} m"
    focus = "infinity" if math.isinf(found.focus_m) else f"{found.focus_m:.3g} m"
    scale = max(needs.near_m * 1.2, 0.1)
    place = lambda metres: 100 * (1 - scale / (scale + metres))
    bar = tuple(
        f"{place(value):.1f}"
        for value in (
            found.depth.near_m,
            min(found.depth.far_m, 1e9),
            min(found.focus_m, 1e9),
            needs.near_m,
            min(needs.far_m, 1e9),
        )
    )
    return f"Focus at {focus}: sharp from {found.depth.near_m:.3g} m to {far}.", bar


def age_of(reading, now, low_sun):
    """("", False) for a picture's or old reading; else its age in words and whether it is stale."""
    if reading.get("kind") == "picture":
        return "", False
    try:
        taken = datetime.fromisoformat(reading.get("taken_at", ""))
    except ValueError:
        return "", False
    minutes = (now - (taken if taken.tzinfo else taken.replace(tzinfo=UTC))).total_seconds() / 60
    if minutes < 1:
        return "", False
    if minutes > OLD_HOURS * 60:
        return f"{taken:%d %b}", False
    limit = STALE_LOW_SUN_MINUTES if low_sun else STALE_MINUTES
    return f"{minutes:.0f} min ago" if minutes < 90 else f"{minutes / 60:.0f} h ago", minutes > limit


def timer_seconds(result):
    """Seconds for the timer: what film needs, from one second on; None for shorter times."""
    if result is None:
        return None
    seconds = max(result.corrected_seconds, result.shutter_seconds)
    return seconds if seconds >= 1 else None


def timer_words(result):
    seconds = timer_seconds(result)
    return format_seconds(seconds) if seconds else ""
