"""What kind of file a result is, and the lightness that a viewer of it sees: of a camera's file, of a raw file, of a negative.

A negative's density tells where a tone fell: zone I lies 0.10 above the clear film, and a normally developed film gains about 0.62 of
density for each unit of log exposure (ISO 6:1993 sets both points). So the scan of one can be read as a print would show it.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.encoding import lightness_of_luminance, luminance
from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.finishing.enlarger import DENSITY_OF_A_STOP
from dimgrey.core.planning.development import undeveloped_zone
from dimgrey.core.planning.prints import PRINT_CURVE, Printing, curve_for
from dimgrey.core.planning.zones import MIDDLE
from dimgrey.core.results.samples import lightness_of_falls

SPEED_POINT_DENSITY, SPEED_POINT_ZONE = 0.10, 1.0
CLEAR_PERCENT = 99.7
"""The brightest of a scan of a negative is clear film, or the deepest shadow."""
DARKEST = 1e-5


@dataclass(frozen=True)
class Kind:
    """A kind of result. name: as it is kept. words: as people say it. tells_exposure: it shows what the exposure did, and
    not what was made of it afterwards. is_print: its greys are those of a print, whose own exposure is judged."""

    name: str
    words: str
    tells_exposure: bool
    is_print: bool = False


KINDS = {
    kind.name: kind
    for kind in (
        Kind("camera file", "the camera's own file", True),
        Kind("raw", "a raw file", True),
        Kind("negative", "a scan of the negative", True),
        Kind("positive", "a scan, turned into a positive", False, True),
        Kind("print", "a scan of the print", False, True),
        Kind("phone", "a phone picture of the print", False, True),
    )
}
"""Kinds of results by the name that is kept."""


def shown_lightness(linear, printing, scene_linear=False, is_negative=False, grey=None):
    """L* at which a result shows each pixel, shape (h, w).

    linear: shape (h, w, 3), linear sRGB of the file. printing: Printing of the plan, for what is light and not yet a print. scene_linear:
    the file holds light, with middle grey at 0.18. is_negative: it is a negative. grey: function from light to grey of the plan's
    chain, for light; luminance without one.
    """
    if is_negative:
        return lightness_of_falls(negative_falls(luminance(linear), printing.step), printing)
    if scene_linear:
        made = luminance(linear) if grey is None else grey(linear)
        falls = np.log2(np.maximum(made, DARKEST) / MIDDLE_GREY) + MIDDLE - printing.lift
        return lightness_of_falls(falls, printing)
    return lightness_of_luminance(np.clip(luminance(linear), 0, 1))


def negative_falls(transmittance, step=0):
    """Falls that the densities of a negative stand for, shape kept.

    transmittance: light through the negative as the scan has it, any scale, any shape. step: of the film's development.

    Source: ISO 6:1993, the speed point and the mean gradient.

    >>> [round(float(fall), 2) for fall in negative_falls(np.array([1.0, 10**-0.10, 10**-0.8466]))]
    [0.46, 1.0, 5.0]
    """
    light = np.maximum(np.asarray(transmittance, float), DARKEST)
    density = -np.log10(light / np.percentile(light, CLEAR_PERCENT))
    held = SPEED_POINT_ZONE + (np.maximum(density, 0) - SPEED_POINT_DENSITY) / DENSITY_OF_A_STOP
    return undeveloped_zone(held, step)


def kind_of(name, scene_linear, is_negative, is_film=False, has_exposure=True):
    """The Kind of a result: as a person named it; else told from the file.

    name: "" or a key of KINDS. scene_linear: the file holds light. is_negative: it was found to be one. is_film: the plan is for film.
    has_exposure: the file says how it was exposed, as a camera's does and a scanner's does not.
    """
    if name in KINDS:
        return KINDS[name]
    if scene_linear:
        return KINDS["raw"]
    if is_negative:
        return KINDS["negative"]
    return KINDS["positive" if is_film and not has_exposure else "camera file"]


def printing_of(kind, planned):
    """The Printing that made a result: the plan's, but a digital camera's own for its file of a scene that was planned for film.

    kind: Kind. planned: Printing of the plan.
    """
    is_film = curve_for(planned.kind) is PRINT_CURVE
    return Printing("digital file") if kind.name == "camera file" and is_film else planned
