"""The sky over one scene as it was computed: what cautions and words are made from, and what it is through another chain.

Plain numbers: the phone carries it, and asks it again when a filter changes.
"""

from dataclasses import asdict, dataclass, replace

from dimgrey.core.colour.chain import glass_chain, tone_shift_stops
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.planning.zones import zone_of
from dimgrey.core.sky.conditions import Conditions

SKY_COLOUR = (0.61, 1.02, 2.32)
"""Linear sRGB of daylight of 25,000 K (CIE 15:2004, daylight locus) where D55 sunlight is neutral: a clear sky's blue."""
UPWARD = ("upper", "top")
"""Points of a frame where sky usually is, the likeliest first."""
HAZE_COLOUR = (0.95, 1.0, 1.12)


@dataclass(frozen=True)
class SkyPoint:
    """One point of the frame. stops: from sunlit middle grey as the medium sees it, filter and polarizer included.

    filter_stops, polarizer_stops: their parts. None below the horizon, where there is no sky.
    """

    gamma_deg: float
    ev100: float
    stops: float
    filter_stops: float
    polarizer_stops: float


@dataclass(frozen=True)
class SkyTone:
    """The sky in the frame: a SkyPoint or None by name of the frame's points, and what follows from them."""

    points: dict
    air: str
    sunlit_ev100: float

    @property
    def seen(self):
        return {name: point for name, point in self.points.items() if point}

    @property
    def main(self):
        """The upper middle of the frame, where sky usually is; the top when the camera looks down; None without sky."""
        seen = self.seen
        return next((seen[name] for name in UPWARD if name in seen), None) or next(iter(seen.values()), None)

    @property
    def polarizer_spread_stops(self):
        """Difference of the polarizer's darkening across the frame, 0 with less than two points of sky."""
        taken = [point.polarizer_stops for point in self.seen.values()]
        return max(taken) - min(taken) if len(taken) > 1 else 0.0

    def zone(self, point, setting_ev100=None):
        """Zone of a point: on a setting, or with sunlit middle grey on V when no setting is known."""
        if setting_ev100 is None:
            return 5 + point.stops
        return zone_of(self.sunlit_ev100, setting_ev100) + point.stops


@dataclass(frozen=True)
class FrameSky:
    """The light of one scene at one moment.

    jd: the moment as a Julian date; note: what is odd about its clock time. light: "front", "side", "back", "none" or ""
    without a heading. shadow: its length over the height of things, None while the sun is down. sun_gap_deg: how far the
    sun is outside the frame, 0 inside, None while down or without a heading. tone: of a clear or hazy sky in the frame.
    overcast_zone: of a closed one. coloured, polarizer: what is on the lens. hills_deg: height of the horizon before the sun.
    """

    jd: float
    note: str
    sun_altitude_deg: float
    sun_azimuth_deg: float
    light: str
    shadow: float | None
    conditions: Conditions
    focal_35mm: float
    sun_gap_deg: float | None = None
    tone: SkyTone | None = None
    overcast_zone: float | None = None
    coloured: tuple = ()
    polarizer: bool = False
    hills_deg: float = 0.0

    @property
    def sun_is_hidden(self):
        """The sun is up, and stands behind the hills."""
        return 0 < self.sun_altitude_deg <= self.hills_deg

    @property
    def is_low_sun(self):
        """The sun stands so low that its light changes by the minute; it stands for an hour of sunrise or sunset."""
        return abs(self.sun_altitude_deg) < LOW_SUN_FOR_READINGS_DEG


LOW_SUN_FOR_READINGS_DEG = 10.0
"""Sun altitude that stands for "within an hour of sunrise or sunset", where readings age faster."""


def filter_stops(air, chain, light):
    """How far a chain moves a sky of that air against the meter, stops. chain: Chain or None for no colour. light: its name."""
    colour = SKY_COLOUR if air == "clear" else HAZE_COLOUR
    return tone_shift_stops(chain, colour, glass_chain("eye", light, ()), sky=True) if chain else 0.0


def seen_through(seen, document, chain):
    """A FrameSky through what is on the lens now. seen: it. document: with the filters. chain: the medium's Chain, None for no colour.

    The polarizer stays as it was when the sky was computed: how it is turned needs the frame's directions.
    """
    names = [glass.name for glass in document.filters]
    coloured = tuple(name for name in names if name in COLOURED)
    if seen.tone is None:
        return replace(seen, coloured=coloured)
    shift = filter_stops(seen.conditions.air, chain, document.light)
    points = {
        name: point and replace(point, stops=point.stops - point.filter_stops + shift, filter_stops=shift)
        for name, point in seen.tone.points.items()
    }
    return replace(seen, coloured=coloured, tone=replace(seen.tone, points=points))


def plain_sky(seen):
    """A FrameSky as plain data."""
    return asdict(seen)


def sky_of(data):
    """The FrameSky that `plain_sky` made plain."""
    made = FrameSky(**data)
    tone = made.tone and SkyTone(**made.tone)
    if tone:
        tone = replace(tone, points={name: point and SkyPoint(**point) for name, point in tone.points.items()})
    return replace(made, tone=tone, conditions=Conditions(**made.conditions), coloured=tuple(made.coloured))
