"""Spectral curves on the wavelength grid: how films and sensors weigh the wavelengths, and what glass lets through.

The curves of films are defaults drawn after published sensitivity curves of each class of material; a user's own film or
camera may replace them.
"""

from functools import cache

import numpy as np

from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.colour.responses import RESPONSES
from dimgrey.core.colour.spectra import WAVELENGTH_NM, gaussian, photopic, sigmoid


def _edge(low_nm, low_width, high_nm, high_width):
    return sigmoid((WAVELENGTH_NM - low_nm) / low_width) * sigmoid((high_nm - WAVELENGTH_NM) / high_width)


def _layer(edges, *bumps):
    """Sensitivity between two edges, lifted and lowered by bumps: (height, centre nm, width nm) each."""
    lifted = 1
    for height, centre_nm, width_nm in bumps:
        lifted = lifted + height * gaussian(centre_nm, width_nm)
    return _edge(*edges) * lifted


@cache
def response(name):
    """Relative sensitivity of a response class, shape (71,), read-only; `name` is one of responses.RESPONSES."""
    layer = RESPONSES[name]
    curve = _layer(*layer) if layer else photopic().copy()
    curve.setflags(write=False)
    return curve


def _glass(low_nm, high_nm, width, top):
    passed = top * sigmoid((WAVELENGTH_NM - low_nm) / width)
    return passed if high_nm is None else passed * sigmoid((high_nm - WAVELENGTH_NM) / width)


@cache
def transmittance(names=()):
    """Transmittance of a stack of coloured filters, shape (71,), 0..1; all ones for no filter.

    names: tuple of filters.COLOURED names, or of own spectra as `filters.own_spectrum` gives them, multiplied as they are stacked.
    """
    product = np.ones_like(WAVELENGTH_NM)
    for name in names:
        product = product * (
            _glass(*COLOURED[name]) if isinstance(name, str) else np.interp(WAVELENGTH_NM, *zip(*name, strict=True))
        )
    product.setflags(write=False)
    return product
