"""Readings that are asked about before they count: those that contradict the picture, or the readings before them."""

from dimgrey.core.document.tonebriefing import corrected_ev
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.stops import counted_stops, format_stops

CONTRADICTS_PICTURE_STOPS = 3.0
FAR_FROM_OTHERS_STOPS = 1.0
"""Limits of HANDBOOK 2 and 3: a mean over more would be nobody's tone."""


def doubt_about(document, mark, reading):
    """The question that a new typed Reading of a tone raises, "" when it raises none.

    A reading at a pin moves the whole picture's light, so one that lies far from what the picture has is asked about first.
    An incident reading says how bright the light is and not the tone, and is compared with other incident ones only.
    """
    tone = document.tone(mark)
    if tone is None or reading.through:
        return ""  # through a filter a tone may well be three stops away
    same = [r for r in tone.plain_readings if (r.kind == "incident") == (reading.kind == "incident")]
    try:
        ev = corrected_ev(reading, document)
        before = [corrected_ev(each, document) for each in same]
    except CoreError:
        return ""  # the reading itself is refused, in a sentence of its own
    if before:
        mean = sum(before) / len(before)
        if abs(ev - mean) > FAR_FROM_OTHERS_STOPS:
            return (
                f"EV {format_stops(ev)} is {counted_stops(abs(ev - mean))} from the reading of {tone.name} before "
                f"(EV {format_stops(mean)}). Replace that one, keep both, or add another tone for another part of it."
            )
        return ""
    seen = tone.picture_reading
    if reading.kind != "incident" and seen and seen.ev100 is not None:
        off = ev - float(seen.ev100)
        if abs(off) > CONTRADICTS_PICTURE_STOPS:
            return (
                f"The picture has {tone.name} at EV {format_stops(float(seen.ev100))}, {counted_stops(abs(off))} away, and this "
                "reading would move all pins. Is it the right tone, and was it the same light?"
            )
    return ""
