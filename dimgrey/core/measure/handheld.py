"""What keeps a picture sharp while the shutter is open: the hand, the tripod, the wind.

Source: HANDBOOK 11; the hand-held rule is the field's usual one over the focal length.
"""

from dimgrey.core.errors import require_positive

WIND_M_S = 5.0
LONG_LENS_MM = 100.0
"""Focal length in 35 mm terms from which wind shows, and the sun near the frame endangers eye and sensor."""
SHAKY_FROM_S, SHAKY_TO_S = 1 / 60, 2.0
"""Times in which a tripod that the wind moves shows it: shorter freezes it, longer averages it out."""


def handheld_limit_s(focal_35mm, factor=1.0, stabiliser_stops=0.0):
    """Longest time that a hand holds, ``2**stabiliser / (f35 k)``, seconds.

    focal_35mm: above 0. factor k: 1 for steady hands to 2. stabiliser_stops: what lens or camera gives.

    >>> handheld_limit_s(50)
    0.02
    """
    focal = require_positive(focal_35mm, "focal_length", "For a normal lens write 50.")
    return 2.0**stabiliser_stops / (focal * require_positive(factor, "factor", "Use 1 to 2."))


def wind_shakes(wind_m_s, focal_35mm, exposure_time_s):
    """Whether wind will show on a tripod with a long lens at that time."""
    return (
        wind_m_s > WIND_M_S and focal_35mm >= LONG_LENS_MM and SHAKY_FROM_S * 0.9 <= exposure_time_s <= SHAKY_TO_S * 1.1
    )
