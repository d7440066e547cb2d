"""From colour to grey: lens filter, light and film or sensor as one chain of three weights.

With scene colours c in linear sRGB and their basis spectra b_k, the grey that the medium sees is
``G = sum(w_k c_k)``, ``w_k = sum(b_k I F S) / sum(I F S)``: a neutral keeps its value because the weights sum to 1.
Source of the basis: Mallett & Yuksel 2019, Spectral primary decomposition for rendering with sRGB reflectance.
A chain with glass and film is refined to six terms (refine.py); a camera's own channel mix stays with its three weights.
"""

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from dimgrey.core.colour.encoding import LUMINANCE_WEIGHTS
from dimgrey.core.colour.filters import transmittance
from dimgrey.core.colour.refine import expected_error_stops, refined_terms, terms_of
from dimgrey.core.colour.responses import response
from dimgrey.core.colour.spectra import illuminant, srgb_basis
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


@dataclass(frozen=True)
class Chain:
    """One way from colour to grey.

    weights: (r, g, b), sum 1. factor: the light its glass costs (1 is none). terms: the six of R, G, B, sqrt(RG),
    sqrt(GB), sqrt(BR), sum 1, that make the grey. residuals: stops by which the 99 measured objects are off, or () for a
    channel mix, which is exact by definition.
    """

    weights: tuple
    factor: float
    terms: tuple
    residuals: tuple = ()

    @property
    def stops(self):
        return math.log2(self.factor)


LUMINANCE = Chain(tuple(LUMINANCE_WEIGHTS.tolist()), 1.0, (*LUMINANCE_WEIGHTS.tolist(), 0.0, 0.0, 0.0))
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
    terms, residuals = refined_terms(seen, weights)
    return Chain(
        tuple(float(w) for w in weights),
        float(through_film.sum() / seen.sum()),
        tuple(float(a) for a in terms),
        tuple(float(r) for r in residuals),
    )


def mixed_chain(mix):
    """Chain of a colour camera that mixes its own channels: a name of CHANNEL_MIXES or three numbers that sum to 1."""
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
    return Chain(tuple(weights), 1.0, (*weights, 0.0, 0.0, 0.0))


def grey_of(chain, linear):
    """Grey that the chain sees, ``G = sum(a_i p_i)`` of the six terms. linear: shape (..., 3). Returns shape (...).

    A channel mix has no roots in it, so light below 0 counts there as it is.
    """
    return _grey(chain.terms, linear)


def _grey(terms, linear):
    if not any(terms[3:]):
        return np.asarray(linear) @ np.asarray(terms[:3])
    return terms_of(linear) @ np.asarray(terms)


def plain_grey_of(chain, linear):
    """Grey by the three weights alone, ``G = w . c``. linear: shape (..., 3). Returns shape (...)."""
    return np.asarray(linear) @ np.asarray(chain.weights)


def error_stops(chain, colour):
    """How far the grey of a colour may be off in this chain, stops; 0 for a camera's own mix."""
    return expected_error_stops(np.asarray(chain.residuals), colour) if chain.residuals else 0.0


def tone_shift_stops(chain, colour, meter=None, light="D55"):
    """What the medium sees against what the meter saw, ``log2(G) - log2(G_eye)``; stops, 0 for a neutral.

    colour: linear sRGB, three numbers. meter: the chain of the meter; the eye's in `light` by default.
    """
    meter = meter or glass_chain("eye", light)
    return _log2_grey(chain.terms, tuple(colour)) - _log2_grey(meter.terms, tuple(colour))


@lru_cache(maxsize=4096)
def _log2_grey(terms, colour):
    """Kept, because every act asks again for tones that stayed what they were."""
    return math.log2(max(float(_grey(terms, colour)), DARKEST_GREY))


def noise_gain(weights, sigma=CHANNEL_NOISE, base=CHANNEL_MIXES["none"]):
    """Noise of a mix against the camera's own, ``sqrt(sum(w^2 s^2)) / sqrt(sum(b^2 s^2))``.

    weights w, base b: of the mix and of the camera's own, red, green, blue. sigma s: noise of each channel.

    >>> round(noise_gain((1.9, -0.5, -0.4)), 2)
    2.66
    """
    # Noises of the channels are independent, so their squares add; the signs of the weights do not matter.
    made = math.sqrt(sum((w * s) ** 2 for w, s in zip(weights, sigma, strict=True)))
    return made / math.sqrt(sum((w * s) ** 2 for w, s in zip(base, sigma, strict=True)))
