"""How each number of a plan was reached, in one line: the sums behind "why this?"."""

from dimgrey.core.measure.stops import format_aperture, format_seconds, format_stops, format_time
from dimgrey.core.planning.media import DEPENDABLE
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.planning.zones import format_zone


def why_setting(plan):
    """The placing as a sum."""
    placed, zone = plan.placed, format_zone(plan.placement.zone)
    if placed is None:
        return f"Half of darkest plus brightest texture goes on {zone}: setting EV {_n(plan.setting_ev100)}."
    held = plan.brief.choice.hold == "after filter" and abs(placed.shift_stops) > 0.005
    shift = f" {_signed(placed.shift_stops)} (filter shift)" if held else ""
    return (
        f"EV {_n(placed.ev100)} of {placed.name}{shift} + 5 − {_n(plan.placement.zone)} ({zone}) "
        f"= setting EV {_n(plan.setting_ev100)}."
    )


def why_school(plan_or_name):
    """The school's reason in one line."""
    return SCHOOLS[plan_or_name if isinstance(plan_or_name, str) else plan_or_name.placement.school].reason


def why_filter(plan):
    """What the filters cost and what greys they make."""
    cost, chain = plan.filter_cost, plan.chain
    weights = ", ".join(
        f"{name} {weight:.2f}" for name, weight in zip(("red", "green", "blue"), chain.weights, strict=True)
    )
    source = f"{plan.brief.medium.response}" if plan.brief.medium.response else "the camera's own channel mix"
    parts = [f"Grey is made of {weights} ({source}, light {plan.brief.light})."]
    if plan.brief.through_filter:
        parts.append("Metered through the filter: no factor is added.")
    elif cost.printed_stops is not None:
        parts.append(
            f"Printed factor {2**cost.printed_stops:.2g}: {_n(cost.printed_stops)} stops; computed {_n(cost.computed_stops)}."
        )
    elif cost.computed_stops:
        parts.append(f"Factor {2**cost.computed_stops:.2f} from the spectra: {_n(cost.computed_stops)} stops.")
    if cost.stops - cost.coloured_stops > 0.005:
        parts.append(f"Grey filters take {_n(cost.stops - cost.coloured_stops)} stops more.")
    return " ".join(parts)


def why_exposure(plan):
    """From setting to time: filters, bellows, aperture, marking, reciprocity."""
    terms = f"Setting EV {_n(plan.setting_ev100)}"
    if plan.filter_cost.stops:
        terms += f" − filter {_n(plan.filter_cost.stops)}"
    if plan.bellows:
        terms += f" − close-up {_n(plan.bellows)}"
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
    text = f"Brightest minus darkest texture: {_n(plan.range_stops)} stops; the medium holds {_n(high - low)} ({format_zone(low)}–{format_zone(high)}{default})."
    if plan.development_step is not None:
        text += f" As the film sees it through the filter: {_n(high - low)} − {_n(high - low - _step_exact(plan))} asks for {plan.development or 'more than its table'}."
    return text


def _step_exact(plan):
    seen = [tone.zone_after_filter for tone in plan.tones if tone.needs_texture]
    low, high = plan.brief.medium.dependable
    return (high - low) - (max(seen) - min(seen))


def why_tone(tone, plan):
    """Where one tone falls, as a sum."""
    text = f"5 + EV {_n(tone.ev100)} − setting {_n(plan.setting_ev100)} = {_n(tone.zone)} ({format_zone(tone.zone)})"
    if abs(tone.shift_stops) > 0.005:
        text += f"; filter and medium {_signed(tone.shift_stops)} = {_n(tone.zone_after_filter)}"
    if abs(tone.zone_printed - tone.zone_after_filter) > 0.005:
        how = f"{plan.development} prints it on" if plan.development else "the setup puts it on"
        text += f"; {how} {format_zone(tone.zone_printed)}"
    return text + "."


def dial_words(plan):
    """What to dial in an automatic mode, or None without a placed tone."""
    if plan.dial_stops is None:
        return None
    return format_stops(plan.dial_stops, signed=True)


def _n(value):
    """A number of stops with two decimals, without needless zeros, with a true minus."""
    return f"{value:.2f}".rstrip("0").rstrip(".").replace("-", "−") or "0"


def _signed(value):
    return ("+" if value >= 0 else "") + _n(value)
