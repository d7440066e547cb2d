"""How the means of a scene print a sky: from stops beside sunlit middle grey to the fall and the print.

One way for the sky of a frame, its cautions and the whole horizon, so that they cannot differ.
"""

from dataclasses import dataclass, replace

from dimgrey.core.planning.zones import MIDDLE, zone_of


def observed_sky(result):
    """The planned tone of a sky that was read, or None: what was seen beats what was computed. result: Plan or None."""
    return next((tone for tone in result.tones if tone.role == "sky"), None) if result else None


@dataclass(frozen=True)
class SkyPrint:
    """What a sky becomes in print. result: the Plan whose means it goes through, or None.

    card_zone: where middle grey that faces the sun falls on the setting. off: zones by which a sky that was read falls above its
    forecast. At another moment both stay: the photographer will meter again and place alike.
    """

    result: object
    card_zone: float = MIDDLE
    off: float = 0.0

    def fall(self, stops):
        """Fall of a sky that many stops beside sunlit middle grey, filter and polarizer counted in. Numbers or arrays."""
        lost = self.result.brief.medium.push_stops + self.result.graduated_stops if self.result else 0.0
        return self.card_zone + stops - lost + self.off

    def print(self, stops):
        """Print of such a sky, a number."""
        fall = float(self.fall(stops))
        return self.result.printing.print(fall).zone if self.result else fall


def sky_print(result, tone):
    """SkyPrint of a plan at its moment. result: Plan or None. tone: the SkyTone of its frame."""
    plain = SkyPrint(result, zone_of(tone.sunlit_ev100, result.setting_ev100) if result else MIDDLE)
    read = observed_sky(result)
    if read is None or tone.main is None:
        return plain
    return replace(plain, off=read.fall - float(plain.fall(tone.main.stops)))
