"""The light of an outing's day: one time axis for the light of a grey card, weather and scenes.

Everything here is ready to draw: numbers are units of the drawing, words are ready to show. The rules are in core.sky.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.sky import moon
from dimgrey.core.sky.cardlight import card_light
from dimgrey.core.sky.clock import (
    as_day,
    day_bounds,
    julian_date,
    local_moment,
    moment_of,
    parse_clock,
    require_day,
    zone_named,
)
from dimgrey.core.sky.sun import RISE_DEG, stretches, sun_day
from dimgrey.core.sky.sunlight import Sample, turn_deg, windows
from dimgrey.core.sky.terrain import terrain_deg
from dimgrey.core.sky.wants import BACK_BELOW_DEG, FRONT_FROM_DEG, LOW_SUN_DEG
from dimgrey.outings.forecast import hours_of
from dimgrey.outings.sky_over_scene import wants_words

LEFT, RIGHT, TOP, FLOOR = 166.0, 990.0, 8.0, 256.0
"""Where the drawing of the day lies: time runs from LEFT to RIGHT, light from FLOOR (the lowest EV) up to TOP."""
LOWEST_EV, HIGHEST_EV = -2.0, 16.5
EV_MARKS = (0, 4, 8, 12, 15)
ROW = 30.0
TWILIGHT = ((-90, -18, "night"), (-18, -12, "astronomical"), (-12, -6, "nautical"), (-6, RISE_DEG, "civil"), (RISE_DEG, LOW_SUN_DEG, "low"), (LOW_SUN_DEG, 91, "day"))  # fmt: skip
NAMES = {"night": "night", "astronomical": "dark twilight", "nautical": "deep twilight", "civil": "twilight", "low": "low sun", "day": "day"}  # fmt: skip


@dataclass(frozen=True)
class Strip:
    """A stretch on the time axis. kind says how it is drawn; words are its title."""

    x: float
    width: float
    kind: str
    words: str = ""


@dataclass(frozen=True)
class SceneRow:
    """A scene on the time axis."""

    number: int
    pk: int
    title: str
    y: float
    strips: tuple
    wanted: tuple
    wants: str
    planned_x: float | None


@dataclass(frozen=True)
class Curve:
    """EV100 of a grey card over the day. key says how it is drawn; words are its name at its highest, where (x, y) is."""

    key: str
    path: str
    words: str
    x: float
    y: float


@dataclass(frozen=True)
class LightTable:
    """The day of an outing, drawn. None of it is computed when place or date is missing."""

    bands: tuple
    hours: tuple
    levels: tuple
    curves: tuple
    clouds: tuple
    cloud_y: float
    tide: str
    tide_y: float
    rows: tuple
    height: float
    facts: tuple
    day: object
    start: float
    end: float

    @property
    def foot(self):
        return self.height - 18


def day_of(outing):
    """(start, end, zone) of the outing's day, or None without date or place, or too far away to compute."""
    if outing.date is None or not outing.has_place:
        return None
    zone = zone_named(outing.zone)
    return (*day_bounds(require_day(as_day(outing.date)), zone), zone)


def light_table(outing, scenes):
    """LightTable of an outing with its scenes (in order), or None while date or place is missing."""
    bounds = day_of(outing)
    if bounds is None:
        return None
    start, end, zone = bounds
    day = sun_day(start, end, outing.latitude_deg, outing.longitude_deg)
    x = lambda jd: LEFT + (jd - start) / (end - start) * (RIGHT - LEFT)
    weather = hours_of(outing, start, round((end - start) * 24))
    lunar = moon.moon_at(day.jd, outing.latitude_deg, outing.longitude_deg)
    cloud_y = FLOOR + 28
    tide_y = cloud_y + 34
    first_row = tide_y + (30 if outing.tidal else -8)
    hills = terrain_deg(outing.terrain, day.azimuth_deg)
    sample = sample_of(day.jd, day.altitude_deg, weather, lunar, hills)
    rows = tuple(
        _scene_row(k, scene, outing, day, sample, x, first_row + k * ROW, zone) for k, scene in enumerate(scenes)
    )
    return LightTable(
        bands=_bands(day, x),
        hours=_hours(start, end, zone, x),
        levels=tuple((f"EV {ev}", round(_y(ev), 1)) for ev in EV_MARKS),
        curves=_curves(day, x),
        clouds=_clouds(weather, start, x),
        cloud_y=cloud_y,
        tide=_tide(weather, start, x, tide_y) if outing.tidal else "",
        tide_y=tide_y,
        rows=rows,
        height=first_row + max(len(rows), 1) * ROW + 26,
        facts=(*_facts(day, lunar, zone), *_over_hills(outing, day, hills, zone)),
        day=day,
        start=start,
        end=end,
    )


def sample_of(jd, altitude_deg, weather, lunar, hills_deg=0.0):
    """What wants are asked of: sun, weather of each sample's hour, moon, hills before the sun. Without a heading."""
    hour = np.minimum(((jd - jd[0]) * 24).astype(int), len(weather) - 1)
    return Sample(
        altitude_deg=altitude_deg,
        turn_deg=None,
        cloud_percent=np.array([w.cloud_percent for w in weather])[hour],
        visibility_km=np.array([w.visibility_km for w in weather])[hour],
        moon_altitude_deg=lunar.altitude_deg,
        moon_illuminated=lunar.illuminated,
        hills_deg=hills_deg,
    )


def with_heading(sample, heading, azimuth_deg):
    if heading is None:
        return sample
    return Sample(**{**sample.__dict__, "turn_deg": turn_deg(heading, azimuth_deg)})


def _bands(day, x):
    """The day as grey tones: night, twilights, low sun, day."""
    found = []
    for low, high, kind in TWILIGHT:
        for a, b in stretches(day.jd, (day.altitude_deg >= low) & (day.altitude_deg < high)):
            found.append(Strip(round(x(a), 1), round(x(b) - x(a) + 0.6, 1), kind, NAMES[kind]))
    return tuple(found)


def _hours(start, end, zone, x):
    """(x, label) of each whole local hour; every third has a label."""
    marks = []
    for k in range(round((end - start) * 24) + 1):
        moment = moment_of(start + k / 24, zone)
        last = k == round((end - start) * 24)
        marks.append((round(x(start + k / 24), 1), f"{24 if last else moment.hour}" if moment.hour % 3 == 0 else ""))
    return tuple(marks)


def _y(ev):
    return FLOOR - (ev - LOWEST_EV) / (HIGHEST_EV - LOWEST_EV) * (FLOOR - TOP)


def _curves(day, x):
    """Curve of each light: facing the sun, in open shade, under a closed sky."""
    light = card_light(day.altitude_deg)
    made, at = [], round(float(x(day.noon)), 1)
    for key, name, values in (
        ("sunlit", "facing the sun", light.sunlit),
        ("shade", "open shade", light.shade),
        ("closed", "closed sky", light.overcast),
    ):
        if np.all(np.isnan(values)) or float(np.nanmax(values)) < LOWEST_EV:
            continue
        highest = float(np.nanmax(values))
        words = f"{name} {highest:.1f}".replace("-", "−")
        made.append(Curve(key, _points(day.jd, values, x), words, at, round(_y(highest), 1)))
    return tuple(made)


def _points(jd, values, x):
    """SVG path of a curve in EV; it is lifted where a value is not a number or too low to show."""
    parts, drawing = [], False
    for when, value in zip(jd[::3], values[::3], strict=True):
        if np.isnan(value) or value < LOWEST_EV:
            drawing = False
            continue
        parts.append(f"{'L' if drawing else 'M'}{x(when):.1f} {_y(float(value)):.1f}")
        drawing = True
    return "".join(parts)


def _clouds(weather, start, x):
    """One cell per hour: how much of it is filled says how much of the sky is covered."""
    cells = []
    for k, hour in enumerate(weather):
        left, right = x(start + k / 24), x(start + (k + 1) / 24)
        if not hour.known:
            continue
        kind = "mist" if hour.is_misty else "typed" if hour.typed else "cloud"
        cells.append({"x": round(left, 1), "width": round(right - left - 1, 1), "height": round(hour.cloud_percent / 100 * 20, 1), "kind": kind, "words": hour.words(), "top": round(20 - hour.cloud_percent / 100 * 20, 1), "rain": hour.rain_mm_h >= 0.1, "windy": hour.is_windy})  # fmt: skip
    return tuple(cells)


def _tide(weather, start, x, tide_y):
    levels = [(x(start + (k + 0.5) / 24), hour.tide_m) for k, hour in enumerate(weather) if hour.tide_m is not None]
    return "".join(f"{'L' if k else 'M'}{a:.1f} {tide_y - level * 4:.1f}" for k, (a, level) in enumerate(levels))


def _scene_row(k, scene, outing, day, sample, x, y, zone):
    document = scene.document
    view, wanted = document.view, document.wanted.lights
    heading = view.heading_deg
    seen = with_heading(sample, heading, day.azimuth_deg)
    strips = []
    if heading is not None:
        up = seen.up
        for kind, holds in (
            ("front", up & (seen.turn_deg >= FRONT_FROM_DEG)),
            ("side", up & (seen.turn_deg >= BACK_BELOW_DEG) & (seen.turn_deg < FRONT_FROM_DEG)),
            ("back", up & (seen.turn_deg < BACK_BELOW_DEG)),
        ):
            strips += [Strip(round(x(a), 1), round(x(b) - x(a), 1), kind, _span_words(kind, a, b, zone)) for a, b in stretches(day.jd, holds)]  # fmt: skip
    spans = windows(wanted, day.jd, seen) if wanted else ()
    clock = view.time
    planned = None
    if clock:
        moment, _ = local_moment(as_day(outing.date), parse_clock(clock), zone)
        planned = round(x(julian_date(moment)), 1)
    return SceneRow(
        number=k + 1,
        pk=scene.pk,
        title=scene.title,
        y=y,
        strips=tuple(strips),
        wanted=tuple(
            Strip(round(x(a), 1), round(x(b) - x(a), 1), "wanted", _span_words("wanted", a, b, zone)) for a, b in spans
        ),
        wants=wants_words(document),
        planned_x=planned,
    )


def _span_words(kind, start, end, zone):
    return f"{kind} light {moment_of(start, zone):%H:%M}–{moment_of(end, zone):%H:%M}"


def _over_hills(outing, day, hills, zone):
    """When the sun stands over the hills, as a fact; () on flat ground."""
    if not outing.terrain:
        return ()
    over = stretches(day.jd, (day.altitude_deg > hills) & (day.altitude_deg > 0))
    words = ", ".join(f"{moment_of(a, zone):%H:%M}–{moment_of(b, zone):%H:%M}" for a, b in over)
    return (("Over the hills", words or "not on this day"),)


def _facts(day, lunar, zone):
    """Rise, set, twilights, low sun and moon, in words; what does not happen is said too."""
    clock = lambda times: " and ".join(f"{moment_of(t, zone):%H:%M}" for t in times)
    lines = []
    sun = day.crossings["sun"]
    if sun.state == "never":
        lines.append(("Sun", f"does not rise; highest {day.highest_deg:.0f}° at {moment_of(day.noon, zone):%H:%M}"))
    elif sun.state == "all day":
        lines.append(("Sun", f"does not set; lowest {float(day.altitude_deg.min()):.0f}°"))
    else:
        rise, set_ = clock(sun.rising) or "before midnight", clock(sun.setting) or "after midnight"
        lines.append(("Sun", f"{rise} to {set_}, highest {day.highest_deg:.0f}° at {moment_of(day.noon, zone):%H:%M}"))
    lines.append(
        (
            "Low sun",
            ", ".join(f"{moment_of(a, zone):%H:%M}–{moment_of(b, zone):%H:%M}" for a, b in day.low) or "none below 10°",
        )
    )
    for name, title in (("civil", "Twilight"), ("astronomical", "Dark")):
        crossing = day.crossings[name]
        if crossing.state == "never":
            words = "no twilight: night all day" if name == "civil" else "dark all day"
        elif crossing.state == "all day":
            words = "all day light" if name == "civil" else "never fully dark"
        else:
            words = (
                f"from {clock(crossing.rising) or 'yesterday'}, until {clock(crossing.setting) or 'tomorrow'}"
                if name == "civil"
                else f"until {clock(crossing.rising) or '—'}, from {clock(crossing.setting) or '—'}"
            )
        lines.append((title, words))
    middle = len(day.jd) // 2
    phase = moon.phase_name(float(lunar.illuminated[middle]), bool(lunar.waxing[middle]))
    up = stretches(day.jd, lunar.altitude_deg > 0)
    when = ", ".join(f"{moment_of(a, zone):%H:%M}–{moment_of(b, zone):%H:%M}" for a, b in up) or "not up"
    lines.append(("Moon", f"{phase}, {float(lunar.illuminated[middle]) * 100:.0f} %, up {when}"))
    return tuple(lines)
