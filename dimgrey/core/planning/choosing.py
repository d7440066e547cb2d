"""Choosing aperture, time and speed from what matters in the scene, with the trade written out.

A still subject on a tripod gives up time. Else the aperture opens, first from the lens's best and then as far as the wanted depth
allows, before speed is raised; only then depth is given up. Source: HANDBOOK 11.
"""

import math
from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.exposure import exposure_time_s, f_number_for, marked_aperture, marked_time
from dimgrey.core.measure.handheld import handheld_limit_s, wind_shakes
from dimgrey.core.measure.optics import (
    AIRY_MM_PER_F,
    airy_mm,
    best_f_number,
    circle_of_confusion_mm,
    depth_of_field,
    focus_for,
    freezing_time_s,
)
from dimgrey.core.measure.readings import LENGTHS_M
from dimgrey.core.measure.stops import Marked, counted_stops, format_aperture, format_seconds, format_time, marked_speed

BLUR_PARTS = 20
"""A wanted blur is at least this many circles of confusion."""
DEFAULT_F = 8.0
AVERAGED_S = 2.5
"""A time that is past the shaking range with a margin of a third."""
LIMIT_SLACK_STOPS = 1 / 4
"""How far past its shortest marked time a camera still counts as having it."""
MOST_STACKED = 12
FAR_M = 1000.0
"""From here on a distance is said as infinity: no lens scale tells it apart."""


@dataclass(frozen=True)
class Needs:
    """What matters. Distances in metres, None when it does not matter; far may be infinite.

    motion: "freeze", "blur" or "". support: "hand" or "tripod". shallow: what lies before and behind is to be unsharp.
    """

    near_m: float | None = None
    far_m: float | None = None
    speed_m_s: float = 0.0
    distance_m: float = 10.0
    motion: str = ""
    support: str = "tripod"
    wind_m_s: float = 0.0
    shallow: bool = False
    unit: str = "m"

    def told(self, distance_m):
        """A distance as people set it: "1.2 m", "4 ft", "infinity"."""
        return distance_words(distance_m, self.unit)


@dataclass(frozen=True)
class Means:
    """What there is: lens in real mm and in 35 mm terms, frame in mm, ends of aperture and time, speeds.

    iso_max: highest speed the person accepts; the same as iso for film. hand_factor, stabiliser_stops: see steadiness.
    """

    focal_mm: float = 50.0
    focal_35mm: float = 50.0
    frame_mm: tuple = (36.0, 24.0)
    f_min: float = 2.0
    f_max: float = 16.0
    time_min_s: float = 2.0**-12
    time_max_s: float = 32.0
    iso: float = 100.0
    iso_max: float = 100.0
    increment: str = "third"
    hand_factor: float = 1.0
    stabiliser_stops: float = 0.0


@dataclass(frozen=True)
class Trade:
    """One line of the trade: what it is about, in words, and whether it is met."""

    about: str
    text: str
    met: bool


@dataclass(frozen=True)
class ProposedSetting:
    """A setting and what it costs. nd_stops: neutral density to add, 0 for none. focus_m: None when depth did not matter.
    depth: what the setting keeps sharp, None without a focus."""

    aperture: Marked
    shutter: Marked
    iso: Marked
    nd_stops: float
    focus_m: float | None
    depth: object
    best_f: float | None
    trades: tuple


def propose(exposure_ev100, needs, means):
    """ProposedSetting for an exposure in EV100 (filters and bellows taken off already).

    needs: Needs, what it is chosen for. means: Means, what camera, lens and film can do.

    Raises OutOfRange where a distance contradicts itself.
    """
    if needs.speed_m_s < 0 or needs.distance_m <= 0:
        raise OutOfRange("Speed is 0 or more, distance more than 0.", parameter="speed", code="motion")
    coc = circle_of_confusion_mm(*means.frame_mm)
    focus = focus_for(means.focal_mm, needs.near_m, needs.far_m, coc) if needs.near_m and needs.far_m else None
    f_number, iso, nd = _settled(exposure_ev100, needs, means, coc, focus)
    aperture = marked_aperture(f_number, means.increment)
    # Marked values from here on: the time is what the camera will really give at them.
    speed = marked_speed(iso)
    seconds = exposure_time_s(exposure_ev100, aperture.exact, speed.exact) * 2.0**nd
    depth = None
    if focus:
        # Beyond a thousand kilometres the thin-lens sums lose their digits; it is infinity all the same.
        at = min(focus.focus_m, 1e6)
        depth = depth_of_field(means.focal_mm, aperture.exact, at, coc)
    best = best_f_number(focus.image_spread_mm) if focus else None
    trades = (
        *_trades(needs, means, coc, aperture, seconds, depth, best, nd),
        *_stack_trade(needs, focus, aperture, coc),
    )
    return ProposedSetting(
        aperture,
        marked_time(seconds, means.increment),
        speed,
        nd,
        focus.focus_m if focus else None,
        depth,
        best,
        trades,
    )


def _settled(exposure_ev100, needs, means, coc, focus):
    """(f-number, exact speed, stops of neutral density) that depth, hand and motion leave."""
    within = lambda f_number: min(max(f_number, means.f_min), means.f_max)
    enough_f = within(focus.f_number if focus and not needs.shallow else means.f_min)
    # What the depth does not need is spent on sharpness: a lens is best stopped down a little, if the time allows.
    f_number = means.f_min if needs.shallow else within(max(enough_f, DEFAULT_F))
    longest = _longest_time(needs, means, coc)
    iso = means.iso
    seconds = exposure_time_s(exposure_ev100, f_number, iso)
    if seconds > longest:
        f_number = max(enough_f, min(f_number, f_number_for(exposure_ev100, longest, iso)))
        seconds = exposure_time_s(exposure_ev100, f_number, iso)
    if seconds > longest:
        iso = min(iso * seconds / longest, means.iso_max)
        seconds = exposure_time_s(exposure_ev100, f_number, iso)
        # A sixth of a stop over is what marking alone may give; only more than that asks for another aperture.
        if seconds > longest * 1.12:  # speed is at its end: open up as far as needed
            f_number = min(max(f_number_for(exposure_ev100, longest, iso), means.f_min), f_number)
            seconds = exposure_time_s(exposure_ev100, f_number, iso)
    f_number, nd = _with_less_light(exposure_ev100, needs, means, coc, f_number, iso)
    if _shakes(needs, means, exposure_time_s(exposure_ev100, f_number, iso) * 2.0**nd):
        f_number, nd = _past_shaking(exposure_ev100, needs, means, f_number, iso)
    return f_number, iso, nd


def _shakes(needs, means, seconds):
    return needs.support == "tripod" and wind_shakes(needs.wind_m_s, means.focal_35mm, seconds)


def _past_shaking(exposure_ev100, needs, means, f_number, iso):
    """(f-number, stops of neutral density) for a time long enough that the shaking of a tripod averages out."""
    if not needs.shallow:
        f_number = min(max(f_number, f_number_for(exposure_ev100, AVERAGED_S, iso)), means.f_max)
    seconds = exposure_time_s(exposure_ev100, f_number, iso)
    return f_number, max(0.0, math.ceil(math.log2(AVERAGED_S / seconds) - LIMIT_SLACK_STOPS))


def _with_less_light(exposure_ev100, needs, means, coc, f_number, iso):
    """(f-number, stops of neutral density) where there is more light than a wanted blur or the camera takes."""
    within = lambda f_number: min(max(f_number, means.f_min), means.f_max)
    nd, seconds = 0.0, exposure_time_s(exposure_ev100, f_number, iso)
    # Blur wants a long time: close down as far as the lens goes, then take the rest of the light away in whole stops.
    if needs.motion == "blur":
        shortest = freezing_time_s(needs.speed_m_s, means.focal_mm, needs.distance_m, coc) * BLUR_PARTS
        if seconds < shortest and not math.isinf(shortest):
            f_number = min(means.f_max, max(f_number, f_number_for(exposure_ev100, shortest, iso)))
            seconds = exposure_time_s(exposure_ev100, f_number, iso)
            nd = max(0.0, math.ceil(math.log2(shortest / seconds) - 0.2)) if seconds < shortest else 0.0
            seconds *= 2.0**nd
    # More light than the camera's shortest time takes: close down, then take the rest away in whole stops.
    if seconds < means.time_min_s:
        f_number = within(max(f_number, f_number_for(exposure_ev100, means.time_min_s, iso)))
        seconds = exposure_time_s(exposure_ev100, f_number, iso)
        nd += max(0.0, math.ceil(math.log2(means.time_min_s / seconds) - LIMIT_SLACK_STOPS))
    return f_number, nd


def _longest_time(needs, means, coc):
    """Longest time that hand and motion allow, seconds."""
    limits = [means.time_max_s]
    if needs.support == "hand":
        limits.append(handheld_limit_s(means.focal_35mm, means.hand_factor, means.stabiliser_stops))
    if needs.motion == "freeze":
        limits.append(freezing_time_s(needs.speed_m_s, means.focal_mm, needs.distance_m, coc))
    if _shakes(needs, means, 1 / 8) and needs.motion != "blur":
        # Half a stop shorter than the 1/60 from which a shaken tripod shows.
        limits.append(1 / 90)
    return max(min(limits), means.time_min_s)


def _trades(needs, means, coc, aperture, seconds, depth, best, nd):
    """What the setting keeps of what was needed, one Trade each, in the order in which they are looked at."""
    return (
        *_depth_trade(needs, depth),
        *_diffraction_trade(aperture, coc, best, means),
        *_steadiness_trade(needs, means, seconds),
        *_motion_trade(needs, means, coc, seconds),
        *_setting_trades(means, aperture, seconds, nd),
    )


def _depth_trade(needs, depth):
    if not depth:
        return
    # A twentieth of the distance is less than anyone paces off.
    if needs.shallow:
        yield Trade(
            "depth",
            f"Sharp from {needs.told(depth.near_m)} to {needs.told(depth.far_m)}, as shallow as the lens makes it.",
            True,
        )
        return
    met = depth.near_m <= needs.near_m * 1.05 and depth.far_m >= min(needs.far_m, 1e5) * 0.95
    wanted = "" if met else f"; wanted {needs.told(needs.near_m)} to {needs.told(needs.far_m)}"
    yield Trade("depth", f"Sharp from {needs.told(depth.near_m)} to {needs.told(depth.far_m)}{wanted}.", met)


def _stack_trade(needs, focus, aperture, coc):
    """How many frames at which distances hold what one focus does not: evenly spaced in dioptres, as their images lie."""
    if not focus or needs.shallow or focus.f_number <= aperture.exact * 1.05:
        return
    frames = math.ceil(focus.f_number / aperture.exact)
    if frames > MOST_STACKED:
        yield Trade(
            "stack",
            f"One focus does not reach, and {frames} frames would be needed: step back, or give up one end.",
            False,
        )
        return
    near, far = 1 / needs.near_m, 0.0 if math.isinf(needs.far_m) else 1 / needs.far_m
    at = (1 / (far + (k + 0.5) / frames * (near - far)) for k in reversed(range(frames)))
    places = ", ".join(map(needs.told, at))
    yield Trade(
        "stack", f"One focus does not reach: {frames} frames at {format_aperture(aperture)}, focused at {places}.", True
    )


def distance_words(distance_m, unit="m"):
    """A distance as people set it: "1.2 m", "4 ft", "infinity". unit: "m" or "ft"."""
    if distance_m >= FAR_M:
        return "infinity"
    length = distance_m / LENGTHS_M[unit]
    return f"{length:.0f} {unit}" if length >= 100 else f"{length:.3g} {unit}"


def _diffraction_trade(aperture, coc, best, means):
    if airy_mm(aperture.exact) > coc:
        near = best or coc / AIRY_MM_PER_F
        blurs = f"Diffraction at {format_aperture(aperture)} blurs more than the frame resolves"
        if near > means.f_max:
            yield Trade(
                "diffraction", f"{blurs}; the depth asks for more, and this is near the lens's smallest.", False
            )
        else:
            yield Trade(
                "diffraction", f"{blurs}; best near {format_aperture(marked_aperture(near, means.increment))}.", False
            )


def _steadiness_trade(needs, means, seconds):
    if needs.support == "hand":
        limit = handheld_limit_s(means.focal_35mm, means.hand_factor, means.stabiliser_stops)
        met = seconds <= limit * 1.15
        film = (
            "" if met or means.iso_max > means.iso else " No more speed here: a support, flash, or film that is pushed."
        )
        yield Trade("hand", f"Hands hold {format_seconds(limit)}.{film}", met)
    elif wind_shakes(needs.wind_m_s, means.focal_35mm, seconds):
        yield Trade("wind", "Wind will move this tripod: shelter it, or go shorter than 1/60.", False)


def _motion_trade(needs, means, coc, seconds):
    if not needs.motion or needs.speed_m_s <= 0:
        return
    blur = needs.speed_m_s * seconds * means.focal_mm / needs.distance_m
    blurs = f"Motion blurs {blur:.2g} mm on the frame"
    if needs.motion == "freeze":
        yield Trade("motion", f"{blurs}; {coc:.2g} mm looks sharp.", blur <= coc * 1.15)
    else:
        wide_enough = blur >= coc * BLUR_PARTS * 0.8
        yield Trade("motion", f"{blurs}, {blur / coc:.0f} times what looks sharp.", wide_enough)


def _setting_trades(means, aperture, seconds, nd):
    if nd:
        yield Trade("filter", f"Neutral density of {counted_stops(nd)} stretches the time.", True)
    # A sixth of a stop either way is marking, not a time that the camera lacks.
    within = means.time_min_s * 0.9 <= seconds <= means.time_max_s * 1.1
    text = f"{format_time(marked_time(seconds, means.increment))} at {format_aperture(aperture)}."
    yield Trade("time", text, within)
