"""Ways out when a scene exceeds the medium, each computed, the gentlest first."""

import math
from dataclasses import dataclass, field, replace

from dimgrey.core.camera.setups import TONE_EFFECTS
from dimgrey.core.measure.brackets import suggested
from dimgrey.core.measure.stops import counted_stops, format_stops
from dimgrey.core.planning.brief import Glass
from dimgrey.core.planning.media import EDGE
from dimgrey.core.planning.plan import plan
from dimgrey.core.planning.wishes import LEAST_GAIN, MOST_WORSE_ZONES, score, wishes_of

GRADUATED_STOPS = (1, 2, 3)
MOST = 5
BURNT_ZONE, BLACK_ZONE = 9.0, 1.0
"""Zones that a wish must reach for a tone to be given up."""


@dataclass(frozen=True)
class Remedy:
    """One way out: code, what to do in words, and what to change; `tone` is the tone that it concerns or None.

    code: development, graduated, contrast, bracket, let-go, soften. effects: what a setup changes, name -> by how much. brief: of
    the scene once it is taken, None where it changes no print by itself.
    """

    code: str
    text: str
    stops: float = 0.0
    count: int = 0
    tone: str | None = None
    effects: dict = field(default_factory=dict)
    brief: object = None


def remedies(result):
    """Remedy of each that helps a Plan and takes no wish noticeably further away; () when every textured tone is held.

    Each that changes prints is planned anew and judged by the one score, wishes and lost texture counted alike.
    """
    found = _found(result)
    if not found:
        return ()
    before = score(result)
    return tuple(each for each in found if each.brief is None or _may(before, score(plan(each.brief))))[:MOST]


def _may(before, after):
    """Whether a way out may be named: it brings texture back at no wish's cost."""
    missed = {(wish.tones, wish.span): zones for wish, zones in before.missed}
    return after.value < before.value + LEAST_GAIN and all(
        zones <= missed.get((wish.tones, wish.span), 0.0) + MOST_WORSE_ZONES for wish, zones in after.missed
    )


def _found(result):
    medium = result.brief.medium
    textured = [tone for tone in result.tones if tone.needs_texture]
    if not textured:
        return []
    low, high = medium.dependable
    brightest = max(textured, key=lambda tone: tone.held)
    darkest = min(textured, key=lambda tone: tone.held)
    over, under = brightest.held - high, low - darkest.held
    if max(over, under) < 0.2:
        return []
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
                brief=_with_graduated(result.brief, stops),
            )
        )
    contrast = _contrast(result.brief, [tone.held for tone in textured])
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
    if _may_go(result, gone, gone is brightest):
        found.append(Remedy("let-go", f"Let {gone.name} {end} on purpose.", tone=gone.name))
    found.append(Remedy("soften", "Wait for softer light, or lift the dark end with fill or a reflector."))
    return found


def _may_go(result, tone, burns):
    """Whether a tone may be given up: neither the subject nor wished where it could not be any more. burns: else it goes black."""
    if tone.role in ("subject", "skin"):
        return False
    spans = [wish.span for wish in wishes_of(result.brief) if wish.span and wish.tones == (tone.name,)]
    return all(high >= BURNT_ZONE if burns else low <= BLACK_ZONE for low, high in spans)


def _with_graduated(brief, stops):
    """A Brief with one graduated filter over its sky, in place of any other."""
    others = tuple(glass for glass in brief.filters if not glass.is_over_sky)
    return replace(brief, filters=(*others, Glass("graduated", stops=stops)))


def _contrast(brief, zones):
    """The least softening of the in-camera file that holds its textured zones, or all that the sensor has; else None.

    Highlights and shadows bend their own side; contrast takes what is still missing.
    """
    medium = brief.medium
    if medium.kind != "digital file":
        return None
    wanted = dict(zip(TONE_EFFECTS, medium.tone, strict=True))
    above = lambda limits: max(zones) - limits[1]
    below = lambda limits: limits[0] - min(zones)
    either = lambda limits: max(below(limits), above(limits))
    missing = dict(zip(TONE_EFFECTS, (either, above, below), strict=True))
    # Contrast last: what bends one end alone spares the middle tones.
    for name in (*TONE_EFFECTS[1:], TONE_EFFECTS[0]):
        wanted[name] = _least(medium, wanted, name, missing[name])
    before, after = either(medium.dependable), either(_softened(medium, wanted))
    if after > before - 0.05:
        return None
    changes = {
        name: round(wanted[name] - now, 4)
        for name, now in zip(TONE_EFFECTS, medium.tone, strict=True)
        if wanted[name] < now
    }
    words = ", ".join(f"{name} {wanted[name]:+.2g}".replace("-", "−") for name in changes)
    left = f"; {after:.1f} zones stay out of its reach" if after > 0.05 else ""
    return Remedy(
        "contrast",
        f"Soften the in-camera file: {words}{left}.",
        effects=changes,
        brief=replace(brief, medium=medium.with_tone(tuple(wanted[name] for name in TONE_EFFECTS))),
    )


def _softened(medium, wanted):
    return medium.with_tone(tuple(wanted[name] for name in TONE_EFFECTS)).dependable


def _least(medium, wanted, name, missing):
    """The effect nearest to what it is now that leaves least missing, in twentieths of its scale."""
    now = wanted[name]
    # Twentieths, the finest step that in-camera menus have; downwards only, since this softens.
    tries = [now, *(k / 20 for k in range(math.ceil(now * 20 - 1e-6) - 1, -21, -1))]
    left = lambda value: max(missing(_softened(medium, {**wanted, name: value})) - EDGE, 0.0)
    return min(tries, key=lambda value: (round(left(value), 3), -value))
