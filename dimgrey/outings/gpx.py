"""The place in a GPX file: its first waypoint, else the first point of its route or track.

Source: GPX 1.0 and 1.1 schemas. Only positions and names are read; entities are refused before they are expanded.
"""

import io
from dataclasses import dataclass

from defusedxml import DefusedXmlException
from defusedxml.ElementTree import ParseError, iterparse

from dimgrey.core.errors import Unreadable
from dimgrey.core.sky.coordinates import Coordinates, require_coordinates

MAX_BYTES = 30_000_000
POINTS = ("wpt", "rtept", "trkpt")


@dataclass(frozen=True)
class GpxPlace:
    """The place, its name ("" when it has none), and how many points the file has."""

    coordinates: Coordinates
    name: str
    points: int


def read(data):
    """GpxPlace of a file's bytes. Raises Unreadable with what to do, OutOfRange for an impossible position."""
    found = {}
    count = 0
    try:
        for _, element in iterparse(io.BytesIO(data), events=("end",)):
            tag = element.tag.rpartition("}")[2]
            if tag in POINTS:
                count += 1
                if tag not in found:
                    found[tag] = (element.get("lat"), element.get("lon"), _name(element))
                element.clear()
    except DefusedXmlException:
        raise Unreadable(
            "The file defines entities, which a GPX file never needs. It was not read.",
            parameter="file",
            code="gpx-entities",
        ) from None
    except (ParseError, UnicodeDecodeError, ValueError, LookupError):
        raise Unreadable(
            "The file is not GPX. Export the place or track as GPX again.", parameter="file", code="gpx"
        ) from None
    if not found:
        raise Unreadable(
            "The GPX file has no point. Save a waypoint or a track in it.", parameter="file", code="gpx-empty"
        )
    latitude, longitude, name = found[next(kind for kind in POINTS if kind in found)]
    try:
        place = require_coordinates(float(latitude), float(longitude))
    except TypeError:
        raise Unreadable("A point of the GPX file has no position.", parameter="file", code="gpx") from None
    except ValueError as wrong:
        raise (
            wrong
            if isinstance(wrong, Unreadable) or hasattr(wrong, "code")
            else Unreadable(
                f"A point of the GPX file has the position {latitude}, {longitude}.", parameter="file", code="gpx"
            )
        ) from None
    return GpxPlace(place, name, count)


def _name(element):
    for child in element:
        if child.tag.rpartition("}")[2] == "name" and child.text:
            return child.text.strip()[:120]
    return ""
