"""Stand-in subjects: a sitter with head and shoulders, and a table with cup, cloth and shell, as meshes of surfaces with names.

Each body is the zero of a signed distance, made of ellipsoids, capsules and bodies of revolution that melt into one another, and walked over
by marching cubes. They show how light falls and are nobody's likeness. Places in metres as in lamp.py.
"""

from dataclasses import dataclass
from functools import cache

import numpy as np
from skimage.measure import marching_cubes

from dimgrey.core.lamps.subjects import CLOTHES, HAIR, MIDDLES, SITTER, SKIN, TOP_M


@dataclass(frozen=True)
class Mesh:
    """vertices: shape (n, 3), metres. faces: shape (m, 3), indices. part: what it is made of: "skin", "hair", "clothes", "cup", "cloth", "shell"
    or "top"."""

    part: str
    vertices: np.ndarray
    faces: np.ndarray


def _ellipsoid(p, middle, radii):
    """Distance to an ellipsoid, exact on it and nearly so close by."""
    q = (p - np.asarray(middle, np.float32)) / np.asarray(radii, np.float32)
    length = np.sqrt((q * q).sum(axis=-1))
    steep = np.sqrt(((q / np.asarray(radii, np.float32)) ** 2).sum(axis=-1))
    return length * (length - 1) / np.maximum(steep, 1e-6)


def _capsule(p, a, b, radius):
    """Distance to a rod with round ends."""
    a, b = np.asarray(a, np.float32), np.asarray(b, np.float32)
    along = np.clip(((p - a) @ (b - a)) / ((b - a) @ (b - a)), 0, 1)
    return np.linalg.norm(p - a - along[..., None] * (b - a), axis=-1) - radius


def _melt(one, other, reach):
    """Union of two bodies that flow into each other over a reach in metres (polynomial smooth minimum)."""
    h = np.clip(0.5 + 0.5 * (other - one) / reach, 0, 1)
    return other + (one - other) * h - reach * h * (1 - h)


def _carve(one, other, reach):
    """One body with another cut out, the edge rounded over a reach in metres."""
    return -_melt(-one, other, reach)


def _both(p, x, rest, radii):
    """Two ellipsoids, left and right."""
    return np.minimum(_ellipsoid(p, (x, *rest), radii), _ellipsoid(p, (-x, *rest), radii))


def _tube(p, a, b, radius, wall):
    """A rod's skin, `wall` thick on either side."""
    return np.abs(_capsule(p, a, b, radius)) - wall


# What each body is joined from, in order: what it is, its shape with its measures in metres from the middle of the head, and the
# reach over which it flows into what is there, below 0 where it is cut out. Drawn by hand after the proportions of a seated adult.
HEAD = (
    ("skull", _ellipsoid, ((0, 0.015, 0.035), (0.074, 0.095, 0.098)), 0.0),
    ("jaw", _ellipsoid, ((0, -0.03, -0.045), (0.058, 0.058, 0.08)), 0.035),
    ("cheeks", _both, (0.036, (-0.058, -0.018), (0.026, 0.028, 0.024)), 0.03),
    ("brow", _ellipsoid, ((0, -0.078, 0.036), (0.048, 0.02, 0.012)), 0.022),
    ("sockets", _both, (0.031, (-0.104, 0.014), (0.022, 0.022, 0.013)), -0.014),
    ("eyes", _both, (0.031, (-0.076, 0.012), (0.0135, 0.0125, 0.0115)), 0.003),
    ("bridge of the nose", _capsule, ((0, -0.088, 0.022), (0, -0.108, -0.022), 0.008), 0.014),
    ("tip of the nose", _ellipsoid, ((0, -0.11, -0.025), (0.0125, 0.013, 0.010)), 0.010),
    ("nostrils", _both, (0.012, (-0.098, -0.028), (0.008, 0.009, 0.007)), 0.006),
    ("upper lip", _ellipsoid, ((0, -0.086, -0.06), (0.023, 0.013, 0.007)), 0.008),
    ("lower lip", _ellipsoid, ((0, -0.083, -0.072), (0.02, 0.013, 0.008)), 0.006),
    ("chin", _ellipsoid, ((0, -0.068, -0.105), (0.022, 0.02, 0.018)), 0.022),
    ("ears", _both, (0.076, (0.015, -0.004), (0.010, 0.02, 0.032)), 0.010),
    ("neck", _capsule, ((0, 0.03, -0.09), (0, 0.045, -0.26), 0.052), 0.03),
)
HAIR_ON_IT = (
    ("crown", _ellipsoid, ((0, 0.03, 0.05), (0.086, 0.105, 0.098)), 0.0),
    ("nape", _ellipsoid, ((0, 0.06, -0.03), (0.075, 0.062, 0.085)), 0.04),
    ("face", _ellipsoid, ((0, -0.085, -0.02), (0.078, 0.085, 0.118)), -0.012),
)
JACKET = (
    ("chest", _ellipsoid, ((0, 0.055, -0.42), (0.17, 0.105, 0.22)), 0.0),
    ("shoulders", _capsule, ((-0.15, 0.055, -0.31), (0.15, 0.055, -0.31), 0.065), 0.08),
    ("arms", _both, (0.2, (0.05, -0.45), (0.07, 0.075, 0.2)), 0.05),
    ("collar", _tube, ((0, 0.035, -0.17), (0, 0.045, -0.25), 0.064, 0.006), 0.025),
)


def _joined(pieces):
    """Distance to the body that is joined from pieces, as a function of places."""

    def distance(p):
        (_, shape, measures, _), *others = pieces
        made = shape(p, *measures)
        for _, shape, measures, reach in others:
            join = _melt if reach > 0 else _carve
            made = join(made, shape(p, *measures), abs(reach))
        return made

    return distance


def _turned(p, middle, outline):
    """A body of revolution around an upright axis. outline: function of (distance from the axis, height) -> distance."""
    q = p - np.asarray(middle, np.float32)
    return outline(np.hypot(q[..., 0], q[..., 1]), q[..., 2])


def _cup(p):
    def outline(r, z):
        radius = 0.034 + 0.012 * np.sqrt(np.clip(z, 0, 0.09) / 0.09)
        wall = np.maximum(np.abs(r - radius) - 0.0025, np.abs(z - 0.045) - 0.045)
        floor = np.maximum(r - 0.035, np.abs(z - 0.003) - 0.003)
        return np.minimum(wall, floor) - 0.001

    handle = p - np.array([0.055, 0.0, 0.05], np.float32)
    ring = np.hypot(np.hypot(handle[..., 0], handle[..., 2]) - 0.024, handle[..., 1]) - 0.0045
    return _melt(_turned(p, (0, 0, 0), outline), np.where(handle[..., 0] > -0.012, ring, 1.0), 0.006)


def _shell(p):
    """A long turret shell that lies on its side: whorls that grow towards its mouth."""
    length = 0.11
    along = np.clip((p[..., 0] + length / 2) / length, 0, 1)
    whorl = np.abs(np.sin(np.pi * 7.5 * along**1.25))
    radius = 0.003 + 0.026 * along**1.15 + (0.001 + 0.0035 * along) * whorl
    turned = np.arctan2(p[..., 1], p[..., 2])
    off = np.hypot(p[..., 1], p[..., 2]) - radius - 0.0007 * along * np.sin(18 * turned)
    made = np.maximum(off * 0.75, np.abs(p[..., 0]) - length / 2)
    return _carve(made, _ellipsoid(p, (length / 2, -0.006, -0.008), (0.022, 0.017, 0.012)), 0.006)


def _cloth(p):
    x, y, z = p[..., 0], p[..., 1], p[..., 2]
    inside = np.clip(np.minimum(0.2 - np.abs(x), 0.12 - np.abs(y)) / 0.07, 0, 1)
    fold = inside * (0.012 + 0.010 * np.sin(15 * x + 2.5 * np.sin(9 * y)) + 0.005 * np.sin(31 * y + 9 * x))
    lies = np.abs(z - 0.003 - fold) * 0.75 - 0.0022
    return np.maximum(lies, np.maximum(np.abs(x) - 0.2, np.abs(y) - 0.12 - 0.008 * np.sin(21 * x)))


def _walked(part, field, low, high, step, moved):
    """Mesh of a body in a box. field: distance at places. low, high: corners of the box, metres. step: of the grid. moved: added to all places."""
    axes = [np.arange(a, b + step, step, dtype=np.float32) for a, b in zip(low, high, strict=True)]
    places = np.stack(np.meshgrid(*axes, indexing="ij"), axis=-1)
    vertices, faces, _, _ = marching_cubes(field(places), 0.0, spacing=(step,) * 3)
    made = (vertices + np.asarray(low) + np.asarray(moved)).astype(np.float32)
    made.setflags(write=False)
    return Mesh(part, made, np.ascontiguousarray(faces[:, ::-1], np.int32))


# What a subject consists of: its body, the box that it is walked over in and the step of that, metres.
OF_A_SITTER = (
    (SKIN, _joined(HEAD), (-0.1, -0.14, -0.3), (0.1, 0.125, 0.15), 0.0038),
    (HAIR, _joined(HAIR_ON_IT), (-0.1, -0.1, -0.13), (0.1, 0.15, 0.16), 0.0048),
    (CLOTHES, _joined(JACKET), (-0.29, -0.08, -0.66), (0.29, 0.18, -0.15), 0.0075),
)
# On a table each also has its place from the middle of the top.
ON_A_TABLE = (
    ("cup", _cup, (-0.06, -0.06, -0.004), (0.09, 0.06, 0.1), 0.0018, (0.07, 0.03, 0.022)),
    ("cloth", _cloth, (-0.21, -0.14, -0.006), (0.21, 0.14, 0.05), 0.003, (-0.02, 0.0, 0.0)),
    ("shell", _shell, (-0.06, -0.045, -0.045), (0.06, 0.045, 0.045), 0.0016, (-0.09, -0.05, 0.043)),
)


@cache
def meshes(subject):
    """Meshes of a subject: SITTER or TABLE. The same objects every time."""
    if subject == SITTER:
        return tuple(_walked(*body, MIDDLES[SITTER]) for body in OF_A_SITTER)
    return tuple(_walked(*body, (x, y, TOP_M + z)) for *body, (x, y, z) in ON_A_TABLE)
