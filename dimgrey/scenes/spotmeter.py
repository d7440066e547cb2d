"""A meter pointed at the light of a scene's picture."""

import numpy as np

from dimgrey.core.document.lightscale import focal_35mm, light_scale
from dimgrey.core.measure.metering import LightScale
from dimgrey.pictures.store import linear_of
from dimgrey.standins.simulated_meter import PictureMeter


def meter_of(document, picture):
    """A meter pointed at a picture. Its EV is relative (0 at middle grey) while the light has no scale."""
    facts = picture.facts
    scale = light_scale(document, facts) or LightScale(0.0, 1.0, ())
    linear = np.moveaxis(linear_of(picture.path), 0, -1)
    return PictureMeter(linear, scale, focal_35mm(document, facts), facts.clip)
