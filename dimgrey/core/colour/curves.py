"""Spectral curves on the wavelength grid: how films and sensors weigh the wavelengths, and what glass lets through.

The curves of films are defaults drawn after published sensitivity curves of each class of material; a user's own film or
camera may replace them.
"""

from functools import cache

import numpy as np

from dimgrey.core.colour.spectra import WAVELENGTH_NM, gaussian, photopic, sigmoid


def _edge(low_nm, low_width, high_nm, high_width):
    return sigmoid((WAVELENGTH_NM - low_nm) / low_width) * sigmoid((high_nm - WAVELENGTH_NM) / high_width)


_CURVES = {
    "general panchromatic": lambda: (
        _edge(395, 8, 640, 6) * (1 + 0.35 * gaussian(420, 40) + 0.25 * gaussian(600, 30) - 0.30 * gaussian(505, 22))
    ),
    "extended red": lambda: (
        _edge(395, 8, 700, 10) * (1 + 0.30 * gaussian(420, 40) + 0.35 * gaussian(670, 30) - 0.30 * gaussian(505, 22))
    ),
    "orthochromatic": lambda: (
        _edge(395, 8, 582, 6) * (1 + 0.30 * gaussian(430, 40) + 0.40 * gaussian(550, 18) - 0.30 * gaussian(500, 20))
    ),
    "blue-sensitive": lambda: _edge(395, 8, 500, 9),
    "monochrome sensor": lambda: _edge(412, 8, 672, 9) * (1 + 0.65 * gaussian(530, 65)),
    "eye": photopic,
}


@cache
def response(name):
    """Relative sensitivity of a response class, shape (71,), read-only; `name` is one of responses.RESPONSES."""
    curve = _CURVES[name]().copy()
    curve.setflags(write=False)
    return curve


def _long_pass(edge_nm, width, top):
    return lambda: top * sigmoid((WAVELENGTH_NM - edge_nm) / width)


def _band(low_nm, high_nm, width, top):
    return lambda: top * sigmoid((WAVELENGTH_NM - low_nm) / width) * sigmoid((high_nm - WAVELENGTH_NM) / width)


_GLASS = {
    "light yellow": _long_pass(470, 8, 0.90),
    "yellow": _long_pass(495, 9, 0.90),
    "deep yellow": _long_pass(525, 7, 0.90),
    "yellow-orange": _long_pass(537, 7, 0.90),
    "orange": _long_pass(555, 7, 0.90),
    "red": _long_pass(600, 6, 0.88),
    "deep red": _long_pass(622, 6, 0.88),
    "yellow-green": _band(480, 605, 14, 0.62),
    "green": _band(500, 565, 9, 0.66),
    "blue": _band(400, 485, 10, 0.58),
}


@cache
def transmittance(names=()):
    """Transmittance of a stack of coloured filters, shape (71,), 0..1; all ones for no filter.

    names: tuple of filters.COLOURED names, or of own spectra as `filters.own_spectrum` gives them, multiplied as they are stacked.
    """
    product = np.ones_like(WAVELENGTH_NM)
    for name in names:
        product = product * (
            _GLASS[name]() if isinstance(name, str) else np.interp(WAVELENGTH_NM, *zip(*name, strict=True))
        )
    product.setflags(write=False)
    return product
