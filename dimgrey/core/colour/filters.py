"""Glass filters in front of the lens: transmittance over the wavelengths."""

import difflib
from functools import cache

import numpy as np

from dimgrey.core.colour.spectra import WAVELENGTH_NM, sigmoid
from dimgrey.core.errors import CoreError

POLARIZER_STOPS = 4 / 3
"""Light a polarizing filter costs everything, in stops; a usual figure, printed ones differ by a third."""


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

COLOURED = tuple(_GLASS)
GREY = ("nd", "polarizer", "graduated")
"""Filters that take all colours alike; a graduated one only over the sky."""
FILTERS = COLOURED + GREY


@cache
def transmittance(names=()):
    """Transmittance of a stack of coloured filters, shape (71,), 0..1; all ones for no filter.

    names: tuple of COLOURED names, multiplied as they are stacked.
    """
    product = np.ones_like(WAVELENGTH_NM)
    for name in names:
        product = product * _GLASS[name]()
    product.setflags(write=False)
    return product


def require_filter(name):
    """`name` if it is a known filter; otherwise CoreError with the nearest names."""
    if name in FILTERS:
        return name
    close = difflib.get_close_matches(str(name), FILTERS, n=2, cutoff=0.5)
    hint = f"Did you mean {' or '.join(close)}?" if close else f"Known filters: {', '.join(FILTERS)}."
    raise CoreError(f"There is no filter “{name}”. {hint}", parameter="filters", code="filter-unknown")
