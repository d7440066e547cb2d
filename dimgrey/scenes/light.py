"""The light of a scene's picture: which EV100 its stops mean, and what a meter pointed at it reads."""

import numpy as np

from dimgrey.core.document.scenefile import reading_ev
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.metering import LightScale, fit_light_scale
from dimgrey.scenes.store import linear_of
from dimgrey.standins.meter import PictureMeter

DEFAULT_FOCAL_35MM = 50.0
DEFAULT_SPOT_DEG = 1.0


def focal_35mm(document, picture=None):
    """Focal length in 35 mm terms: as typed, else from the picture, else 50 mm."""
    typed = document.get("lens", {}).get("focal_35mm")
    shot = (picture.exposure or {}).get("focal_35mm") if picture else None
    return float(typed or shot or DEFAULT_FOCAL_35MM)


def spot_deg(document):
    return float(document.get("meter", {}).get("spot_deg", DEFAULT_SPOT_DEG))


def picture_stops(entry):
    """``log2(Y / 0.18)`` under a tone's pin, or None for a tone without a place in the picture."""
    return next((r["stops"] for r in entry.get("readings", []) if r.get("kind") == "picture" and "stops" in r), None)


def picture_shift(entry):
    """Stops by which the light changed since the picture was taken, as its reading of a tone records it."""
    return next((r.get("shift", 0.0) for r in entry.get("readings", []) if r.get("kind") == "picture"), 0.0)


def typed_evs(entry, document):
    """EV100 of the readings that a person typed, calibration and changes of the light included."""
    calibration = document.get("meter", {}).get("calibration_stops", 0.0)
    increment = document.get("increment", "third")
    found = []
    for reading in entry.get("readings", []):
        if reading.get("kind") != "picture":
            try:
                found.append(reading_ev(reading, increment) + calibration + reading.get("shift", 0.0))
            except CoreError:
                continue  # the plan names the mistake; a bad reading must not bend the scale
    return found


def light_scale(document, picture):
    """LightScale of a scene's picture, or None while its light has no scale.

    A picture with a scale in cd/m2 keeps it, and typed readings only show their residuals. Any other is fitted to the
    readings typed at its pins; without one, its exposure data gives a first scale.
    """
    pins, evs = [], []
    for entry in document.get("tones", []):
        stops, typed = picture_stops(entry), typed_evs(entry, document)
        if stops is not None and typed:
            pins.append(stops)
            evs.append(sum(typed) / len(typed) - picture_shift(entry))
    if picture.absolute:
        residuals = tuple(ev - (picture.middle_grey_ev100 + stops) for stops, ev in zip(pins, evs, strict=True))
        return LightScale(picture.middle_grey_ev100, 1.0, residuals)
    return fit_light_scale(pins, evs, picture.middle_grey_ev100)


def rescale(document, picture):
    """Give every picture reading of a document the EV100 of the present scale, in place."""
    scale = light_scale(document, picture)
    for entry in document.get("tones", []):
        for reading in entry.get("readings", []):
            if reading.get("kind") == "picture" and "stops" in reading:
                if scale is None:
                    reading.pop("ev100", None)
                else:
                    reading["ev100"] = round(scale.offset + scale.slope * reading["stops"], 4)


def meter_of(document, picture):
    """A meter pointed at the scene's picture. Its EV is relative (0 at middle grey) while the light has no scale."""
    scale = light_scale(document, picture) or LightScale(0.0, 1.0, ())
    linear = np.moveaxis(linear_of(picture.path), 0, -1)
    return PictureMeter(linear, scale, focal_35mm(document, picture), picture.clip)
