"""The plan in the open format "dimgrey-plan", version 1: exact stops, marked values as text."""

from dataclasses import asdict

from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.planning.scoring import score


def chain_as_json(chain):
    """What a Chain is made of, as plain values: response, light and glass, or a camera's mix."""
    if chain.through is None:
        return {"mix": [_tidy(w) for w in chain.weights], "bends": [list(point) for point in chain.bends]}
    response, light, filters = chain.through
    glass = [each if isinstance(each, str) else [list(point) for point in each] for each in filters]
    return {"response": response, "light": light, "filters": glass}


def plan_as_json(result, cautions=(), judged=((), (), ()), line=None):
    """A Plan as plain values. cautions: of core.cautions, to stand in it. judged: (wanted, missed, proposals) as judging.judgedfile.as_json gives
    them. line: an IntentLine, or None.
    """
    wanted, missed, proposals = judged
    placed, scored = result.placement, score(result)
    spans = {wish.tones[0]: list(wish.span) for wish, _ in scored.missed if wish.kind == "span"}
    return {
        "format": "dimgrey-plan",
        "version": 1,
        "title": result.brief.title,
        "iso": int(result.speed.name),
        "placing": {"school": placed.school, "tone": placed.tone, "zone": _tidy(placed.zone), "hold": placed.hold},
        "setting_ev100": _tidy(result.setting_ev100),
        "exposure_ev100": _tidy(result.exposure_ev100),
        "filter_stops": _tidy(result.filter_cost.stops),
        "bellows_stops": _tidy(result.bellows),
        "chain_weights": [_tidy(w) for w in result.chain.weights],
        "chain": chain_as_json(result.chain),
        "aperture": format_aperture(result.aperture),
        "shutter": format_time(result.shutter),
        "given": format_time(result.given),
        "shutter_seconds": _tidy(result.shutter_seconds),
        "corrected_seconds": _tidy(result.corrected_seconds),
        "rounding_stops": _tidy(result.rounding_stops),
        "dial_stops": None if result.dial_stops is None else _tidy(result.dial_stops),
        "tones": [
            {
                "name": tone.name,
                "role": tone.role,
                "ev100": _tidy(tone.ev100),
                "zone": _tidy(tone.zone),
                "zone_after_filter": _tidy(tone.fall),
                "fall": _tidy(tone.fall),
                "print": _tidy(tone.printed),
                "beyond_paper": tone.print.beyond,
                "wish": spans.get(tone.name),
                "texture": tone.texture,
                "needs_texture": tone.needs_texture,
                "held": _tidy(tone.held),
                "shift_error_stops": _tidy(tone.error_stops),
            }
            for tone in result.tones
        ],
        "score": {
            "value": _tidy(scored.value),
            "wishes": [
                {"wish": wish.words, "missed_by": _tidy(zones), "source": wish.source} for wish, zones in scored.missed
            ],
            "costs": {name: _tidy(cost) for name, cost in scored.costs.items()},
        },
        "intent": asdict(line) if line else {},
        "wanted": list(wanted),
        "missed": list(missed),
        "proposals": list(proposals),
        "range_stops": None if result.range_stops is None else _tidy(result.range_stops),
        "development": result.development,
        "development_minutes": result.development_minutes,
        "development_stops": _tidy(result.development_stops),
        "bracket": [
            {
                "offset_stops": _tidy(f.offset_stops),
                "shutter": format_time(f.shutter),
                "seconds": _tidy(f.seconds),
                "holds": list(f.holds),
            }
            for f in result.bracket_frames
        ],
        "crop": list(result.brief.crop) if result.brief.crop else None,
        "combinations": [
            {
                "aperture": format_aperture(pair.aperture),
                "shutter": format_time(pair.shutter),
                "seconds": _tidy(pair.seconds),
                "rounding_stops": _tidy(pair.rounding_stops),
            }
            for pair in result.combinations
        ],
        "cautions": [{"code": c.code, "tone": c.about, "text": c.text} for c in cautions],
    }


def _tidy(value):
    """Six significant decimals: enough for 1e-6 stop, without the noise of binary fractions."""
    return round(float(value), 6) + 0.0
