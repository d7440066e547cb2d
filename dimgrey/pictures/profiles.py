"""Which colour space a file is in: its embedded profile, else what it says by numbers, gamma or EXIF, else sRGB."""

import io
from dataclasses import dataclass

import numpy as np
from PIL import ExifTags, ImageCms

from dimgrey.core.colour.colourspaces import is_high_range, op_rgb, profile_of_codes, profile_of_gamma
from dimgrey.core.colour.profile import SRGB, matrix_profile
from dimgrey.core.errors import Unreadable

INTEROP_INDEX = 1
UNCALIBRATED = (2, 65535)


@dataclass(frozen=True)
class Space:
    """A file's colour space. profile: MatrixProfile, or None for one of tables, which the library applies. name: of it, "" for sRGB.

    icc: the embedded profile's bytes. high_range: it holds light above diffuse white. linear: its numbers are light already.
    """

    profile: object = SRGB
    name: str = ""
    icc: bytes = b""
    high_range: bool = False

    def tables(self, levels, channels):
        """Linear light of each code, float32, one table for all channels where they are alike."""
        curves = self.profile.curves[:1] if self.is_even or channels == 1 else self.profile.curves
        codes = np.linspace(0, 1, levels)
        return [np.asarray(curve(codes), np.float32) for curve in curves]

    @property
    def is_even(self):
        """Whether all channels have one curve."""
        return len(set(self.profile.curves)) == 1

    def to_srgb(self, linear):
        """Linear sRGB of a small picture in this space, shape (h, w, 3), float32. linear: shape (h, w, 1 or 3)."""
        if linear.shape[-1] == 1:
            return np.repeat(linear, 3, axis=-1)
        matrix = self.profile.matrix
        return linear if matrix is None else linear @ matrix.T.astype(np.float32)

    @property
    def end(self):
        """Linear light of the highest code."""
        return float(max(np.asarray(curve(1.0)) for curve in self.profile.curves))


def space_of(icc, channels, warnings, codes=None, gamma=None, interop=""):
    """The Space of a file with so many channels (1 or 3). What cannot be used is said in `warnings`, and sRGB assumed.

    icc: bytes of its profile, or None. codes: (primaries, transfer) of H.273. gamma: (gamma, chromaticity) of a PNG. interop: what
    EXIF says of the colour space, "R03" for opRGB.
    """
    try:
        if icc:
            return _embedded(icc, channels, warnings)
        if codes:
            profile, name = profile_of_codes(*codes)
            return Space(profile, name, high_range=is_high_range(codes[1]))
        if gamma:
            return Space(profile_of_gamma(*gamma), f"gamma {gamma[0]:.3g}")
        if interop == "R03" and channels == 3:
            return Space(op_rgb(), "opRGB, as EXIF says")
    except Unreadable as broken:
        warnings.append(f"{broken} sRGB is assumed.")
    return Space()


def _embedded(icc, channels, warnings):
    profile = matrix_profile(icc)
    if profile is not None and len(profile.curves) != channels:
        if len(profile.curves) == 3:  # a grey picture in a colour space: its greys lie on the curve of the channels
            return Space(type(profile)(profile.curves[:1], None), _name(icc), icc)
        warnings.append("The embedded colour profile is for grey pictures; sRGB is assumed.")
        return Space()
    return Space(profile, _name(icc), icc)


def _name(icc):
    try:
        return ImageCms.getProfileDescription(ImageCms.ImageCmsProfile(io.BytesIO(icc))).strip()
    except (ImageCms.PyCMSError, OSError, ValueError):
        return "unnamed profile"


def codes_in(head):
    """(primaries, transfer) that a HEIC or AVIF says of itself, or None. head: its first bytes (ISO 23000-22, box "colr" of "nclx")."""
    at = head.find(b"colrnclx")
    if at < 0 or len(head) < at + 12:
        return None
    return int.from_bytes(head[at + 8 : at + 10], "big"), int.from_bytes(head[at + 10 : at + 12], "big")


def interop_of(exif):
    """What EXIF says of the colour space: "R03" where it names opRGB and no other. exif: Pillow's Exif."""
    said = exif.get_ifd(ExifTags.IFD.Exif).get(ExifTags.Base.ColorSpace)
    index = exif.get_ifd(ExifTags.IFD.Interop).get(INTEROP_INDEX, "")
    index = index.decode("ascii", "replace") if isinstance(index, bytes) else str(index)
    return index.strip("\0 ") if said in UNCALIBRATED else ""
