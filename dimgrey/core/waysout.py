"""Ways out when a scene exceeds the medium, each computed, the gentlest first."""

import math
from dataclasses import dataclass, field

from dimgrey.core.brackets import suggested
from dimgrey.core.setups import SLOPE_AT_END, TONE_EFFECTS, plain_stops, toned_stops
from dimgrey.core.stops import format_stops
from dimgrey.core.zones import MIDDLE

GRADUATED_STOPS = (1, 2, 3)
MOST = 5


@dataclass(frozen=True)
class WayOut:
    """One way: code, what to do in words, and what to change; `tone` is the tone that it concerns or None.

    code: development, graduated, contrast, bracket, let-go, soften. effects: what a setup changes, name -> by how much.
    """

    code: str
    text: str
    stops: float = 0.0
    count: int = 0
    tone: str | None = None
    effects: dict = field(default_factory=dict)


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
    contrast = _contrast(medium, [tone.zone_printed for tone in textured])
    if contrast:
        found.append(contrast)
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


def _contrast(medium, zones):
    """The least softening of the in-camera file that brings its textured zones within reach, or all there is; else None.

    Highlights and shadows bend their own side; contrast takes what is still missing from both.
    """
    if medium.kind != "digital file":
        return None
    low, high = medium.dependable
    now = dict(zip(TONE_EFFECTS, medium.tone, strict=True))
    plain = [float(plain_stops(zone - MIDDLE, medium.tone)) for zone in zones]
    wanted = dict(now)
    for name, end, room in (("highlights", max(plain), high - MIDDLE), ("shadows", -min(plain), MIDDLE - low)):
        if end > 0:
            needed = (room / (end * (1 + SLOPE_AT_END * now["contrast"])) - 1) / SLOPE_AT_END
            wanted[name] = _least(now[name], needed)
    worst = max(
        max(plain) * (1 + SLOPE_AT_END * wanted["highlights"]) / (high - MIDDLE),
        -min(plain) * (1 + SLOPE_AT_END * wanted["shadows"]) / (MIDDLE - low),
    )
    if worst > 0:
        wanted["contrast"] = _least(now["contrast"], (1 / worst - 1) / SLOPE_AT_END)
    changes = {name: round(wanted[name] - now[name], 4) for name in TONE_EFFECTS if wanted[name] < now[name] - 0.01}
    if not changes:
        return None
    words = ", ".join(f"{name} {wanted[name]:+.2g}".replace("-", "−") for name in changes)
    left = [5 + float(toned_stops(z, tuple(wanted[name] for name in TONE_EFFECTS))) for z in plain]
    over = max(max(left) - high, low - min(left))
    rest = f"; {over:.1f} zones are still past the file" if over > 0.05 else ""
    return WayOut("contrast", f"Soften the in-camera file: {words}{rest}.", effects=changes)


def _least(now, needed):
    """The effect `now`, or what is needed below it, downwards to a twentieth of the scale so that it is reached."""
    return now if needed >= now else max(math.floor(needed * 20 + 1e-6) / 20, -1.0)
