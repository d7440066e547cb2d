"""What the sighting ring sees, in words: EV, time and aperture, zone, spread, fitting names."""

from dimgrey.core.colour.chain import LUMINANCE, tone_shift_stops
from dimgrey.core.document.edits import suggested_names
from dimgrey.core.measure.exposure import exposure_time_s, marked_time
from dimgrey.core.measure.notation import parse_aperture
from dimgrey.core.measure.stops import format_aperture, format_stops, format_time
from dimgrey.core.planning.zones import zone_of
from dimgrey.scenes import light
from dimgrey.scenes.pins import sky_at

USUAL_APERTURE = "f/8"


def sighted(situation, x, y):
    """What a meter pointed at fractions x, y of the picture says. Raises CoreError."""
    document = situation.document
    seen = light.meter_of(document, situation.picture).read(x, y, float(document.meter.spot_deg))
    answer = {
        "spread": f"{seen.spread_stops:.1f}",
        "mixed": seen.spot.mixed,
        "clipped": seen.spot.is_clipped,
        "names": [suggested.name for suggested in suggested_names(document, seen.spot, y)],
    }
    if situation.scale is None:
        answer["ev"] = f"{format_stops(seen.spot.mean_stops, signed=True)} from middle"
        return answer
    answer["ev"] = f"EV {format_stops(seen.ev100)}"
    if seen.spot.mixed:
        answer["ends"] = f"{format_stops(seen.low_ev100)} to {format_stops(seen.high_ev100)}"
    shutter, aperture = pair_for(seen.ev100, situation)
    answer["pair"] = f"{format_time(shutter)} {format_aperture(aperture)}"
    if situation.plan:
        answer["zone"] = situation.words.printed(_print_under_the_ring(seen, situation, sky_at(situation, (x, y))))
    return answer


def _print_under_the_ring(seen, situation, sky):
    """Print of what the ring sees, through filter, development and setup: the grey that the picture shows there."""
    plan = situation.plan
    shift = tone_shift_stops(plan.chain, seen.spot.colour, LUMINANCE, sky=sky)
    return plan.printing.print(zone_of(seen.ev100, plan.setting_ev100) + shift - plan.brief.medium.push_stops)


def pair_for(ev100, situation):
    """(shutter, aperture) that a meter would show for an EV, at the scene's speed and aperture."""
    increment = situation.document.increment
    aperture = parse_aperture(situation.document.camera.aperture or USUAL_APERTURE, increment)
    seconds = exposure_time_s(ev100, aperture.exact, situation.brief.medium.iso)
    return marked_time(seconds, increment), aperture
