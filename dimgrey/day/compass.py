"""The compass plan of an outing: the place seen from above at one moment.

Ready to draw: the horizon is a circle of RADIUS, the zenith its middle, north is up. The rules are in core.sky.
"""

import math
from dataclasses import dataclass

import numpy as np

from dimgrey.core.sky import dome, moon
from dimgrey.core.sky.clock import as_day, julian_date, local_moment, moment_of, zone_named
from dimgrey.core.sky.light import compass_point, shadow_length
from dimgrey.core.sky.sun import sun_position
from dimgrey.light.sky import shadow_words
from dimgrey.light.weather import conditions_at

RADIUS = 150.0
SKY_RING_DEG = 20.0
"""Altitude at which the ring around the plan shows the polarizer's strength."""


def at(azimuth_deg, radius):
    """Point of the plan: north up, east right."""
    a = math.radians(azimuth_deg)
    return radius * math.sin(a), -radius * math.cos(a)


def wedge(heading, fov):
    (x1, y1), (x2, y2) = at(heading - fov / 2, RADIUS), at(heading + fov / 2, RADIUS)
    return f"M0 0L{x1:.1f} {y1:.1f}A{RADIUS} {RADIUS} 0 0 1 {x2:.1f} {y2:.1f}Z"


def _arc(middle, width, inner, outer):
    (a, b), (c, d) = at(middle - width / 2, inner), at(middle - width / 2, outer)
    (e, f), (g, h) = at(middle + width / 2, outer), at(middle + width / 2, inner)
    large = 1 if width > 180 else 0
    return f"M{a:.1f} {b:.1f}L{c:.1f} {d:.1f}A{outer} {outer} 0 {large} 1 {e:.1f} {f:.1f}L{g:.1f} {h:.1f}A{inner} {inner} 0 {large} 0 {a:.1f} {b:.1f}Z"


@dataclass(frozen=True)
class Compass:
    """The plan from above at one moment: sun, shadows, the deep part of the sky, the polarizer around the horizon."""

    clock: str
    minutes: int
    note: str
    words: str
    weather: str
    simulated: bool
    sun_x: float
    sun_y: float
    sun_up: bool
    ray: str
    shadow: str
    track: str
    track_hours: tuple
    ring: tuple
    deepest: str
    deepest_words: str
    moon: tuple | None
    ticks: tuple


def compass(outing, table, clock):
    """Compass of an outing at a local time. clock: datetime.time."""
    zone = zone_named(outing.zone)
    moment, note = local_moment(as_day(outing.date), clock, zone)
    jd = julian_date(moment)
    sun = sun_position(jd, outing.latitude_deg, outing.longitude_deg)
    altitude, azimuth = float(sun.altitude_deg), float(sun.azimuth_deg)
    conditions = conditions_at(outing, jd)
    up = altitude > 0
    lunar = moon.moon_at(jd, outing.latitude_deg, outing.longitude_deg)
    ring, strongest = _polarizer_ring(altitude, azimuth, conditions.air) if up else ((), None)
    deepest = _deepest(altitude, azimuth) if up and conditions.air != "overcast" else None
    x, y = at(azimuth, RADIUS * (90 - max(altitude, 0)) / 90)
    edge = at(azimuth, RADIUS)
    length = min(shadow_length(18.0, altitude) or 0, RADIUS)
    tip = at(azimuth + 180, length)
    return Compass(
        clock=f"{moment:%H:%M}",
        minutes=clock.hour * 60 + clock.minute,
        note=note,
        words=_now_words(altitude, azimuth),
        weather=conditions.words(),
        simulated=conditions.simulated,
        sun_x=round(x, 1),
        sun_y=round(y, 1),
        sun_up=up,
        ray=f"M0 0L{edge[0]:.1f} {edge[1]:.1f}",
        shadow=f"M0 0L{tip[0]:.1f} {tip[1]:.1f}" if up else "",
        track=_track(table),
        track_hours=_track_hours(table, zone),
        ring=ring,
        deepest=_arc(deepest, 50, RADIUS + 18, RADIUS + 23) if deepest is not None else "",
        deepest_words=_deep_words(deepest, strongest, conditions.air, azimuth if up else None),
        moon=tuple(round(v, 1) for v in at(float(lunar.azimuth_deg), RADIUS * (90 - float(lunar.altitude_deg)) / 90)) if lunar.altitude_deg > 0 else None,
        ticks=_TICKS,
    )  # fmt: skip


_TICKS = tuple(
    (*(round(v, 1) for v in (*at(a, RADIUS), *at(a, RADIUS - (9 if a % 30 == 0 else 4)))), a) for a in range(0, 360, 10)
)


def _now_words(altitude, azimuth):
    if altitude <= 0:
        return f"The sun is {-altitude:.0f}° below the horizon in the {compass_point(azimuth)}."
    shadow = shadow_words(shadow_length(1.0, altitude))
    return f"Sun {altitude:.0f}° high in the {compass_point(azimuth)} ({azimuth:.0f}°). Shadows {shadow}, falling {compass_point(azimuth + 180)}."


def _track(table):
    above = table.day.altitude_deg > 0
    parts, drawing = [], False
    for k in range(0, len(above), 3):
        if above[k]:
            px, py = at(float(table.day.azimuth_deg[k]), RADIUS * (90 - float(table.day.altitude_deg[k])) / 90)
            parts.append(f"{'L' if drawing else 'M'}{px:.1f} {py:.1f}")
        drawing = bool(above[k])
    return "".join(parts)


def _track_hours(table, zone):
    marks = []
    for k in range(0, len(table.day.jd), 15):
        if table.day.altitude_deg[k] > 0:
            px, py = at(float(table.day.azimuth_deg[k]), RADIUS * (90 - float(table.day.altitude_deg[k])) / 90)
            marks.append((round(px, 1), round(py, 1), moment_of(table.day.jd[k], zone).hour))
    return tuple(marks)


def _polarizer_ring(altitude, azimuth, air):
    """((path, grey 0..5) per ten degrees of horizon, (stops, azimuth) of the strongest)."""
    around = np.arange(0, 360, 10.0)
    gamma = dome.angle_between_deg(SKY_RING_DEG, around, altitude, azimuth)
    stops = dome.polarizer_stops(gamma, dome.P_MAX[air])
    cells = tuple(
        (_arc(float(a), 10, RADIUS + 4, RADIUS + 15), min(int(-s / 0.4), 5)) for a, s in zip(around, stops, strict=True)
    )
    most = int(np.argmin(stops))
    return cells, (float(stops[most]), float(around[most]))


def _deepest(altitude, azimuth):
    """Azimuth of the darkest part of a clear sky between 15 and 45 degrees, where frames have their sky."""
    altitudes, around = np.meshgrid(np.arange(15, 46, 5.0), np.arange(0, 360, 5.0))
    gamma = dome.angle_between_deg(altitudes, around, altitude, azimuth)
    light = dome.relative_luminance(altitudes, gamma, altitude)
    return float(around.ravel()[int(np.argmin(light))])


def _deep_words(deepest, strongest, air, sun_azimuth):
    if sun_azimuth is None:
        return "No daylight: no deep sky, and nothing for a polarizer."
    if air == "overcast":
        return "Overcast: the sky is blank, and a polarizer does nothing to it."
    stops, there = strongest
    sides = " and ".join(dict.fromkeys(compass_point(a % 360) for a in (there, 2 * sun_azimuth - there)))
    return (
        f"A clear sky is deepest towards the {compass_point(deepest)}. "
        f"A polarizer takes up to {abs(stops):.1f} stops off it, most towards {sides}."
    )
