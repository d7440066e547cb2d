"""What the scripts answer a moving hand with, tabulated by the core: prints of falls, words of zones, marked times and apertures.

Between the act that made them and the next one nothing in them changes: placing moves all falls by the same stops.
"""

from dimgrey.core.measure.stops import APERTURES, TIMES, aperture_stops, format_aperture, format_time, time_stops
from dimgrey.core.planning.development import undeveloped_zone
from dimgrey.core.planning.prints import falls_of
from dimgrey.scenes.hill import LOWEST, PER_ZONE

HILL_PARTS = 10000
"""Shares of the hill are sent in ten-thousandths."""
STEPS = 12
"""Steps of a zone that falls are tabulated in."""


def live_of(situation):
    """Plain values for the desk's scripts, {} before a plan.

    falls: at which fall each print stands, twelve to a zone from 0 to X. words: of prints, in the camera's divisions. tones:
    mark -> fall. holds: falls beyond which texture is lost. textured: marks of the tones that need it. side: which of time and aperture follows, its marked values as [stops, words], its exact stops now, and
    which way more light moves it. hill: share of the picture at each sixth of fall from hillFrom on.
    """
    plan, words = situation.plan, situation.words
    if plan is None:
        return {}
    marks = situation.document.marks
    return {
        "perZone": STEPS,
        "falls": [round(fall, 3) for fall in falls_of(plan.printing, STEPS)],
        "words": [words.zone(k / words.divisions) for k in range(10 * words.divisions + 1)],
        "tones": {marks[tone.name]: round(tone.fall, 4) for tone in plan.tones},
        "holds": [round(undeveloped_zone(limit, plan.printing.step), 4) for limit in plan.brief.medium.outer],
        "textured": [marks[tone.name] for tone in plan.tones if tone.needs_texture],
        "hill": [round(share * HILL_PARTS) for share in situation.fall_counts],
        "hillFrom": LOWEST,
        "hillPer": PER_ZONE,
        "side": _side(plan),
    }


def _side(plan):
    """The side of the exposure that follows a placing: the time, or the aperture where the time was chosen; None for neither."""
    brief = plan.brief
    if brief.shutter and brief.aperture:
        return None
    if brief.shutter:
        exact = aperture_stops(plan.aperture.exact)
        series = [[round(marked.stops, 4), format_aperture(marked)] for marked in APERTURES[brief.increment]]
        return {"name": "aperture", "marked": series, "now": round(exact, 4), "way": -1}
    series = [[round(marked.stops, 4), format_time(marked)] for marked in TIMES[brief.increment]]
    return {"name": "shutter", "marked": series, "now": round(time_stops(plan.shutter_seconds), 4), "way": 1}
