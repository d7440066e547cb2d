"""What the page of an outing shows: its facts, its light, its scenes, what to mind, and its other visits."""

from dataclasses import dataclass

from dimgrey.core.cautions.safety import CLOSING, Circumstances, dangers
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.stops import format_aperture, format_time
from dimgrey.core.sky.clock import as_day, julian_date, local_moment, moment_of, parse_clock, zone_named
from dimgrey.core.sky.coordinates import format_coordinates
from dimgrey.outings.actions import CHECKLIST
from dimgrey.outings.day import lightwindows, queries
from dimgrey.outings.day.chainchoice import Through
from dimgrey.outings.day.skysheet import sky_sheet
from dimgrey.outings.day.table import light_table
from dimgrey.outings.forecast import hours_of
from dimgrey.outings.sky_over_scene import sky_over, wants_words
from dimgrey.scenes.situation import Situation

MOST_WINDOWS = 14


@dataclass(frozen=True)
class SceneLine:
    """A scene in the outing's list: what it wants, its planned light, its exposure."""

    number: int
    pk: int
    title: str
    intent: str
    wants: str
    exposure: str
    sky: object

    @property
    def now_words(self):
        """Its light and sky in a few words, "" where nothing is known of them."""
        if self.sky is None:
            return ""
        light = {"": "", "none": "no sun"}.get(self.sky.seen.light, f"{self.sky.seen.light} light")
        return ", ".join(filter(None, (light, f"sky {self.sky.zone}" if self.sky.zone else "")))


@dataclass(frozen=True)
class OutingPage:
    outing: object
    where: str
    table: object
    now: object
    lines: tuple
    windows: tuple
    more_windows: int
    first_day: object
    checklist: tuple
    dangers: tuple
    dismissed: tuple
    closing: str
    problem: str
    hours: tuple


@dataclass(frozen=True)
class Now:
    """What the slider moves: the sky sheet, and the light of each scene at its moment."""

    sheet: object
    lines: tuple


def page_of(outing, scenes, today, labels="zones", asked=None):
    """OutingPage of an outing with its scenes in order. asked: the moment and means of the sky sheet, as forms.MomentForm has
    them, or None; noon or the first planned time then. `problem` says why there is no light table."""
    problem, table = "", None
    try:
        table = light_table(outing, scenes)
    except CoreError as refused:
        problem = str(refused)
    if table is None and not problem:
        missing = [name for name, there in (("a date", outing.date), ("a place", outing.has_place)) if not there]
        problem = f"Give the outing {' and '.join(missing)} to see its light."
    lines = tuple(_line(k, scene, outing, labels) for k, scene in enumerate(scenes, 1))
    windows = _windows(outing, scenes, today)
    found = dangers(_circumstances(outing, scenes, lines, table))
    return OutingPage(
        outing=outing,
        where=format_coordinates(outing.latitude_deg, outing.longitude_deg) if outing.has_place else "",
        table=table,
        now=now_of(outing, scenes, table, asked, labels) if table else None,
        lines=lines,
        windows=tuple(windows[:MOST_WINDOWS]),
        more_windows=max(len(windows) - MOST_WINDOWS, 0),
        first_day=lightwindows.first_day_of(outing, today),
        checklist=tuple((code, text, code in outing.checked) for code, text in CHECKLIST.items()),
        dangers=tuple(d for d in found if d.code not in outing.dismissed),
        dismissed=tuple(d for d in found if d.code in outing.dismissed),
        closing=CLOSING,
        problem=problem,
        hours=_hours(outing, table),
    )


def _windows(outing, scenes, today):
    try:
        return lightwindows.coming_windows(outing, scenes, lightwindows.first_day_of(outing, today))
    except CoreError:
        return []


def now_of(outing, scenes, table, asked=None, labels="zones"):
    """Now of an outing with a light table. asked: time, through and filter as MomentForm read them, or None."""
    clock = (asked and asked.time) or _first_clock(scenes, table, outing)
    scene = next((each for each in scenes if asked and each.pk == asked.through), None) or _first_planned(scenes)
    through = Through(scene, (asked and asked.filter) or "", labels)
    if through.choice not in through.choices:
        through = Through(scene, "", labels)
    moment, _ = local_moment(as_day(outing.date), clock, zone_named(outing.zone))
    jd = julian_date(moment)
    sheet = sky_sheet(outing, scenes, table.day, clock, through)
    lines = tuple(_line(k, each, outing, labels, jd, sheet) for k, each in enumerate(scenes, 1))
    return Now(sheet, lines)


def _first_planned(scenes):
    """The first scene with a tone placed, else the first."""
    placed = (scene for scene in scenes if scene.document.placing.tone or any(t.is_read for t in scene.document.tones))
    return next(placed, scenes[0] if scenes else None)


def _line(number, scene, outing, labels, jd=None, sheet=None):
    """SceneLine at its planned moment, or at `jd`. sheet: the SkySheet, whose own means count for the scene that it goes through."""
    situation = Situation(scene, labels)
    result = situation.plan
    return SceneLine(
        number=number,
        pk=scene.pk,
        title=scene.title,
        intent=scene.document.intent,
        wants=wants_words(scene.document),
        exposure=f"{format_time(result.shutter)} {format_aperture(result.aperture)}" if result else "",
        sky=sheet.seen
        if sheet and scene == sheet.through.scene
        else sky_over(scene.document, scene.facts, outing, result, labels, jd),
    )


def _first_clock(scenes, table, outing):
    """Where the time slider starts: the first scene's planned time, else the highest sun."""
    clocks = [scene.document.view.time for scene in scenes if scene.document.view.time]
    return parse_clock(clocks[0]) if clocks else moment_of(table.day.noon, zone_named(outing.zone)).time()


DARK_SUN_DEG = -6.0
RAINY_MM_H = 0.5


def _circumstances(outing, scenes, lines, table):
    words = [outing.title, outing.intent, outing.notes, outing.place_name]
    for scene in scenes:
        words += [scene.title, scene.document.intent]
    planned = [line.sky for line in lines if line.sky]
    codes = {caution.code for sky in planned for caution in sky.warnings}
    wants = {code for scene in scenes for code in scene.document.wanted.lights}
    hours = [sky.seen.conditions for sky in planned] if table else []
    return Circumstances(
        words=" ".join(words),
        sun="frame" if "sun-in-frame" in codes else "near long lens" if "sun-near-long-lens" in codes else "",
        night=bool(wants & {"night", "moon"}) or any(sky.seen.sun_altitude_deg < DARK_SUN_DEG for sky in planned),
        tidal=outing.tidal,
        wind_m_s=max((hour.wind_m_s for hour in hours), default=0.0),
        rain=any(hour.rain_mm_h >= RAINY_MM_H for hour in hours),
    )


def _hours(outing, table):
    """(hour, Conditions) of the outing's day, for the list that can be typed over."""
    if table is None:
        return ()
    zone = zone_named(outing.zone)
    weather = hours_of(outing, table.start, round((table.end - table.start) * 24))
    return tuple((moment_of(table.start + k / 24, zone).hour, hour) for k, hour in enumerate(weather))


@dataclass(frozen=True)
class Visit:
    """One visit to the place: its date, sun and frames, and what each scene was planned with."""

    outing: object
    here: bool
    sun: str
    cells: tuple
    frames: int


def visits_of(outing, labels="zones"):
    """(titles, visits) of all visits to the place, to compare; ((), ()) when there is one only."""
    visits = list(queries.visits_of(outing))
    if len(visits) < 2:
        return (), ()
    titles = tuple(dict.fromkeys(scene.title for visit in visits for scene in visit.scenes.all() if scene.is_sound))
    return titles, tuple(_visit(visit, outing, titles, labels) for visit in visits)


def _visit(visit, outing, titles, labels):
    scenes = {scene.title: scene for scene in visit.scenes.all() if scene.is_sound}
    cells = []
    for title in titles:
        scene = scenes.get(title)
        line = _line(0, scene, visit, labels) if scene else None
        cells.append(line)
    sun = ""
    try:
        table = light_table(visit, [])
        sun = dict(table.facts)["Sun"] if table else ""
    except CoreError:
        pass
    return Visit(visit, visit.pk == outing.pk, sun, tuple(cells), sum(s.frames_made for s in scenes.values()))
