"""The weather as far as a black-and-white photographer needs it, by the hour. Values only; where they come from is a service's business."""

from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange
from dimgrey.core.measure.handheld import WIND_M_S

AIRS = {"clear": 0.8, "hazy": 0.5, "overcast": 0.0}
"""Air by name: how far its sky is polarized where it is most."""
BROKEN_CLOUD = (20.0, 75.0)
"""Cloud cover in percent within which single clouds stand on blue."""
OVERCAST_FROM = 88.0


@dataclass(frozen=True)
class Conditions:
    """One hour. cloud_percent 0..100, visibility_km, wind_m_s, rain_mm_h, tide_m above mean level or None inland.

    simulated: True when a stand-in made it up; typed: True when a person typed it over. known: False where nobody said
    anything; a clear sky is counted with then.
    """

    cloud_percent: float = 0.0
    visibility_km: float = 30.0
    wind_m_s: float = 2.0
    rain_mm_h: float = 0.0
    tide_m: float | None = None
    simulated: bool = False
    typed: bool = False
    known: bool = True

    @property
    def air(self):
        """ "clear", "hazy" or "overcast": what the sky's brightness and polarization follow."""
        if self.cloud_percent >= OVERCAST_FROM:
            return "overcast"
        return "hazy" if self.visibility_km < 12 else "clear"

    @property
    def is_misty(self):
        return self.visibility_km < 2

    @property
    def is_windy(self):
        """Wind that moves a tripod."""
        return self.wind_m_s > WIND_M_S

    def words(self):
        """The hour in one line."""
        if not self.known:
            return "weather not known; a clear sky is counted with"
        cloud = (
            "clear sky" if self.cloud_percent < 15
            else "some cloud" if self.cloud_percent < BROKEN_CLOUD[1]
            else "mostly cloudy" if self.cloud_percent < OVERCAST_FROM
            else "overcast"
        )  # fmt: skip
        parts = [f"{cloud} ({self.cloud_percent:.0f} %)"]
        if self.is_misty:
            parts.append(f"mist, {self.visibility_km:.1f} km")
        elif self.air == "hazy" or self.visibility_km < 12:
            parts.append(f"haze, {self.visibility_km:.0f} km")
        parts.append(f"wind {self.wind_m_s:.0f} m/s")
        if self.rain_mm_h >= 0.1:
            parts.append(f"rain {self.rain_mm_h:.1f} mm/h")
        if self.tide_m is not None:
            parts.append(f"tide {self.tide_m:+.1f} m".replace("-", "−"))
        return ", ".join(parts)


LIMITS = {
    "cloud_percent": (0, 100, "Cloud cover", "%"),
    "visibility_km": (0, 100, "Visibility", "km"),
    "wind_m_s": (0, 60, "Wind", "m/s"),
    "rain_mm_h": (0, 200, "Rain", "mm/h"),
    "tide_m": (-12, 12, "Tide level", "m"),
}


def require_conditions(**values):
    """Checked values for Conditions; None leaves one out. Raises OutOfRange naming it."""
    for name, value in values.items():
        if value is None:
            continue
        low, high, title, unit = LIMITS[name]
        if not low <= value <= high:
            raise OutOfRange(f"{title} is {low} to {high} {unit} (got {value:g}).", parameter=name, code="conditions")
    return {name: float(value) for name, value in values.items() if value is not None}
