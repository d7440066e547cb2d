"""The coming days: when the light that scenes ask for is there, as a list and as an iCalendar file."""

import math
from dataclasses import dataclass
from datetime import UTC

import numpy as np

from dimgrey.core.sky import moon
from dimgrey.core.sky.clock import day_bounds, moment_of, next_days, require_day, zone_named
from dimgrey.core.sky.sun import sun_position
from dimgrey.core.sky.sunlight import windows
from dimgrey.core.sky.terrain import terrain_deg
from dimgrey.core.sky.wants import WANTS
from dimgrey.outings.day.table import sample_of, with_heading
from dimgrey.outings.forecast import hours_of
from dimgrey.outings.sky_over_scene import wants_words

DAYS_AHEAD = 14


@dataclass(frozen=True)
class Window:
    """A stretch of wanted light of one scene."""

    scene: object
    start: object
    end: object
    wants: str
    simulated: bool

    @property
    def words(self):
        return f"{self.start:%H:%M}–{self.end:%H:%M}"


def coming_windows(outing, scenes, first_day, count=DAYS_AHEAD):
    """Windows of all scenes that want a light, in order, over `count` days from `first_day`; [] without a place."""
    asking = [scene for scene in scenes if scene.document.wanted.lights]
    days = next_days(require_day(first_day), count)
    if not asking or not outing.has_place or not days:
        return []
    zone = zone_named(outing.zone)
    start, _ = day_bounds(days[0], zone)
    _, end = day_bounds(days[-1], zone)
    jd = np.linspace(start, end, round((end - start) * 144) + 1)
    sun = sun_position(jd, outing.latitude_deg, outing.longitude_deg)
    lunar = moon.moon_at(jd, outing.latitude_deg, outing.longitude_deg)
    weather = hours_of(outing, start, math.ceil((end - start) * 24))
    sample = sample_of(jd, sun.altitude_deg, weather, lunar, terrain_deg(outing.terrain, sun.azimuth_deg))
    found = []
    for scene in asking:
        codes = scene.document.wanted.lights
        heading = scene.document.view.heading_deg
        made_up = any(WANTS[code].weather for code in codes)
        for a, b in windows(codes, jd, with_heading(sample, heading, sun.azimuth_deg)):
            found.append(Window(scene, moment_of(a, zone), moment_of(b, zone), wants_words(scene.document), made_up))
    return sorted(found, key=lambda window: window.start)


def first_day_of(outing, today):
    """Where the coming days start: at the outing's day, or today when that is past or not set."""
    return max(outing.date, today) if outing.date else today


def calendar(outing, found, now):
    """The windows as an iCalendar file (RFC 5545), bytes. now: aware datetime of making it."""
    from icalendar import Calendar, Event, vGeo

    made = Calendar()
    made.add("prodid", "-//Dimgrey//light windows//EN")
    made.add("version", "2.0")
    made.add("x-wr-calname", f"Light: {outing.title}")
    for window in found:
        event = Event()
        event.add("uid", f"scene-{window.scene.pk}-{window.start:%Y%m%dT%H%M}@dimgrey.invalid")
        event.add("dtstamp", now)
        event.add("dtstart", window.start.astimezone(UTC))
        event.add("dtend", window.end.astimezone(UTC))
        event.add("summary", f"{window.scene.title}: {window.wants}")
        note = " The weather in it is a simulated forecast." if window.simulated else ""
        event.add("description", f"{outing.title}. {window.scene.document.intent}{note}".strip())
        if outing.place_name:
            event.add("location", outing.place_name)
        event.add("geo", vGeo((outing.latitude_deg, outing.longitude_deg)))
        made.add_component(event)
    return made.to_ical()
