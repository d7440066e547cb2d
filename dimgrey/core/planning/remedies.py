"""Ways out when a scene exceeds the medium, each computed, the gentlest first."""

import math
from dataclasses import dataclass, field

from dimgrey.core.camera.setups import TONE_EFFECTS
from dimgrey.core.measure.brackets import suggested
from dimgrey.core.measure.stops import counted_stops, format_stops
from dimgrey.core.planning.media import EDGE

GRADUATED_STOPS = (1, 2, 3)
MOST = 5


@dataclass(frozen=True)
class Remedy:
    """One way out: code, what to do in words, and what to change; `tone` is the tone that it concerns or None.

    code: development, graduated, contrast, bracket, let-go, soften. effects: what a setup changes, name -> by how much.
    """

    code: str
    text: str
    stops: float = 0.0
    count: int = 0
    tone: str | None = None
    effects: dict = field(default_factory=dict)


def remedies(result):
    """Remedy of each that helps a Plan; () when every textured tone is held."""
    medium = result.brief.medium
    textured = [tone for tone in result.tones if tone.needs_texture]
    if not textured:
        return ()
    low, high = medium.dependable
    brightest = max(textured, key=lambda tone: tone.held)
    darkest = min(textured, key=lambda tone: tone.held)
    over, under = brightest.held - high, low - darkest.held
    if max(over, under) < 0.2:
        return ()
    found = []
    if result.development and result.development_step:
        found.append(Remedy("development", f"Develop {result.development}; it is counted in already."))
    skies = [tone for tone in textured if tone.role == "sky"]
    # Only a sky may be held back: a graduated filter has a straight edge, and nothing else in a scene has one.
    if over > 0.2 and skies and max(skies, key=lambda t: t.held) is brightest:
        stops = min(max(math.ceil(over), GRADUATED_STOPS[0]), GRADUATED_STOPS[-1])
        found.append(
            Remedy(
                "graduated",
                f"A graduated filter of {counted_stops(stops)} over {brightest.name}.",
                stops,
                tone=brightest.name,
            )
        )
    contrast = _contrast(medium, [tone.held for tone in textured])
    if contrast:
        found.append(contrast)
    bracket = suggested([tone.held for tone in textured], medium.dependable)
    # Frames of film are not merged; a bracket there means choosing one of them.
    if bracket and not medium.is_film:
        found.append(
            Remedy(
                "bracket",
                f"Bracket {bracket.count} frames, {format_stops(bracket.step)} stop apart.",
                bracket.step,
                bracket.count,
            )
        )
    # The end that lies further out is given up: it costs least to let it go.
    gone = brightest if over >= under else darkest
    end = "burn out" if gone is brightest else "go black"
    found.append(Remedy("let-go", f"Let {gone.name} {end} on purpose.", tone=gone.name))
    found.append(Remedy("soften", "Wait for softer light, or lift the dark end with fill or a reflector."))
    return tuple(found[:MOST])


def _contrast(medium, zones):
    """The least softening of the in-camera file that holds its textured zones, or all that the sensor has; else None.

    Highlights and shadows bend their own side; contrast takes what is still missing.
    """
    if medium.kind != "digital file":
        return None
    wanted = dict(zip(TONE_EFFECTS, medium.tone, strict=True))
    missing = {
        "highlights": lambda limits: max(zones) - limits[1],
        "shadows": lambda limits: limits[0] - min(zones),
        "contrast": lambda limits: max(limits[0] - min(zones), max(zones) - limits[1]),
    }
    # In this order: what bends one end alone spares the middle tones.
    for name in ("highlights", "shadows", "contrast"):
        wanted[name] = _least(medium, wanted, name, missing[name])
    before, after = missing["contrast"](medium.dependable), missing["contrast"](_softened(medium, wanted))
    if after > before - 0.05:
        return None
    changes = {
        name: round(wanted[name] - now, 4)
        for name, now in zip(TONE_EFFECTS, medium.tone, strict=True)
        if wanted[name] < now
    }
    words = ", ".join(f"{name} {wanted[name]:+.2g}".replace("-", "−") for name in changes)
    left = f"; {after:.1f} zones stay out of its reach" if after > 0.05 else ""
    return Remedy("contrast", f"Soften the in-camera file: {words}{left}.", effects=changes)


def _softened(medium, wanted):
    return medium.with_tone(tuple(wanted[name] for name in TONE_EFFECTS)).dependable


def _least(medium, wanted, name, missing):
    """The effect nearest to what it is now that leaves least missing, in twentieths of its scale."""
    now = wanted[name]
    # Twentieths, the finest step that in-camera menus have; downwards only, since this softens.
    tries = [now, *(k / 20 for k in range(math.ceil(now * 20 - 1e-6) - 1, -21, -1))]
    left = lambda value: max(missing(_softened(medium, {**wanted, name: value})) - EDGE, 0.0)
    return min(tries, key=lambda value: (round(left(value), 3), -value))
