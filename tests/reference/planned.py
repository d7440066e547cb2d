"""All that a plan says of a scene file, as plain values, by the core alone: told at the desk and where NumPy is not, to be compared."""

import random
from dataclasses import asdict

from dimgrey.core.cautions.every import cautions_of
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.plainform import document_of
from dimgrey.core.errors import CoreError
from dimgrey.core.judging.proposals import intent_line, proposals_of
from dimgrey.core.planning import explain, separation
from dimgrey.core.planning.otherschools import other_schools
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.planfile import plan_as_json
from dimgrey.core.planning.wishes import wanted_of
from tests.reference.random_scenes import random_scene

COUNT = 150


def files():
    """Scene files of the plan's test set, plain data."""
    return [random_scene(random.Random(9100 + seed)) for seed in range(COUNT)]


def planned(data):
    """What the core makes of a scene file, plain values; a sentence where it refuses."""
    try:
        document = document_of(data)
        result = plan(brief_of(document))
    except CoreError as refused:
        return f"{type(refused).__name__}: {refused}"
    judged = proposals_of(document, result, brief_of)
    return {
        "plan": plan_as_json(result, cautions_of(result)),
        "exact": [
            result.setting_ev100,
            result.exposure_ev100,
            result.shutter_seconds,
            result.corrected_seconds,
            *(number for tone in result.tones for number in (tone.zone, tone.fall, tone.printed, tone.error_stops)),
        ],
        "why": [
            explain.why_setting(result),
            explain.why_filter(result),
            explain.why_exposure(result),
            explain.why_range(result),
            *(explain.why_tone(tone, result) for tone in result.tones),
        ],
        "line": asdict(intent_line(wanted_of(result.brief), result, judged)),
        "proposals": [[each.code, each.gain, each.setting] for each in judged.proposals],
        "others": len(other_schools(result)),
        "choices": [
            [each.name, each.stops, each.score.value, [[p.zones_apart, p.word] for p in each.parted]]
            for each in (separation.colour_choices(result) if len(result.tones) > 1 else ())
        ],
    }


def chains(data):
    """`through` of every chain that a plan of a scene file may ask for, plain filters and those on its lens."""
    try:
        brief = brief_of(document_of(data))
    except CoreError:
        return []
    return separation.chains_of(brief)
