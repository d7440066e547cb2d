"""The encodings of light: sRGB, relative luminance and lightness L*. Written here, for single numbers in luminance.py, and nowhere else.

Light is linear and relative, 1 at the white of a reflecting surface; it may be brighter. Shapes are kept unless said.
Source: IEC 61966-2-1:1999, clause 5.2 (sRGB); CIE 15:2004, clause 8.2.1 (L*).
"""

import numpy as np

from dimgrey.core.colour import luminance
from dimgrey.core.colour.luminance import (
    L_OFFSET,
    L_SCALE,
    L_SLOPE,
    L_STRAIGHT,
    LIGHT_STRAIGHT,
    SRGB_OFFSET,
    SRGB_POWER,
    SRGB_SLOPE,
    SRGB_STRAIGHT,
)

LEAST_LIGHT = 1e-9
LUMINANCE_WEIGHTS = np.array(luminance.LUMINANCE_WEIGHTS)
"""Relative luminance Y of linear sRGB, shape (3,) (IEC 61966-2-1:1999)."""
LUMINANCE_WEIGHTS.setflags(write=False)


def luminance(linear):
    """Relative luminance ``Y = 0.2126 R + 0.7152 G + 0.0722 B``.

    linear: linear sRGB, shape (..., 3). Returns shape (...), in the array's own kind of number.

    >>> float(luminance([1.0, 1.0, 1.0]))
    1.0
    """
    c = np.asarray(linear)
    return c @ LUMINANCE_WEIGHTS.astype(c.dtype if c.dtype.kind == "f" else float)


def linear_of_srgb(encoded):
    """Linear light of sRGB values, both 0..1, any shape.

    >>> round(float(linear_of_srgb(0.5)), 5)
    0.21404
    """
    e = np.asarray(encoded, float)
    return np.where(e <= SRGB_STRAIGHT, e / SRGB_SLOPE, ((e + SRGB_OFFSET) / (1 + SRGB_OFFSET)) ** SRGB_POWER)


def srgb_of_linear(linear):
    """sRGB values of linear light, the inverse of `linear_of_srgb`, any shape; not limited to 0..1 and not rounded.

    >>> round(float(srgb_of_linear(0.21404)), 4)
    0.5
    """
    c = np.asarray(linear)
    bent = (1 + SRGB_OFFSET) * np.maximum(c, LEAST_LIGHT) ** (1 / SRGB_POWER) - SRGB_OFFSET
    return np.where(c <= LIGHT_STRAIGHT, SRGB_SLOPE * c, bent)


def lightness_of_luminance(y):
    """Lightness ``L* = 116 Y^(1/3) - 16``, straight below Y = 216/24389. y: relative luminance, any shape. 0..100 for 0..1.

    >>> round(float(lightness_of_luminance(0.18)), 2)
    49.5
    """
    y = np.asarray(y, float)
    return np.where(y > L_STRAIGHT / L_SLOPE, L_SCALE * np.cbrt(np.maximum(y, 0)) - L_OFFSET, y * L_SLOPE)


def luminance_of_lightness(l_star):
    """Relative luminance of a lightness L*, the inverse of `lightness_of_luminance`, any shape.

    >>> round(float(luminance_of_lightness(50)), 4)
    0.1842
    """
    lightness = np.asarray(l_star)
    return np.where(lightness > L_STRAIGHT, ((lightness + L_OFFSET) / L_SCALE) ** 3, lightness / L_SLOPE)


def srgb_of_lightness(l_star):
    """sRGB value 0..1 of a neutral grey of lightness L*, any shape, not rounded."""
    return np.clip(srgb_of_linear(luminance_of_lightness(np.asarray(l_star, float))), 0, 1)


def grey8_of_lightness(l_star):
    """8-bit sRGB value of a neutral grey of lightness L*, any shape, uint8."""
    return np.round(srgb_of_lightness(l_star) * 255).astype(np.uint8)


def mean_lightness(grey8):
    """L* of the mean light of 8-bit greys, any shape; averaged in light, as a blurred eye does. One number."""
    return float(lightness_of_luminance(linear_of_srgb(np.asarray(grey8, float) / 255).mean()))
