"""Small picture files made for tests: each function returns the bytes of one."""

import io
import struct
import tempfile
import zlib
from fractions import Fraction

import numpy as np
from PIL import Image
from PIL.TiffImagePlugin import IFDRational


def ramp(width=64, height=48, low=20, high=235):
    """8-bit picture that brightens from left to right, shape (height, width, 3)."""
    row = np.linspace(low, high, width).astype(np.uint8)
    return np.repeat(np.repeat(row[None, :, None], height, axis=0), 3, axis=2)


def saved(image, kind, **options):
    buffer = io.BytesIO()
    image.save(buffer, kind, **options)
    return buffer.getvalue()


def exif(seconds=Fraction(1, 125), f_number=8, iso=100, focal_35mm=50, orientation=1):
    block = Image.Exif()
    block[0x0112] = orientation
    inner = block.get_ifd(0x8769)
    if seconds is not None:
        inner[0x829A] = IFDRational(Fraction(seconds).numerator, Fraction(seconds).denominator)
    if f_number is not None:
        inner[0x829D] = IFDRational(Fraction(f_number).numerator, Fraction(f_number).denominator)
    if iso is not None:
        inner[0x8827] = iso
    inner[0xA405] = focal_35mm
    return block


def jpeg(width=64, height=48, **options):
    return saved(Image.fromarray(ramp(width, height)), "JPEG", quality=95, **options)


def png(mode="RGB", **options):
    return saved(Image.fromarray(ramp()).convert(mode), "PNG", **options)


def tiff16(value=0.5, width=40, height=30, **options):
    """16-bit TIFF of one encoded value 0..1."""
    import tifffile

    buffer = io.BytesIO()
    pixels = np.full((height, width, 3), round(value * 65535), np.uint16)
    tifffile.imwrite(buffer, pixels, photometric="rgb", **options)
    return buffer.getvalue()


def exr(value=0.18, white=None, width=40, height=30):
    """OpenEXR of one linear value; white: its whiteLuminance in cd/m2, or None."""
    import OpenEXR

    header = {"compression": OpenEXR.ZIP_COMPRESSION, "type": OpenEXR.scanlineimage}
    if white is not None:
        header["whiteLuminance"] = float(white)
    pixels = np.full((height, width, 3), value, np.float32)
    with tempfile.NamedTemporaryFile(suffix=".exr") as file:
        OpenEXR.File(header, {"RGB": pixels}).write(file.name)
        return open(file.name, "rb").read()


def dng(value=0.1, width=64, height=48):
    """A made-up camera's raw file: an even sensor mosaic of one value, 0..1 of saturation, as a DNG."""
    import tifffile

    pixels = np.full((height, width), round(value * 65535), np.uint16)
    rational = lambda *v: (10, len(v), tuple(n for x in v for n in (round(x * 10000), 10000)))
    tags = [
        (50706, 1, 4, (1, 4, 0, 0), False),
        (50707, 1, 4, (1, 1, 0, 0), False),
        (50708, 2, 0, "Imagined camera", False),
        (33421, 3, 2, (2, 2), False),
        (33422, 1, 4, (0, 1, 1, 2), False),
        (50717, 4, 1, 65535, False),
        (50714, 3, 1, 0, False),
        (50721, *rational(3.2406, -1.5372, -0.4986, -0.9689, 1.8758, 0.0415, 0.0557, -0.2040, 1.0570)[:1], 9,
         rational(3.2406, -1.5372, -0.4986, -0.9689, 1.8758, 0.0415, 0.0557, -0.2040, 1.0570)[2], False),
        (50728, 5, 3, (1, 1, 1, 1, 1, 1), False),
        (50778, 3, 1, 21, False),
    ]  # fmt: skip
    buffer = io.BytesIO()
    tifffile.imwrite(buffer, pixels, photometric=32803, extratags=tags, metadata=None)
    return buffer.getvalue()


def claimed_size_png(width, height):
    """A PNG whose header claims a size that its data does not have."""
    chunk = lambda name, data: struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))
    header = struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0)
    return (
        b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", header) + chunk(b"IDAT", zlib.compress(b"\0" * 100)) + chunk(b"IEND", b"")
    )
