"""Pictures made as small as what shows them, their light averaged."""

import numpy as np
from PIL import Image


def size_within(width, height, side):
    """(width, height) with the longer side at most so many pixels."""
    scale = side / max(width, height)
    return max(round(width * scale), 1), max(round(height * scale), 1)


def fitted(planes, side):
    """A picture's planes at most so large, light averaged."""
    return planes if max(planes.shape[1:]) <= side else np.stack([fitted_plane(plane, side) for plane in planes])


def fitted_plane(plane, side):
    """One plane at most so large, averaged, float32. plane: shape (h, w), any numbers. side: the longer one, pixels."""
    plane = np.asarray(plane, np.float32)
    height, width = plane.shape
    if max(height, width) <= side:
        return plane
    return np.asarray(Image.fromarray(plane).resize(size_within(width, height, side), Image.BOX))
