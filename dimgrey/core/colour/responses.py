"""How films and sensors weigh the wavelengths: default response classes.

The curves are defaults drawn after published sensitivity curves of each class of material; a user's own film or
camera may replace them.
"""

from functools import cache

from dimgrey.core.colour.spectra import WAVELENGTH_NM, gaussian, photopic, sigmoid

DEFAULT_RESPONSE = "general panchromatic"


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

RESPONSES = tuple(_CURVES)
RED_BLIND = frozenset({"orthochromatic", "blue-sensitive"})


@cache
def response(name):
    """Relative sensitivity of a response class, shape (71,), read-only; `name` is one of RESPONSES."""
    curve = _CURVES[name]().copy()
    curve.setflags(write=False)
    return curve
