"""Schools of placing: which tone decides the exposure, and on which zone it goes."""

from dataclasses import dataclass

from dimgrey.core.errors import NotPlaced
from dimgrey.core.planning.zones import MIDDLE, require_zone, setting_for


@dataclass(frozen=True)
class School:
    """One way of choosing the exposure: `name` for people, `reason` in one line, and which tone it wants."""

    name: str
    reason: str
    wants: str


SCHOOLS = {
    "shadow": School(
        "Shadow first",
        "Negative film cannot recover an empty shadow, so the darkest tone with texture is placed; development holds the light end.",
        "the darkest tone that needs texture",
    ),
    "highlight": School(
        "Highlight first",
        "A sensor or slide clips without warning, so the brightest tone with texture is placed just inside its limit.",
        "the brightest tone that needs texture",
    ),
    "silhouette": School(
        "Silhouette",
        "The bright background is placed and the figure before it falls below I, a shape without detail.",
        "the background or sky",
    ),
    "known tone": School(
        "Known tone",
        "A tone whose grey you are sure of goes on its zone; everything else falls where it falls.",
        "any tone you know",
    ),
    "midpoint": School(
        "Midpoint",
        "Halfway between the darkest and the brightest tone with texture lies on V; both ends lose alike.",
        "no single tone",
    ),
    "incident": School(
        "Incident",
        "The light is measured, not a tone: a reading at the subject is the setting.",
        "the incident reading",
    ),
    "whole frame": School(
        "Whole frame",
        "The camera's average of the frame is rendered as V, moved by the compensation you choose.",
        "the whole-frame reading",
    ),
}

DEFAULT_SCHOOL = {"film": "shadow", "slide": "highlight", "digital raw": "highlight", "digital file": "highlight"}


@dataclass(frozen=True)
class Placement:
    """The decision: which tone (None for midpoint) on which zone, and the camera setting in EV100 that follows."""

    school: str
    tone: str | None
    zone: float
    setting_ev100: float


PURE_WHITE = 8 + 2 / 3
EMPTY_SHADOW = 1.0
"""Zones of a white without texture and of a shadow without detail, where they are wanted so."""


def default_zone(school, medium, white="textured", shadows="full"):
    """Zone a school places its tone on when nothing else is said.

    white: "textured" keeps the last texture, "pure" burns it out. shadows: "full" keeps detail, "empty" makes shapes.
    """
    if school == "shadow":
        return EMPTY_SHADOW if shadows == "empty" else max(3.0, medium.dependable[0])
    if school == "highlight":
        return PURE_WHITE if white == "pure" else medium.dependable[1]
    if school == "silhouette":
        return medium.dependable[1]
    return MIDDLE


def tone_for(school, tones, white="textured", shadows="full"):
    """The tone that a school places by itself, or None where only the photographer knows.

    tones: objects with name, role, ev100 and needs_texture, all read. white, shadows: as in default_zone; a tone that is
    wanted without texture is still the one to place.
    """
    given_up = {"shadow"} if shadows == "empty" else set()
    given_up |= {"highlight"} if white == "pure" else set()
    textured = [tone for tone in tones if tone.needs_texture or (tone.role == school and school in given_up)]
    if school == "shadow" and textured:
        return min(textured, key=lambda tone: tone.ev100)
    if school == "highlight" and textured:
        return max(textured, key=lambda tone: tone.ev100)
    if school == "silhouette":
        behind = [tone for tone in tones if tone.role in ("background", "sky")]
        return max(behind, key=lambda tone: tone.ev100, default=None)
    return None


def place(school, tones, medium, tone_name=None, zone=None, after_filter_shift=None, white="textured", shadows="full"):
    """Placement of one tone by a school, ``EV(setting) = EV(tone) + 5 - zone``.

    tones: the tones that were read. tone_name, zone: the photographer's choice; None leaves it to the school.
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
