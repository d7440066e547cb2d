"""A miss in sentences: what it is, how large, how sure, and what to change next time. One truth for pages, log and files."""

from dataclasses import dataclass

from dimgrey.core.camera.setups import SLOPE_AT_END
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning.development import TARGET_SPREAD

AS_PLANNED = "As planned."
SET_ALIKE_STOPS = 1 / 6
"""What was set otherwise than planned by less is rounding; and it explains a difference that is so close to it."""


@dataclass(frozen=True)
class Shot:
    """What is known of how a result came to be. tells_exposure, is_print: of its Kind. set_stops: light given beyond the plan on
    purpose, by the log (+ is more). is_film. filter: what the plan sees through, in words. step: of its development."""

    tells_exposure: bool = True
    is_print: bool = False
    set_stops: float = 0.0
    is_film: bool = True
    filter: str = ""
    step: int = 0


@dataclass(frozen=True)
class Said:
    """One part of a miss in words. kind: as misses.Part has it. what: the finding. next: what to change. short: the finding in a list."""

    kind: str
    what: str
    next: str
    short: str


def told(miss, shot):
    """Said of each part of a Miss, () when all is as planned. shot: Shot."""
    return tuple(said for part in miss.parts for said in (_SENTENCES[part.kind](part, shot, miss),) if said)


def unexplained_stops(miss, shot):
    """Exposure that neither plan nor log account for, stops; + is lighter. miss: Miss. shot: Shot.

    None for a result that does not tell the exposure.
    """
    return round(miss.a - shot.set_stops, 4) if shot.tells_exposure else None


def _stops(size):
    """Stops or zones in words of thirds; tenths for what is smaller than a third.

    >>> _stops(0.66), _stops(-0.2), _stops(1.0)
    ('⅔', '0.2', '1')
    """
    return f"{abs(size):.1f}" if abs(size) < 0.29 else format_stops(abs(size))


def _sure(half):
    return f" (±{half:.1f})" if half >= 0.05 else " (±0.05)"


def _plural(size, word):
    return word if abs(size) < 1.17 else word + "s"


def _exposure(part, shot, miss):
    lighter = "lighter" if part.size > 0 else "darker"
    amount = f"{_stops(part.size)} {_plural(part.size, 'stop')}"
    short = f"{amount} {lighter}"
    if shot.is_print:
        way = "darker: give its paper more light" if part.size > 0 else "lighter: give its paper less light"
        what = f"The print is {amount} {lighter} than planned{_sure(part.half)}."
        return Said("exposure", what, f"Print it {way}. It says nothing of the exposure of the film.", short)
    what = f"The whole picture is {amount} {lighter} than planned{_sure(part.half)}."
    left = part.size
    if abs(shot.set_stops) > SET_ALIKE_STOPS:
        left -= shot.set_stops
        set_words = f"{_stops(shot.set_stops)} {_plural(shot.set_stops, 'stop')} {'more' if shot.set_stops > 0 else 'less'} light was set than planned"
        if abs(left) <= SET_ALIKE_STOPS:
            return Said("exposure", what, f"That is what was set: {set_words}.", short)
        what += f" Of this, {set_words}; {_stops(left)} {_plural(left, 'stop')} {'lighter' if left > 0 else 'darker'} is left."
    way = "less" if left > 0 else "more"
    return Said(
        "exposure",
        what,
        f"Next time give {_stops(left)} {_plural(left, 'stop')} {way} light, or ask the reading that placed it.",
        short,
    )


def _contrast(part, shot, miss):
    higher = part.size > 0
    what = f"Contrast is {abs(part.size) * 100:.0f} % {'higher' if higher else 'lower'} than planned (±{part.half * 100:.0f} %)."
    short = f"contrast {part.size * 100:+.0f} %".replace("-", "−")
    if shot.is_print:
        return Said("contrast", what, f"Print it on a {'softer' if higher else 'harder'} grade.", short)
    if shot.is_film:
        steps = -TARGET_SPREAD * part.size
        by = f" by about {_stops(steps)} {_plural(steps, 'step')} of N" if abs(steps) >= 0.3 else ""
        return Said(
            "contrast",
            what,
            f"Develop {'less' if higher else 'longer'}{by}, or use a {'softer' if higher else 'harder'} grade.",
            short,
        )
    turn = abs(1 / (1 + part.size) - 1) / SLOPE_AT_END
    return Said(
        "contrast",
        what,
        f"Turn contrast {'down' if higher else 'up'} by about {min(turn, 1) * 100:.0f} % of its way.",
        short,
    )


def _filter(part, shot, miss):
    names = " or ".join("no filter" if name == "none" else f"the {name} filter" for name in part.filters)
    planned = f" in place of {shot.filter}" if shot.filter and shot.filter != "none" else ""
    return Said(
        "filter",
        f"Coloured tones lie as if seen through {names}{planned}, up to {part.size:.1f} zones off.",
        "Look at what was on the lens or in the setup.",
        f"as if through {names}",
    )


def _flare(part, shot, miss):
    return Said(
        "flare",
        f"One light lies over all, as flare does: {part.size * 100:.0f} % of middle grey, seen in the dark tones.",
        "Shade the lens, keep sun and lamps off its glass, and clean it.",
        "flare",
    )


def _tone(part, shot, miss):
    lighter = "lighter" if part.size > 0 else "darker"
    return Said(
        "tone",
        f"{part.tone} alone is {_stops(part.size)} {_plural(part.size, 'zone')} {lighter} than planned.",
        "It moved or its light changed, or its colour is another than was read.",
        f"{part.tone} {lighter}",
    )


def _end(part, shot, miss):
    is_white = part.size > 0
    return Said(
        "end",
        f"{part.tone} is lost in {'white' if is_white else 'black'}, and was to keep texture.",
        "Give it room at that end: "
        + ("less light, or protect the highlights." if is_white else "more light, or lift the shadows."),
        f"{part.tone} lost",
    )


_SENTENCES = {
    "exposure": _exposure,
    "contrast": _contrast,
    "filter": _filter,
    "flare": _flare,
    "tone": _tone,
    "end": _end,
}
