"""The sky sheet of an outing: the whole horizon in the greys that its sky would print, the sun's way and the scenes' frames.

Ready to draw: UNIT units to a degree, the zenith on top, the side of the noon sun in the middle. The rules are in core.sky.horizon.
"""

import base64
import math
from dataclasses import dataclass
from io import BytesIO

import numpy as np
from PIL import Image

from dimgrey.core.document.lightscale import focal_35mm
from dimgrey.core.planning.zones import format_tone
from dimgrey.core.sky import dome, moon
from dimgrey.core.sky.clock import as_day, julian_date, local_moment, moment_of, zone_named
from dimgrey.core.sky.framesky import polarizer_turned_deg
from dimgrey.core.sky.horizon import SkyLight, frame_outline, polarizer_lines, strip_greys
from dimgrey.core.sky.skyprint import SkyPrint
from dimgrey.core.sky.sun import sun_position
from dimgrey.core.sky.terrain import terrain_deg
from dimgrey.outings.day.chainchoice import Through
from dimgrey.outings.day.skywords import cards, deep_words, sun_words
from dimgrey.outings.forecast import conditions_at
from dimgrey.outings.sky_over_scene import sky_over

UNIT = 3
WIDTH, SKY, GROUND = 360 * UNIT, 90 * UNIT, 12 * UNIT
"""Units of the drawing: once around, from the horizon to the zenith, and what is shown of the ground."""
AROUND = ("N", "NE", "E", "SE", "S", "SW", "W", "NW")
LEVELS = (30, 60)
LABEL_HEIGHT = 17
LABEL_WIDTHS = (22, 92)
"""Units that the label of a frame takes: a number alone, and with what it says of its sky."""
HIDDEN_BY_SUN = 22
"""Units around the sun's ring in which an hour has no room."""
NIGHT = ((-18, "night"), (-12, "astronomical"), (-6, "nautical"), (90, "civil"))


@dataclass(frozen=True)
class FrameDrawn:
    """A scene's frame on the sky. paths: its outline, twice where it crosses the edge of the strip. words: what it says of its sky."""

    number: int
    pk: int
    title: str
    paths: tuple
    x: float
    y: float
    chosen: bool
    words: str


@dataclass(frozen=True)
class SkySheet:
    """The strip at one moment. picture: a data address of its greys, "" while the sun is down, `night` then says how dark it is."""

    clock: str
    minutes: int
    note: str
    picture: str
    night: str
    sun: tuple | None
    hills: str
    moon: tuple | None
    way: str
    times: tuple
    hours: tuple
    hatch: str
    frames: tuple
    points: tuple
    levels: tuple
    words: str
    deep: str
    weather: str
    simulated: bool
    cards: tuple
    through: Through
    seen: object

    width, sky, ground, height = WIDTH, SKY, GROUND, SKY + GROUND + 26

    @property
    def label(self):
        return f"The sky all around. {self.words} {self.deep}"


class Strip:
    """Where directions lie on the strip. first_deg: azimuth of its left edge."""

    def __init__(self, first_deg):
        self.first_deg = first_deg

    def x(self, azimuth_deg):
        """Units from the left, 0 to WIDTH."""
        return round(float((azimuth_deg - self.first_deg) % 360) * UNIT, 1)

    def at(self, azimuth_deg, altitude_deg):
        return self.x(azimuth_deg), round(SKY - float(altitude_deg) * UNIT, 1)


def sky_sheet(outing, scenes, day, clock, through):
    """SkySheet of an outing at a local time.

    scenes: in their order. day: sun.SunDay of it. clock: datetime.time. through: Through.
    """
    zone = zone_named(outing.zone)
    moment, note = local_moment(as_day(outing.date), clock, zone)
    jd = julian_date(moment)
    seen = sun_position(jd, outing.latitude_deg, outing.longitude_deg)
    sun = dome.Direction(float(seen.altitude_deg), float(seen.azimuth_deg))
    conditions = conditions_at(outing, jd)
    noon = float(day.azimuth_deg[int(np.argmax(day.altitude_deg))])
    strip = Strip(0.0 if 90 < noon < 270 else 180.0)
    lunar = moon.moon_at(jd, outing.latitude_deg, outing.longitude_deg)
    light = SkyLight(sun, conditions.air) if sun.altitude_deg > 0 else None
    ring = strip.at(sun.azimuth_deg, sun.altitude_deg) if light else None
    chosen = _sky_of(through, outing, jd)
    return SkySheet(
        clock=f"{moment:%H:%M}",
        minutes=clock.hour * 60 + clock.minute,
        note=note,
        picture=_picture(light, through, chosen, strip) if light else "",
        night="" if light else next(kind for top, kind in NIGHT if sun.altitude_deg < top),
        sun=ring,
        hills=_hills(outing.terrain, strip),
        moon=strip.at(float(lunar.azimuth_deg), float(lunar.altitude_deg)) if lunar.altitude_deg > 0 else None,
        way=_way(day, strip),
        times=_times(day, strip, zone),
        hours=_hours(day, strip, zone, ring, outing.terrain),
        hatch=_hatch(light, strip) if light else "",
        frames=_frames(outing, scenes, through, chosen, strip),
        points=_points(strip),
        levels=tuple((SKY - level * UNIT, f"{level}°") for level in LEVELS),
        words=f"{moment:%H:%M}: {sun_words(sun, float(terrain_deg(outing.terrain, sun.azimuth_deg)))}",
        deep=deep_words(light),
        weather=conditions.words(),
        simulated=conditions.simulated,
        cards=cards(sun.altitude_deg),
        through=through,
        seen=chosen,
    )  # fmt: skip


def _sky_of(through, outing, jd):
    """SceneSky of the chosen scene at the moment, through its means; None without a scene."""
    if through.scene is None:
        return None
    document, facts = through.scene.document, through.situation.facts
    return sky_over(document, facts, outing, through.result, through.labels, jd)


def _picture(light, through, chosen, strip):
    """The strip as the address of a small PNG; the browser draws it larger, evenly."""
    result = through.result
    printed = chosen.printed if chosen else SkyPrint(result)
    turned = polarizer_turned_deg(through.scene.document) if result else None
    daylight = result.brief.light if result else "D55"
    greys = strip_greys(light, printed, result.chain if result else None, daylight, turned, strip.first_deg)
    out = BytesIO()
    Image.fromarray(np.ascontiguousarray(greys)).save(out, "PNG")
    return f"data:image/png;base64,{base64.b64encode(out.getvalue()).decode()}"


def _way(day, strip):
    """The sun's way over the day as a path, lifted where it leaves the strip on one side."""
    parts, before = [], None
    for k in range(0, len(day.jd), 2):
        x, y = strip.at(day.azimuth_deg[k], day.altitude_deg[k])
        if day.altitude_deg[k] < -GROUND / UNIT:
            before = None
            continue
        parts.append(f"{'M' if before is None or abs(x - before) > WIDTH / 2 else 'L'}{x} {y}")
        before = x
    return "".join(parts)


def _times(day, strip, zone):
    """(minutes of the local day, x, y) of the sun at every sample at which it is up: where a press on its way lies in time."""
    samples = [k for k in range(len(day.jd) - 1) if day.altitude_deg[k] > 0]
    clocks = [moment_of(day.jd[k], zone) for k in samples]
    return tuple(
        (clock.hour * 60 + clock.minute, *strip.at(day.azimuth_deg[k], day.altitude_deg[k]))
        for k, clock in zip(samples, clocks, strict=True)
    )


def _hours(day, strip, zone, sun, terrain):
    """(x, y, hour) of each whole local hour with the sun over the hills, but where its ring covers it. sun: (x, y) or None."""
    over = day.altitude_deg > np.maximum(terrain_deg(terrain, day.azimuth_deg), 0)
    whole = [(k, at) for k, at in enumerate(moment_of(when, zone) for when in day.jd[:-1]) if at.minute == 0]
    marks = [(*strip.at(day.azimuth_deg[k], day.altitude_deg[k]), at.hour) for k, at in whole if over[k]]
    return tuple(mark for mark in marks if sun is None or math.dist(mark[:2], sun) > HIDDEN_BY_SUN)


def _hatch(light, strip):
    """Level lines where a polarizer takes much, as one path."""
    parts = []
    for altitude, start, end in polarizer_lines(light):
        y = strip.at(0, altitude)[1]
        for left, right in _on_strip((start - strip.first_deg) * UNIT, (end - strip.first_deg) * UNIT):
            parts.append(f"M{left:.0f} {y}H{right:.0f}")
    return "".join(parts)


def _on_strip(left, right):
    """What of a stretch lies on the strip, which goes round: (left, right) of each part."""
    for turn in (-WIDTH, 0, WIDTH):
        a, b = max(left + turn, 0), min(right + turn, WIDTH)
        if b > a:
            yield a, b


def _frames(outing, scenes, through, chosen, strip):
    """FrameDrawn of each scene that says where it looks; labels give way to each other."""
    drawn, taken = [], [(0, SKY - level * UNIT, LABEL_WIDTHS[0]) for level in LEVELS]
    # The chosen frame's label has the first choice of places.
    for number, scene in sorted(enumerate(scenes, 1), key=lambda each: each[1] != through.scene):
        view = scene.document.view
        if view.heading_deg is None:
            continue
        facts = scene.facts
        upright = facts is not None and facts.is_upright
        around, altitude = frame_outline(
            view.heading_deg, view.tilt_deg or 0.0, focal_35mm(scene.document, facts), upright
        )
        x, y = (around - strip.first_deg) * UNIT, SKY - altitude * UNIT
        turns = [turn for turn in (-WIDTH, 0, WIDTH) if (x + turn).min() < WIDTH and (x + turn).max() > 0]
        is_chosen = through.scene is not None and scene.pk == through.scene.pk
        words = _sky_words(chosen, through.labels) if is_chosen else ""
        place = _free_place([x + turn for turn in turns], y, LABEL_WIDTHS[bool(words)], taken)
        taken.append(place)
        paths = tuple(_outline(x + turn, y) for turn in turns)
        drawn.append(FrameDrawn(number, scene.pk, scene.title, paths, *place[:2], is_chosen, words))
    return tuple(sorted(drawn, key=lambda frame: frame.chosen))


def _outline(x, y):
    return "M" + "L".join(f"{a:.1f} {b:.1f}" for a, b in zip(x, y, strict=True)) + "Z"


def _free_place(copies, y, width, taken):
    """(x, y, width) of a frame's label: inside it, near its top edge, and clear of the labels before it."""
    top = max(float(y.min()), 0.0) + 15
    places = []
    for x in copies:
        left, right = max(float(x.min()), 0.0) + 9, min(float(x.max()), WIDTH) - width - 5
        places += [(a, top + row * LABEL_HEIGHT, width) for row in range(5) for a in (left, right) if a >= left]
    clear = (place for place in places if not any(_meets(place, other) for other in taken))
    x, y, width = next(clear, places[0] if places else (copies[0].min(), top, width))
    return round(x, 1), round(y, 1), width


def _meets(place, other):
    (x, y, width), (other_x, other_y, other_width) = place, other
    return x < other_x + other_width and other_x < x + width and abs(y - other_y) < LABEL_HEIGHT


def _sky_words(sky, labels):
    """The print of the sky in the chosen frame, "" where there is none to say."""
    if sky is None:
        return ""
    if sky.seen.overcast_zone is not None:
        return f"sky {format_tone(sky.seen.overcast_zone, labels)}"
    return f"sky {format_tone(min(max(sky.case.main_print, 0), 10), labels)}" if sky.case.prints else ""


def _points(strip):
    """(x, name, which part of it stands there) of the compass points from edge to edge."""
    named = sorted((strip.x(k * 45.0), name) for k, name in enumerate(AROUND))
    inner = [(x, name, "middle") for x, name in named[1:]]
    return ((0.0, named[0][1], "start"), *inner, (float(WIDTH), named[0][1], "end"))


def _hills(terrain, strip):
    """The line of hills as a path down to the foot of the sheet; "" on flat ground."""
    if not terrain:
        return ""
    around = np.arange(0, 361, 3.0)
    heights = SKY - terrain_deg(terrain, strip.first_deg + around) * UNIT
    return "M" + "L".join(f"{a * UNIT:.0f} {y:.1f}" for a, y in zip(around, heights, strict=True)) + f"V{SKY}H0Z"
