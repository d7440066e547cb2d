"""JPEG, PNG, WebP, HEIC and AVIF, and whatever TIFF the exact decoder leaves: read with Pillow, a few rows at a time."""

import io
import math
import threading
from dataclasses import replace

import numpy as np
from PIL import ExifTags, Image, ImageCms, ImageFile, UnidentifiedImageError

from dimgrey.core.measure.shotdata import ShotData, exposure_of, place_of
from dimgrey.pictures.decoded import check_size, display_referred, turned, turned_size
from dimgrey.pictures.filekinds import ACCEPTED, PictureError
from dimgrey.pictures.profiles import Space, codes_in, interop_of, space_of
from dimgrey.pictures.shrinking import Shrinker, ahead, looked_up, shrunk

ROWS = 32
HEAD = 200_000
MOST_SCANS = 64
"""Of a progressive JPEG. Cameras and programs write ten; hundreds only keep a server busy."""
WHOLE_PIXELS = 100_000_000
"""A JPEG with more is read at half its size, in which the decoder averages before it is light."""
MOST_MISSING_ROWS = 32
DAMAGED = "The picture is cut off or damaged. Copy it from the camera again."
BROKEN_EXIF = "The exposure data in the file is damaged and was left out."
SEE_THROUGH = "The picture has see-through parts; they are laid on white."
FAILURES = (OSError, SyntaxError, ValueError, EOFError, TypeError, RuntimeError)


def read_with_pillow(path):
    """Decoded of a file. path: where it lies. Raises PictureError."""
    warnings = []
    head = path.open("rb").read(HEAD)
    image = _opened(path, head)
    kind = {"MPO": "JPEG", "HEIF": "HEIC", "WEBP": "WebP"}.get(image.format, image.format)
    size = image.size
    check_size(*size)
    if image.mode == "1":
        raise PictureError(
            "The picture has only black and white pixels, so there are no tones to meter.", "picture-bilevel"
        )
    if getattr(image, "n_frames", 1) > 1:
        warnings.append("The file holds several pictures; the first is used.")
    if kind == "JPEG":
        _require_few_scans(path)
    exif, turn, interop = _exif(image, warnings)
    exact = _exact_pixels(path, image, kind, head)
    if exact is None:
        image = _loaded(image, path, kind, warnings)
    channels = (
        exact.shape[-1] if exact is not None else 1 if image.mode in ("L", "LA", "I", "F", "I;16", "I;16B") else 3
    )
    # Where Pillow hands eight bits on, it has looked at numbers and gamma of no file.
    space = space_of(
        image.info.get("icc_profile"),
        channels,
        warnings,
        codes_in(head) if kind in ("HEIC", "AVIF") else None,
        _gamma(image) if kind == "PNG" else None,
        interop,
    )
    if space.high_range and exact is None:
        warnings.append(f"The file holds high dynamic range ({space.name}); it could only be read at 8 bits.")
    linear = _linear_of_array(exact, space, warnings) if exact is not None else _linear(image, space, warnings)
    if kind in ("TIFF", "HEIC", "AVIF"):  # their decoders set the picture upright themselves
        turn, size = 1, (exact.shape[1::-1] if exact is not None else image.size)
    return display_referred(
        kind, *turned_size(size, turn), turned(linear, turn), space.name, exif, warnings, end=space.end
    )


def _opened(path, head):
    if head[4:8] == b"ftyp" and head[8:12] not in (b"avif", b"avis"):
        import pillow_heif

        pillow_heif.register_heif_opener()
    try:
        return Image.open(path)
    except Image.DecompressionBombError:
        raise PictureError("The picture has too many pixels. Save a smaller copy.", "picture-too-large") from None
    except UnidentifiedImageError:
        raise _unreadable() from None
    except FAILURES:
        raise _unreadable() from None


def _unreadable():
    sentence = f"The file is not a picture that can be read, or it is damaged. Use {ACCEPTED}."
    return PictureError(sentence, "picture-unreadable")


def _require_few_scans(path):
    """Raise PictureError for a JPEG whose scans go over the picture again and again."""
    data = path.read_bytes()
    if data.count(b"\xff\xda") > MOST_SCANS:
        raise PictureError(
            f"The JPEG is written in more than {MOST_SCANS} passes, which no camera does. Save it again.",
            "picture-scans",
        )


def _loaded(image, path, kind, warnings):
    """The image with its pixels; a JPEG whose last bytes are missing is taken when the loss is a few rows."""
    try:
        if kind == "TIFF":  # set upright as it is loaded; rightly only from memory, with nothing asked of it before
            image = Image.open(io.BytesIO(path.read_bytes()))
        if kind == "JPEG" and image.width * image.height > WHOLE_PIXELS:
            image.draft(image.mode, (math.ceil(image.width / 2), math.ceil(image.height / 2)))
        image.load()
        return image
    except MemoryError:
        raise
    except FAILURES:
        if kind != "JPEG":
            raise PictureError(DAMAGED, "picture-truncated") from None
    return _mended(path, warnings)


def _mended(path, warnings):
    ImageFile.LOAD_TRUNCATED_IMAGES = True
    try:
        image = Image.open(path)
        image.load()
    except FAILURES:
        raise PictureError(DAMAGED, "picture-truncated") from None
    finally:
        ImageFile.LOAD_TRUNCATED_IMAGES = False
    missing = _rows_without_picture(image)
    if missing > max(MOST_MISSING_ROWS, image.height // 100):
        raise PictureError(DAMAGED, "picture-truncated")
    warnings.append("The file lacks its last bytes; a strip at the lower edge may be grey.")
    return image


def _rows_without_picture(image):
    """Rows at the lower edge that hold one colour, as a decoder fills what is missing."""
    last = np.asarray(image.crop((0, image.height - 1, image.width, image.height)))
    if (last != last[:, :1]).any():
        # The last block begins with picture and goes on with filling; how far up it goes does the filled end tell.
        column = np.asarray(image.crop((image.width - 1, 0, image.width, image.height)))[:, 0]
        differs = np.flatnonzero((column != column[-1]).reshape(image.height, -1).any(axis=1))
    else:
        pixels = np.asarray(image)
        differs = np.flatnonzero((pixels != last[:, :1]).reshape(image.height, -1).any(axis=1))
    return image.height - 1 - int(differs[-1]) if len(differs) else image.height


def _exact_pixels(path, image, kind, head):
    """Pixels of more than 8 bits that Pillow would round, shape (h, w, 1 or 3), uint16; None where there are none."""
    if kind == "PNG" and head[24:25] == b"\x10":
        from imagecodecs import PngError, png_decode

        try:
            pixels = png_decode(path.read_bytes())
        except (PngError, ValueError, RuntimeError):
            raise PictureError(DAMAGED, "picture-truncated") from None
        pixels = pixels[..., None] if pixels.ndim == 2 else pixels
        return _on_white(pixels)
    if kind == "HEIC" and image.info.get("bit_depth", 8) > 8:
        import pillow_heif

        try:
            pixels = np.asarray(pillow_heif.open_heif(path, convert_hdr_to_8bit=False))
        except FAILURES:
            raise PictureError(DAMAGED, "picture-truncated") from None
        return _on_white(pixels[..., None] if pixels.ndim == 2 else pixels)
    return None


def _on_white(pixels):
    """16-bit pixels without their alpha; where they are seen through they lie on white."""
    channels = pixels.shape[-1]
    if channels in (1, 3):
        return pixels
    colour, alpha = pixels[..., : channels - 1], pixels[..., -1:]
    if alpha.min() == 65535:
        return colour
    share = alpha.astype(np.float32) / 65535
    return (colour * share + 65535 * (1 - share)).round().astype(np.uint16)


def _exif(image, warnings):
    """(exposure data, orientation 1..8, colour space by EXIF); a corrupt block is a warning, not an end."""
    try:
        tags = image.getexif()
        inner = dict(tags.get_ifd(ExifTags.IFD.Exif))
        turn, interop = tags.get(ExifTags.Base.Orientation, 1), interop_of(tags)
        place = place_of(tags.get_ifd(ExifTags.IFD.GPSInfo))
    except Exception:  # the parser fails in many ways on damaged blocks, and none of them may stop an import
        warnings.append(BROKEN_EXIF)
        return ShotData(), 1, ""
    if (image.info.get("exif") and not tags) or (ExifTags.IFD.Exif in tags and not inner):
        warnings.append(BROKEN_EXIF)
    return replace(exposure_of(inner), place=place), turn if turn in range(1, 9) else 1, interop


def _gamma(image):
    """(gamma, chromaticity) that a PNG says without naming sRGB, or None."""
    gamma = image.info.get("gamma")
    return None if gamma is None or "srgb" in image.info else (float(gamma), image.info.get("chromaticity"))


def _linear_of_array(pixels, space, warnings):
    """Linear sRGB of 16-bit pixels, small; shape (h, w, 3)."""
    if space.profile is None:
        warnings.append("The embedded colour profile is made of tables; at 16 bits sRGB is assumed.")
        space = Space()
    small, _ = shrunk(pixels, space.tables(65536, pixels.shape[-1]))
    return space.to_srgb(small)


def _linear(image, space, warnings):
    """Linear sRGB of an 8-bit image, or of one of whole or real numbers, small; shape (h, w, 3)."""
    if image.mode in ("I", "F", "I;16", "I;16B", "I;16L"):
        table = space.tables(65536, 1)
        codes = lambda strip: np.clip(np.asarray(strip, np.float32)[..., None], 0, 65535).astype(np.uint16)
        return space.to_srgb(_shrunk(image, 1, lambda strip: looked_up(codes(strip), table)))
    to_rgb, name = _converter(image, space, warnings)
    if name == "L":
        tables = (space if space.profile is not None else Space()).tables(256, 1)
    else:
        tables = _tables(space, warnings)
    channels = len(name)
    codes = lambda strip: np.asarray(to_rgb(strip)).reshape(strip.height, strip.width, channels)
    small = _shrunk(image, channels, lambda strip: looked_up(codes(strip), tables))
    return np.repeat(small, 3, axis=-1) if channels == 1 else _matrixed(small, space, image)


def _tables(space, warnings):
    profile = space.profile
    if profile is None or len(profile.curves) != 3:
        return Space().tables(256, 3)
    return space.tables(256, 3)


def _matrixed(small, space, image):
    by_library = space.profile is None or image.mode == "CMYK"
    return small if by_library or len(space.profile.curves) != 3 else space.to_srgb(small)


def _shrunk(image, channels, light_of):
    """The small picture as light. light_of: from a strip of the image to its linear light, shape (n, width, channels)."""
    made = Shrinker(*image.size, channels)
    strip = lambda top: light_of(image.crop((0, top, image.width, min(top + ROWS, image.height))))
    for rows in ahead(strip, range(0, image.height, ROWS)):
        made.add(rows)
    return made.picture()


def _converter(image, space, warnings):
    """(from a strip of an image to one of 8-bit RGB or L, which of the two)."""
    if image.mode in ("RGBA", "LA", "PA", "La", "RGBa") or (image.mode == "P" and "transparency" in image.info):
        return _over_white(image, warnings)
    if image.mode == "CMYK" or space.profile is None:
        return _by_library(image, space, warnings), "RGB"
    if image.mode == "L":
        return lambda strip: strip, "L"
    return (lambda strip: strip) if image.mode == "RGB" else (lambda strip: strip.convert("RGB")), "RGB"


def _over_white(image, warnings):
    whole = image if image.mode in ("RGBA", "LA") else image.convert("RGBA")
    if whole.getchannel("A").getextrema()[0] == 255:
        return lambda strip: strip.convert("RGBA").convert("RGB"), "RGB"
    warnings.append(SEE_THROUGH)

    def laid(strip):
        over = strip.convert("RGBA")
        return Image.alpha_composite(Image.new("RGBA", over.size, "white"), over).convert("RGB")

    return laid, "RGB"


def _by_library(image, space, warnings):
    """From a strip to sRGB, by the library's tables."""
    if space.icc:
        try:
            source = ImageCms.ImageCmsProfile(io.BytesIO(space.icc))
            mode = image.mode if image.mode in ("RGB", "CMYK", "L") else "RGB"
            applied = ImageCms.buildTransform(source, ImageCms.createProfile("sRGB"), mode, "RGB")
            alone = threading.Lock()  # a transform remembers the colour before

            def transformed(strip):
                with alone:
                    return ImageCms.applyTransform(strip.convert(mode), applied)

            return transformed
        except (ImageCms.PyCMSError, OSError, ValueError):
            warnings.append("The embedded colour profile cannot be used; the colours are only roughly right.")
    elif image.mode == "CMYK":
        warnings.append("The picture is in printing inks (CMYK) without a profile; its tones are only roughly right.")
    return lambda strip: strip.convert("RGB")
