"""Ways out when a scene exceeds the medium, each computed, the gentlest first."""

import math
from dataclasses import dataclass

from dimgrey.core.brackets import suggested
from dimgrey.core.stops import format_stops

GRADUATED_STOPS = (1, 2, 3)
MOST = 4


@dataclass(frozen=True)
class WayOut:
    """One way: code, what to do in words, and what to change; `tone` is the tone that it concerns or None.

    code: development, graduated, bracket, let-go, soften.
    """

    code: str
    text: str
    stops: float = 0.0
    count: int = 0
    tone: str | None = None


def ways_out(result):
    """WayOut of each that helps a Plan; () when every textured tone is held."""
    medium = result.scene.medium
    textured = [tone for tone in result.tones if tone.needs_texture]
    if not textured:
        return ()
    low, high = medium.dependable
    brightest = max(textured, key=lambda tone: tone.zone_printed)
    darkest = min(textured, key=lambda tone: tone.zone_printed)
    over, under = brightest.zone_printed - high, low - darkest.zone_printed
    if max(over, under) < 0.2:
        return ()
    found = []
    if result.development and result.development_step:
        found.append(WayOut("development", f"Develop {result.development}; it is counted in already."))
    skies = [tone for tone in textured if tone.role == "sky"]
    if over > 0.2 and skies and max(skies, key=lambda t: t.zone_printed) is brightest:
        stops = min(max(math.ceil(over), GRADUATED_STOPS[0]), GRADUATED_STOPS[-1])
        found.append(
            WayOut(
                "graduated", f"A graduated filter of {stops} stops over {brightest.name}.", stops, tone=brightest.name
            )
        )
    bracket = suggested([tone.zone_printed for tone in textured], medium.dependable)
    if bracket and not medium.is_film:
        found.append(
            WayOut(
                "bracket",
                f"Bracket {bracket.count} frames, {format_stops(bracket.step)} stop apart.",
                bracket.step,
                bracket.count,
            )
        )
    gone = brightest if over >= under else darkest
    end = "burn out" if gone is brightest else "go black"
    found.append(WayOut("let-go", f"Let {gone.name} {end} on purpose.", tone=gone.name))
    found.append(WayOut("soften", "Wait for softer light, or lift the dark end with fill or a reflector."))
    return tuple(found[:MOST])
