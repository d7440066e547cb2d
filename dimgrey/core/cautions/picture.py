"""What a picture warns of that tones were read from: blank places and mixed spots. Each rule takes a Plan."""

from dimgrey.core.cautions.registry import caution, rule
from dimgrey.core.measure.metering import MIXED_SPREAD_STOPS
from dimgrey.core.measure.stops import counted_stops, format_stops
from dimgrey.core.sky.daylight import error_of


@rule("picture", {"picture-clipped": "the picture is blank under the tone, so its reading is too low"})
def _clipped(plan):
    for tone in plan.brief.tones:
        if tone.clipped:
            yield caution(
                "picture-clipped",
                f"The picture is blank at {tone.name}, so it is brighter than its reading says. Type a meter reading there.",
                tone.name,
            )


@rule("picture", {"picture-blocked": "the picture is black under the tone, so its reading is no more than a bound"})
def _blocked(plan):
    for tone in plan.brief.tones:
        if tone.blocked and (tone.needs_texture or tone.name == plan.placement.tone):
            yield caution(
                "picture-blocked",
                f"The picture is black at {tone.name}: how dark it is, and which of two such tones is the darker, it does not say. Type a "
                "meter reading there.",
                tone.name,
            )


@rule("picture", {"scale-guessed": "the picture's light is a guess from the light that it was taken in"})
def _guessed(plan):
    light = plan.brief.taken_in
    if light:
        stops = counted_stops(error_of(light))
        yield caution(
            "scale-guessed",
            f"The picture's light is a guess from “{light}”, good to {stops}. Read one tone with a meter.",
        )


@rule("picture", {"mixed-tones": "a tone that matters was read with more than 2 stops under the spot"})
def _mixed(plan):
    for tone in plan.brief.tones:
        if tone.mixed > MIXED_SPREAD_STOPS and (tone.needs_texture or tone.name == plan.placement.tone):
            yield caution(
                "mixed-tones",
                f"Mixed tones under the spot on {tone.name}: {format_stops(tone.mixed)} stops from end to end. "
                "Move closer, or use a smaller spot.",
                tone.name,
            )
