"""What a plan warns of: lost ends, range, tones that merge, readings, filters, times, what the camera lacks.

Each rule takes a Plan. Codes are listed in docs/scene-file.md; a test keeps the list whole.
"""

import math

from dimgrey.core.cautions.registry import caution, falls_on, rule, started
from dimgrey.core.measure.exposure import marked_aperture, marked_time
from dimgrey.core.measure.stops import (
    counted_stops,
    format_aperture,
    format_seconds,
    format_stops,
    format_time,
    marked_speed,
)
from dimgrey.core.planning.development import format_development, reach_of
from dimgrey.core.planning.placing import BEFORE
from dimgrey.core.planning.zones import format_zone
from dimgrey.core.sky.daylight import light_named

HOLD_DIFFERENCE_STOPS = 1 / 3
RECIPROCITY_ONSET_S = 1.0
TRIPOD_S = 1 / 30
CONTRAST_RISES_S = 10.0
CONTRADICTION_STOPS = 3.0
RANGE_SLACK_STOPS = 0.5
TOLD_ZONES = 1 / 6
DENSE_STOPS = 1.0
MANUAL_SLACK_STOPS = 0.5
LIMIT_SLACK_STOPS = 1 / 4
"""How far past its shortest or longest marked time a camera still counts as having it."""


def _fall_words(tone, plan):
    """Where a tone falls; with what its film's development makes of that, by which the limits judge it."""
    moved = abs(tone.held - tone.fall) > TOLD_ZONES
    brings = f", which {format_development(plan.printing.step)} brings to {format_zone(tone.held)}," if moved else ""
    return falls_on(tone.fall) + brings


@rule(
    "exposure",
    {
        "highlight-lost": "a tone that needs texture lies beyond the medium's bright end",
        "shadow-lost": "a tone that needs texture lies beyond the medium's dark end",
    },
)
def _lost_ends(plan):
    medium = plan.brief.medium
    for tone in plan.tones:
        if not tone.needs_texture or tone.texture != "lost":
            continue
        z = _fall_words(tone, plan)
        if tone.held > medium.outer[1]:
            what = "compresses to blank white" if medium.kind == "film" else "clips to white"
            yield caution("highlight-lost", f"{started(tone.name)} falls {z} and {what}.", tone.name)
        else:
            pushed = medium.push_stops > TOLD_ZONES and tone.held + medium.push_stops >= medium.outer[0]
            why = (
                f" The push of {counted_stops(medium.push_stops)} took it: longer development brings no shadow back."
                if pushed
                else ""
            )
            yield caution("shadow-lost", f"{started(tone.name)} falls {z}: no texture left.{why}", tone.name)


@rule("exposure", {"pushed": "film is rated over its own speed"})
def _pushed(plan):
    medium = plan.brief.medium
    if medium.push_stops > TOLD_ZONES:
        own = marked_speed(medium.iso / 2**medium.push_stops).name
        yield caution(
            "pushed",
            f"Rated at ISO {plan.speed.name}, {counted_stops(medium.push_stops)} over its own {own}: every shadow gets that much less "
            f"light. Develop it as pushed by {counted_stops(medium.push_stops)}; grain grows, shadows stay where they fell.",
        )


@rule("exposure", {"development-out-of-reach": "the range asks for a development that the film's table does not have"})
def _development(plan):
    step = plan.development_step
    if step is None or plan.development is not None:
        return
    reach = reach_of(plan.brief.medium.developments)
    edge = reach[0] if step < 0 else reach[1]
    yield caution(
        "development-out-of-reach",
        f"This range asks for {format_development(step)}; the film's table ends at {format_development(edge)}.",
    )


@rule("exposure", {"range-exceeds-medium": "textured tones span more than half a stop over the dependable range"})
def _range(plan):
    medium = plan.brief.medium
    room = medium.dependable[1] - medium.dependable[0]
    if plan.range_stops is None or plan.range_stops <= room + RANGE_SLACK_STOPS:
        return
    brightest = max((t for t in plan.tones if t.needs_texture), key=lambda t: t.ev100)
    over = format_stops(plan.range_stops - room)
    yield caution(
        "range-exceeds-medium",
        f"The scene spans {counted_stops(plan.range_stops)}, {over} more than full texture holds "
        f"({format_stops(room)}).{_taken_in(plan)}",
        brightest.name,
    )


def _taken_in(plan):
    """What the film's development does about it."""
    if plan.brief.medium.kind != "film":
        return ""
    if plan.development_step and plan.development_step == plan.asked_step and plan.development:
        return f" Development {plan.development} takes it in."
    if plan.brief.medium.developed is not None:
        return f" Development {plan.development}, as it is held, does not take it in."
    return " Development alone does not take it in."


@rule("exposure", {"tone-unread": "a tone has no reading yet"})
def _unread(plan):
    for tone in plan.brief.tones:
        if not tone.evs:
            yield caution(
                "tone-unread", f"{started(tone.name)} has no reading yet and is left out of the plan.", tone.name
            )


@rule("exposure", {"readings-differ": "readings of one tone differ by more than a stop"})
def _readings(plan):
    for tone in plan.brief.tones:
        if tone.evs and tone.reading.disagree:
            yield caution(
                "readings-differ",
                f"Readings of {tone.name} differ by {counted_stops(tone.reading.spread_stops)}, and their mean is used. "
                "Is one of them another part of it, or wrong?",
                tone.name,
            )


@rule("exposure", {"light-contradicts": "a reading lies more than 3 stops outside the light that is named"})
def _contradicts(plan):
    """Readings that cannot be in the light that was named."""
    named = light_named(plan.brief.light_note)
    if named is None:
        return
    for tone in plan.brief.tones:
        if not tone.evs or not tone.needs_texture:
            continue
        low, high = named.range_ev100
        off = low - tone.ev100 if tone.ev100 < low else tone.ev100 - high
        # A shadow may lie far below its light: it is in the shade of something.
        if off > CONTRADICTION_STOPS and not (tone.ev100 < low and tone.role == "shadow"):
            yield caution(
                "light-contradicts",
                f"{started(tone.name)} at EV {format_stops(tone.ev100)} is {counted_stops(off)} outside {named.name} "
                f"(EV {low:g} to {high:g}). Is it the reading, or the light?",
                tone.name,
            )


@rule("exposure", {"dense-on-purpose": "a stop or more is held back on purpose"})
def _intent(plan):
    """What holding exposure back on purpose costs."""
    under = plan.brief.choice.under_stops
    if under >= DENSE_STOPS:
        yield caution(
            "dense-on-purpose",
            f"{counted_stops(under)} under on purpose: lifting it later brings the noise of ISO "
            f"{plan.brief.medium.iso * 2**under:.0f}; the highlights gain {counted_stops(under)}.",
        )


@rule(
    "exposure",
    {"hold-differs": "holding the zone on the other side of the filter changes the setting by more than a third"},
)
def _hold(plan):
    difference = plan.hold_difference_stops
    if abs(difference) > HOLD_DIFFERENCE_STOPS:
        other = "after" if plan.placement.hold == BEFORE else "before"
        yield caution(
            "hold-differs",
            f"Holding {plan.placement.tone} on its zone {other} the filter would change the setting by "
            f"{format_stops(difference, signed=True)} EV.",
            plan.placement.tone,
        )


@rule("exposure", {"setup-not-in-raw": "a setup with tone controls stands beside a raw file, which it does not change"})
def _setup_in_raw(plan):
    if plan.brief.medium.kind == "digital raw" and plan.brief.setup_toned:
        yield caution(
            "setup-not-in-raw",
            "The setup's contrast, highlights and shadows are in the in-camera file alone: raw keeps them out, and the plan shows raw.",
        )


@rule(
    "exposure",
    {
        "reciprocity-unknown": "film is exposed for more than 1 s and its loss of speed is not known",
        "contrast-rises": "film is exposed for more than 10 s",
        "needs-support": "the time is too long for the hand with this lens (1/30 where it is not known), and no tripod was said",
    },
)
def _times(plan):
    medium, seconds = plan.brief.medium, plan.shutter_seconds
    # A twentieth over is still 1 s as it is marked.
    if medium.is_film and medium.reciprocity is None and seconds > RECIPROCITY_ONSET_S * 1.05:
        yield caution(
            "reciprocity-unknown",
            f"Film loses speed in {format_seconds(seconds)}; this one's reciprocity is not known. Look at its data sheet.",
        )
    if medium.is_film and plan.corrected_seconds > CONTRAST_RISES_S:
        yield caution("contrast-rises", "Contrast rises in exposures past 10 s: consider one step less development.")
    yield from _support(plan)


def _support(plan):
    """Times that a hand does not hold: by the lens where it is known, else from 1/30 on. On a tripod there is nothing to say."""
    brief, seconds = plan.brief, plan.shutter_seconds
    if brief.support == "tripod":
        return
    limit = TRIPOD_S if brief.hand_limit_s is None else brief.hand_limit_s
    # A quarter of a stop over a marked time is still marked so.
    if seconds <= limit * 1.2:
        return
    marked = format_time(plan.shutter)
    named = marked if marked.endswith("s") else f"{marked} s"
    if seconds > TRIPOD_S * 1.2:
        yield caution("needs-support", f"{named} wants a tripod and a release without touching.")
    else:
        holds = format_seconds(limit)
        yield caution(
            "needs-support",
            f"{named} is longer than a hand holds this lens ({holds}): a tripod, a wider aperture or more speed.",
        )


@rule("exposure", {"manual-differs": "aperture and time that were both chosen do not give the plan's exposure"})
def _manual(plan):
    brief = plan.brief
    if brief.shutter and brief.aperture and abs(plan.rounding_stops) > MANUAL_SLACK_STOPS:
        direction = "over" if plan.rounding_stops > 0 else "under"
        yield caution(
            "manual-differs",
            f"{format_time(plan.shutter)} at {format_aperture(plan.aperture)} exposes {format_stops(abs(plan.rounding_stops))} "
            f"stops {direction} the plan.",
        )


@rule(
    "exposure",
    {
        "shutter-too-short": "the camera has no time so short",
        "shutter-too-long": "the camera has no time so long",
        "aperture-out-of-limits": "the lens has no such aperture",
    },
)
def _limits(plan):
    """Settings the camera lacks, with the nearest it has."""
    brief, limits = plan.brief, plan.brief.limits
    low, high = limits.time_min_s * 2**-LIMIT_SLACK_STOPS, limits.time_max_s * 2**LIMIT_SLACK_STOPS
    if plan.shutter_seconds < low:
        yield caution(
            "shutter-too-short",
            f"{format_seconds(plan.shutter_seconds)} is shorter than the camera's {format_time(marked_time(limits.time_min_s, brief.increment))}. "
            "The aperture can close, or grey glass take light.",
        )
    elif plan.corrected_seconds > high:
        yield caution(
            "shutter-too-long",
            f"{format_seconds(plan.corrected_seconds)} is longer than the camera's {format_time(marked_time(limits.time_max_s, brief.increment))}. "
            "Hold the shutter open by hand, with a timer.",
        )
    f = plan.aperture.exact
    # Marked apertures are off their exact value by up to a twentieth.
    if not limits.f_min * 0.95 <= f <= limits.f_max * 1.05 or (
        brief.shutter and not brief.aperture and abs(plan.rounding_stops) > MANUAL_SLACK_STOPS
    ):
        ends = [format_aperture(marked_aperture(n, brief.increment)) for n in (limits.f_min, limits.f_max)]
        near = ends[0] if math.log2(f) < math.log2(limits.f_min * limits.f_max) / 2 else ends[1]
        yield caution(
            "aperture-out-of-limits",
            f"The lens runs from {ends[0]} to {ends[1]}; nearest is {near}, {format_aperture(plan.aperture)} is wanted.",
        )
