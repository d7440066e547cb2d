"""The wavelength grid and the published spectra on it, read-only."""

from functools import cache
from importlib import resources

import numpy as np

WAVELENGTH_NM = np.arange(380.0, 731.0, 5.0)
"""Grid of every spectrum in the core: shape (71,), 380-730 nm, 5 nm."""
WAVELENGTH_NM.setflags(write=False)


@cache
def _table(name):
    text = resources.files("dimgrey.core.colour.tables").joinpath(f"{name}.csv").read_text(encoding="utf-8")
    lines = [line for line in text.splitlines() if not line.startswith("#")]
    columns = lines[0].split(",")[1:]
    values = np.array([[float(cell) for cell in line.split(",")] for line in lines[1:]])
    if not np.array_equal(values[:, 0], WAVELENGTH_NM):
        raise AssertionError(f"{name}.csv is not on the grid 380-730 nm, 5 nm")
    values.setflags(write=False)
    return {column: values[:, k + 1] for k, column in enumerate(columns)}


def illuminant(light):
    """Relative spectral power of "D55", "D65" or "A", shape (71,) (CIE 15:2004)."""
    return _table("illuminants")[light]


def photopic():
    """Luminous efficiency of the eye and the meter, shape (71,) (CIE 1931 y-bar)."""
    return _table("photopic")["y"]


def srgb_basis():
    """Reflectance basis b_r, b_g, b_b of linear sRGB, shape (3, 71) (Mallett & Yuksel 2019)."""
    table = _table("srgb_basis")
    return np.stack([table["r"], table["g"], table["b"]])


def sigmoid(x):
    """``1 / (1 + exp(-x))``, elementwise."""
    return 1 / (1 + np.exp(-x))


def gaussian(centre_nm, width_nm):
    """``exp(-((wavelength - m) / s)**2 / 2)`` on the grid, shape (71,)."""
    return np.exp(-(((WAVELENGTH_NM - centre_nm) / width_nm) ** 2) / 2)
