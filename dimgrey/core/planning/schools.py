"""Schools of placing: which tone decides the exposure, on which zone it goes, and why. A new school is a row here.

Source: HANDBOOK 6; docs/schools.md works each through.
"""

from dataclasses import dataclass

from dimgrey.core.planning.zones import MIDDLE


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
        "The figure shall fall below I, a shape without detail, before a bright background that keeps its texture.",
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

KNOWN = "known tone"

OTHER_REASONS = {
    (
        "shadow",
        False,
    ): "An empty shadow holds nothing that could be lifted, so the darkest tone with texture is placed; what is bright may clip.",
    (
        "highlight",
        True,
    ): "Negative film bears much light, but the brightest texture is what is wanted here: it is placed, and the shadows follow.",
}
"""(school, whether it is negative film) -> its reason there, where the usual one speaks of another medium."""


def reason_of(school, medium_kind):
    """Why a school, in a line that is true of the medium in use."""
    found = OTHER_REASONS.get((school, medium_kind == "film"), SCHOOLS[school].reason)
    return found.replace("A sensor or slide clips", {"slide": "Slide film clips"}.get(medium_kind, "A sensor clips"))


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


def tone_for(school, tones, white="textured", shadows="full", seen=None):
    """The tone that a school places by itself, or None where only the photographer knows.

    tones: objects with name, role, ev100 and needs_texture, all read. white, shadows: as in default_zone; a tone that is
    wanted without texture is still the one to place. seen: from a tone to the EV100 that counts, its own when None.
    """
    seen = seen or (lambda tone: tone.ev100)
    textured = _textured(school, tones, white, shadows)
    if school == "shadow" and textured:
        return min(textured, key=seen)
    if school == "highlight" and textured:
        return max(textured, key=seen)
    if school == "silhouette":
        behind = [tone for tone in tones if tone.role in ("background", "sky")]
        # Where nobody said what is behind, two tones at hand are enough to start from; a caution says what is missing.
        return max(behind or (tones if len(tones) > 1 else ()), key=seen, default=None)
    return None


def _textured(school, tones, white, shadows):
    """The tones that need texture, and those whose texture is given up on purpose by what the school aims at."""
    given_up = {"shadow"} if shadows == "empty" else set()
    given_up |= {"highlight"} if white == "pure" else set()
    return [tone for tone in tones if tone.needs_texture or (tone.role == school and school in given_up)]


def is_of_school(school, tone, tones, white="textured", shadows="full", seen=None):
    """Whether a placed tone is one that the school would place, so that its name and reason are true of it.

    tone: the placed one, of `tones`. white, shadows, seen: as in tone_for. A silhouette may be placed by its figure as well as by its
    background, what a whole frame is knows only the photographer, and so it is with an incident reading that is kept as a plain EV.
    """
    seen = seen or (lambda each: each.ev100)
    if school == "incident":
        return bool(tone.incident) or not any(each.incident for each in tones)
    if school in ("shadow", "highlight"):
        end = tone_for(school, tones, white, shadows, seen)
        return end is not None and tone in _textured(school, tones, white, shadows) and seen(tone) == seen(end)
    return True
