"""ICC profiles of the matrix kind: from encoded RGB or grey to linear sRGB, wide gamuts included.

Source: ICC.1:2022 (profile format), clauses 8.3 to 8.4 and 10.6, 10.18; IEC 61966-2-1:1999 for sRGB.
Profiles that describe a device by tables are left to the colour management library.
"""

import struct
from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.encoding import linear_of_srgb, luminance_of_lightness
from dimgrey.core.errors import Unreadable

XYZ_D50_OF_SRGB = np.array(
    [[0.4360747, 0.3850649, 0.1430804], [0.2225045, 0.7168786, 0.0606169], [0.0139322, 0.0971045, 0.7141733]]
)
"""Linear sRGB to XYZ adapted to D50 (Bradford), the profile connection space."""


@dataclass(frozen=True)
class MatrixProfile:
    """curves: three functions (or one for grey) from encoded to linear, 0..1. matrix: to linear sRGB, or None."""

    curves: tuple
    matrix: np.ndarray | None

    def tables(self, levels):
        """Linear value of every code of an integer picture; shape (channels, levels)."""
        codes = np.linspace(0, 1, levels)
        return np.stack([curve(codes) for curve in self.curves])


SRGB = MatrixProfile((linear_of_srgb,) * 3, None)


def matrix_profile(data):
    """MatrixProfile of ICC bytes; None when the profile is of another kind (tables, CMYK).

    Raises Unreadable when the bytes are not a profile.
    """
    try:
        space, tags = _tags(data)
        if space == b"GRAY" and b"kTRC" in tags:
            curve = _curve(tags[b"kTRC"])
            # In a profile that connects by Lab the curve of a grey gives lightness, not light (ICC.1, clause 8.4.2).
            grey = (lambda x: luminance_of_lightness(100 * curve(x))) if data[20:24] == b"Lab " else curve
            return MatrixProfile((grey,), None)
        if (
            space != b"RGB "
            or b"A2B0" in tags
            or not {b"rXYZ", b"gXYZ", b"bXYZ", b"rTRC", b"gTRC", b"bTRC"} <= set(tags)
        ):
            return None
        columns = [np.array(struct.unpack(">3i", tags[name][8:20])) / 65536 for name in (b"rXYZ", b"gXYZ", b"bXYZ")]
        matrix = np.linalg.inv(XYZ_D50_OF_SRGB) @ np.stack(columns, axis=1)
        curves = tuple(_curve(tags[name]) for name in (b"rTRC", b"gTRC", b"bTRC"))
    except (struct.error, IndexError, ValueError, KeyError, ZeroDivisionError, OverflowError) as wrong:
        raise Unreadable(
            f"The embedded colour profile cannot be read ({wrong}).", parameter="profile", code="profile-broken"
        ) from None
    if not np.isfinite(matrix).all() or np.abs(matrix.sum(axis=1) - 1).max() > 0.2:
        raise Unreadable(
            "The embedded colour profile does not keep white white.", parameter="profile", code="profile-broken"
        )
    near_srgb = np.abs(matrix - np.eye(3)).max() < 0.004
    return MatrixProfile(curves, None if near_srgb else matrix)


def grey_srgb_profile():
    """Bytes of an ICC profile for grey pictures that are encoded as sRGB is (ICC.1:2022, clauses 8.4.2, 10.6, 10.24)."""
    points = np.round(linear_of_srgb(np.linspace(0, 1, 1024)) * 65535).astype(">u2").tobytes()
    text = lambda words: (
        b"mluc" + struct.pack(">4xII2s2sII", 1, 12, b"en", b"GB", 2 * len(words), 28) + words.encode("utf-16-be")
    )
    white = b"XYZ " + struct.pack(">4x3i", *(round(v * 65536) for v in (0.9642, 1.0, 0.8249)))
    bodies = {
        b"desc": text("Grey, encoded as sRGB"),
        b"cprt": text("No copyright, use freely"),
        b"wtpt": white,
        b"kTRC": b"curv" + struct.pack(">4xI", 1024) + points,
    }
    table, data, at = b"", b"", 128 + 4 + 12 * len(bodies)
    for name, body in bodies.items():
        table += struct.pack(">4sII", name, at + len(data), len(body))
        data += body + b"\0" * (-len(body) % 4)
    head = bytearray(128)
    head[8:12] = b"\x04\x30\0\0"
    head[12:24] = b"mntrGRAYXYZ "
    head[24:36] = struct.pack(">6H", 2026, 1, 1, 0, 0, 0)
    head[36:40] = b"acsp"
    head[68:80] = struct.pack(">3i", *(round(v * 65536) for v in (0.9642, 1.0, 0.8249)))
    whole = bytes(head) + struct.pack(">I", len(bodies)) + table + data
    return struct.pack(">I", len(whole)) + whole[4:]


def _tags(data):
    if len(data) < 132 or data[36:40] != b"acsp":
        raise ValueError("no profile header")
    (count,) = struct.unpack(">I", data[128:132])
    if count > 200:
        raise ValueError(f"{count} tags")
    tags = {}
    for k in range(count):
        name, offset, size = struct.unpack(">4sII", data[132 + 12 * k : 144 + 12 * k])
        if offset + size > len(data):
            raise ValueError("a tag lies outside the profile")
        tags[name] = data[offset : offset + size]
    return data[16:20], tags


def _curve(tag):
    kind = tag[:4]
    if kind == b"curv":
        (count,) = struct.unpack(">I", tag[8:12])
        if count == 0:
            return lambda x: np.asarray(x, float)
        if count == 1:
            gamma = struct.unpack(">H", tag[12:14])[0] / 256
            return lambda x: np.asarray(x, float) ** gamma
        points = np.frombuffer(tag, ">u2", count, 12).astype(float) / 65535
        return lambda x: np.interp(x, np.linspace(0, 1, count), points)
    if kind == b"para":
        (form,) = struct.unpack(">H", tag[8:10])
        length = (1, 3, 4, 5, 7)[form]
        g, a, b, c, d, e, f = (
            *(v / 65536 for v in struct.unpack(f">{length}i", tag[12 : 12 + 4 * length])),
            *(0.0,) * (7 - length),
        )
        if form == 0:
            a, b, c, d = 1.0, 0.0, 0.0, 0.0
        elif a == 0:
            raise ValueError("a curve without slope")
        elif form in (1, 2):
            e = f = c if form == 2 else 0.0
            c, d = 0.0, -b / a
        return lambda x: np.where(
            np.asarray(x) >= d, np.maximum(a * np.asarray(x, float) + b, 0) ** g + e, c * np.asarray(x, float) + f
        )
    raise ValueError(f"unknown curve {kind!r}")
