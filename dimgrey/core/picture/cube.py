"""The way from colour to grey as a 3D look-up table in the open .cube text format, for programs and monitors.

Input and output are sRGB values 0..1 (IEC 61966-2-1); red runs fastest. The output is neutral: R = G = B.
"""

import numpy as np

from dimgrey.core.colour.encoding import linear_of_srgb, srgb_of_lightness

POINTS = 33


def cube_grey(encoded, tone_map):
    """sRGB grey 0..1 of sRGB colours through a ToneMap. encoded: shape (..., 3), 0..1. Returns shape (...)."""
    return srgb_of_lightness(tone_map.lightness(linear_of_srgb(encoded)))


def cube_text(tone_map, title, comment, points=POINTS):
    """The table of a ToneMap as text. points: on each side. title: a line in quotes. comment: lines that start with #."""
    axis = np.linspace(0, 1, points)
    blue, green, red = np.meshgrid(axis, axis, axis, indexing="ij")
    grey = cube_grey(np.stack([red, green, blue], axis=-1), tone_map).ravel()
    clean = title.replace('"', "'").replace("\n", " ")
    head = [f'TITLE "{clean}"', *(f"# {line}" for line in comment.splitlines()), f"LUT_3D_SIZE {points}"]
    head += ["DOMAIN_MIN 0.0 0.0 0.0", "DOMAIN_MAX 1.0 1.0 1.0"]
    return "\n".join([*head, *(f"{v:.6f} {v:.6f} {v:.6f}" for v in grey)]) + "\n"
