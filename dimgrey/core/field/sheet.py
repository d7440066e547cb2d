"""What the field page shows of a scene, in words and numbers ready to be drawn: made here for the desk's first answer and on the phone.

No rules of its own: it asks plan, cautions and the words that the sheet has.
"""

from dataclasses import asdict

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document.kituse import glass_of
from dimgrey.core.document.lightplan import lamp_case
from dimgrey.core.document.lightscale import light_scale, ring_radius, shown_stops
from dimgrey.core.document.meansedits import is_coloured
from dimgrey.core.document.meansline import filter_line, means_line
from dimgrey.core.document.onroll import on_roll
from dimgrey.core.document.tonebriefing import tone_ev
from dimgrey.core.errors import CoreError
from dimgrey.core.judging.proposals import IntentLine, intent_line
from dimgrey.core.measure.readings import STALE_LOW_SUN_MINUTES, STALE_MINUTES
from dimgrey.core.measure.stops import format_stops, format_time
from dimgrey.core.measure.surfaces import surface_named
from dimgrey.core.planning import explain, planwords
from dimgrey.core.planning.separation import choice_names
from dimgrey.core.planning.tonewords import Words, divisions_of
from dimgrey.core.planning.wishes import wanted_of
from dimgrey.core.sky.skyview import seen_through


def sheet(document, carried, labels="zones"):
    """Everything that the field page shows, plain values. document: Document. carried: Carried. labels: "zones" or "stops".

    Where the document cannot be read it says so in `wait`, and has no exposure.
    """
    document = on_roll(document, carried.rolls)
    words = Words(labels, divisions_of(document))
    try:
        brief = carried.read_as(document)
        result, wait = planwords.plan_or_wait(brief)
    except CoreError as refused:
        return {**_nothing(document, words, carried.sky), "wait": str(refused)}
    scale = light_scale(document, carried.facts) if carried.facts else None
    sky = seen_through(carried.sky, document, result.chain if result else None) if carried.sky else None
    stops, slope = shown_stops(scale, result, brief.medium)
    return {
        **_nothing(document, words, carried.sky),
        "offered": _offered(brief, carried),
        "wait": wait,
        "line": asdict(intent_line(wanted_of(brief), result)),
        "exposure": planwords.exposure_words(result)._asdict() if result else {},
        "placed": planwords.placed_line(result, words),
        "pairs": [pair._asdict() for pair in planwords.pairs_of(result)],
        "range": planwords.range_line(result),
        "timer": planwords.timer_seconds(result),
        "seconds": result.corrected_seconds if result else 0.0,
        "why": _why(result),
        "cautions": [
            {"code": c.code, "text": c.text, "grave": c.grave}
            for c in cautions_of(result, sky, lamp_case(document, result))
        ],
        "tones": _tones(document, result, words),
        "choice": brief.colour_choice,
        "choices": list(choice_names(brief)),
        "mixes": brief.medium.mixes_channels,
        "means": means_line(document, result.development if result else None),
        "filter": filter_line(document, result),
        "bracket": [format_time(frame.shutter) for frame in result.bracket_frames] if result else [],
        "limits": list(brief.medium.prints_of(brief.medium.outer)),
        "ring": ring_radius(document, carried.facts) if carried.facts else 0.0,
        "view": _view(brief, result, stops, slope),
    }


def _nothing(document, words, sky):
    """What every sheet has, plan or not."""
    return {
        "title": document.title,
        "intent": document.intent,
        "notes": document.notes,
        "wait": "",
        "line": asdict(IntentLine()),
        "exposure": {},
        "tones": _tones(document, None, words),
        "cautions": [],
        "offered": [],
        "steps": words.divisions,
        "film": document.medium.is_film,
        "grey_glass": any(not is_coloured(glass) for glass in document.filters),
        "seconds": 0.0,
        "stale_minutes": STALE_LOW_SUN_MINUTES if sky and sky.is_low_sun else STALE_MINUTES,
        "lights": list(document.wanted.lights),
        "setup": document.setup.name if document.setup else "",
        "kit": {"lens": document.kit.lens or "", "film": document.kit.film or "", "camera": document.kit.camera or ""},
        "zones": [words.zone(zone) for zone in range(11)],
    }


def _offered(brief, carried):
    """Names of the kit's filters that can be put on here: coloured glass where the medium sees through it, a polarizer where what
    it takes from the sky was carried."""

    def fits(item):
        glass = glass_of(item)
        if is_coloured(glass):
            return not brief.medium.mixes_channels
        return glass.name != "polarizer" or carried.polarizer is not None

    return [name for name, item in carried.kit.get("filter", {}).items() if fits(item)]


def _why(result):
    if result is None:
        return []
    return [explain.why_setting(result), explain.why_exposure(result), explain.why_filter(result)]


def _tones(document, result, words):
    planned = {tone.name: tone for tone in result.tones} if result else {}
    return [_tone(entry, planned.get(entry.name), document, result, words) for entry in document.tones]


def _tone(entry, fallen, document, result, words):
    ev = fallen.ev100 if fallen else _ev(entry, document)
    surface = None if "name" in entry.guessed else surface_named(entry.name)
    apart = fallen and abs(fallen.fall - fallen.printed) > planwords.APART
    return {
        "mark": entry.mark,
        "name": entry.name,
        "role": entry.role or "other",
        "at": list(entry.at) if entry.at else None,
        "ev": "—" if ev is None else format_stops(ev),
        "print": fallen.printed if fallen else None,
        "printed": words.printed(fallen.print) if fallen else "",
        "fall": words.zone(fallen.fall) if apart else "",
        "kept": round(result.kept_zone(fallen), 4) if fallen else None,
        "texture": planwords.texture_words(fallen),
        "lost": bool(fallen and fallen.needs_texture and fallen.texture == "lost"),
        "placed": bool(result and result.placement.tone == entry.name),
        "usual": "usually {}, {}".format(*words.surface(surface)) if surface else "",
        "lit": entry.lit or "",
        "read_at": [reading.taken_at for reading in entry.deciding_readings if not reading.is_of_picture],
    }


def _ev(entry, document):
    try:
        return tone_ev(entry, document)
    except CoreError:
        return None


def _view(brief, result, stops, slope):
    """How the picture is painted: choice names its chain's table, tones that of its greys, stops by how much it is lighter."""
    step = result.printing.step if result else 0
    return {
        "tables": tables_key(brief.colour_choice, step, brief.medium.tone, slope),
        "stops": stops,
        "slope": slope,
    }


def tables_key(choice, step, tone, slope):
    """Name of what a picture is painted with. choice: filter or mix. step: of development. tone: of a setup. slope: of the light."""
    return f"{choice}|{step}|{'|'.join(f'{value:g}' for value in tone)}|{slope:.4f}"
