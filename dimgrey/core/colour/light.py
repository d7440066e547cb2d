"""Plain numbers of light: how much each channel counts in luminance, where middle grey lies, and a colour written "#rrggbb".

No arrays: what a plan needs of a colour also runs where NumPy does not. Source: IEC 61966-2-1:1999, clause 5.2.
"""

LUMINANCE_WEIGHTS = (0.2126, 0.7152, 0.0722)
"""Relative luminance Y of linear sRGB."""
MIDDLE_GREY = 0.18
"""Linear light of middle grey, zone V."""


def linear_of_channel(encoded):
    """Linear light of one sRGB value, both 0..1. A test holds it to `encoding.linear_of_srgb`."""
    return encoded / 12.92 if encoded <= 0.04045 else ((encoded + 0.055) / 1.055) ** 2.4


def linear_of_hex(text):
    """Linear sRGB of a colour written "#rrggbb": three numbers.

    >>> [round(c, 4) for c in linear_of_hex("#bcbcbc")]
    [0.5029, 0.5029, 0.5029]
    """
    return tuple(linear_of_channel(int(text[k : k + 2], 16) / 255) for k in (1, 3, 5))
