"""What the lens does: light lost close up, what is sharp near and far, diffraction, and the blur of what moves.

Sources: Kingslake, Lenses in Photography (bellows); the thin-lens depth of field of the field's handbooks; Airy 1835 for
diffraction at 550 nm; circle of confusion by default the frame's diagonal / 1500.
"""

import math
from dataclasses import dataclass

from dimgrey.core.errors import OutOfRange, require_positive

AIRY_MM_PER_F = 0.001342
"""Diameter of the Airy disc per f-number, mm: 2.44 times 550 nm."""
COC_PARTS = 1500


def bellows_stops(magnification):
    """Light lost by focusing close, ``2 log2(1 + m)`` stops; 0 at infinity (m = 0), 2 at life size (m = 1).

    Source: Kingslake, Lenses in Photography: effective aperture N (1 + m) for a symmetrical lens.
    """
    return 2 * math.log2(1 + magnification)


def circle_of_confusion_mm(width_mm=36.0, height_mm=24.0):
    """Largest blur that still looks sharp, the frame's diagonal / 1500, mm."""
    return math.hypot(width_mm, height_mm) / COC_PARTS


def hyperfocal_mm(focal_mm, f_number, coc_mm):
    """Nearest focus that keeps infinity sharp, ``H = f**2 / (N c) + f``, mm.

    >>> round(hyperfocal_mm(35, 2 ** 3.5, 0.030) / 1000, 2)
    3.64
    """
    focal = require_positive(focal_mm, "focal_length", "For a normal lens write 50.")
    return focal**2 / (require_positive(f_number, "aperture", "Write f/8.") * coc_mm) + focal


@dataclass(frozen=True)
class Depth:
    """What is sharp: near and far in metres; far is infinite from the hyperfocal distance on."""

    near_m: float
    far_m: float


def depth_of_field(focal_mm, f_number, focus_m, coc_mm):
    """Depth at a focus, ``near = s (H - f) / (H + s - 2 f)``, ``far = s (H - f) / (H - s)``.

    focus_m: from the lens, beyond its focal length. Raises OutOfRange for a closer one.
    """
    s = focus_m * 1000
    if not s > focal_mm:
        raise OutOfRange(
            f"A lens of {focal_mm:g} mm focuses beyond {focal_mm / 1000:g} m (got {focus_m:g}).",
            parameter="focus",
            code="focus-too-near",
        )
    h = hyperfocal_mm(focal_mm, f_number, coc_mm)
    near = s * (h - focal_mm) / (h + s - 2 * focal_mm)
    far = s * (h - focal_mm) / (h - s) if s < h else math.inf
    return Depth(near / 1000, far / 1000)


@dataclass(frozen=True)
class Focus:
    """How to hold two distances sharp: focus in metres, the f-number needed, and the spread behind the lens in mm."""

    focus_m: float
    f_number: float
    image_spread_mm: float


def focus_for(focal_mm, near_m, far_m, coc_mm):
    """Focus and f-number that just hold near and far sharp.

    far_m: may be infinite. The lens sits halfway between the images of both; the f-number is that spread over twice the
    circle of confusion. Raises OutOfRange when near is not before far or lies within the focal length.
    """
    if not 0 < near_m < far_m or near_m * 1000 <= focal_mm:
        raise OutOfRange(
            f"The near distance must lie before the far one and beyond {focal_mm / 1000:g} m (got {near_m:g} and {far_m:g}).",
            parameter="near",
            code="near-after-far",
        )
    image = lambda metres: focal_mm if math.isinf(metres) else focal_mm * metres * 1000 / (metres * 1000 - focal_mm)
    nearer, farther = image(near_m), image(far_m)
    spread = nearer - farther
    v = 2 * nearer * farther / (nearer + farther)
    focus = math.inf if v <= focal_mm else focal_mm * v / (v - focal_mm) / 1000
    return Focus(focus, focal_mm * spread / (coc_mm * (nearer + farther)), spread)


def airy_mm(f_number):
    """Diameter of the diffraction disc, ``1.342 um N``, mm."""
    return AIRY_MM_PER_F * f_number


def best_f_number(image_spread_mm):
    """F-number where defocus and diffraction blur alike, ``sqrt(dv / (2 * 0.001342))``.

    >>> round(best_f_number(0.5), 1)
    13.6
    """
    return math.sqrt(image_spread_mm / (2 * AIRY_MM_PER_F))


def motion_blur_mm(speed_m_s, exposure_time_s, focal_mm, distance_m):
    """Blur of something that moves across the view, ``v t f / d``, mm on the frame."""
    return speed_m_s * exposure_time_s * focal_mm / require_positive(distance_m, "distance", "Write metres.")


def freezing_time_s(speed_m_s, focal_mm, distance_m, coc_mm):
    """Longest time in which the motion stays below the circle of confusion, seconds; infinite for what stands still."""
    return math.inf if speed_m_s <= 0 else coc_mm * distance_m / (speed_m_s * focal_mm)
