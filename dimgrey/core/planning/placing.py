"""Placing: one tone on one zone gives the camera setting."""

from dataclasses import dataclass

from dimgrey.core.errors import NotPlaced
from dimgrey.core.planning.schools import SCHOOLS, default_zone, tone_for
from dimgrey.core.planning.zones import require_zone, setting_for


@dataclass(frozen=True)
class Placement:
    """The decision: which tone (None for midpoint) on which zone, and the camera setting in EV100 that follows."""

    school: str
    tone: str | None
    zone: float
    setting_ev100: float


def place(school, tones, medium, tone_name=None, zone=None, after_filter_shift=None, white="textured", shadows="full"):
    """Placement of one tone by a school, ``EV(setting) = EV(tone) + 5 - zone``.

    white: "textured" or "pure". shadows: "full" or "empty". tones: the tones that were read. tone_name, zone: the photographer's choice; None leaves it to the school.
    after_filter_shift: function of a tone giving its shift in stops, to hold the zone after the filter; None holds it
    before, the classic practice. Raises NotPlaced with the way out; OutOfRange for a zone outside 0..10.
    """
    zone = default_zone(school, medium, white, shadows) if zone is None else require_zone(zone)
    if school == "midpoint":
        return Placement(school, None, zone, _midpoint(tones, zone, after_filter_shift))
    tone = _named(tones, tone_name) if tone_name else tone_for(school, tones, white, shadows)
    if tone is None:
        raise NotPlaced(
            f"No tone is placed. “{SCHOOLS[school].name}” needs {SCHOOLS[school].wants}: choose a tone and its zone.",
            parameter="placing",
            code="nothing-placed",
        )
    shift = after_filter_shift(tone) if after_filter_shift else 0.0
    return Placement(school, tone.name, zone, setting_for(tone.ev100 + shift, zone))


def _named(tones, name):
    for tone in tones:
        if tone.name == name:
            return tone
    raise NotPlaced(
        f"The placed tone “{name}” has no reading. Read it, or place another tone.",
        parameter="placing.tone",
        code="placed-unread",
    )


def _midpoint(tones, zone, after_filter_shift):
    shift = after_filter_shift or (lambda tone: 0.0)
    evs = [tone.ev100 + shift(tone) for tone in tones if tone.needs_texture]
    if len(evs) < 2:
        raise NotPlaced(
            "Midpoint needs two tones with texture, a dark and a bright one. Read both, or choose another school.",
            parameter="placing",
            code="nothing-placed",
        )
    return setting_for((min(evs) + max(evs)) / 2, zone)
