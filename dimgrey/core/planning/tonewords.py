"""How a person reads tones: by zones or by stops."""

from dataclasses import dataclass

from dimgrey.core.measure.stops import format_stops, shown_twelfths
from dimgrey.core.planning.zones import MIDDLE, format_tone


@dataclass(frozen=True)
class Words:
    """labels: "zones" or "stops". divisions: parts of a stop that the camera is set in."""

    labels: str = "zones"
    divisions: int = 3

    def zone(self, zone):
        return format_tone(zone, self.labels)

    def surface(self, surface):
        """(zone, compensation) of a Surface, rounded once so that they agree: ("VII⅓", "+2⅓")."""
        return self.zone(surface.zone), format_stops(shown_twelfths(surface.zone) / 12 - MIDDLE, signed=True)

    def printed(self, print):
        """A Print: "VII⅓"; "<0" for what is blacker than the paper's black, ">X" for what is whiter than its white."""
        return ("<" if print.beyond < 0 else ">" if print.beyond > 0 else "") + self.zone(print.zone)

    def held_zone(self, zone):
        """A zone held within 0 to X."""
        return self.zone(min(max(zone, 0.0), 10.0))


def divisions_of(document):
    """Parts of a stop that the camera is set in: halves for a camera in half stops, thirds otherwise."""
    return 2 if document.increment == "half" else 3
