"""From colour to grey: lens filter, light and film or sensor as one chain.

With scene colours c in linear sRGB, the grey that the medium sees is ``G = Y(c) 2**T(x, y)``: the luminance, and a table over the
chromaticity that measured objects have taught (known.py). A clear sky is no object: it is blue with almost no red in it, and
is looked at as a phase of daylight, which three numbers describe. A camera's own channel mix stays with its three weights.
The three weights of a glass chain say in words what its grey is made of. One colour at a time, in plain numbers; greys.py has
the same for pictures. Source: HANDBOOK 7 and 18.
"""

import math
from dataclasses import dataclass
from functools import lru_cache

from dimgrey.core.colour import onecolour
from dimgrey.core.colour.chainterms import objects, terms_of
from dimgrey.core.colour.luminance import LUMINANCE_WEIGHTS
from dimgrey.core.colour.ownmix import highest_stops, moved_stops
from dimgrey.core.errors import CoreError

LIGHTS = ("D55", "D65", "A")
LIGHT_NAMES = {"D55": "daylight", "D65": "overcast or shade", "A": "lamp light"}

CHANNEL_MIXES = {
    "none": (0.21, 0.72, 0.07),
    "yellow": (0.40, 0.58, 0.02),
    "orange": (0.60, 0.40, 0.00),
    "red": (0.85, 0.15, 0.00),
    "green": (0.10, 0.85, 0.05),
    "blue": (0.10, 0.20, 0.70),
}
"""How a colour camera makes grey with its own filter settings; defaults, to be replaced by a calibration."""

CHANNEL_NOISE = (1.0, 1.0, 1.0)
"""Noise of red, green and blue against each other, where a camera's own is not known."""

DARKEST_GREY = 2.0**-24
"""What a chain sees of a colour it is blind to; keeps the tone shift finite."""

SKY_ERROR = 0.04
"""Expected error of a sky's grey, stops: skies that scatter and haze by other laws than daylight's stay within twice it."""
LEAST_SKY = 2.0**-6
"""Grey of a sky against its luminance at least, for colours that no sky has."""


@dataclass(frozen=True)
class Chain:
    """One way from colour to grey.

    weights: (r, g, b), sum 1. factor: the light its glass costs (1 is none). through: (response, light, filters) of film or
    grey sensor, None for a camera's own mix, which is its three weights exactly. bends: points of the curve over hue that a
    mix of one's own has beside them (ownmix.py).
    """

    weights: tuple
    factor: float = 1.0
    through: tuple | None = None
    bends: tuple = ()

    @property
    def stops(self):
        return math.log2(self.factor)


LUMINANCE = Chain(LUMINANCE_WEIGHTS)
"""What a picture calls bright: the meter of a tone that was read in a picture and by no meter."""


@lru_cache(maxsize=512)
def glass_chain(response_name, light, filters=()):
    """Chain of a film or monochrome sensor behind coloured glass.

    response_name: one of responses.RESPONSES. light: "D55", "D65" or "A". filters: tuple of coloured filter names.
    Returns Chain; factor is ``sum(I S) / sum(I F S)``, the filter factor, computed and not typed.
    """
    through = (response_name, light, tuple(filters))
    terms = terms_of(through)
    return Chain(terms.weights, terms.factor, through)


def mixed_chain(mix, bends=()):
    """Chain of a colour camera that mixes its own channels.

    mix: a name of CHANNEL_MIXES or three numbers that sum to 1. bends: points of a curve over hue beside it. Raises CoreError.
    """
    weights = CHANNEL_MIXES.get(mix) if isinstance(mix, str) else tuple(float(w) for w in mix)
    if weights is None:
        raise CoreError(
            f"There is no channel mix “{mix}”. Known: {', '.join(CHANNEL_MIXES)}.",
            parameter="channel_mix",
            code="mix-unknown",
        )
    if len(weights) != 3 or not all(math.isfinite(w) for w in weights) or abs(sum(weights) - 1) > 0.005:
        raise CoreError(
            f"A channel mix is three numbers that sum to 1 (got {', '.join(f'{w:g}' for w in weights)}).",
            parameter="channel_mix",
            code="mix-not-one",
        )
    return Chain(tuple(weights), bends=tuple(bends))


def grey_of_colour(chain, colour, sky=False):
    """Grey that the chain sees of one colour, a number. colour: linear sRGB, three numbers. sky: it is sky.

    Never below 0, but for a channel mix, where light below 0 counts as it is.
    """
    if chain.through is None:
        grey = onecolour.weighed(colour, chain.weights)
        return grey * 2 ** moved_stops(chain.bends, colour) if chain.bends else grey
    terms, seen = terms_of(chain.through), onecolour.light_of(colour)
    if sky:
        return max(onecolour.weighed([max(c, 0.0) for c in colour], terms.sky), seen * LEAST_SKY)
    return seen * 2 ** onecolour.looked_up(terms.nodes, colour)


def error_stops(chain, colour, meter=LUMINANCE, sky=False):
    """How far a tone's shift may be off, stops; nine in ten lie within twice it. 0 for a camera's own mix.

    colour: linear sRGB. meter: the Chain that the tone was read through. sky: it is sky.
    """
    seen, read = chain.through, meter.through
    if seen == read or (seen is None and read is None):
        return 0.0
    if sky:
        return SKY_ERROR
    return _error(seen, read, tuple(colour))


@lru_cache(maxsize=4096)
def _error(seen, read, colour):
    none = (0.0,) * (len(objects()) // 2)
    by_medium, by_meter = (terms_of(through).missed if through else none for through in (seen, read))
    missed = [a - b for a, b in zip(by_medium, by_meter, strict=True)]
    return onecolour.expected_error(missed, objects(), colour)


def tone_shift_stops(chain, colour, meter=None, light="D55", sky=False):
    """What the medium sees against what the meter saw, ``log2(G) - log2(G_meter)``; stops, 0 for a neutral.

    colour: linear sRGB, three numbers. meter: the chain of the meter; the eye's in `light` by default. sky: it is sky.
    """
    meter = meter or glass_chain("eye", light)
    return _log2_grey(chain, tuple(colour), sky) - _log2_grey(meter, tuple(colour), sky)


@lru_cache(maxsize=4096)
def _log2_grey(chain, colour, sky):
    """Kept, because every act asks again for tones that stayed what they were."""
    return math.log2(max(grey_of_colour(chain, colour, sky), DARKEST_GREY))


def noise_gain_of(chain):
    """Noise of a Chain's mix against the camera's own, the hue that its curve lightens most counted; 1 for glass."""
    return 1.0 if chain.through else noise_gain(chain.weights) * 2 ** highest_stops(chain.bends)


def noise_gain(weights, sigma=CHANNEL_NOISE, base=CHANNEL_MIXES["none"]):
    """Noise of a mix against the camera's own, ``sqrt(sum(w^2 s^2)) / sqrt(sum(b^2 s^2))``.

    weights w, base b: of the mix and of the camera's own, red, green, blue. sigma s: noise of each channel.

    >>> round(noise_gain((1.9, -0.5, -0.4)), 2)
    2.66
    """
    # Noises of the channels are independent, so their squares add; the signs of the weights do not matter.
    made = math.sqrt(sum((w * s) ** 2 for w, s in zip(weights, sigma, strict=True)))
    return made / math.sqrt(sum((w * s) ** 2 for w, s in zip(base, sigma, strict=True)))
