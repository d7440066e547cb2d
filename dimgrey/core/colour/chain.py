"""From colour to grey: lens filter, light and film or sensor as one chain.

With scene colours c in linear sRGB, the grey that the medium sees is ``G = Y(c) 2**T(x, y)``: the luminance, and a table over the
chromaticity that measured objects have taught (known.py). A clear sky is no object: it is blue with almost no red in it, and
is looked at as a phase of daylight, which three numbers describe. A camera's own channel mix stays with its three weights.
The three weights of a glass chain, ``w_k = sum(b_k I F S) / sum(I F S)``, say in words what its grey is made of.
Source: HANDBOOK 7 and 18; basis b of Mallett & Yuksel 2019; daylight of CIE 15:2004, section 3.1.
"""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from dimgrey.core.colour.chromaticity import NODES, colours_at, fine_colours, light_of, looked_up, refined, unlifted
from dimgrey.core.colour.encoding import LUMINANCE_WEIGHTS
from dimgrey.core.colour.filters import transmittance
from dimgrey.core.colour.known import expected_error, missed_of, table_of
from dimgrey.core.colour.ownmix import highest_stops, moved_stops
from dimgrey.core.colour.responses import response
from dimgrey.core.colour.spectra import daylight_basis, illuminant, srgb_basis, srgb_of_reflectance
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


LUMINANCE = Chain(tuple(LUMINANCE_WEIGHTS.tolist()))
"""What a picture calls bright: the meter of a tone that was read in a picture and by no meter."""


@lru_cache(maxsize=512)
def glass_chain(response_name, light, filters=()):
    """Chain of a film or monochrome sensor behind coloured glass.

    response_name: one of responses.RESPONSES. light: "D55", "D65" or "A". filters: tuple of coloured filter names.
    Returns Chain; factor is ``sum(I S) / sum(I F S)``, the filter factor, computed and not typed.
    """
    through_film = illuminant(light) * response(response_name)
    seen = through_film * transmittance(filters)
    weights = srgb_basis() @ seen / seen.sum()
    weights = weights / weights.sum()
    return Chain(
        tuple(float(w) for w in weights),
        float(through_film.sum() / seen.sum()),
        (response_name, light, tuple(filters)),
    )


def _seen(through):
    """What reaches film or sensor of a chain, ``I F S``, shape (71,)."""
    response_name, light, filters = through
    return illuminant(light) * response(response_name) * transmittance(filters)


@lru_cache(maxsize=512)
def _table(through):
    return table_of(_seen(through))


@lru_cache(maxsize=512)
def _missed(through):
    return missed_of(_seen(through))


@lru_cache(maxsize=512)
def sky_weights(through):
    """Three weights of a chain for skies, ``G = w . c``; sum 1 or nearly.

    through: of a Chain. Every phase of daylight is a sum of three spectra, so the colour of a sky, white-balanced to the
    light, has one such spectrum, and what the medium sees of it is linear in the colour. Source: CIE 15:2004, section 3.1.
    """
    phases = daylight_basis() / illuminant(through[1])
    seen = _seen(through)
    return tuple(np.linalg.solve(srgb_of_reflectance(phases), phases @ seen / seen.sum()).tolist())


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


def grey_of(chain, linear, sky=None):
    """Grey that the chain sees.

    linear: shape (..., 3), linear sRGB. sky: how much of each colour is sky, 0..1, of shape (...) or one number; None for
    none. Returns shape (...). Never below 0, but for a channel mix, where light below 0 counts as it is.
    """
    linear = np.asarray(linear, float)
    if chain.through is None:
        return _mixed_grey(chain, linear)
    seen = light_of(linear)
    grey = seen * np.exp2(looked_up(_table(chain.through), linear))
    if sky is None or not np.any(sky):
        return grey
    return grey + np.asarray(sky) * (_sky_grey(chain, linear, seen) - grey)


def _mixed_grey(chain, linear):
    grey = linear @ np.asarray(chain.weights)
    return grey * np.exp2(moved_stops(chain.bends, linear)) if chain.bends else grey


def _sky_grey(chain, linear, seen):
    return np.maximum(np.maximum(linear, 0) @ np.asarray(sky_weights(chain.through)), seen * LEAST_SKY)


@lru_cache(maxsize=16)
def fine_gains(chain, sky=False):
    """Grey over luminance of every fine place of chromaticity, shape (513 * 513,), float32, read-only: a picture's table.

    sky: the gains of skies instead of those of objects.
    """
    # The luminance of the fine colours is 1, so that their grey is the gain.
    if chain.through is None:
        gains = _mixed_grey(chain, fine_colours())
    elif sky:
        gains = np.maximum(fine_colours() @ np.asarray(sky_weights(chain.through), np.float32), LEAST_SKY)
    else:
        gains = np.exp2(refined(_table(chain.through)))
    gains = np.maximum(gains, DARKEST_GREY).astype(np.float32)
    gains.setflags(write=False)
    return gains


def chain_nodes(chain):
    """Stops that a chain adds at the nodes of chromaticity, shape (33, 33): to the luminance for glass, to its three weights for a mix."""
    if chain.through:
        return _table(chain.through)
    step = np.linspace(0, 1, NODES)
    return moved_stops(chain.bends, unlifted(colours_at(*np.meshgrid(step, step, indexing="ij"))))


def plain_grey_of(chain, linear):
    """Grey by the three weights alone, ``G = w . c``. linear: shape (..., 3). Returns shape (...)."""
    return np.asarray(linear) @ np.asarray(chain.weights)


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
    missed = sum(sign * _missed(through) for sign, through in ((1, seen), (-1, read)) if through)
    return expected_error(missed, colour)


def tone_shift_stops(chain, colour, meter=None, light="D55", sky=False):
    """What the medium sees against what the meter saw, ``log2(G) - log2(G_meter)``; stops, 0 for a neutral.

    colour: linear sRGB, three numbers. meter: the chain of the meter; the eye's in `light` by default. sky: it is sky.
    """
    meter = meter or glass_chain("eye", light)
    return _log2_grey(chain, tuple(colour), sky) - _log2_grey(meter, tuple(colour), sky)


@lru_cache(maxsize=4096)
def _log2_grey(chain, colour, sky):
    """Kept, because every act asks again for tones that stayed what they were."""
    return math.log2(max(float(grey_of(chain, colour, 1.0 if sky else None)), DARKEST_GREY))


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
