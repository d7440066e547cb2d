"""What the sighting ring sees, in words: EV, time and aperture, zone, spread. The same at the desk and in the field."""

from dimgrey.core.colour.chain import LUMINANCE, tone_shift_stops
from dimgrey.core.measure.exposure import exposure_time_s, marked_time
from dimgrey.core.measure.metering import SHARES_FROM, SHARES_PER_STOP
from dimgrey.core.measure.notation import parse_aperture
from dimgrey.core.measure.stops import format_aperture, format_stops, format_time
from dimgrey.core.picture.outline import require_outline
from dimgrey.core.planning.zones import MIDDLE, zone_of

USUAL_APERTURE = "f/8"
HILL_PER_ZONE = 2


def sighted_words(document, brief, result, scale, seen, is_sky, words):
    """What a meter's answer says, in words and shares, plain values.

    document, brief: of the scene. result: its Plan, or None before one. scale: LightScale of the picture, or None. seen: the
    meter's answer. is_sky: () -> whether it lies in the picture's sky, asked
    once a plan needs it. words: planning.tonewords.Words. Raises CoreError.
    """
    answer = {
        "spread": f"{seen.spot.spread_stops * (scale.slope if scale else 1.0):.1f}",
        "mixed": seen.spot.mixed,
        "clipped": seen.spot.is_clipped,
    }
    if scale is None or result is None:
        answer["hill"] = _hill(seen.spot, lambda stops: MIDDLE + stops)
    if scale is None:
        return {**answer, "ev": f"{format_stops(seen.spot.mean_stops, signed=True)} from middle"}
    answer["ev"] = f"EV {format_stops(seen.ev100)}"
    if seen.spot.mixed:
        answer["ends"] = f"{format_stops(seen.low_ev100)} to {format_stops(seen.high_ev100)}"
    shutter, aperture = pair_for(seen.ev100, document, brief.medium.iso)
    answer["pair"] = f"{format_time(shutter)} {format_aperture(aperture)}"
    if result:
        under = print_under_the_ring(result, seen.spot.colour, is_sky())
        answer["zone"] = words.printed(under(seen.ev100))
        answer["hill"] = _hill(seen.spot, lambda stops: under(scale.offset + scale.slope * stops).zone)
    return answer


def sky_outline(document):
    """The sky of a Document's picture: None where it is to be found in it, () for none, else its corners."""
    sky = document.sky
    # As exact as an address carries it, so that one area is not found twice.
    return require_outline(sky.outline) if sky.area == "drawn" else {"found": None, "none": ()}[sky.area]


def print_under_the_ring(result, colour, sky):
    """EV100 -> the print of that light through filter, development and setup: the grey that the picture shows there.

    result: Plan. colour: linear sRGB under the ring. sky: it lies in the sky.
    """
    shift = tone_shift_stops(result.chain, colour, LUMINANCE, sky=sky)
    push = result.brief.medium.push_stops
    return lambda ev100: result.printing.print(zone_of(ev100, result.setting_ev100) + shift - push)


def _hill(spot, zone_of_stops):
    """Shares of the spot in each half zone of print from 0 to X; of the picture's own stops around middle grey before a plan."""
    shares = [0.0] * (10 * HILL_PER_ZONE)
    for k, share in enumerate(spot.shares):
        if share:
            zone = zone_of_stops(SHARES_FROM + (k + 0.5) / SHARES_PER_STOP)
            shares[min(max(int(zone * HILL_PER_ZONE), 0), len(shares) - 1)] += share
    return [round(share, 3) for share in shares]


def pair_for(ev100, document, iso):
    """(shutter, aperture) that a meter would show. ev100: of the light. document: for increment and aperture. iso: exact speed."""
    aperture = parse_aperture(document.camera.aperture or USUAL_APERTURE, document.increment)
    return marked_time(exposure_time_s(ev100, aperture.exact, iso), document.increment), aperture
