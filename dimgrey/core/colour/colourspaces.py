"""Colour spaces that a file names by numbers or corners instead of carrying a profile: primaries, and how light was encoded.

Source: ITU-T H.273 (code points); ITU-R BT.2100-2 (HLG, PQ), BT.2408-7 (diffuse white: HLG 0.75, PQ 203 cd/m2); IEC 61966-2-5
(opRGB); W3C PNG specification, clause 13.13 (gamma). Light is linear and relative, 1 at diffuse white.
"""

import numpy as np

from dimgrey.core.colour.encoding import linear_of_srgb
from dimgrey.core.colour.profile import MatrixProfile
from dimgrey.core.errors import Unreadable

D65 = (0.3127, 0.3290)
PRIMARIES = {
    1: ((0.64, 0.33), (0.30, 0.60), (0.15, 0.06)),
    9: ((0.708, 0.292), (0.170, 0.797), (0.131, 0.046)),
    12: ((0.680, 0.320), (0.265, 0.690), (0.150, 0.060)),
}
"""By code point: sRGB, BT.2020, display P3; all with white D65."""
OP_RGB = ((0.64, 0.33), (0.21, 0.71), (0.15, 0.06))
HLG_WHITE, PQ_WHITE = 0.75, 203.0
SRGB_LIKE, PQ, HLG, LINEAR = (1, 2, 6, 13, 14, 15), 16, 18, 8
NEARLY_SRGB_GAMMA = 1 / 2.2
_BRADFORD = np.array([[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]])


def to_srgb(primaries, white=D65):
    """Matrix from linear RGB of any primaries to linear sRGB, white kept white (Bradford); shape (3, 3).

    primaries: three chromaticities x, y. white: its chromaticity. Raises Unreadable for corners that span no triangle.
    """
    corners = np.array([*primaries, white], float)
    if corners.shape != (4, 2) or not np.isfinite(corners).all() or np.abs(corners[:, 1]).min() < 1e-4:
        raise _no_space()
    try:
        source = _xyz_of(corners[:3], corners[3])
        adapt = _adaptation(_xyz(corners[3]), _xyz(np.array(D65)))
        matrix = np.linalg.inv(_xyz_of(np.array(PRIMARIES[1]), np.array(D65))) @ adapt @ source
    except np.linalg.LinAlgError:
        raise _no_space() from None
    if not np.isfinite(matrix).all() or np.abs(matrix).max() > 20:
        raise _no_space()
    return matrix


def _no_space():
    return Unreadable("The file's primaries span no colour space.", parameter="profile", code="profile-broken")


def _xyz(corner):
    x, y = corner
    return np.array([x / y, 1.0, (1 - x - y) / y])


def _xyz_of(primaries, white):
    columns = np.stack([_xyz(corner) for corner in primaries], axis=1)
    return columns * np.linalg.solve(columns, _xyz(white))


def _adaptation(source, target):
    scale = (_BRADFORD @ target) / (_BRADFORD @ source)
    return np.linalg.inv(_BRADFORD) @ np.diag(scale) @ _BRADFORD


def linear_of_hlg(signal):
    """Scene light of a hybrid log-gamma signal 0..1, 1 at diffuse white; any shape.

    >>> round(float(linear_of_hlg(0.75)), 4)
    1.0
    """
    return _hlg(signal) / _hlg(HLG_WHITE)


def _hlg(signal):
    e = np.asarray(signal, float)
    a, b, c = 0.17883277, 0.28466892, 0.55991073
    return np.where(e <= 0.5, e * e / 3, (np.exp((e - c) / a) + b) / 12)


def linear_of_pq(signal):
    """Display light of a perceptual-quantizer signal 0..1, 1 at 203 cd/m2; any shape.

    >>> round(float(linear_of_pq(0.5807)), 2)
    1.0
    """
    m1, m2, c1, c2, c3 = 0.1593017578125, 78.84375, 0.8359375, 18.8515625, 18.6875
    power = np.asarray(signal, float) ** (1 / m2)
    return 10000 * (np.maximum(power - c1, 0) / (c2 - c3 * power)) ** (1 / m1) / PQ_WHITE


def profile_of_codes(primaries, transfer):
    """(MatrixProfile, name) of code points of H.273. Raises Unreadable for those that are not known.

    primaries, transfer: the numbers; unspecified ones are sRGB.
    """
    corners = PRIMARIES.get(1 if primaries in (2, 6, 5, 0) else primaries)
    curves = {PQ: linear_of_pq, HLG: linear_of_hlg, LINEAR: lambda x: np.asarray(x, float)}
    curve = linear_of_srgb if transfer in (*SRGB_LIKE, 0) else curves.get(transfer)
    if corners is None or curve is None:
        raise Unreadable(
            f"The file's colour space (primaries {primaries}, transfer {transfer}) is not known.",
            parameter="profile",
            code="profile-unknown",
        )
    matrix = None if corners == PRIMARIES[1] else to_srgb(corners)
    names = {PQ: "PQ", HLG: "HLG", LINEAR: "linear"}
    words = [names[transfer]] if transfer in names else []
    words += [{9: "BT.2020", 12: "P3"}[primaries]] if primaries in (9, 12) else []
    return MatrixProfile((curve,) * 3, matrix), " ".join(words)


def is_high_range(transfer):
    """Whether a transfer of H.273 holds light above diffuse white."""
    return transfer in (PQ, HLG)


def op_rgb():
    """MatrixProfile of opRGB, the wide space that cameras name by EXIF alone."""
    return MatrixProfile((lambda x: np.asarray(x, float) ** (563 / 256),) * 3, to_srgb(OP_RGB))


def profile_of_gamma(gamma, chromaticity=None):
    """MatrixProfile of a PNG's gamma, light = value^(1/gamma), and its chromaticities. Raises Unreadable.

    gamma: as stored, 0.45455 for most; that one is taken for sRGB, since sRGB files carry it for old readers. chromaticity: white,
    red, green, blue as eight numbers x, y, or None.
    """
    if not 0.05 <= gamma <= 5:
        raise Unreadable(f"The file's gamma ({gamma:g}) cannot be.", parameter="profile", code="profile-broken")
    curve = linear_of_srgb
    if abs(gamma - NEARLY_SRGB_GAMMA) > 0.001:
        curve = lambda x: np.asarray(x, float) ** (1 / gamma)
    matrix = None
    if chromaticity:
        white, *corners = (tuple(chromaticity[k : k + 2]) for k in range(0, 8, 2))
        matrix = to_srgb(corners, white)
    return MatrixProfile((curve,) * 3, matrix)
