"""The light of a scene at its planned hour, in words and numbers: where the sun is, how deep the sky goes."""

import math
from dataclasses import dataclass
from functools import lru_cache

from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.steadiness import wind_shakes
from dimgrey.core.planning.zones import format_tone
from dimgrey.core.sky import dome
from dimgrey.core.sky.clock import as_day, julian_date, local_moment, moment_of, parse_clock, require_day, zone_named
from dimgrey.core.sky.light import WANTS, compass_point, light_from, shadow_length, sun_near_frame
from dimgrey.core.sky.skytone import SkyWarning, overcast_stops, sky_tone, sky_warnings
from dimgrey.core.sky.sun import sun_position
from dimgrey.outings import weather
from dimgrey.scenes import light

FROM_WORDS = {
    "front": "sun behind the camera",
    "side": "side light",
    "back": "against the light",
    "none": "the sun is down",
}


WIND = SkyWarning(
    "wind-shakes-tripod",
    "Wind moves a tripod with a long lens between 1/60 and 2 s: weigh it down, find shelter, or hold a safe time by hand.",
)


@dataclass(frozen=True)
class SceneSky:
    """The light of one scene at one moment. Words are ready to show; numbers are for drawings.

    when: local time. light: "front", "side", "back", "none", or "" without a heading. zone: the sky's zone in words
    at the middle of the frame, "" when there is no sky or it cannot be said. polarizer: its stops across the frame.
    """

    when: str
    note: str
    sun_altitude_deg: float
    sun_azimuth_deg: float
    light: str
    shadow: str
    zone: str
    polarizer: str
    air: str
    weather: str
    simulated: bool
    wind_m_s: float
    warnings: tuple

    @property
    def line(self):
        """The light in one sentence."""
        if self.sun_altitude_deg <= 0:
            return f"{self.when}: the sun is {abs(self.sun_altitude_deg):.0f}° below the horizon."
        parts = [f"sun {self.sun_altitude_deg:.0f}° high in the {compass_point(self.sun_azimuth_deg)}"]
        if self.light:
            parts.append(FROM_WORDS[self.light])
        parts.append(f"shadows {self.shadow}")
        return f"{self.when}: {', '.join(parts)}."

    @property
    def short(self):
        """The light in a few words, for the sheet's one line."""
        if self.sun_altitude_deg <= 0:
            return f"{self.when}, sun {abs(self.sun_altitude_deg):.0f}° below the horizon"
        parts = [self.when, f"sun {self.sun_altitude_deg:.0f}° {compass_point(self.sun_azimuth_deg)}"]
        parts += [f"{self.light} light"] if self.light else []
        parts += [f"sky {self.zone}"] if self.zone else []
        parts += [f"polarizer {self.polarizer}"] if self.polarizer else []
        return ", ".join(parts)

    @property
    def sky_line(self):
        if not self.zone:
            return ""
        return f"Sky {self.zone} in the frame{f'; polarizer {self.polarizer}' if self.polarizer else ''}."


def planned_jd(outing, document):
    """(Julian date, note) of the scene's planned moment, or (None, "") while date or time is missing."""
    clock = document.get("view", {}).get("time")
    if outing is None or outing.date is None or not clock:
        return None, ""
    try:
        day = require_day(as_day(outing.date))
        moment, note = local_moment(day, parse_clock(clock), zone_named(outing.zone))
    except CoreError:
        return None, ""
    return julian_date(moment), note


def planned_sun_altitude(scene):
    """Altitude of the sun at the scene's planned moment, degrees, or None when it is not known."""
    jd, _ = planned_jd(scene.outing, scene.document)
    if jd is None or not scene.outing.has_place:
        return None
    return _sun(jd, scene.outing.latitude_deg, scene.outing.longitude_deg)[0]


def has_sky(document):
    """Whether there is sky in the frame: said so, or one of the tones is a sky."""
    return bool(document.get("view", {}).get("sky")) or any(t.get("role") == "sky" for t in document.get("tones", []))


def scene_sky(document, picture, outing, result, labels="zones", jd=None):
    """SceneSky of a scene at its planned moment (or at `jd`), or None while place or time is missing.

    result: the scene's Plan or None; with it the sky's zone is on its setting, without it on sunlit middle grey.
    """
    note = ""
    if jd is None:
        jd, note = planned_jd(outing, document)
    if jd is None or outing is None or not outing.has_place:
        return None
    view = document.get("view", {})
    sun_altitude, sun_azimuth = _sun(jd, outing.latitude_deg, outing.longitude_deg)
    heading = view.get("heading_deg")
    conditions = weather.conditions_at(outing, jd)
    shadow = shadow_length(1.0, sun_altitude)
    facts = {
        "when": moment_of(jd, zone_named(outing.zone)).strftime("%H:%M"),
        "note": note,
        "sun_altitude_deg": sun_altitude,
        "sun_azimuth_deg": sun_azimuth,
        "light": light_from(heading, sun_azimuth, sun_altitude) if heading is not None else "",
        "shadow": shadow_words(shadow),
        "air": conditions.air,
        "weather": conditions.words(),
        "simulated": conditions.simulated,
        "wind_m_s": conditions.wind_m_s,
    }
    zone, taken, warnings = _frame_sky(document, picture, result, labels, facts, heading)
    focal = light.focal_35mm(document, picture)
    if result and wind_shakes(conditions.wind_m_s, focal, result.shutter_seconds):
        warnings = (*warnings, WIND)
    return SceneSky(**facts, zone=zone, polarizer=taken, warnings=warnings)


def shadow_words(times):
    """ "1.7× as long as things are high"."""
    if times is None:
        return "none"
    return "over 20× as long as things are high" if times > 20 else f"{times:.1f}× as long as things are high"


@lru_cache(maxsize=256)
def _sun(jd, latitude, longitude):
    seen = sun_position(jd, latitude, longitude)
    return float(seen.altitude_deg), float(seen.azimuth_deg)


def _frame_sky(document, picture, result, labels, facts, heading):
    """(zone words, polarizer words, warnings) of the sky in the frame."""
    if heading is None:
        return "", "", ()
    names = [glass["name"] for glass in document.get("filters", [])]
    coloured, polarizer = tuple(n for n in names if n in COLOURED), "polarizer" in names
    focal = light.focal_35mm(document, picture)
    upright = picture is not None and picture.view_height > picture.view_width
    width, height = (24.0, 36.0) if upright else (36.0, 24.0)
    directions = dome.frame_directions(heading, document.get("view", {}).get("tilt_deg", 0.0), focal, width, height)
    sun = dome.Direction(facts["sun_altitude_deg"], facts["sun_azimuth_deg"])
    centre = directions["centre"]
    gamma = dome.angle_between_deg(centre.altitude_deg, centre.azimuth_deg, sun.altitude_deg, sun.azimuth_deg)
    gap = sun_near_frame(sun.altitude_deg, gamma, math.degrees(math.atan(math.hypot(width, height) / 2 / focal)))
    setting = result.setting_ev100 if result else None
    tone, words, taken = None, "", ""
    if has_sky(document) and facts["air"] == "overcast" and sun.altitude_deg > 0:
        above = max(directions["top"].altitude_deg / 2, 5)
        words = f"about {format_tone(min(5 + overcast_stops(above), 10), labels)}, blank grey-white"
    elif has_sky(document) and sun.altitude_deg > 0:
        tone = sky_tone(
            sun, directions, facts["air"], result.chain if result else None, document.get("light", "D55"), polarizer
        )
        if tone.seen:
            words = _zone_words(tone, setting, labels)
            taken = _polarizer_words(tone) if polarizer else ""
    dark = _dark_subject(result)
    return words, taken, sky_warnings(tone, gap, focal, coloured, polarizer, dark, setting)


def _zone_words(tone, setting, labels):
    middle = tone.zone(tone.main or next(iter(tone.seen.values())), setting)
    zones = [tone.zone(point, setting) for point in tone.seen.values()]
    words = f"on {format_tone(min(max(middle, 0), 10), labels)}"
    if max(zones) - min(zones) > 0.8:
        low, high = (format_tone(min(max(z, 0), 10), labels) for z in (min(zones), max(zones)))
        words += f" ({low} to {high} across)"
    return words


def _polarizer_words(tone):
    taken = [point.polarizer_stops for point in tone.seen.values()]
    if max(taken) - min(taken) < 0.3:
        return f"{min(taken):.1f} stops".replace("-", "−")
    return f"{min(taken):.1f} to {max(taken):.1f} stops".replace("-", "−")


def _dark_subject(result):
    if result is None:
        return None
    subjects = [tone for tone in result.tones if tone.role == "subject"]
    if not subjects:
        return None
    darkest = min(subjects, key=lambda tone: tone.zone_after_filter)
    return darkest.name, darkest.zone_after_filter


def wants_words(document):
    """What light the scene asks for, in words."""
    return ", ".join(WANTS[code].label for code in document.get("wanted", {}).get("lights", []) if code in WANTS)
