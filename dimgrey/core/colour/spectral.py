"""Terms of a chain from spectra: light, glass and film multiplied wavelength by wavelength. The desk's side of terms.py.

The three weights are ``w_k = sum(b_k I F S) / sum(I F S)``, the filter factor ``sum(I S) / sum(I F S)``.
Source: HANDBOOK 7 and 18; basis b of Mallett & Yuksel 2019; daylight of CIE 15:2004, section 3.1.
"""

from array import array

import numpy as np

from dimgrey.core.colour.curves import response, transmittance
from dimgrey.core.colour.measuredcolours import known, missed_of, table_of
from dimgrey.core.colour.spectra import daylight_basis, illuminant, srgb_basis, srgb_of_reflectance


def made_terms(through):
    """What terms.Terms of a chain are made of, in their order. through: (response, light, filters)."""
    response_name, light, filters = through
    through_film = illuminant(light) * response(response_name)
    seen = through_film * transmittance(filters)
    weights = srgb_basis() @ seen / seen.sum()
    weights = weights / weights.sum()
    return (
        tuple(float(w) for w in weights),
        float(through_film.sum() / seen.sum()),
        array("d", table_of(seen).ravel()),
        array("d", missed_of(seen)),
        sky_weights(light, seen),
    )


def sky_weights(light, seen):
    """Three weights of a chain for skies, ``G = w . c``; sum 1 or nearly.

    light: its name. seen: what reaches film or sensor, ``I F S``, shape (71,). Every phase of daylight is a sum of three
    spectra, so the colour of a sky, white-balanced to the light, has one such spectrum, and what the medium sees of it is
    linear in the colour.
    """
    phases = daylight_basis() / illuminant(light)
    return tuple(np.linalg.solve(srgb_of_reflectance(phases), phases @ seen / seen.sum()).tolist())


def object_features():
    """Features of the measured objects, two numbers each in one row."""
    return array("d", known().features.ravel())
