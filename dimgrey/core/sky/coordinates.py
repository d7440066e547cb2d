"""Coordinates as people write and paste them.

Latitude north and longitude east are positive, WGS 84 degrees (ISO 6709).
"""

import re
from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange, Unreadable

_NUMBER = r"\d+(?:[.,]\d+)?"
_PART = re.compile(
    rf"""(?P<before>[NSEW])?\s*(?P<sign>[-+−])?\s*
         (?P<deg>{_NUMBER})\s*[°d:]?\s*
         (?:(?P<min>{_NUMBER})\s*['′m:]?\s*)?
         (?:(?P<sec>{_NUMBER})\s*(?:["″s]|'')?\s*)?
         (?P<after>[NSEW])?""",
    re.VERBOSE | re.IGNORECASE,
)
EXAMPLE = "Write 51.4512, -2.6183 or 51°27'04\"N 2°37'06\"W."


@dataclass(frozen=True)
class Coordinates:
    """A place on earth; north and east are positive."""

    latitude_deg: float
    longitude_deg: float


def require_coordinates(latitude_deg, longitude_deg):
    """Coordinates, checked. Raises OutOfRange and asks whether they were swapped where that would mend it."""
    if not abs(latitude_deg) <= 90:
        swapped = (
            " Were latitude and longitude swapped?" if abs(longitude_deg) <= 90 and abs(latitude_deg) <= 180 else ""
        )
        raise OutOfRange(
            f"Latitude runs from -90 to 90 degrees (got {latitude_deg:g}).{swapped}",
            parameter="latitude",
            code="latitude",
        )
    if not abs(longitude_deg) <= 180:
        raise OutOfRange(
            f"Longitude runs from -180 to 180 degrees (got {longitude_deg:g}).", parameter="longitude", code="longitude"
        )
    return Coordinates(float(latitude_deg), float(longitude_deg))


def parse_coordinates(text):
    """Coordinates from decimal degrees, degrees and minutes, degrees minutes and seconds, or a geo: address.

    Letters N S E W may stand before or after and decide which is which. Raises Unreadable or OutOfRange.

    >>> parse_coordinates("51°27'04\\"N 2°37'06\\"W")
    Coordinates(latitude_deg=51.451111, longitude_deg=-2.618333)
    """
    cleaned = text.strip().removeprefix("geo:").split("?")[0].replace("−", "-").replace("º", "°").replace("’", "'")
    parts = _split(cleaned)
    if len(parts) != 2:
        raise Unreadable(
            f"“{text.strip()}” does not hold a latitude and a longitude. {EXAMPLE}",
            parameter="place",
            code="coordinates",
        )
    (first, axis_first), (second, axis_second) = (_degrees(part, text) for part in parts)
    if axis_first == axis_second != "":
        raise Unreadable(
            f"“{text.strip()}” gives the same direction twice. {EXAMPLE}", parameter="place", code="coordinates"
        )
    if axis_first == "longitude" or axis_second == "latitude":
        first, second = second, first
    return require_coordinates(round(first, 6), round(second, 6))


def _split(text):
    """The two halves: at a comma or semicolon between them, after a letter, or at the only gap."""
    for separator in (";", ", ", "\t"):
        if separator in text:
            return [part for part in text.split(separator) if part.strip()]
    letters = re.findall(r"[NSEW]", text, re.IGNORECASE)
    if len(letters) == 2:
        before = re.match(r"\s*[NSEW]", text, re.IGNORECASE)
        cut = [m.start() if before else m.end() for m in re.finditer(r"[NSEW]", text, re.IGNORECASE)][
            1 if before else 0
        ]
        return [text[:cut].strip(" ,"), text[cut:].strip(" ,")]
    if text.count(",") == 1:
        return [part.strip() for part in text.split(",")]
    return text.split()


def _degrees(part, whole):
    match = _PART.fullmatch(part.strip())
    if not match:
        raise Unreadable(f"“{whole.strip()}” is not a place. {EXAMPLE}", parameter="place", code="coordinates")
    number = lambda name: float((match[name] or "0").replace(",", "."))
    if number("min") >= 60 or number("sec") >= 60:
        raise Unreadable(
            f"“{part.strip()}” has 60 or more minutes or seconds. {EXAMPLE}", parameter="place", code="coordinates"
        )
    value = number("deg") + number("min") / 60 + number("sec") / 3600
    letter = (match["before"] or match["after"] or "").upper()
    if match["sign"] == "-" or letter in ("S", "W"):
        value = -value
    return value, {"N": "latitude", "S": "latitude", "E": "longitude", "W": "longitude"}.get(letter, "")


def format_coordinates(latitude_deg, longitude_deg):
    """ "51.4511° N, 2.6183° W"."""
    north = "N" if latitude_deg >= 0 else "S"
    east = "E" if longitude_deg >= 0 else "W"
    return f"{abs(latitude_deg):.4f}° {north}, {abs(longitude_deg):.4f}° {east}"
