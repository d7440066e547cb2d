"""What the sighting ring sees, in words: EV, time and aperture, zone, spread, fitting names."""

from dimgrey.core.colour.chain import LUMINANCE, tone_shift_stops
from dimgrey.core.document.edits import suggested_names
from dimgrey.core.measure.exposure import exposure_time_s, marked_time
from dimgrey.core.measure.metering import SHARES_FROM, SHARES_PER_STOP
from dimgrey.core.measure.notation import parse_aperture
from dimgrey.core.measure.stops import format_aperture, format_stops, format_time
from dimgrey.core.planning.zones import MIDDLE, zone_of
from dimgrey.scenes import light
from dimgrey.scenes.pins import sky_at

USUAL_APERTURE = "f/8"
HILL_PER_ZONE = 2


def sighted(situation, x, y):
    """What a meter pointed at fractions x, y of the picture says. Raises CoreError."""
    document = situation.document
    seen = light.meter_of(document, situation.picture).read(x, y, float(document.meter.spot_deg))
    answer = {
        "spread": f"{seen.spread_stops:.1f}",
        "mixed": seen.spot.mixed,
        "clipped": seen.spot.is_clipped,
        "hill": _hill(seen, situation, (x, y)),
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
        answer["zone"] = situation.words.printed(
            _print_under_the_ring(seen.ev100, seen.spot, situation, sky_at(situation, (x, y)))
        )
    return answer


def _print_under_the_ring(ev100, spot, situation, sky):
    """Print of light that the ring sees, through filter, development and setup: the grey that the picture shows there."""
    plan = situation.plan
    shift = tone_shift_stops(plan.chain, spot.colour, LUMINANCE, sky=sky)
    return plan.printing.print(zone_of(ev100, plan.setting_ev100) + shift - plan.brief.medium.push_stops)


def _hill(seen, situation, at):
    """Shares of the spot in each half zone of print from 0 to X; of the picture's own stops around middle grey before a plan."""
    scale, planned = situation.scale, situation.plan is not None and situation.scale is not None
    sky = planned and sky_at(situation, at)
    shares = [0.0] * (10 * HILL_PER_ZONE)
    for k, share in enumerate(seen.spot.shares):
        if not share:
            continue
        stops = SHARES_FROM + (k + 0.5) / SHARES_PER_STOP
        zone = MIDDLE + stops
        if planned:
            zone = _print_under_the_ring(scale.offset + scale.slope * stops, seen.spot, situation, sky).zone
        shares[min(max(int(zone * HILL_PER_ZONE), 0), len(shares) - 1)] += share
    return [round(share, 3) for share in shares]


def pair_for(ev100, situation):
    """(shutter, aperture) that a meter would show for an EV, at the scene's speed and aperture."""
    increment = situation.document.increment
    aperture = parse_aperture(situation.document.camera.aperture or USUAL_APERTURE, increment)
    seconds = exposure_time_s(ev100, aperture.exact, situation.brief.medium.iso)
    return marked_time(seconds, increment), aperture
