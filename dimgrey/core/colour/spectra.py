"""The wavelength grid and the published spectra on it, read-only."""

from functools import cache
from importlib import resources

import numpy as np

WAVELENGTH_NM = np.arange(380.0, 731.0, 5.0)
"""Grid of every spectrum in the core: shape (71,), 380-730 nm, 5 nm."""
WAVELENGTH_NM.setflags(write=False)


SRGB_OF_XYZ = np.array(
    [[3.2404542, -1.5371385, -0.4985314], [-0.9692660, 1.8760108, 0.0415560], [0.0556434, -0.2040259, 1.0572252]]
)
"""XYZ (white D65) to linear sRGB, IEC 61966-2-1:1999."""


@cache
def table(name):
    """Columns of a published table on the grid, by name; read-only arrays of shape (71,)."""
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
    return table("illuminants")[light]


def photopic():
    """Luminous efficiency of the eye and the meter, shape (71,) (CIE 1931 y-bar)."""
    _, luminous, _ = table("observer").values()
    return luminous


def srgb_of_reflectance(reflectance):
    """Linear sRGB of reflectances under D65, where white is 1, 1, 1.

    reflectance: shape (..., 71), 0..1. Returns shape (..., 3); below 0 for colours outside sRGB.
    Source: CIE 15:2004 (tristimulus values), IEC 61966-2-1:1999 (primaries).
    """
    observer = table("observer")
    light = illuminant("D65")
    columns = np.stack([observer[name] * light for name in ("x", "y", "z")], axis=1)
    xyz = reflectance @ columns / columns[:, 1].sum()
    return xyz @ SRGB_OF_XYZ.T


def srgb_basis():
    """Reflectance basis b_r, b_g, b_b of linear sRGB, shape (3, 71) (Mallett & Yuksel 2019)."""
    return np.stack(list(table("srgb_basis").values()))


def daylight_basis():
    """Components of daylight: every phase of it is ``S0 + M1 S1 + M2 S2``. Shape (3, 71) (CIE 15:2004)."""
    return np.stack(list(table("daylight_basis").values()))


def sigmoid(x):
    """``1 / (1 + exp(-x))``, elementwise."""
    return 1 / (1 + np.exp(-x))


def gaussian(centre_nm, width_nm):
    """``exp(-((wavelength - m) / s)**2 / 2)`` on the grid, shape (71,)."""
    return np.exp(-(((WAVELENGTH_NM - centre_nm) / width_nm) ** 2) / 2)
