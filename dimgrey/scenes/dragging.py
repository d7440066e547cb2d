"""What the scripts answer a moving hand with, tabulated by the core: prints of falls, words of zones, marked times and apertures.

Between the act that made them and the next one nothing in them changes: placing moves all falls by the same stops.
"""

from dataclasses import replace

from dimgrey.core.document.tonebriefing import UPPER_MIDDLE
from dimgrey.core.measure.stops import APERTURES, TIMES, aperture_stops, format_aperture, format_time, time_stops
from dimgrey.core.planning.development import undeveloped_zone
from dimgrey.core.planning.prints import falls_of
from dimgrey.core.sky.dome import crossed_share
from dimgrey.scenes.histogram import LOWEST, PER_ZONE

HILL_PARTS = 10000
"""Shares of the hill are sent in ten-thousandths."""
TURNS = tuple(range(0, 46, 5))
"""Degrees from the deepest sky that a polarizer is turned by."""
EDGES = 51
STEPS = 12
"""Steps of a zone that falls are tabulated in."""


def live_of(situation):
    """Plain values for the desk's scripts, {} before a plan.

    falls: at which fall each print stands, twelve to a zone from 0 to X. words: of prints, twelve to a zone, each that of what begins there. tones:
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
        "words": [words.zone(k / STEPS) for k in range(10 * STEPS + 1)],
        "tones": {marks[tone.name]: round(tone.fall, 4) for tone in plan.tones},
        "holds": [round(undeveloped_zone(limit, plan.printing.step), 4) for limit in plan.brief.medium.outer],
        "textured": [marks[tone.name] for tone in plan.tones if tone.needs_texture],
        "hill": [round(share * HILL_PARTS) for share in situation.fall_counts],
        "hillFrom": LOWEST,
        "hillPer": PER_ZONE,
        "side": _side(plan),
        "placed": marks.get(plan.placement.tone, ""),
        "turn": _turn(situation),
        "edge": _edge(situation),
    }


def _turn(situation):
    """What turning the polarizer does, for each of TURNS: crossed, how much of its effect is left; tones: mark -> stops that a
    tone gains against now. None without a polarizer that has a sky to act on."""
    polarizer = situation.overhead.polarizer
    if polarizer is None:
        return None
    now = {
        tone.name: tone.polarized_stops for tone in situation.plan.tones if tone.role == "sky" and tone.polarized_stops
    }
    gained = lambda turned, entry: round(
        float(replace(polarizer, turned_deg=float(turned)).stops(*(entry.at or UPPER_MIDDLE))) + now[entry.name], 4
    )
    entries = [entry for entry in situation.document.tones if entry.name in now]
    return {
        "steps": list(TURNS),
        "crossed": [round(crossed_share(turned), 4) for turned in TURNS],
        "tones": {entry.mark: [gained(turned, entry) for turned in TURNS] for entry in entries},
    }


def _edge(situation):
    """What moving the edge of graduated glass does: at, where it stands; tones: mark -> stops that a tone gains against now at
    each of EDGES heights from the top to the bottom. None without an edge."""
    at = graduated_edge(situation.document)
    if at is None:
        return None
    brief, marks = situation.brief, situation.document.marks

    def gained(tone, edge):
        glasses = tuple(replace(g, edge=edge) if g.edge is not None else g for g in brief.filters)
        return round(brief.held_back_stops(tone) - replace(brief, filters=glasses).held_back_stops(tone), 4)

    heights = [k / (EDGES - 1) for k in range(EDGES)]
    tones = [tone for tone in brief.tones if tone.evs and tone.height is not None]
    return {"at": at, "tones": {marks[tone.name]: [gained(tone, edge) for edge in heights] for tone in tones}}


def graduated_edge(document):
    """Where the edge of graduated glass stands, as a fraction from the top; None where none has one."""
    return next((float(glass.edge) for glass in document.filters if glass.edge is not None), None)


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
