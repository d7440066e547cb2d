"""Pins whose picture shows another grey than their readings have, and by how much: readings govern, the picture follows them all."""

import math

from dimgrey.core.colour.chain import LUMINANCE, tone_shift_stops
from dimgrey.core.colour.filters import graduated_share
from dimgrey.core.planning.zones import zone_of
from dimgrey.pictures.store import sky_covers

TOLD_ZONES = 1 / 3


def pins_apart(situation):
    """mark -> words for each pin that the picture shows at least a third of a zone away from the tone's print."""
    planned = {tone.name: tone for tone in situation.plan.tones}
    found = {}
    for entry in situation.document.tones:
        tone, seen = planned.get(entry.name), entry.picture_reading
        if tone is None or seen is None or entry.at is None or entry.colour is None:
            continue
        shown = pin_print(situation, entry, seen.stops)
        if shown is not None and abs(shown.zone - tone.printed) >= TOLD_ZONES:
            found[entry.mark] = (
                f"The picture shows {situation.words.printed(shown)} here: {_why(situation, entry, tone)}."
            )
    return found


def pin_print(situation, entry, stops):
    """Print that the picture shows at a pin, or None while its light has no scale. stops: of the pin, from the picture's middle."""
    scale, plan = situation.scale, situation.plan
    if scale is None:
        return None
    sky = sky_at(situation, entry.at)
    shift = tone_shift_stops(plan.chain, _colour(situation, entry), LUMINANCE, sky=sky)
    if sky and (polarizer := situation.overhead.polarizer):
        shift += float(polarizer.stops(*entry.at))
    shift -= sum(by * float(graduated_share(entry.at[1], edge)) for by, edge in situation.overhead.graduated)
    ev = scale.offset + scale.slope * stops
    return plan.printing.print(zone_of(ev, plan.setting_ev100) + scale.slope * shift - plan.brief.medium.push_stops)


def sky_at(situation, at):
    """Whether a place lies in the picture's sky. at: fractions of width and height."""
    return sky_covers(situation.picture.path, situation.overhead.outline, *at)


def _colour(situation, entry):
    return next(tone.colour for tone in situation.brief.tones if tone.name == entry.name)


def _why(situation, entry, tone):
    """What sets a pin apart, the likeliest reason."""
    if tone.settled:
        return "the tone was read through the filter"
    if entry.role == "sky" and not sky_at(situation, entry.at):
        return "the sky area of the picture does not hold this tone"
    if any(reading.shift and not math.isclose(reading.shift, 0) for reading in entry.readings):
        return "the light changed since"
    if tone.held_back_stops:
        return "where the graduated filter has its edge is not said"
    if tone.polarized_stops:
        return "what the polarizer takes here is not drawn in the picture"
    return "its readings and the picture's light differ"
