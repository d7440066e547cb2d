"""Placing: one tone on one zone gives the camera setting. Which of a tone's places the zone means is its `hold`."""

from collections.abc import Callable
from dataclasses import dataclass

from dimgrey.core.errors import NotPlaced
from dimgrey.core.planning.schools import KNOWN, SCHOOLS, default_zone, is_of_school, tone_for
from dimgrey.core.planning.zones import MIDDLE, require_zone, setting_for

HOLDS = BEFORE, AFTER, IN_THE_PRINT = "before filter", "after filter", "in the print"
MOVED_BY_DEVELOPMENT = ("highlight", "known tone", "midpoint")
"""Schools whose tone a development other than N would take off the zone that it was placed on."""


@dataclass(frozen=True)
class Placement:
    """The decision: which tone (None for midpoint) on which zone, and the camera setting in EV100 that follows.

    school: the one that this is: a chosen tone that its school would not have placed is a known tone.
    hold: what the zone is a place of, the tone's light before or after the filter, or its print.
    """

    school: str
    tone: str | None
    zone: float
    setting_ev100: float
    hold: str = BEFORE


def _as_it_is(zone):
    return zone


@dataclass(frozen=True)
class Hold:
    """What a placed zone means. seen: from a tone to the EV100 that counts. fall: from a zone to where that light must fall.

    usual: from the fall that a school aims at to the zone that is said for it.
    """

    name: str
    seen: Callable
    fall: Callable = _as_it_is
    usual: Callable = _as_it_is


def usual_hold(school, medium, step):
    """The hold when none was chosen: in the print where development or a setup would move the placed tone away, else before
    the filter, as exposure habits and headroom have it. school: one of SCHOOLS. step: of the film's development."""
    moved = medium.kind == "film" and step and school in MOVED_BY_DEVELOPMENT
    return IN_THE_PRINT if moved or any(medium.tone) else BEFORE


def place(school, tones, medium, hold, tone_name=None, zone=None, white="textured", shadows="full"):
    """Placement of one tone by a school, ``EV(setting) = EV(tone) + 5 - zone``.

    tones: the tones that were read. hold: Hold. tone_name, zone: the photographer's choice; None leaves it to the school.
    white: "textured" or "pure". shadows: "full" or "empty". Raises NotPlaced with the way out; OutOfRange for a zone
    outside 0..10.
    """
    if zone is None:
        usual = default_zone(school, medium, white, shadows)
        zone = usual if _is_wish(school, white, shadows) else hold.usual(usual)
    zone = require_zone(zone)
    if school == "midpoint":
        return Placement(school, None, zone, _midpoint(tones, hold, zone), hold.name)
    tone = _named(tones, tone_name) if tone_name else tone_for(school, tones, white, shadows, hold.seen)
    if tone is None:
        raise NotPlaced(
            f"No tone is placed. “{SCHOOLS[school].name}” needs {SCHOOLS[school].wants}: choose a tone and its zone.",
            parameter="placing",
            code="nothing-placed",
        )
    if not is_of_school(school, tone, tones, white, shadows, hold.seen):
        school = KNOWN
    if school == "incident" and tone.incident:
        setting = sum(tone.incident) / len(tone.incident) + MIDDLE - zone
        return Placement(school, tone.name, zone, setting, BEFORE)
    return Placement(school, tone.name, zone, setting_for(hold.seen(tone), hold.fall(zone)), hold.name)


def _is_wish(school, white, shadows):
    """Whether the school's own zone is what shall be seen, not what the medium holds."""
    return school == "highlight" and white == "pure" or school == "shadow" and shadows == "empty"


def _named(tones, name):
    for tone in tones:
        if tone.name == name:
            return tone
    raise NotPlaced(
        f"The placed tone “{name}” has no reading. Read it, or place another tone.",
        parameter="placing.tone",
        code="placed-unread",
    )


def _midpoint(tones, hold, zone):
    evs = [hold.seen(tone) for tone in tones if tone.needs_texture]
    if len(evs) < 2:
        raise NotPlaced(
            "Midpoint needs two tones with texture, a dark and a bright one. Read both, or choose another school.",
            parameter="placing",
            code="nothing-placed",
        )
    return setting_for((min(evs) + max(evs)) / 2, hold.fall(zone))
