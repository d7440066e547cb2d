"""The sky over a scene: its FrameSky from the outing's place and weather, and the words for it."""

import math
from dataclasses import dataclass
from functools import cached_property

from dimgrey.core.cautions.registry import raised
from dimgrey.core.cautions.sky import SkyCase
from dimgrey.core.document.lightscale import focal_35mm
from dimgrey.core.judging.otherways import Hour
from dimgrey.core.planning.zones import MIDDLE, format_tone, zone_of
from dimgrey.core.sky.clock import moment_of, zone_named
from dimgrey.core.sky.conditions import Conditions
from dimgrey.core.sky.daylight import sunlit_ev100
from dimgrey.core.sky.framesky import frame_sky, planned_moment, polarized_frame, sun_over
from dimgrey.core.sky.skyprint import SkyPrint
from dimgrey.core.sky.skyview import FrameSky
from dimgrey.core.sky.wants import WANTS, compass_point
from dimgrey.outings import forecast

FROM_WORDS = {
    "front": "sun behind the camera",
    "side": "side light",
    "back": "against the light",
    "none": "the sun is down",
}
SAME_MOMENT_DAYS = 1 / 1440
HOURS_EACH_WAY = 16
LEAST_SUN_DEG = 3.0
"""A lower sun lights nothing that one could count on."""
ACROSS_ZONES = 0.8
"""A sky that differs by more than this across the frame is said with both ends."""


@dataclass(frozen=True)
class SceneSky:
    """The light of one scene at one moment, in words. seen: the FrameSky. result: the scene's Plan or None. planned: as SkyCase has it.

    With a plan the sky's zone is its print on the plan's setting, without one a place beside sunlit middle grey.
    """

    seen: FrameSky
    zone_name: str
    labels: str = "zones"
    result: object = None
    planned: SkyPrint | None = None

    @property
    def case(self):
        """SkyCase of this light."""
        return SkyCase(self.seen, self.result, self.planned)

    @property
    def printed(self):
        """SkyPrint of this light, also where the frame has no sky."""
        return self.case.print if self.seen.tone and self.seen.tone.seen else self.planned or SkyPrint(self.result)

    @property
    def when(self):
        """Local time of the place."""
        return moment_of(self.seen.jd, zone_named(self.zone_name)).strftime("%H:%M")

    @property
    def shadow(self):
        return shadow_words(self.seen.shadow)

    @property
    def weather(self):
        return self.seen.conditions.words()

    @property
    def simulated(self):
        return self.seen.conditions.simulated

    @cached_property
    def warnings(self):
        """Cautions of this light."""
        return raised("sky", self.case)

    @cached_property
    def zone(self):
        """The sky's zone in words at the middle of the frame, "" when there is no sky or it cannot be said."""
        if self.seen.overcast_zone is not None:
            return f"about {format_tone(self.seen.overcast_zone, self.labels)}, blank grey-white"
        case = self.case
        if not case.prints:
            return ""
        words = f"on {_tone(case.main_print, self.labels)}{' as read' if case.observed else ''}"
        low, high = min(case.prints), max(case.prints)
        if high - low > ACROSS_ZONES:
            words += f" ({_tone(low, self.labels)} to {_tone(high, self.labels)} across)"
        return words

    @property
    def polarizer(self):
        """What the polarizer takes from the sky across the frame, "" without one."""
        tone = self.seen.tone
        if tone is None or not tone.seen or not self.seen.polarizer:
            return ""
        taken = [point.polarizer_stops for point in tone.seen.values()]
        low, high = min(taken), max(taken)
        words = f"{low:.1f} stops" if high - low < 0.3 else f"{low:.1f} to {high:.1f} stops"
        return words.replace("-", "−")

    @property
    def line(self):
        """The light in one sentence."""
        altitude = self.seen.sun_altitude_deg
        if altitude <= 0:
            return f"{self.when}: the sun is {abs(altitude):.0f}° below the horizon."
        if self.seen.sun_is_hidden:
            return f"{self.when}: the sun, {altitude:.0f}° high, is behind the hills."
        parts = [f"sun {altitude:.0f}° high in the {compass_point(self.seen.sun_azimuth_deg)}"]
        if self.seen.light:
            parts.append(FROM_WORDS[self.seen.light])
        parts.append(f"shadows {self.shadow}")
        return f"{self.when}: {', '.join(parts)}."

    @property
    def side(self):
        """Where the light comes from: "side light"; "" where the scene has no direction."""
        hidden = self.seen.sun_altitude_deg <= 0 or self.seen.sun_is_hidden
        return "" if hidden or not self.seen.light else FROM_WORDS[self.seen.light]

    @property
    def short(self):
        """The light in a few words, for the sheet's one line."""
        altitude = self.seen.sun_altitude_deg
        if altitude <= 0:
            return f"{self.when}, sun {abs(altitude):.0f}° below the horizon"
        if self.seen.sun_is_hidden:
            return f"{self.when}, sun behind the hills"
        parts = [self.when, f"sun {altitude:.0f}° {compass_point(self.seen.sun_azimuth_deg)}"]
        parts += [f"{self.seen.light} light"] if self.seen.light else []
        parts += [f"sky {self.zone}"] if self.zone else []
        parts += [f"polarizer {self.polarizer}"] if self.polarizer else []
        return ", ".join(parts)

    @property
    def sky_line(self):
        if not self.zone:
            return ""
        return f"Sky {self.zone} in the frame{f'; polarizer {self.polarizer}' if self.polarizer else ''}."


def sky_over(document, facts, outing, result, labels="zones", jd=None):
    """SceneSky of a Document at its planned moment (or at `jd`), or None while place or time is missing.

    facts: of its picture, or None. outing: Outing, or None for a scene that brings its own place.
    """
    place = outing.place if outing else document.place
    moment = jd if jd is not None else planned_moment(place, document.view)[0]
    if moment is None or place is None:
        return None
    seen = frame_sky(
        document,
        place,
        _conditions(outing, place, moment),
        focal_35mm(document, facts),
        upright=facts is not None and facts.is_upright,
        chain=result.chain if result else None,
        jd=jd,
    )
    planned = None if jd is None else _print_planned(document, facts, outing, result, jd)
    return SceneSky(seen, place.zone, labels, result, planned)


def hours_around(document, facts, outing, result):
    """otherways.Hour of each other full hour of a Document's day at which its sky is as clear and the sun lights the same side.

    facts, outing, result: as in `sky_over`. () where the sky of the frame cannot be reckoned now.
    """
    now = sky_over(document, facts, outing, result)
    if now is None or now.seen.tone is None or now.seen.tone.main is None:
        return ()
    start = math.floor(now.seen.jd * 24) / 24
    found = []
    for hours in range(-HOURS_EACH_WAY, HOURS_EACH_WAY + 1):
        there = sky_over(document, facts, outing, result, jd=start + hours / 24)
        if _is_like(there, now):
            stops = there.seen.tone.main.stops - now.seen.tone.main.stops
            found.append(Hour(there.when, float(stops)))
    return tuple(found)


def _is_like(there, now):
    """Whether a moment has the day, the air and the lit side of another, a sun outside the frame and some sky in it."""
    seen, day = there.seen, lambda sky: moment_of(sky.seen.jd, zone_named(sky.zone_name)).date()
    return (
        day(there) == day(now)
        and seen.sun_altitude_deg >= LEAST_SUN_DEG
        and not seen.sun_is_hidden
        and seen.sun_gap_deg != 0
        and seen.conditions.air == now.seen.conditions.air
        and seen.light == now.seen.light
        and seen.tone is not None
        and seen.tone.main is not None
    )


def _print_planned(document, facts, outing, result, jd):
    """SkyPrint of the moment that a scene was planned for, to be carried over to `jd`; None where that is the moment itself,
    or where no moment is planned. A scene planned for the dark says nothing of daylight: sunlit middle grey is on V then."""
    planned = sky_over(document, facts, outing, result)
    if planned is None or abs(planned.seen.jd - jd) < SAME_MOMENT_DAYS:
        return None
    if planned.seen.tone and planned.seen.tone.seen:
        return planned.case.print
    altitude = planned.seen.sun_altitude_deg
    return SkyPrint(
        result, zone_of(sunlit_ev100(altitude), result.setting_ev100) if result and altitude > 0 else MIDDLE
    )


def polarized_over(document, facts, outing):
    """framesky.Polarized of a Document at its planned moment, or None where a polarizer has no sky to act on.

    facts, outing: as in `sky_over`.
    """
    place = outing.place if outing else document.place
    if place is None or all(glass.name != "polarizer" for glass in document.filters):
        return None
    moment, _ = planned_moment(place, document.view)
    if moment is None:
        return None
    upright = facts is not None and facts.is_upright
    return polarized_frame(document, place, _conditions(outing, place, moment), focal_35mm(document, facts), upright)


def _conditions(outing, place, jd):
    """Weather of the hour: of the outing, or as the scene brought it along; a clear sky where nothing is known."""
    if outing:
        return forecast.conditions_at(outing, jd)
    if place.weather:
        known = place.weather
        return Conditions(known.cloud_percent, known.visibility_km, known.wind_m_s, simulated=known.simulated)
    return Conditions()


def planned_sun_altitude(outing, document):
    """Altitude of the sun at the scene's planned moment, degrees, or None when it is not known."""
    place = outing.place if outing else document.place
    jd, _ = planned_moment(place, document.view)
    return None if jd is None else sun_over(jd, place.latitude_deg, place.longitude_deg)[0]


def shadow_words(times):
    """ "1.7× as long as things are high"."""
    if times is None:
        return "none"
    return "over 20× as long as things are high" if times > 20 else f"{times:.1f}× as long as things are high"


def wants_words(document):
    """What light the scene asks for, in words."""
    return ", ".join(WANTS[code].label for code in document.wanted.lights if code in WANTS)


def _tone(zone, labels):
    return format_tone(min(max(zone, 0), 10), labels)
