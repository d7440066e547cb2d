"""What a plan warns of: each caution is one rule with a code for machines and one sentence for the photographer.

Codes are listed in docs/scene-file.md; a test keeps the list whole.
"""

import math
from dataclasses import dataclass

from dimgrey.core.colour.responses import RED_BLIND
from dimgrey.core.measure.exposure import marked_aperture, marked_time
from dimgrey.core.measure.metering import MIXED_SPREAD_STOPS
from dimgrey.core.measure.stops import format_aperture, format_seconds, format_stops, format_time
from dimgrey.core.planning.development import format_development, reach_of
from dimgrey.core.planning.zones import format_zone
from dimgrey.core.sky.daylight import light_named

MERGE_ZONES = 1 / 3
FACTOR_DIFFERENCE_STOPS = 2 / 3
HOLD_DIFFERENCE_STOPS = 1 / 3
RECIPROCITY_ONSET_S = 1.0
TRIPOD_S = 1 / 30
CONTRAST_RISES_S = 10.0
CONTRADICTION_STOPS = 3.0


@dataclass(frozen=True)
class Caution:
    code: str
    tone: str | None
    text: str


def cautions_of(plan):
    """Every caution of a plan, the gravest first: lost ends, range, readings, filter, camera."""
    rules = (
        _lost_ends,
        _range,
        _silhouette,
        _merging,
        _unread,
        _readings,
        _contradicts,
        _intent,
        _hold,
        _factor,
        _glass,
        _times,
        _limits,
    )
    return tuple(caution for rule in rules for caution in rule(plan))


def _lost_ends(plan):
    medium = plan.scene.medium
    for tone in plan.tones:
        if not tone.needs_texture or tone.texture != "lost":
            continue
        z = _falls(tone.zone_held)
        if tone.zone_held > medium.outer[1]:
            ways = "Place it lower, bracket, wait for softer light or use a graduated filter; or let it go on purpose."
            what = "compresses to blank white" if medium.kind == "film" else "clips to white"
            yield Caution("highlight-lost", tone.name, f"{_capital(tone.name)} falls {z} and {what}. {ways}")
        else:
            ways = "Open up, add light, or let it go black on purpose."
            yield Caution("shadow-lost", tone.name, f"{_capital(tone.name)} falls {z}: no texture left. {ways}")


def _range(plan):
    medium = plan.scene.medium
    room = medium.dependable[1] - medium.dependable[0]
    step = plan.development_step
    if step is not None and plan.development is None:
        reach = reach_of(medium.developments)
        edge = reach[0] if step < 0 else reach[1]
        way = (
            "Develop N-2 and let one end go, bracket, use a graduated filter, or wait for softer light."
            if step < 0
            else "Develop N+2 and print harder, or use it soft as it is."
        )
        yield Caution(
            "development-out-of-reach",
            None,
            f"This range asks for {format_development(step)}; the film's table ends at {format_development(edge)}. {way}",
        )
    if plan.range_stops is None or plan.range_stops <= room + 0.5:
        return
    brightest = max((t for t in plan.tones if t.needs_texture), key=lambda t: t.ev100)
    over = format_stops(plan.range_stops - room)
    ways = {
        "film": f"Development {plan.development} takes it in."
        if plan.development
        else "Development alone cannot take it in.",
        "slide": "A graduated filter, fill light or a second exposure helps; or let one end go on purpose.",
        "digital raw": "Bracket, use a graduated filter or fill, wait for softer light; or let one end go on purpose.",
        "digital file": "Lower the contrast setting, keep a raw file, bracket, or let one end go on purpose.",
    }[medium.kind]
    yield Caution(
        "range-exceeds-medium",
        brightest.name,
        f"The scene spans {format_stops(plan.range_stops)} stops, {over} more than full texture holds ({format_stops(room)}). {ways}",
    )


def _silhouette(plan):
    if plan.placement.school != "silhouette":
        return
    for tone in plan.tones:
        if tone.role == "subject" and tone.zone_printed > 1.05:
            yield Caution(
                "silhouette-not-black",
                tone.name,
                f"{_capital(tone.name)} falls {_falls(tone.zone_printed)}; a silhouette wants it on I or below. "
                "Find a brighter background or place it higher.",
            )


def _merging(plan):
    """Subject against what is behind it: under a third of a zone apart they print as one grey."""
    behind = [t for t in plan.tones if t.role in ("background", "sky")]
    for subject in (t for t in plan.tones if t.role in ("subject", "skin")):
        for other in behind:
            apart = abs(subject.zone_printed - other.zone_printed)
            if apart < MERGE_ZONES:
                yield Caution(
                    "tones-merge",
                    subject.name,
                    f"{_capital(subject.name)} and {other.name} fall within {format_stops(max(apart, 0.04), 3) if apart >= 1 / 6 else 'a sixth'}"
                    " of a zone: they will merge. Another filter, light or viewpoint can part them.",
                )


def _unread(plan):
    for tone in plan.scene.tones:
        if not tone.evs:
            yield Caution(
                "tone-unread", tone.name, f"{_capital(tone.name)} has no reading yet and is left out of the plan."
            )


def _readings(plan):
    for tone in plan.scene.tones:
        if tone.evs and tone.reading.disagree:
            yield Caution(
                "readings-differ",
                tone.name,
                f"Readings of {tone.name} differ by {format_stops(tone.reading.spread_stops)} stops; the mean is used. "
                "Remove the wrong one, or make two tones of it.",
            )
        if tone.clipped:
            yield Caution(
                "picture-clipped",
                tone.name,
                f"The picture is blank at {tone.name}, so it is brighter than its reading says. Type a meter reading there.",
            )
        if tone.mixed > MIXED_SPREAD_STOPS and (tone.needs_texture or tone.name == plan.placement.tone):
            yield Caution(
                "mixed-tones",
                tone.name,
                f"Mixed tones under the spot on {tone.name}: {format_stops(tone.mixed)} stops from end to end. "
                "Move closer, or use a smaller spot.",
            )


def _intent(plan):
    """What holding exposure back on purpose costs."""
    under = plan.scene.wish.under_stops if plan.scene.wish else 0.0
    if under >= 1:
        yield Caution(
            "dense-on-purpose",
            None,
            f"{format_stops(under)} stops under on purpose: lifting it later brings the noise of ISO "
            f"{plan.scene.medium.iso * 2**under:.0f}; the highlights gain {format_stops(under)} stops.",
        )


def _contradicts(plan):
    """Readings that cannot be in the light that was named."""
    named = light_named(plan.scene.light_note)
    if named is None:
        return
    for tone in plan.scene.tones:
        if not tone.evs or not tone.needs_texture:
            continue
        low, high = named.range_ev100
        off = low - tone.ev100 if tone.ev100 < low else tone.ev100 - high
        if off > CONTRADICTION_STOPS and not (tone.ev100 < low and tone.role == "shadow"):
            yield Caution(
                "light-contradicts",
                tone.name,
                f"{_capital(tone.name)} at EV {format_stops(tone.ev100)} is {format_stops(off)} stops outside {named.name} "
                f"(EV {low:g} to {high:g}). Is it the reading, or the light?",
            )


def _hold(plan):
    wish = plan.scene.wish
    difference = plan.hold_difference_stops
    if wish and abs(difference) > HOLD_DIFFERENCE_STOPS:
        other = "after" if wish.hold == "before filter" else "before"
        yield Caution(
            "hold-differs",
            plan.placement.tone,
            f"Holding {plan.placement.tone} on its zone {other} the filter would change the setting by "
            f"{format_stops(difference, signed=True)} EV.",
        )


def _factor(plan):
    cost = plan.filter_cost
    if cost.printed_stops is None:
        return
    difference = cost.printed_stops - cost.computed_stops
    if abs(difference) > FACTOR_DIFFERENCE_STOPS:
        yield Caution(
            "factor-differs",
            None,
            f"The printed factor costs {format_stops(cost.printed_stops)} stops, the computed one for this film and light "
            f"{format_stops(cost.computed_stops)}. The printed one is used.",
        )


def _glass(plan):
    medium, light = plan.scene.medium, plan.scene.light
    coloured = tuple(glass.spectrum for glass in plan.scene.filters if glass.is_coloured)
    names = [glass.name for glass in plan.scene.filters]
    if coloured and medium.mixes_channels:
        yield Caution(
            "glass-on-colour-sensor",
            None,
            "A colour sensor is balanced through coloured glass, so the glass mostly wastes light. Use the camera's own "
            "black-and-white filter, or mix later from raw.",
        )
    elif coloured and medium.response in RED_BLIND and medium.glass_factor(light, coloured) > 32:
        yield Caution(
            "filter-blocks-film",
            None,
            f"This film hardly sees what {' and '.join(names)} lets through; its numbers here are not dependable.",
        )


STACK_VIGNETTES = 3


def _stack(plan):
    """Three and more filters on one lens shade its corners and add flare."""
    if len(plan.scene.filters) >= STACK_VIGNETTES:
        yield Caution(
            "filters-stacked",
            None,
            f"{len(plan.scene.filters)} filters in front of the lens: corners may go dark, and each surface adds flare. "
            "Step up to larger ones, or take one off.",
        )


def _times(plan):
    medium, seconds = plan.scene.medium, plan.shutter_seconds
    if medium.is_film and medium.reciprocity is None and seconds > RECIPROCITY_ONSET_S * 1.05:
        yield Caution(
            "reciprocity-unknown",
            None,
            f"Film loses speed in {format_seconds(seconds)}; this one's reciprocity is not known. Look at its data sheet.",
        )
    if medium.is_film and plan.corrected_seconds > CONTRAST_RISES_S:
        yield Caution(
            "contrast-rises", None, "Contrast rises in exposures past 10 s: consider one step less development."
        )
    if seconds > TRIPOD_S * 1.2:
        marked = format_time(plan.shutter)
        yield Caution(
            "needs-support",
            None,
            f"{marked if marked.endswith('s') else f'{marked} s'} wants a tripod and a release without touching.",
        )


def _limits(plan):
    """Settings the camera lacks, with the nearest it has."""
    scene, limits = plan.scene, plan.scene.limits
    if scene.shutter and scene.aperture and abs(plan.rounding_stops) > 0.5:
        direction = "over" if plan.rounding_stops > 0 else "under"
        yield Caution(
            "manual-differs",
            None,
            f"{format_time(plan.shutter)} at {format_aperture(plan.aperture)} exposes {format_stops(abs(plan.rounding_stops))} "
            f"stops {direction} the plan.",
        )
    low, high = limits.time_min_s * 2 ** (-1 / 4), limits.time_max_s * 2 ** (1 / 4)
    if plan.shutter_seconds < low:
        yield Caution(
            "shutter-too-short",
            None,
            f"{format_seconds(plan.shutter_seconds)} is shorter than the camera's {format_time(marked_time(limits.time_min_s, scene.increment))}. "
            "Close the aperture or use a neutral-density filter.",
        )
    elif plan.shutter_seconds > high:
        yield Caution(
            "shutter-too-long",
            None,
            f"{format_seconds(plan.shutter_seconds)} is longer than the camera's {format_time(marked_time(limits.time_max_s, scene.increment))}. "
            "Open the aperture, raise ISO, or hold the shutter open by hand with a timer.",
        )
    f = plan.aperture.exact
    if not limits.f_min * 0.95 <= f <= limits.f_max * 1.05 or (
        scene.shutter and not scene.aperture and abs(plan.rounding_stops) > 0.5
    ):
        ends = [format_aperture(marked_aperture(n, scene.increment)) for n in (limits.f_min, limits.f_max)]
        near = ends[0] if math.log2(f) < math.log2(limits.f_min * limits.f_max) / 2 else ends[1]
        yield Caution(
            "aperture-out-of-limits",
            None,
            f"The lens runs from {ends[0]} to {ends[1]}; nearest is {near}, {format_aperture(plan.aperture)} is wanted.",
        )


def _falls(zone):
    """ "on VII⅓", but "above X"."""
    text = format_zone(zone)
    return text if " " in text else f"on {text}"


def _capital(text):
    return text[:1].upper() + text[1:]
