"""What a plan warns of in what stands before the lens: factors, glass on a sensor, polarizer, graduated filter, stacks, flare."""

import re

from dimgrey.core.cautions.registry import caution, rule, started
from dimgrey.core.measure.stops import counted_stops, format_stops
from dimgrey.core.sky.daylight import mentions

FACTOR_DIFFERENCE_STOPS = 2 / 3
CLOSED_SKY = ("overcast", "full cloud", "closed sky")
AIRCRAFT = ("aircraft", "aeroplane", "airplane", "plane window", "helicopter")
AGAINST_THE_LIGHT = r"against the (?:light|sun)|back[- ]?lit|back[- ]?light|sun (?:in front|behind the)|into the sun"
STACK_VIGNETTES = 3
TAKEN_STOPS = 1 / 3
TURNED_STOPS = 1 / 6


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


@rule(
    "exposure",
    {
        "polarizer-manual": "a polarizer is on the lens",
        "polarizer-under-cloud": "a polarizer is on the lens under a closed sky and takes no glare",
        "polarizer-through-window": "a polarizer is on the lens and an aircraft is named",
    },
)
def _polarizer(plan):
    brief = plan.brief
    if all(glass.name != "polarizer" for glass in brief.filters):
        return
    if not brief.through_filter:
        yield caution(
            "polarizer-manual",
            "Set the camera to manual before you turn the polarizer: in an automatic mode it hides what the polarizer does.",
        )
    if mentions(brief.light_note, CLOSED_SKY) and not any(tone.polarized_stops > TURNED_STOPS for tone in brief.tones):
        yield caution(
            "polarizer-under-cloud", "Under full cloud a polarizer darkens no sky: it takes light, and glare at most."
        )
    if mentions(f"{brief.title} {brief.intent} {brief.light_note}", AIRCRAFT):
        yield caution(
            "polarizer-through-window",
            "Through an aircraft's window a polarizer draws bands over the picture: leave it off, and shade the lens against the pane.",
        )


@rule("exposure", {"subject-in-graduated": "a graduated filter takes more than a third of a stop from the subject"})
def _in_graduated(plan):
    for tone in plan.tones:
        if tone.role in ("subject", "skin") and tone.held_back_stops > TAKEN_STOPS:
            yield caution(
                "subject-in-graduated",
                f"{started(tone.name)} stands in the graduated filter, which takes {counted_stops(tone.held_back_stops)} from it.",
                tone.name,
            )


@rule("exposure", {"against-the-light": "the light is said to come from in front, with or without glass on the lens"})
def _against_the_light(plan):
    brief = plan.brief
    if not re.search(AGAINST_THE_LIGHT, brief.light_note, re.IGNORECASE):
        return
    names = [glass.name for glass in brief.filters]
    off = f" Each filter adds flare: take {' and '.join(names)} off." if names else ""
    yield caution(
        "against-the-light", f"Against the light: shade the lens and expect flare, which lifts the shadows.{off}"
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
