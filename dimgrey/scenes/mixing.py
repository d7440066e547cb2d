"""The curve of an own mix, ready to draw: over hue, with the tones standing on it, and what it costs."""

from dataclasses import dataclass

from dimgrey.core.colour.chain import grey_of_colour, mixed_chain, noise_gain_of
from dimgrey.core.colour.ownmix import HUE_NAMES, MOST_STOPS, PALE, curve_at, hold_of, hue_deg
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning.separation import NOISE_LIMIT

WIDTH, HEIGHT, STEP_DEG = 360, 96, 6
STEEP_STOPS = 1.2
"""Difference over 30 degrees of hue from which edges between two colours draw light or dark lines."""


@dataclass(frozen=True)
class MixCurve:
    """path: SVG path. hues: (x, name) of the six. dots: (x, y, mark) of tones with a colour. pale: names of those without.
    words: what the curve costs."""

    path: str
    hues: tuple
    dots: tuple
    pale: tuple
    words: str


def takes_own_mix(document):
    """Whether a Document's file keeps its colours, so that they can be mixed later."""
    return document.medium.kind == "digital raw" and document.medium.mixes_channels


def mix_curve(situation):
    """MixCurve of a Situation."""
    medium = situation.brief.medium
    hues = range(0, 361, STEP_DEG)
    stops = [curve_at(medium.own_mix, hue) for hue in hues]
    coloured = {tone.name: tone.colour for tone in situation.brief.tones if tone.colour}
    moves = {name: colour for name, colour in coloured.items() if hold_of(colour) >= PALE}
    dots = []
    for name, colour in moves.items():
        at = hue_deg(colour)
        dots.append((round(at), round(_y(curve_at(medium.own_mix, at)), 1), situation.document.marks[name]))
    return MixCurve(
        path="M" + "L".join(f"{hue} {_y(value):.1f}" for hue, value in zip(hues, stops, strict=True)),
        hues=tuple((hue, name) for hue, name in HUE_NAMES),
        dots=tuple(dots),
        pale=tuple(name for name in coloured if name not in moves),
        words=_cost_words(medium, coloured),
    )


def _y(stops):
    return HEIGHT / 2 - stops / MOST_STOPS * (HEIGHT / 2 - 8)


def _cost_words(medium, colours):
    """Noise and halos of the curve, in words; "" for none."""
    if not medium.own_mix:
        return ""
    mixed, plain = mixed_chain(medium.channel_mix, medium.own_mix), mixed_chain(medium.channel_mix)
    said, gain = [], noise_gain_of(mixed)
    if gain > NOISE_LIMIT:
        said.append(f"Noise ×{gain:.1f}: more than a print bears without showing it")
    elif gain > 1.05:
        said.append(f"Noise ×{gain:.1f} where it lightens most")
    swapped = _swapped(colours, mixed, plain)
    ring = [curve_at(medium.own_mix, hue) for hue in range(0, 390, STEP_DEG)]
    steepest = max(abs(b - a) for a, b in zip(ring, ring[5:], strict=False))
    if swapped:
        said.append(f"{swapped} swap order: halos along the edge between them")
    elif steepest > STEEP_STOPS:
        said.append(f"steep, {format_stops(steepest)} stops within 30° of hue: look for lines along edges")
    return f"{'; '.join(said)}." if said else "No cost to speak of."


def _swapped(colours, mixed, plain):
    """ "sky and brick", the first two tones whose order of greys the mix turns round, or ""."""
    greys = {name: (grey_of_colour(plain, c), grey_of_colour(mixed, c)) for name, c in colours.items()}
    for a, (before_a, after_a) in greys.items():
        for b, (before_b, after_b) in greys.items():
            if before_a > 1.2 * before_b and after_b > 1.2 * after_a:
                return f"{a} and {b}"
    return ""
