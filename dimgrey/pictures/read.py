"""Reading a picture file into linear light: kind by content, orientation, profile, exposure data, scale.

What comes out is at most 1600 pixels on the long side, linear sRGB, 16-bit floats: the working copy that every view
and reading is made from. The original is never touched.
"""

import io
import math
import tempfile
from dataclasses import dataclass, field

import numpy as np
from PIL import ExifTags, Image, ImageCms, UnidentifiedImageError

from dimgrey.core.colour.encoding import MIDDLE_GREY
from dimgrey.core.colour.profile import SRGB, MatrixProfile, matrix_profile
from dimgrey.core.errors import CoreError, Unreadable
from dimgrey.core.measure.exposure import ev100_of_luminance
from dimgrey.pictures.exif import Exposure, exposure_of

LONG_SIDE = 1600
MAX_PIXELS = 150_000_000
MAX_BYTES = 400_000_000
RAW_HEADROOM_STOPS = 3.3
"""A raw file's white lies this far above middle grey unless the camera's own figure is known (HANDBOOK 5)."""

Image.MAX_IMAGE_PIXELS = None  # our own limit below says what to do instead of warning


class PictureError(CoreError):
    """A file that cannot become a scene's picture; the sentence says what to do."""

    def __init__(self, message, code):
        super().__init__(message, parameter="picture", code=code)


@dataclass(frozen=True)
class Picture:
    """One imported picture.

    kind: "JPEG", "PNG", ... width, height: of the original, after orientation. linear: working copy, shape (h, w, 3),
    float16, linear sRGB. profile: name of the embedded colour profile. middle_grey_ev100: EV100 of linear 0.18, None
    when unknown. scene_linear: proportional to light (raw, OpenEXR). absolute: has a scale in cd/m2.
    clip: linear value at which the file ends, None when it has no end. shown: the working copy as it looks, in sRGB,
    when the file was made for looking at.
    """

    kind: str
    width: int
    height: int
    linear: np.ndarray
    profile: str = ""
    exposure: Exposure = field(default_factory=Exposure)
    middle_grey_ev100: float | None = None
    scene_linear: bool = False
    absolute: bool = False
    clip: float | None = 1.0
    warnings: tuple = ()
    shown: Image.Image | None = None

    def as_json(self):
        """What `manage.py picture` prints."""
        shot = self.exposure
        return {
            "kind": self.kind,
            "width": self.width,
            "height": self.height,
            "colour_profile": self.profile or None,
            "exposure": {
                "seconds": shot.time_s,
                "f_number": shot.f_number,
                "iso": shot.iso,
                "focal_mm": shot.focal_mm,
                "focal_35mm": shot.focal_35mm,
                "taken_at": shot.taken_at,
            },
            "middle_grey_ev100": None if self.middle_grey_ev100 is None else round(self.middle_grey_ev100, 4),
            "scene_linear": self.scene_linear,
            "absolute_scale": self.absolute,
            "warnings": list(self.warnings),
        }


_MAGIC = (
    ("JPEG", lambda b: b[:3] == b"\xff\xd8\xff"),
    ("PNG", lambda b: b[:8] == b"\x89PNG\r\n\x1a\n"),
    ("WebP", lambda b: b[:4] == b"RIFF" and b[8:12] == b"WEBP"),
    (
        "HEIC",
        lambda b: b[4:8] == b"ftyp" and b[8:12] in (b"heic", b"heix", b"heim", b"heis", b"hevc", b"mif1", b"msf1"),
    ),
    ("OpenEXR", lambda b: b[:4] == b"\x76\x2f\x31\x01"),
    ("TIFF", lambda b: b[:4] in (b"II*\0", b"MM\0*", b"II+\0", b"MM\0+")),
)
_KNOWN_OTHERS = (
    ("GIF", lambda b: b[:4] == b"GIF8"),
    ("PDF", lambda b: b[:4] == b"%PDF"),
    ("AVIF", lambda b: b[4:12] == b"ftypavif"),
    ("BMP", lambda b: b[:2] == b"BM"),
)
_EXTENSIONS = {
    "JPEG": ("jpg", "jpeg", "jpe"),
    "PNG": ("png",),
    "WebP": ("webp",),
    "HEIC": ("heic", "heif"),
    "OpenEXR": ("exr",),
    "TIFF": ("tif", "tiff"),
}
ACCEPTED = "JPEG, PNG, TIFF, WebP, HEIC, OpenEXR, DNG or another raw file"


def kind_of(data):
    """Kind of picture by its first bytes; "raw" for what only the raw decoder may know. Raises PictureError."""
    if not data:
        raise PictureError("The file is empty (0 bytes). Choose the picture again.", "picture-empty")
    for kind, is_kind in _MAGIC:
        if is_kind(data):
            return kind
    for kind, is_kind in _KNOWN_OTHERS:
        if is_kind(data):
            raise PictureError(f"{kind} files are not read. Save the picture as {ACCEPTED}.", "picture-unsupported")
    return "raw"


def read_picture(data, filename=""):
    """Picture from the bytes of a file. filename: only to notice a misleading extension.

    Raises PictureError with what to do instead.
    """
    if len(data) > MAX_BYTES:
        raise PictureError(
            f"The file has {len(data) / 1e6:.0f} MB; at most {MAX_BYTES / 1e6:.0f} MB are read.", "picture-too-large"
        )
    kind = kind_of(data)
    if kind == "TIFF":
        picture = _read_tiff_family(data)
    else:
        picture = {"OpenEXR": _read_exr, "raw": _read_raw}.get(kind, _read_with_pillow)(data)
    extension = filename.rpartition(".")[2].lower() if "." in filename else ""
    expected = _EXTENSIONS.get(picture.kind)
    if extension and expected and extension not in expected:
        return _with_warning(
            picture, f"The file is named .{extension} but holds {picture.kind}; it was read as {picture.kind}."
        )
    return picture


def _with_warning(picture, sentence):
    values = {name: getattr(picture, name) for name in picture.__dataclass_fields__}
    return Picture(**{**values, "warnings": (*picture.warnings, sentence)})


def _check_size(width, height):
    if width < 1 or height < 1:
        raise PictureError("The picture has no pixels.", "picture-empty")
    if width * height > MAX_PIXELS:
        raise PictureError(
            f"The picture has {width * height / 1e6:.0f} megapixels; at most {MAX_PIXELS / 1e6:.0f} are read. "
            "Save a smaller copy.",
            "picture-too-large",
        )


# --- JPEG, PNG, WebP, HEIC -----------------------------------------------------------------------------------------------


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


def _read_with_pillow(data):
    warnings = []
    image = _open_pillow(data)
    kind = {"MPO": "JPEG", "HEIF": "HEIC", "WEBP": "WebP"}.get(image.format, image.format)
    width, height = image.size
    _check_size(width, height)
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
        linear, name = _linear_of_array(np.asarray(image, np.float32)[..., None] / 65535, icc, warnings)
        linear = shrink(linear)
    else:
        linear, name = _linear_of_image(image, icc, warnings)
    shown = image if image.mode in ("L", "RGB") and not icc else None
    return _display_referred(kind, width, height, linear, name, exif, warnings, shown)


def _display_referred(kind, width, height, linear, profile, exif, warnings, shown=None):
    return Picture(
        kind=kind,
        width=width,
        height=height,
        linear=_sane(linear, warnings),
        profile=profile,
        exposure=exif,
        middle_grey_ev100=exif.ev100,
        clip=0.98,
        warnings=(*warnings, *exif.warnings),
        shown=shown,
    )


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
        return Exposure(), None
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


def _linear_of_array(encoded, icc, warnings):
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


def shrink(linear):
    """A linear picture reduced to at most 1600 pixels on the long side, averaging light; shape (h, w, 3)."""
    height, width = linear.shape[:2]
    scale = LONG_SIDE / max(width, height)
    if scale >= 1:
        return linear
    size = (max(1, round(width * scale)), max(1, round(height * scale)))
    planes = [
        np.asarray(
            Image.fromarray(np.ascontiguousarray(linear[..., k], dtype=np.float32)).resize(size, Image.Resampling.BOX)
        )
        for k in range(linear.shape[-1])
    ]
    return np.stack(planes, axis=-1)


def _sane(linear, warnings):
    """Half-float copy without NaN and infinity, which are counted in a warning."""
    linear = np.asarray(linear, np.float32)
    wrong = ~np.isfinite(linear)
    if wrong.any():
        warnings.append(f"{int(wrong.any(axis=-1).sum())} pixels held no number and were set to black.")
        linear = np.where(wrong, 0, linear)
    return np.clip(linear, -60000, 60000).astype(np.float16)


# --- OpenEXR -------------------------------------------------------------------------------------------------------------


def _read_exr(data):
    import OpenEXR

    warnings = []
    with tempfile.NamedTemporaryFile(suffix=".exr") as file:
        file.write(data)
        file.flush()
        try:
            with OpenEXR.File(file.name, header_only=True) as opened:
                header = dict(opened.header())
                low, high = header["dataWindow"]
            _check_size(int(high[0] - low[0]) + 1, int(high[1] - low[1]) + 1)
            with OpenEXR.File(file.name) as opened:
                channels = {name: channel.pixels for name, channel in opened.channels().items()}
        except PictureError:
            raise
        except Exception:  # the library raises bare exceptions of several kinds for damaged files
            raise PictureError("The OpenEXR file is cut off or damaged.", "picture-truncated") from None
    linear = _exr_pixels(channels)
    height, width = linear.shape[:2]
    white = _white_luminance(header, warnings)
    middle = ev100_of_luminance(white * MIDDLE_GREY) if white else None
    return Picture(
        kind="OpenEXR",
        width=width,
        height=height,
        linear=_sane(shrink(linear), warnings),
        profile="linear light, sRGB primaries",
        middle_grey_ev100=middle,
        scene_linear=True,
        absolute=white is not None,
        clip=None,
        warnings=tuple(warnings),
    )


def _exr_pixels(channels):
    for name in ("RGB", "RGBA"):
        if name in channels:
            return channels[name][..., :3].astype(np.float32)
    if {"R", "G", "B"} <= set(channels):
        return np.stack([channels[name] for name in "RGB"], axis=-1).astype(np.float32)
    if "Y" in channels:
        return np.repeat(channels["Y"].astype(np.float32)[..., None], 3, axis=-1)
    raise PictureError(
        f"The OpenEXR file has no R, G, B channels (it has {', '.join(sorted(channels))}).", "picture-no-colour"
    )


def _white_luminance(header, warnings):
    """cd/m2 of the value 1.0 from the standard attribute, or None."""
    value = header.get("whiteLuminance")
    if value is None:
        warnings.append("The file has no whiteLuminance: its light has no scale until a reading is typed.")
        return None
    value = float(value)
    if not 1e-6 < value < 1e9:
        warnings.append(
            f"The file's whiteLuminance ({value:g}) cannot be; its light has no scale until a reading is typed."
        )
        return None
    return value


# --- TIFF and raw --------------------------------------------------------------------------------------------------------


def _read_tiff_family(data):
    import tifffile

    try:
        with tifffile.TiffFile(io.BytesIO(data)) as file:
            page = file.pages[0]
            if _is_raw(page):
                return _read_raw(data, _tiff_exif(page))
            _check_size(page.imagewidth, page.imagelength)
            if page.bitspersample == 1 and page.samplesperpixel == 1:
                raise PictureError(
                    "The picture has only black and white pixels, so there are no tones to meter.", "picture-bilevel"
                )
            if page.bitspersample in (16, 32) and page.photometric in (0, 1, 2):
                return _read_deep_tiff(file, page, data)
    except PictureError:
        raise
    except Exception:  # a damaged TIFF fails anywhere in its chain of offsets
        raise PictureError("The TIFF file is cut off or damaged.", "picture-truncated") from None
    return _read_with_pillow(data)


def _is_raw(page):
    """Whether a TIFF's first page belongs to a camera's raw file: a DNG, a sensor mosaic, or a preview before one."""
    tags = page.tags
    return 50706 in tags or page.photometric in (32803, 34892) or (330 in tags and 271 in tags and page.is_reduced)


def _tiff_exif(page):
    tag = page.tags.get(34665)
    if tag is None or not isinstance(tag.value, dict):
        return Exposure()
    numbers = {"ExposureTime": 0x829A, "FNumber": 0x829D, "ISOSpeedRatings": 0x8827, "PhotographicSensitivity": 0x8827,
               "DateTimeOriginal": 0x9003, "FocalLength": 0x920A, "FocalLengthIn35mmFilm": 0xA405}  # fmt: skip
    return exposure_of({numbers[name]: value for name, value in tag.value.items() if name in numbers})


def _read_deep_tiff(file, page, data):
    warnings = []
    if len(file.pages) > 1:
        warnings.append("The file holds several pictures; the first is used.")
    try:
        pixels = page.asarray()
    except ValueError:  # a compression the decoder lacks; Pillow knows more of them, at 8 bits for colour
        picture = _read_with_pillow(data)
        return _with_warning(picture, "The file's compression could only be read at 8 bits.")
    floating = pixels.dtype.kind == "f"
    pixels = pixels.astype(np.float32) if floating else pixels.astype(np.float32) / np.iinfo(pixels.dtype).max
    if pixels.ndim == 2:
        pixels = pixels[..., None]
    elif page.planarconfig == 2:
        pixels = np.moveaxis(pixels, 0, -1)
    if page.photometric == 0:
        pixels = 1 - pixels
    pixels = pixels[..., : 3 if pixels.shape[-1] >= 3 else 1]
    icc = page.tags[34675].value if 34675 in page.tags else None
    if floating:
        linear, name = np.repeat(pixels, 3, axis=-1) if pixels.shape[-1] == 1 else pixels, "linear light"
    else:
        linear, name = _linear_of_array(pixels, icc, warnings)
    turn = page.tags[274].value if 274 in page.tags else 1
    linear = _turned(shrink(linear), int(turn))
    width, height = page.imagewidth, page.imagelength
    if int(turn) in (5, 6, 7, 8):
        width, height = height, width
    exposure = _tiff_exif(page)
    if floating:
        return Picture(
            "TIFF",
            width,
            height,
            _sane(linear, warnings),
            name,
            exposure,
            exposure.ev100,
            True,
            False,
            None,
            tuple(warnings),
        )
    return _display_referred("TIFF", width, height, linear, name, exposure, warnings)


def _turned(linear, orientation):
    """A picture set upright by its EXIF orientation, 1..8."""
    flips = {2: (0, True), 3: (2, False), 4: (2, True), 5: (3, True), 6: (3, False), 7: (1, True), 8: (1, False)}
    quarter, mirror = flips.get(orientation, (0, False))
    if mirror:
        linear = linear[:, ::-1] if orientation in (2, 4) else linear
    turned = np.rot90(linear, quarter) if quarter else linear
    if mirror and orientation in (5, 7):
        turned = turned[:, ::-1]
    return np.ascontiguousarray(turned)


def _read_raw(data, exposure=None):
    """A camera's raw file through the raw decoder: white-balanced as shot, linear, never its embedded preview."""
    import rawpy

    try:
        with rawpy.imread(io.BytesIO(data)) as raw:
            _check_size(raw.sizes.width, raw.sizes.height)
            half = min(raw.sizes.width, raw.sizes.height) > 2 * LONG_SIDE
            turned = raw.sizes.flip in (5, 6)
            width, height = raw.sizes.width, raw.sizes.height
            pixels = raw.postprocess(
                gamma=(1, 1), no_auto_bright=True, output_bps=16, use_camera_wb=True, half_size=half,
                output_color=rawpy.ColorSpace.sRGB, highlight_mode=rawpy.HighlightMode.Clip,
            )  # fmt: skip
    except PictureError:
        raise
    except Exception:  # the decoder has its own tree of exceptions, and damaged files raise others
        raise PictureError(
            f"The file is not a picture that can be read, or a raw file that the decoder does not know. Use {ACCEPTED}; "
            "most raw files can be saved as DNG or as 16-bit TIFF.",
            "picture-unreadable",
        ) from None
    if turned:
        width, height = height, width
    white = MIDDLE_GREY * 2**RAW_HEADROOM_STOPS
    exposure = exposure or Exposure()
    warnings = list(exposure.warnings)
    return Picture(
        kind="raw",
        width=width,
        height=height,
        linear=_sane(shrink(pixels.astype(np.float32) / 65535 * white), warnings),
        profile="camera raw, linear light",
        exposure=exposure,
        middle_grey_ev100=exposure.ev100,
        scene_linear=True,
        clip=0.98 * white,
        warnings=tuple(warnings),
    )
