"""JPEG, PNG, WebP and HEIC, and whatever TIFF the exact decoder leaves: read with Pillow, profile by profile."""

import io
import math

import numpy as np
from PIL import ExifTags, Image, ImageCms, UnidentifiedImageError

from dimgrey.core.colour.profile import SRGB, MatrixProfile, matrix_profile
from dimgrey.core.errors import Unreadable
from dimgrey.core.measure.shotdata import ShotData, exposure_of
from dimgrey.pictures.decoded import LONG_SIDE, check_size, display_referred, shrink
from dimgrey.pictures.kinds import ACCEPTED, PictureError


def _open_pillow(data):
    if data[4:8] == b"ftyp":
        import pillow_heif

        pillow_heif.register_heif_opener()
    try:
        return Image.open(io.BytesIO(data))
    except Image.DecompressionBombError:
        raise PictureError("The picture has too many pixels. Save a smaller copy.", "picture-too-large") from None
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, EOFError, TypeError, RuntimeError):
        raise PictureError(
            f"The file is not a picture that can be read, or it is damaged. Use {ACCEPTED}.", "picture-unreadable"
        ) from None


def read_with_pillow(data):
    warnings = []
    image = _open_pillow(data)
    kind = {"MPO": "JPEG", "HEIF": "HEIC", "WEBP": "WebP"}.get(image.format, image.format)
    width, height = image.size
    check_size(width, height)
    if image.mode == "1":
        raise PictureError(
            "The picture has only black and white pixels, so there are no tones to meter.", "picture-bilevel"
        )
    if getattr(image, "n_frames", 1) > 1:
        warnings.append("The file holds several pictures; the first is used.")
    exif, turn = _exif(image, warnings)
    icc = image.info.get("icc_profile")
    try:
        if kind == "JPEG":
            scale = LONG_SIDE / max(width, height)
            image.draft(image.mode, (math.ceil(width * scale), math.ceil(height * scale)) if scale < 1 else image.size)
        image.load()
        sixteen = image.mode.startswith("I")
        if not sixteen:
            image.thumbnail((LONG_SIDE, LONG_SIDE), Image.Resampling.BICUBIC, reducing_gap=None)
    except (OSError, SyntaxError, ValueError, EOFError, RuntimeError):
        raise PictureError(
            "The picture is cut off or damaged. Copy it from the camera again.", "picture-truncated"
        ) from None
    if turn is not None:
        image = image.transpose(turn)
        if turn in _QUARTER_TURNS:
            width, height = height, width
    if sixteen:
        linear, name = linear_of_array(np.asarray(image, np.float32)[..., None] / 65535, icc, warnings)
        linear = shrink(linear)
    else:
        linear, name = _linear_of_image(image, icc, warnings)
    shown = image if image.mode in ("L", "RGB") and not icc else None
    return display_referred(kind, width, height, linear, name, exif, warnings, shown)


_TURNS = {
    2: Image.Transpose.FLIP_LEFT_RIGHT,
    3: Image.Transpose.ROTATE_180,
    4: Image.Transpose.FLIP_TOP_BOTTOM,
    5: Image.Transpose.TRANSPOSE,
    6: Image.Transpose.ROTATE_270,
    7: Image.Transpose.TRANSVERSE,
    8: Image.Transpose.ROTATE_90,
}
_QUARTER_TURNS = {_TURNS[k] for k in (5, 6, 7, 8)}


def _exif(image, warnings):
    """Exposure data and the turn that sets the picture upright; a corrupt block is a warning, not an end."""
    try:
        tags = image.getexif()
        inner = dict(tags.get_ifd(ExifTags.IFD.Exif))
        turn = _TURNS.get(tags.get(ExifTags.Base.Orientation))
    except Exception:  # the parser fails in many ways on damaged blocks, and none of them may stop an import
        warnings.append("The exposure data in the file is damaged and was left out.")
        return ShotData(), None
    if image.info.get("exif") and not tags:
        warnings.append("The exposure data in the file is damaged and was left out.")
    return exposure_of(inner), turn


def _profile_name(icc):
    try:
        return ImageCms.getProfileDescription(ImageCms.ImageCmsProfile(io.BytesIO(icc))).strip()
    except (ImageCms.PyCMSError, OSError, ValueError):
        return "unnamed profile"


def _matrix_profile(icc, warnings):
    """(profile, name); a broken one becomes sRGB with a warning, one of another kind None."""
    if not icc:
        return SRGB, ""
    try:
        return matrix_profile(icc), _profile_name(icc)
    except Unreadable as broken:
        warnings.append(f"{broken} sRGB is assumed.")
        return SRGB, ""


def _linear_of_image(image, icc, warnings):
    """Linear sRGB, shape (h, w, 3), of an 8-bit Pillow image, and the profile's name."""
    if image.mode in ("RGBA", "LA", "PA", "P", "La", "RGBa"):
        if image.mode != "P" or "transparency" in image.info:
            warnings.append("The picture has see-through parts; they are laid on white.")
            over = image.convert("RGBA")
            image = Image.alpha_composite(Image.new("RGBA", over.size, "white"), over)
        image = image.convert("RGB")
    profile, name = _matrix_profile(icc, warnings)
    if image.mode == "CMYK" or profile is None:
        image = _by_library(image, icc, warnings)
        profile = SRGB
    if image.mode == "L":
        curve = profile.curves[0] if len(profile.curves) == 1 else SRGB.curves[0]
        table = curve(np.linspace(0, 1, 256)).astype(np.float32)
        grey = table[np.asarray(image)]
        return np.repeat(grey[..., None], 3, axis=-1), name
    if image.mode != "RGB":
        image = image.convert("RGB")
    if len(profile.curves) != 3:
        warnings.append("The embedded colour profile is for grey pictures; sRGB is assumed.")
        profile = SRGB
    tables = profile.tables(256).astype(np.float32)
    codes = np.asarray(image)
    linear = np.stack([tables[k][codes[..., k]] for k in range(3)], axis=-1)
    return _to_srgb(linear, profile), name


def linear_of_array(encoded, icc, warnings):
    """Linear sRGB of a float picture, shape (h, w, 1 or 3), encoded 0..1."""
    profile, name = _matrix_profile(icc, warnings)
    channels = encoded.shape[-1]
    if profile is None or len(profile.curves) != channels:
        if icc:
            warnings.append("The embedded colour profile cannot be used for 16 bits; sRGB is assumed.")
        profile = SRGB if channels == 3 else MatrixProfile(SRGB.curves[:1], None)
    levels = 4096
    tables = profile.tables(levels).astype(np.float32)
    places = np.linspace(0, 1, levels)
    linear = np.stack([np.interp(encoded[..., k], places, tables[k]) for k in range(channels)], axis=-1).astype(
        np.float32
    )
    return (np.repeat(linear, 3, axis=-1) if channels == 1 else _to_srgb(linear, profile)), name


def _to_srgb(linear, profile):
    return linear if profile.matrix is None else linear @ profile.matrix.T.astype(np.float32)


def _by_library(image, icc, warnings):
    """An RGB image in sRGB from a CMYK one, or from one with a profile made of tables."""
    if icc:
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(icc))
            return ImageCms.profileToProfile(image, source, ImageCms.createProfile("sRGB"), outputMode="RGB")
        except (ImageCms.PyCMSError, OSError, ValueError):
            warnings.append("The embedded colour profile cannot be used; the colours are only roughly right.")
    if image.mode == "CMYK" and not icc:
        warnings.append("The picture is in printing inks (CMYK) without a profile; its tones are only roughly right.")
    return image.convert("RGB")
