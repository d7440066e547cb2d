"""Plain numbers of light: how much each channel counts in luminance, where middle grey lies, and a colour written "#rrggbb".

No arrays: what a plan needs of a colour also runs where NumPy does not. Source: IEC 61966-2-1:1999, clause 5.2.
"""

LUMINANCE_WEIGHTS = (0.2126, 0.7152, 0.0722)
"""Relative luminance Y of linear sRGB."""
MIDDLE_GREY = 0.18
"""Linear light of middle grey, zone V."""


SRGB_SLOPE, SRGB_OFFSET, SRGB_POWER = 12.92, 0.055, 2.4
SRGB_STRAIGHT, LIGHT_STRAIGHT = 0.04045, 0.0031308
"""The curve of sRGB: a straight line up to a value (a light), above it a power with an offset (IEC 61966-2-1:1999, clause 5.2)."""
L_SCALE, L_OFFSET, L_STRAIGHT = 116, 16, 8
L_SLOPE = 24389 / 27
"""Lightness ``L* = 116 Y^(1/3) - 16``, straight below 8 (CIE 15:2004, clause 8.2.1)."""


def linear_of_channel(encoded):
    """Linear light of one sRGB value, both 0..1. A test holds it to `encoding.linear_of_srgb`."""
    if encoded <= SRGB_STRAIGHT:
        return encoded / SRGB_SLOPE
    return ((encoded + SRGB_OFFSET) / (1 + SRGB_OFFSET)) ** SRGB_POWER


def channel_of_lightness(l_star):
    """The sRGB value 0..1 of a neutral grey of one lightness L*."""
    light = ((l_star + L_OFFSET) / L_SCALE) ** 3 if l_star > L_STRAIGHT else l_star / L_SLOPE
    if light <= LIGHT_STRAIGHT:
        return SRGB_SLOPE * light
    return (1 + SRGB_OFFSET) * light ** (1 / SRGB_POWER) - SRGB_OFFSET


def linear_of_hex(text):
    """Linear sRGB of a colour written "#rrggbb": three numbers.

    >>> [round(c, 4) for c in linear_of_hex("#bcbcbc")]
    [0.5029, 0.5029, 0.5029]
    """
    return tuple(linear_of_channel(int(text[k : k + 2], 16) / 255) for k in (1, 3, 5))
