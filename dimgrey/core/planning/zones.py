"""Zones: eleven grey tones one stop apart, 0 black to X white, V middle grey."""

import re
from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.notation import parse_stops
from dimgrey.core.measure.stops import format_stops, shown_twelfths

ZONE_MIN, ZONE_MAX, MIDDLE = 0.0, 10.0, 5.0


@dataclass(frozen=True)
class Zone:
    """A zone by its numeral, and what a print holds there."""

    numeral: str
    stops: int
    holds: str


ZONES = (
    Zone("0", -5, "nothing: the black of the paper or the sensor"),
    Zone("I", -4, "a first step above black, no texture"),
    Zone("II", -3, "texture only suspected"),
    Zone("III", -2, "dark with full texture"),
    Zone("IV", -1, "open shadow, dark leaves, deep sky"),
    Zone("V", 0, "middle grey: weathered wood, grass, dark skin in sun"),
    Zone("VI", 1, "light stone, pale skin in sun, shaded snow"),
    Zone("VII", 2, "bright with full texture: textured white wall, cloud"),
    Zone("VIII", 3, "last delicate texture"),
    Zone("IX", 4, "glare, texture only where a medium reaches so far"),
    Zone("X", 5, "bare white"),
)


def setting_for(tone_ev100, zone):
    """Camera setting that puts a tone on a zone, ``EV(setting) = EV(tone) + 5 - zone``.

    >>> setting_for(9, 3)
    11.0
    """
    return tone_ev100 + MIDDLE - zone


def zone_of(tone_ev100, setting_ev100):
    """Zone on which a tone falls at a setting, ``5 + EV(tone) - EV(setting)``; may lie outside 0..10.

    >>> zone_of(14, 12)
    7.0
    """
    return MIDDLE + tone_ev100 - setting_ev100


def require_zone(zone):
    """`zone` as a float if a tone can be placed there (0..10); raises OutOfRange otherwise."""
    value = float(zone)
    if not ZONE_MIN <= value <= ZONE_MAX:
        raise OutOfRange(
            f"A tone can be placed on zones 0 to X (got {value:g}). III keeps a shadow's texture, VII a highlight's.",
            parameter="zone",
            code="zone-out-of-range",
        )
    return value


def format_zone(zone):
    """A zone in Roman numerals and parts, rounded as `stops.shown_twelfths` does: 4.33 -> "IV⅓", -0.8 -> "below 0", 10.4 -> "above X"."""
    parts = shown_twelfths(zone)
    if parts < 0:
        return "below 0"
    if parts > ZONE_MAX * 12:
        return "above X"
    whole, rest = divmod(parts, 12)
    return ZONES[whole].numeral + (format_stops(rest / 12) if rest else "")


def format_tone(zone, labels="zones"):
    """A place on the tone scale in the user's own words, labels "zones" or "stops": "VI⅓" by zones, "+1⅓" by stops from middle grey."""
    if labels == "zones":
        return format_zone(zone)
    return format_stops(zone - MIDDLE, signed=True)


_DIGITS = {zone.numeral: float(k) for k, zone in enumerate(ZONES)}


def parse_zone(text):
    """A zone as people write it: "VII", "VII⅓", "7", "6 1/3". Returns a float within 0..10."""
    cleaned = str(text).strip().upper().removeprefix("ZONE").strip()
    match = re.fullmatch(r"([IVX]+)\s*(.*)", cleaned)
    if match and match.group(1) in _DIGITS:
        rest = parse_stops(match.group(2), "zone") if match.group(2) else 0.0
        return require_zone(_DIGITS[match.group(1)] + rest)
    return require_zone(parse_stops(cleaned, "zone"))
