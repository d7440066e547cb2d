"""The weather of an outing by the hour: what a person typed, else what the forecast says where it was chosen, else nothing."""

from dataclasses import replace
from functools import lru_cache

from dimgrey.core.sky.clock import day_bounds, moment_of, zone_named
from dimgrey.core.sky.conditions import Conditions
from dimgrey.core.sky.coordinates import Coordinates
from dimgrey.standins.simulated_forecast import forecast

UNKNOWN = Conditions(known=False)
"""The weather of a place of one's own before anybody typed it: a stand-in must not make it up there."""


@lru_cache(maxsize=64)
def _forecast_hours(place, start_jd, count, tidal):
    return forecast().hours(place, start_jd, count, tidal)


def hours_of(outing, start_jd, count):
    """Conditions of `count` hours from a Julian date; () without a place."""
    if not outing.has_place:
        return ()
    place = Coordinates(outing.latitude_deg, outing.longitude_deg)
    if outing.forecast:
        hours = _forecast_hours(place, round(start_jd * 24) / 24, count, outing.tidal)
    else:
        hours = (UNKNOWN,) * count
    if not outing.typed_conditions or outing.date is None:
        return hours
    zone = zone_named(outing.zone)
    first, last = day_bounds(outing.date, zone)
    shown = []
    for k, hour in enumerate(hours):
        jd = start_jd + k / 24
        typed = outing.typed_conditions.get(str(moment_of(jd, zone).hour)) if first <= jd < last - 1e-6 else None
        shown.append(replace(hour, **typed, typed=True, known=True, simulated=False) if typed else hour)
    return tuple(shown)


def conditions_at(outing, jd):
    """Conditions of the hour that holds a moment, or None without a place."""
    if not outing.has_place:
        return None
    return hours_of(outing, int(jd * 24 + 1e-6) / 24, 1)[0]
