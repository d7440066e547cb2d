"""How each number of a plan was reached, in one line: the sums behind "why this?"."""

from dimgrey.core.measure.stops import format_aperture, format_seconds, format_stops, format_time, with_unit
from dimgrey.core.planning.development import FIRST_MOVED, TARGET_SPREAD, format_development
from dimgrey.core.planning.media import DEPENDABLE
from dimgrey.core.planning.placing import BEFORE, IN_THE_PRINT
from dimgrey.core.planning.zones import MIDDLE, format_zone

TOLD = 0.005
"""Stops below which a term of a sum is left out: it would read 0."""


def why_setting(plan):
    """The placing as a sum."""
    placement, placed, zone = plan.placement, plan.placed, format_zone(plan.placement.zone)
    setting = f"{_held_back(plan)} = setting EV {_n(plan.setting_ev100)}."
    if placed is None:
        return f"Half of darkest plus brightest texture goes on {zone}{_of_hold(plan)}{setting}"
    if placement.school == "incident" and placement.setting_ev100 != placed.ev100 + MIDDLE - placement.zone:
        return f"The light was measured, and its reading is the setting{setting}"
    terms = f"EV {_n(placed.ev100)} of {placed.name}"
    terms += _taken_before(placed)
    if placement.hold != BEFORE and abs(placed.shift_stops) > TOLD:
        terms += f" {_signed(placed.shift_stops)} (filter shift)"
    if placement.hold == IN_THE_PRINT:
        push = plan.brief.medium.push_stops
        terms += f" {_signed(-push)} (push)" if push else ""
        fall = placed.fall + plan.brief.choice.under_stops
        return f"{terms} + 5 − {_n(fall)} (falls there to print on {zone}){setting}"
    return f"{terms} + 5 − {_n(placement.zone)} ({zone}){setting}"


def _taken_before(tone):
    """What a graduated filter and a polarizer take from a PlannedTone, as terms of a sum."""
    text = f" − {_n(tone.held_back_stops)} (graduated filter)" if tone.held_back_stops else ""
    return text + (f" − {_n(tone.polarized_stops)} (polarizer)" if abs(tone.polarized_stops) > TOLD else "")


def _of_hold(plan):
    return "" if plan.placement.hold == BEFORE else f", {plan.placement.hold}"


def _held_back(plan):
    under = plan.brief.choice.under_stops
    return f" + {_n(under)} held back on purpose" if under else ""


def why_filter(plan):
    """What the filters cost and what greys they make."""
    cost, chain = plan.filter_cost, plan.chain
    weights = ", ".join(
        f"{name} {weight:.2f}" for name, weight in zip(("red", "green", "blue"), chain.weights, strict=True)
    )
    source = plan.brief.medium.response or "the camera's own channel mix"
    known = (
        f"Grey as measured objects show it to {source} in light {plan.brief.light}, skies as daylight; "
        f"in round figures {weights}."
    )
    parts = [known if chain.through else f"Grey is made of {weights} ({source})."]
    if plan.brief.through_filter:
        parts.append("Metered through the filter: no factor is added.")
    elif cost.printed_stops is not None:
        parts.append(
            f"Printed factor {2**cost.printed_stops:.3g}: {with_unit(_n(cost.printed_stops))}; computed {_n(cost.computed_stops)}."
        )
    elif cost.computed_stops:
        parts.append(f"Factor {2**cost.computed_stops:.2f} from the spectra: {with_unit(_n(cost.computed_stops))}.")
    if cost.stops - cost.coloured_stops > 0.005:
        parts.append(f"Grey filters take {with_unit(_n(cost.stops - cost.coloured_stops))} more.")
    return " ".join(parts)


def why_exposure(plan):
    """From setting to time: filters, bellows, aperture, marking, reciprocity."""
    terms = f"Setting EV {_n(plan.setting_ev100)}"
    if plan.filter_cost.stops:
        terms += f" − filter {_n(plan.filter_cost.stops)}"
    if plan.bellows:
        terms += f" − close-up {_n(plan.bellows)}"
    if plan.development_stops:
        terms += f" {_signed(-plan.development_stops)} for {plan.development}".replace(" −", " − ").replace(" +", " + ")
    marked = f"{format_aperture(plan.aperture)} at ISO {plan.speed.name} needs {format_seconds(plan.shutter_seconds)}"
    text = f"{terms} = EV {_n(plan.exposure_ev100)}; {marked}, marked {format_time(plan.shutter)} ({_signed(plan.rounding_stops)} stop)."
    if plan.corrected_seconds > plan.shutter_seconds * 1.001:
        text += f" Film's reciprocity makes it {format_seconds(plan.corrected_seconds)}."
    return text


def why_range(plan):
    """Range and development as a sum, or why there is none."""
    if plan.range_stops is None:
        return "The range needs two tones that must keep texture."
    medium = plan.brief.medium
    low, high = medium.dependable
    default = " (default)" if medium.dependable == DEPENDABLE[medium.kind] else ""
    text = (
        f"Brightest minus darkest texture, after the filters: {with_unit(_n(plan.range_stops))}; "
        f"the medium holds {_n(high - low)} ({format_zone(low)}–{format_zone(high)}{default})."
    )
    if plan.asked_step is None:
        return text
    if plan.asked_step:
        share = f"{TARGET_SPREAD:g}/{TARGET_SPREAD - plan.asked_step:g}"
        asks = format_development(plan.asked_step)
        text += f" {asks} prints it from III to {format_zone(FIRST_MOVED + plan.range_stops * TARGET_SPREAD / (TARGET_SPREAD - plan.asked_step))} ({_n(plan.range_stops)} × {share})."
    elif plan.placement.school == "shadow":
        text += f" N prints it up to {format_zone(FIRST_MOVED + plan.range_stops)}."
    if medium.developed is not None:
        text += f" Held at {format_development(medium.developed)}."
    elif plan.development is None:
        text += " The film's table does not reach so far; N is counted with."
    return text


def why_tone(tone, plan):
    """Where one tone falls and how it prints, as a sum."""
    text = f"5 + EV {_n(tone.ev100)}{_taken_before(tone)}"
    text += f" − setting {_n(plan.setting_ev100)} = {_n(tone.zone)} ({format_zone(tone.zone)})"
    push = plan.brief.medium.push_stops
    if abs(tone.shift_stops) > TOLD or push:
        source = "as read through the filter" if tone.settled else "filter and medium"
        unsure = f" ± {_n(tone.error_stops)}" if tone.error_stops > TOLD else ""
        moved = f"{source} {_signed(tone.shift_stops)}{unsure}" if abs(tone.shift_stops) > TOLD else ""
        pushed = f"push {_signed(-push)}" if push else ""
        text += f"; {', '.join(filter(None, (moved, pushed)))}: falls on {_n(tone.fall)} ({format_zone(tone.fall)})"
    if abs(tone.printed - tone.fall) > TOLD:
        text += f"; {_way_to_the_print(plan)} {format_zone(tone.printed)}"
    return text + "."


def _way_to_the_print(plan):
    """What turns a fall into its print, in words."""
    printing, medium = plan.printing, plan.brief.medium
    said = []
    if printing.lift:
        said.append(f"lifted by {_n(printing.lift)}")
    if printing.step:
        said.append(format_development(printing.step))
    if any(printing.tone):
        said.append("the setup")
    if not medium.is_film:
        said.append("the sensor's curve" if medium.kind == "digital raw" else "the file's curve")
    return f"{' and '.join(said) or 'the paper'} prints it on" if len(said) < 2 else f"{', '.join(said)} print it on"


def dial_words(plan):
    """What to dial in an automatic mode, or None without a placed tone."""
    if plan.dial_stops is None:
        return None
    # In the camera's own steps: halves have no thirds.
    return format_stops(plan.dial_stops, 2 if plan.brief.increment == "half" else 3, signed=True)


def _n(value):
    """A number of stops with two decimals, without needless zeros, with a true minus."""
    text = f"{value:.2f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text.replace("-", "−")


def _signed(value):
    text = _n(value)
    return text if text == "0" or text.startswith("−") else f"+{text}"
