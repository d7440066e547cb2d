"""Patterns of light by their plain description: where lamps stand, and when each helps. Source: HANDBOOK 20 and 6."""

import math
import re
from dataclasses import dataclass, replace

from dimgrey.core.lamps.subjects import MIDDLES, SITTER


@dataclass(frozen=True)
class Stand:
    """Where one lamp of a pattern stands. angle_deg: around the subject. up_deg: above its middle. near: share of the usual distance. stops: against
    the first lamp. is_flagged: a flag keeps it off the ground."""

    role: str
    angle_deg: float
    up_deg: float
    near: float = 1.0
    stops: float = 0.0
    is_flagged: bool = False


@dataclass(frozen=True)
class Pattern:
    """title, helps: in words. stands: Stand of each lamp. is_hard: it wants a small lamp."""

    title: str
    helps: str
    stands: tuple
    is_hard: bool = False


PATTERNS = {
    "three-quarter": Pattern(
        "Three-quarter",
        "A full scale on a face: one side lit, the other in shade with its eye still lit. The usual beginning.",
        (Stand("key", 45, 35), Stand("fill", -30, 5, 1.4, -2.5)),
    ),
    "side": Pattern(
        "Side",
        "Texture, wrinkles and freckles stand out; half the face goes dark. Small and hard it is a plus for black and white.",
        (Stand("key", 88, 12),),
        True,
    ),
    "above": Pattern(
        "From above",
        "Modelling from the brow down, as noon does it; eyes go dark. Cups and shells get their form.",
        (Stand("key", 5, 65), Stand("fill", 0, -15, 1.4, -3)),
    ),
    "edge": Pattern(
        "Edge only",
        "Low-key: a line of light parts hair and shoulder from a dark ground, the rest is guessed.",
        (Stand("edge", 148, 25, 1.0, 0.0, True),),
        True,
    ),
    "both-edges": Pattern(
        "Both edges",
        "Low-key and graphic: both outlines are drawn, the middle stays dark.",
        (Stand("edge", 135, 20, 1.0, 0.0, True), Stand("edge 2", -135, 20, 1.0, 0.0, True)),
        True,
    ),
    "flat": Pattern(
        "Flat",
        "High-key: wrinkles and freckles fade, tones lie close; form comes from the surfaces alone.",
        (Stand("key", 40, 20), Stand("key 2", -40, 20)),
    ),
    "back": Pattern(
        "Back light",
        "Hair and cloth shine, the face falls into shade: place the skin, not the edge. Glass and thin leaves glow.",
        (Stand("back", 175, 40, 1.2, 0.0, True), Stand("fill", 0, 10, 1.4, -2)),
    ),
}
"""Patterns by key."""
USUAL_M = {SITTER: 1.5}
TABLE_M = 0.9


def _named(name, role):
    """The name of a lamp in a pattern: its role, unless somebody gave it a name of its own."""
    usual = {stand.role for pattern in PATTERNS.values() for stand in pattern.stands}
    return role if name in usual or re.fullmatch(r"lamp \d+", name) else name


def arranged(key, lamps, subject):
    """Lamps put where a pattern has them, with their own faces and strengths; lamps that it does not need are off, and missing ones are made.

    key: of PATTERNS. lamps: Lamp of each, at least one. subject: SITTER or TABLE. Returns a tuple of Lamp.
    """
    pattern, middle = PATTERNS[key], MIDDLES[subject]
    usual = USUAL_M.get(subject, TABLE_M)
    made = []
    for k, stand in enumerate(pattern.stands):
        lamp = lamps[k] if k < len(lamps) else replace(lamps[0], name=stand.role)
        distance, up = usual * stand.near, math.radians(stand.up_deg)
        stops = min(max(stand.stops, lamp.least_stops), lamp.most_stops)
        made.append(
            replace(
                lamp,
                name=_named(lamp.name, stand.role),
                angle_deg=stand.angle_deg,
                away_m=round(distance * math.cos(up), 2),
                height_m=round(max(middle[2] + distance * math.sin(up), 0.1), 2),
                stops=stops,
                is_flagged=stand.is_flagged,
                is_on=True,
            )
        )
    return (*made, *(replace(lamp, is_on=False) for lamp in lamps[len(pattern.stands) :]))
