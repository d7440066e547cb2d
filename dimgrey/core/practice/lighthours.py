"""When a day has the light that a task wants, in words: low sun, dark, or day."""

from dimgrey.core.sky.clock import moment_of
from dimgrey.core.sky.sun import RISE_DEG, stretches

DARK_DEG = -6.0
"""Sun below which lamps and windows are lighter than the sky: the end of civil twilight."""


def light_hours(day, zone):
    """When a day has each light: "low sun", "dark" and "day" -> a sentence, "" where it has none of it.

    day: sky.sun.SunDay. zone: tzinfo of the clocks there. Source: HANDBOOK 9.
    """
    spans = {
        "low sun": day.low,
        "dark": stretches(day.jd, day.altitude_deg < DARK_DEG),
        "day": stretches(day.jd, day.altitude_deg > RISE_DEG),
    }
    return {name: _told(name, found, day, zone) for name, found in spans.items()}


def _told(name, found, day, zone):
    if not found:
        return ""
    clock = lambda jd: f"{moment_of(float(jd), zone):%H:%M}"
    step = day.jd[1] - day.jd[0]
    parts = []
    for start, end in found:
        from_midnight, to_midnight = start <= day.jd[0] + step, end >= day.jd[-1] - step
        if from_midnight and to_midnight:
            parts.append("all day")
        elif from_midnight:
            parts.append(f"until {clock(end)}")
        elif to_midnight:
            parts.append(f"from {clock(start)}")
        else:
            parts.append(f"{clock(start)} to {clock(end)}")
    return f"{name.capitalize()} {' and '.join(parts)}."
