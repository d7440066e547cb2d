"""What a plan warns of: lost ends, range, tones that merge, readings, filters, times, what the camera lacks.

Each rule takes a Plan. Codes are listed in docs/scene-file.md; a test keeps the list whole.
"""

import math

from dimgrey.core.cautions.registry import caution, falls_on, rule, started
from dimgrey.core.measure.exposure import marked_aperture, marked_time
from dimgrey.core.measure.stops import counted_stops, format_aperture, format_seconds, format_stops, format_time
from dimgrey.core.planning.development import format_development, reach_of
from dimgrey.core.planning.placing import BEFORE
from dimgrey.core.planning.zones import format_zone
from dimgrey.core.sky.daylight import light_named

FACTOR_DIFFERENCE_STOPS = 2 / 3
HOLD_DIFFERENCE_STOPS = 1 / 3
RECIPROCITY_ONSET_S = 1.0
TRIPOD_S = 1 / 30
CONTRAST_RISES_S = 10.0
CONTRADICTION_STOPS = 3.0
RANGE_SLACK_STOPS = 0.5
TOLD_ZONES = 1 / 6
DENSE_STOPS = 1.0
MANUAL_SLACK_STOPS = 0.5
STACK_VIGNETTES = 3
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
            ways = "Place it lower, bracket, wait for softer light or use a graduated filter; or let it go on purpose."
            what = "compresses to blank white" if medium.kind == "film" else "clips to white"
            yield caution("highlight-lost", f"{started(tone.name)} falls {z} and {what}. {ways}", tone.name)
        else:
            ways = "Open up, add light, or let it go black on purpose."
            yield caution("shadow-lost", f"{started(tone.name)} falls {z}: no texture left. {ways}", tone.name)


@rule("exposure", {"development-out-of-reach": "the range asks for a development that the film's table does not have"})
def _development(plan):
    step = plan.development_step
    if step is None or plan.development is not None:
        return
    reach = reach_of(plan.brief.medium.developments)
    edge = reach[0] if step < 0 else reach[1]
    way = (
        f"Develop {format_development(edge)} and let one end go, bracket, use a graduated filter, or wait for softer light."
        if step < 0
        else f"Develop {format_development(edge)} and print harder, or use it soft as it is."
    )
    yield caution(
        "development-out-of-reach",
        f"This range asks for {format_development(step)}; the film's table ends at {format_development(edge)}. {way}",
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
        f"({format_stops(room)}). {_ways_out_of_range(plan)}",
        brightest.name,
    )


def _ways_out_of_range(plan):
    if plan.brief.medium.kind == "film":
        if plan.development_step and plan.development_step == plan.asked_step and plan.development:
            return f"Development {plan.development} takes it in."
        if plan.brief.medium.developed is not None:
            return f"The roll gets {plan.development}, which does not take it in: let one end go, or use a graduated filter."
        return "Development alone cannot take it in."
    return {
        "slide": "A graduated filter, fill light or a second exposure helps; or let one end go on purpose.",
        "digital raw": "Bracket, use a graduated filter or fill, wait for softer light; or let one end go on purpose.",
        "digital file": "Lower the contrast setting, keep a raw file, bracket, or let one end go on purpose.",
    }[plan.brief.medium.kind]


@rule("exposure", {"tone-unread": "a tone has no reading yet"})
def _unread(plan):
    for tone in plan.brief.tones:
        if not tone.evs:
            yield caution(
                "tone-unread", f"{started(tone.name)} has no reading yet and is left out of the plan.", tone.name
            )


@rule("exposure", {"readings-differ": "readings of one tone differ by more than 3 stops"})
def _readings(plan):
    for tone in plan.brief.tones:
        if tone.evs and tone.reading.disagree:
            yield caution(
                "readings-differ",
                f"Readings of {tone.name} differ by {counted_stops(tone.reading.spread_stops)}; the mean is used. "
                "Remove the wrong one, or make two tones of it.",
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


@rule("exposure", {"factor-differs": "printed and computed factor differ by more than two thirds of a stop"})
def _factor(plan):
    cost = plan.filter_cost
    if cost.printed_stops is None:
        return
    difference = cost.printed_stops - cost.computed_stops
    if abs(difference) > FACTOR_DIFFERENCE_STOPS:
        yield caution(
            "factor-differs",
            f"The printed factor costs {counted_stops(cost.printed_stops)}, the computed one for this film and light "
            f"{format_stops(cost.computed_stops)}. The printed one is used.",
        )


@rule(
    "exposure",
    {
        "glass-on-colour-sensor": "coloured glass before a sensor that balances it away",
        "filter-blocks-film": "glass that passes hardly any light the film sees",
    },
)
def _glass(plan):
    medium, light, coloured = plan.brief.medium, plan.brief.light, plan.brief.coloured
    names = [glass.name for glass in plan.brief.filters]
    if coloured and medium.mixes_channels:
        yield caution(
            "glass-on-colour-sensor",
            "A colour sensor is balanced through coloured glass, so the glass mostly wastes light. Use the camera's own "
            "black-and-white filter, or mix later from raw.",
        )
    elif coloured and medium.is_blocked_by(light, coloured):
        yield caution(
            "filter-blocks-film",
            f"This film hardly sees what {' and '.join(names)} lets through; its numbers here are not dependable.",
        )


@rule("exposure", {"filters-stacked": "three or more filters are in front of the lens"})
def _stack(plan):
    """Three and more filters on one lens shade its corners and add flare."""
    if len(plan.brief.filters) >= STACK_VIGNETTES:
        yield caution(
            "filters-stacked",
            f"{len(plan.brief.filters)} filters in front of the lens: corners may go dark, and each surface adds flare. "
            "Step up to larger ones, or take one off.",
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
            "Close the aperture or use a neutral-density filter.",
        )
    elif plan.corrected_seconds > high:
        yield caution(
            "shutter-too-long",
            f"{format_seconds(plan.corrected_seconds)} is longer than the camera's {format_time(marked_time(limits.time_max_s, brief.increment))}. "
            "Open the aperture, raise ISO, or hold the shutter open by hand with a timer.",
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
