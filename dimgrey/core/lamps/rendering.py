"""A lit subject as a scene-linear picture: what each pixel sees, which lamps reach it, and what it sends to the camera.

Every surface is matt: ``L = rho E / pi`` per channel. A lamp's face is looked at from every pixel through a grid of places on it, and what stands
between is found by rays (Embree by way of embreex). No light is handed on from surface to surface, but for reflectors.
"""

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from embreex.mesh_construction import TriangleMesh
from embreex.rtcore_scene import EmbreeScene

from dimgrey.core.lamps.bodies import meshes
from dimgrey.core.lamps.illuminance import face_places, given_by, intensities
from dimgrey.core.lamps.subjects import CLOTHES, HAIR, LOWER_M, MIDDLES, SITTER, TOP_M

LIFTED_M = 0.003
"""Rays begin so far above a surface, so that it does not shade itself."""
PLACES = 4
"""Places along each side of a lamp's face: 16 of a rectangle, 32 of a disc."""
AT_ONCE = 16384
"""Pixels looked at together: as many as stay in a processor's cache."""
GROUND_HALF_M, FLOOR_PART, GROUND_PART = 4.0, "floor", "ground"
PREVIEW = (360, 450)


@dataclass(frozen=True)
class View:
    """Where the camera is. subject: SITTER or TABLE. away_m: along the floor. height_m: above the floor. seen_m: height of the frame at the subject.
    width, height: pixels. ground_m: from the subject to the ground behind it."""

    subject: str = SITTER
    away_m: float = 2.0
    height_m: float = 1.3
    seen_m: float = 0.62
    width: int = PREVIEW[0]
    height: int = PREVIEW[1]
    ground_m: float = 1.5

    @property
    def middle(self):
        return MIDDLES[self.subject]

    @property
    def at(self):
        return 0.0, -self.away_m, self.height_m


@dataclass(frozen=True)
class Seen:
    """What pixels see, row by row. parts: names. part: index into parts of each pixel, shape (n,), -1 for nothing. places, normals: shape (n, 3)."""

    parts: tuple
    part: np.ndarray
    places: np.ndarray
    normals: np.ndarray


@lru_cache(maxsize=8)
def _bodies(subject, ground_m):
    """(EmbreeScene, parts, normals of each mesh's vertices) of a subject before its ground."""
    scene, parts, normals, faces = EmbreeScene(), [], [], []
    for mesh in (*meshes(subject), *_planes(subject, ground_m)):
        TriangleMesh(
            scene,
            mesh[1] if isinstance(mesh, tuple) else mesh.vertices,
            mesh[2] if isinstance(mesh, tuple) else mesh.faces,
        )
        part, vertices, triangles = mesh if isinstance(mesh, tuple) else (mesh.part, mesh.vertices, mesh.faces)
        parts.append(part)
        faces.append(triangles)
        normals.append(_vertex_normals(vertices, triangles))
    return scene, tuple(parts), tuple(normals), tuple(faces)


def _planes(subject, ground_m):
    """The ground, and the table's top under a still life."""
    half = GROUND_HALF_M
    wall = [[-half, ground_m, -half], [half, ground_m, -half], [half, ground_m, half], [-half, ground_m, half]]
    planes = [(GROUND_PART, wall)]
    if subject != SITTER:
        planes.append(
            ("top", [[-half, -0.5, TOP_M], [half, -0.5, TOP_M], [half, ground_m, TOP_M], [-half, ground_m, TOP_M]])
        )
    return [(part, np.float32(corners), np.int32([[0, 1, 2], [0, 2, 3]])) for part, corners in planes]


def _vertex_normals(vertices, faces):
    """Unit normals of vertices, the mean of the faces around each; shape of vertices."""
    a, b, c = (vertices[faces[:, k]] for k in range(3))
    across = np.cross(b - a, c - a)
    total = np.zeros_like(vertices)
    for k in range(3):
        np.add.at(total, faces[:, k], across)
    return total / np.maximum(np.linalg.norm(total, axis=1, keepdims=True), 1e-12)


def _rays(view):
    """Directions of all pixels from the camera, unit, shape (n, 3)."""
    at, middle = np.asarray(view.at), np.subtract(view.middle, (0, 0, LOWER_M[view.subject]))
    forward = middle - at
    distance = np.linalg.norm(forward)
    forward /= distance
    across = np.cross(forward, (0, 0, 1))
    across /= np.linalg.norm(across)
    up = np.cross(across, forward)
    size = view.seen_m / view.height
    x = (np.arange(view.width) + 0.5 - view.width / 2) * size
    z = (view.height / 2 - np.arange(view.height) - 0.5) * size
    made = forward * distance + x[None, :, None] * across + z[:, None, None] * up
    made = made.reshape(-1, 3)
    return made / np.linalg.norm(made, axis=1, keepdims=True)


@lru_cache(maxsize=12)
def seen(view):
    """Seen of a View; the same for every light. view: View."""
    scene, parts, normals, faces = _bodies(view.subject, view.ground_m)
    directions = _rays(view).astype(np.float32)
    origins = np.tile(np.float32(view.at), (len(directions), 1))
    hit = scene.run(origins, directions, output=True)
    part = np.where(hit["primID"] >= 0, hit["geomID"], -1)
    places = origins + directions * np.where(part >= 0, hit["tfar"], 0)[:, None]
    made = np.zeros_like(places)
    for k in range(len(parts)):
        of = part == k
        corners = normals[k][faces[k][hit["primID"][of]]]
        u, v = hit["u"][of, None], hit["v"][of, None]
        made[of] = corners[:, 0] * (1 - u - v) + corners[:, 1] * u + corners[:, 2] * v
    made /= np.maximum(np.linalg.norm(made, axis=1, keepdims=True), 1e-9)
    # A surface is seen from its outer side.
    made *= np.where((made * directions).sum(axis=1) > 0, -1, 1)[:, None]
    return Seen(parts, part, places, made)


def shaded(view, lamp, intensity, places, normals, count=PLACES):
    """Illuminance that a lamp gives at places with the subject in between, shape (n,).

    view: View. lamp: Lamp. intensity: candela along its axis. places, normals: shape (n, 3). count: places along each side of its face.
    """
    scene, middle = _bodies(view.subject, view.ground_m)[0], view.middle
    sources, shares = face_places(lamp, middle, count)
    origins = (places + normals * LIFTED_M).astype(np.float32)
    given = np.stack(
        [
            given_by(lamp, middle, source, share, intensity, places, normals)
            for source, share in zip(sources, shares, strict=True)
        ]
    )
    # Every other place of the face first: where all of them are seen, or none, the rest is as they are.
    first = _every_other(len(sources), count)
    free = np.stack([_is_free(scene, origins, sources[k], given[k] > 0) for k in first])
    whole, none = free.all(axis=0), ~free.any(axis=0)
    total = np.where(whole, given.sum(axis=0), 0.0)
    some = np.flatnonzero(~(whole | none))
    seen_first = dict(zip(first, free, strict=True))
    for k in range(len(sources)) if len(some) else ():
        row = given[k][some]
        passed = seen_first[k][some] if k in seen_first else _is_free(scene, origins[some], sources[k], row > 0)
        total[some] += row * passed
    return total


def _every_other(size, count):
    """Indices of half of the places of a face, as the white squares of a chessboard; all of a point."""
    return (0,) if size == 1 else tuple(k for k in range(size) if (k // count + k % count) % 2 == 0)


def _is_free(scene, origins, source, asked):
    """Whether nothing stands between origins and a source, where it is asked; False elsewhere. origins: shape (n, 3). asked: shape (n,)."""
    made = np.zeros(len(origins), bool)
    if asked.any():
        towards = source.astype(np.float32) - origins[asked]
        limits = np.full(len(towards), 0.9995, np.float32)
        made[asked] = scene.run(origins[asked], towards, query="OCCLUDED", dists=limits) < 0
    return made


def lights(view, lamps, places, normals, ambient_lux=0.0, count=PLACES):
    """(lasting lux, flash lux seconds) at places, two arrays of shape (n,).

    view: View. lamps: Lamp of each. places, normals: shape (n, 3). ambient_lux: of the room, from all sides alike. count: as in `shaded`.
    """
    lasting, flash = np.full(len(places), float(ambient_lux)), np.zeros(len(places))
    for lamp, (burning, flashed) in zip(lamps, intensities(lamps, view.middle), strict=True):
        if not (burning or flashed):
            continue
        for start in range(0, len(places), AT_ONCE):
            part = slice(start, start + AT_ONCE)
            given = shaded(view, lamp, 1.0, places[part], normals[part], count)
            lasting[part] += burning * given
            flash[part] += flashed * given
    return lasting, flash


def rendered(view, lamps, surfaces, exposure_time_s, ambient_lux=0.0, pattern=0.0):
    """A lit subject as luminance in cd/m2 averaged over the exposure, shape (height, width, 3), float32.

    view: View. lamps: Lamp of each. ambient_lux: of the room. surfaces: part -> linear sRGB whose luminance is the reflectance; parts without one are grey .18. pattern: stops between the stripes of the
    clothes, 0 for plain ones.
    """
    found = seen(view)
    on = found.part >= 0
    places, normals = found.places[on], found.normals[on]
    lasting, flash = lights(view, lamps, places, normals, ambient_lux)
    light = lasting + flash / exposure_time_s
    colours = np.array([surfaces.get(part, (0.18,) * 3) for part in found.parts], float)
    sent = colours[found.part[on]] * (light / np.pi)[:, None]
    sent *= _texture(found, on, places, pattern)[:, None]
    made = np.zeros((len(on), 3), np.float32)
    made[on] = sent
    return made.reshape(view.height, view.width, 3)


HAIR_STOPS, STRANDS, STRIPE_M = 0.5, 900.0, 0.03


def _texture(found, on, places, pattern):
    """Share of light by strands of hair and stripes of cloth, 1 on the mean; shape (n,)."""
    part = found.part[on]
    stops = np.zeros(len(part))
    x, y, z = (places - np.asarray(MIDDLES[SITTER])).T
    hair = part == (found.parts.index(HAIR) if HAIR in found.parts else -2)
    turned = np.arctan2(x, y + 0.02)
    strands = np.sin(turned * 55 + 3 * np.sin(z * 60)) + np.sin(turned * 131 + z * 40)
    stops[hair] = (HAIR_STOPS / 2 * strands)[hair]
    if pattern:
        clothes = part == (found.parts.index(CLOTHES) if CLOTHES in found.parts else -2)
        stops[clothes] = (pattern / 2 * np.sign(np.sin(x / STRIPE_M * np.pi)))[clothes]
    return 2.0**stops
