"""The light on one scene at its planned moment: where the sun is, what falls into the frame, how the sky will print.

Works on a Document with the place and the weather given; words for people are made by the rooms above.
"""

import math
from functools import lru_cache

from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.errors import CoreError
from dimgrey.core.picture.overhead import LONG_SIDE_MM, SHORT_SIDE_MM, Polarized
from dimgrey.core.sky import dome
from dimgrey.core.sky.clock import as_day, julian_date, local_moment, parse_clock, require_day, zone_named
from dimgrey.core.sky.conditions import AIRS
from dimgrey.core.sky.skytone import overcast_stops, sky_tone
from dimgrey.core.sky.skyview import FrameSky
from dimgrey.core.sky.sun import sun_position
from dimgrey.core.sky.sunlight import light_from, shadow_length, sun_near_frame
from dimgrey.core.sky.terrain import terrain_deg


def planned_moment(place, view):
    """(Julian date, note) of a scene's planned moment, or (None, "") while date or time is missing.

    place: PlacePart or None. view: the document's View.
    """
    if place is None or not place.date or not view.time:
        return None, ""
    try:
        day = require_day(as_day(place.date))
        moment, note = local_moment(day, parse_clock(view.time), zone_named(place.zone))
    except (CoreError, ValueError):
        return None, ""
    return julian_date(moment), note


@lru_cache(maxsize=256)
def sun_over(jd, latitude_deg, longitude_deg):
    """(altitude, azimuth) of the sun in degrees, kept because a page asks several times."""
    seen = sun_position(jd, latitude_deg, longitude_deg)
    return float(seen.altitude_deg), float(seen.azimuth_deg)


def has_sky(document):
    """Whether there is sky in the frame: said so, or one of the tones is a sky."""
    return document.view.sky or any(tone.role == "sky" for tone in document.tones)


def frame_sky(document, place, conditions, focal_35mm, upright=False, chain=None, jd=None):
    """FrameSky of a Document, or None while date or time is missing.

    place: PlacePart. conditions: Conditions of the hour. focal_35mm: of the lens in 35 mm terms. upright: the frame is
    taller than wide. chain: the Chain that the sky is seen through; None leaves its colour out. jd: another moment than
    the planned one.
    """
    note = ""
    if jd is None:
        jd, note = planned_moment(place, document.view)
    if jd is None:
        return None
    altitude, azimuth = sun_over(jd, place.latitude_deg, place.longitude_deg)
    heading = document.view.heading_deg
    before = float(terrain_deg(place.hills, azimuth))
    hidden = before >= altitude
    facts = {
        "jd": jd,
        "note": note,
        "sun_altitude_deg": altitude,
        "sun_azimuth_deg": azimuth,
        "light": "" if heading is None else light_from(heading, azimuth, 0.0 if hidden else altitude),
        "shadow": None if hidden else shadow_length(1.0, altitude),
        "hills_deg": before,
        "conditions": conditions,
        "focal_35mm": focal_35mm,
    }
    if heading is None:
        return FrameSky(**facts)
    seen = _in_frame(document, heading, altitude, azimuth, conditions, focal_35mm, upright, chain)
    return FrameSky(**facts, **(seen | ({"sun_gap_deg": None} if hidden else {})))


def polarized_frame(document, place, conditions, focal_35mm, upright=False):
    """Polarized of a Document with a polarizer on its lens, or None: without one, without sun or heading, under a closed sky.

    place: PlacePart. conditions: Conditions of the hour. focal_35mm, upright: as in `frame_sky`.
    """
    heading = document.view.heading_deg
    if heading is None or polarizer_turned_deg(document) is None:
        return None
    jd, _ = planned_moment(place, document.view)
    p_max = AIRS[conditions.air]
    if jd is None or not p_max:
        return None
    altitude, azimuth = sun_over(jd, place.latitude_deg, place.longitude_deg)
    if altitude <= 0:
        return None
    # As exact as an address carries it, so that tones and picture are darkened alike.
    exact = lambda value: round(value, 2)
    turn = (azimuth - heading + 180) % 360 - 180
    return Polarized(
        exact(altitude),
        exact(turn),
        exact(document.view.tilt_deg or 0.0),
        exact(focal_35mm),
        upright,
        p_max,
        exact(polarizer_turned_deg(document)),
    )


def polarizer_turned_deg(document):
    """How far the polarizer of a Document is turned from the deepest sky, degrees; None without one."""
    return next((float(glass.turned_deg) for glass in document.filters if glass.name == "polarizer"), None)


def _in_frame(document, heading, altitude, azimuth, conditions, focal_35mm, upright, chain):
    """What falls into a frame that looks along a heading, as fields of FrameSky."""
    names = [glass.name for glass in document.filters]
    turned = polarizer_turned_deg(document)
    width, height = (SHORT_SIDE_MM, LONG_SIDE_MM) if upright else (LONG_SIDE_MM, SHORT_SIDE_MM)
    directions = dome.frame_directions(heading, document.view.tilt_deg or 0.0, focal_35mm, width, height)
    centre = directions["centre"]
    gamma = dome.angle_between_deg(centre.altitude_deg, centre.azimuth_deg, altitude, azimuth)
    half_diagonal = math.degrees(math.atan(math.hypot(width, height) / 2 / focal_35mm))
    tone, overcast = None, None
    if has_sky(document) and altitude > 0:
        if conditions.air == "overcast":
            above = max(directions["top"].altitude_deg / 2, 5)
            overcast = min(5 + float(overcast_stops(above)), 10)
        else:
            sun = dome.Direction(altitude, azimuth)
            tone = sky_tone(sun, directions, conditions.air, chain, document.light, turned)
    return {
        "sun_gap_deg": sun_near_frame(altitude, gamma, half_diagonal),
        "tone": tone,
        "overcast_zone": overcast,
        "coloured": tuple(name for name in names if name in COLOURED),
        "polarizer": turned is not None,
    }
