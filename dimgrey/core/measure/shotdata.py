"""Exposure data that a camera wrote into a picture, doubted value by value.

Source: CIPA DC-008 (EXIF 2.32). Files from real cameras hold f/0, 0 s, 4294967295 s, missing ISO and dates with NUL:
each is dropped by itself and named in a warning.
"""

import io
import math
from dataclasses import dataclass, field
from datetime import datetime

from dimgrey.core.measure.exposure import ev100

EXPOSURE_TIME, F_NUMBER, ISO, TAKEN, FOCAL, FOCAL_35MM = 0x829A, 0x829D, 0x8827, 0x9003, 0x920A, 0xA405
FLASH = 0x9209
GPS_NORTH_SOUTH, GPS_LATITUDE, GPS_EAST_WEST, GPS_LONGITUDE = 1, 2, 3, 4

PLAUSIBLE = {
    EXPOSURE_TIME: ("exposure time", 1e-6, 36000),
    F_NUMBER: ("f-number", 0.5, 128),
    ISO: ("ISO speed", 1, 5_000_000),
    FOCAL: ("focal length", 0.5, 5000),
    FOCAL_35MM: ("35 mm focal length", 2, 5000),
}


@dataclass(frozen=True)
class ShotData:
    """What was read: seconds, f-number, ISO, focal lengths in mm, time, place as latitude and longitude in degrees; None where the
    file says nothing usable."""

    time_s: float | None = None
    f_number: float | None = None
    iso: float | None = None
    focal_mm: float | None = None
    focal_35mm: float | None = None
    taken_at: str | None = None
    place: tuple | None = None
    warnings: tuple = field(default=())

    @property
    def ev100(self):
        """EV100 that the camera set, which is where the picture's middle grey lies; None when a part is missing."""
        if None in (self.time_s, self.f_number, self.iso):
            return None
        value = ev100(self.f_number, self.time_s, self.iso)
        return value if -12 <= value <= 24 else None


def shot_kept(values):
    """ShotData of plain values that were kept. values: name -> value; others than its own are passed over."""
    return ShotData(**{name: value for name, value in values.items() if name in ShotData.__dataclass_fields__})


def exposure_of(tags):
    """ShotData from a mapping of EXIF tag numbers to values; never raises."""
    warnings = []
    numbers = {tag: _number(tags, tag, warnings) for tag in PLAUSIBLE}
    if numbers[ISO] == 65535:
        warnings.append("The file's ISO speed is the marker for “too large”; it is left out.")
        numbers[ISO] = None
    if _fired(tags.get(FLASH)):
        warnings.append("A flash fired: the picture shows its light, and tells little of the light that was there.")
    return ShotData(
        numbers[EXPOSURE_TIME],
        numbers[F_NUMBER],
        numbers[ISO],
        numbers[FOCAL],
        numbers[FOCAL_35MM],
        _taken(tags.get(TAKEN)),
        warnings=tuple(warnings),
    )


def place_of(gps):
    """(latitude, longitude) in degrees of a GPS block, or None for one that tells no place; never raises.

    gps: mapping of GPS tag numbers to values. Files from real phones hold 0/0, a lone hemisphere, and 0, 0 without a fix.
    """
    try:
        latitude, longitude = (_degrees(gps[number]) for number in (GPS_LATITUDE, GPS_LONGITUDE))
        south, west = (_letter(gps.get(number)) for number in (GPS_NORTH_SOUTH, GPS_EAST_WEST))
    except (KeyError, TypeError, ValueError, ZeroDivisionError, IndexError, OverflowError):
        return None
    if south not in ("N", "S") or west not in ("E", "W") or not (latitude <= 90 and longitude <= 180):
        return None
    if latitude == longitude == 0:
        return None
    return round(latitude * (-1 if south == "S" else 1), 6), round(longitude * (-1 if west == "W" else 1), 6)


def _degrees(value):
    """Degrees of degrees, minutes and seconds. Raises ValueError for what is none."""
    parts = [p[0] / p[1] if isinstance(p, tuple) else float(p) for p in value]
    if len(parts) != 3 or not all(math.isfinite(p) and p >= 0 for p in parts):
        raise ValueError(value)
    return parts[0] + parts[1] / 60 + parts[2] / 3600


def _letter(value):
    text = value.decode("ascii", "replace") if isinstance(value, bytes) else str(value or "")
    return text.strip("\0 ").upper()[:1]


def _number(tags, tag, warnings):
    if tag not in tags:
        return None
    name, low, high = PLAUSIBLE[tag]
    value = tags[tag]
    try:
        if isinstance(value, (tuple, list)):
            value = value[0] / value[1] if len(value) == 2 and tag != ISO else value[0]
        number = float(value)
    except (TypeError, ValueError, ZeroDivisionError, IndexError, OverflowError):
        number = math.nan
    if low <= number <= high:
        return number
    if tag == FOCAL_35MM and number == 0:  # the standard's own "unknown"
        return None
    warnings.append(f"The file's {name} ({number:g}) cannot be; it is left out.")
    return None


def _fired(value):
    """Whether the tag says that a flash fired: its lowest bit."""
    value = value[0] if isinstance(value, list | tuple) and value else value
    return isinstance(value, int) and bool(value & 1)


def _taken(value):
    if isinstance(value, bytes):
        value = value.decode("ascii", "replace")
    text = str(value or "").replace("\0", "").strip()
    try:
        return datetime.strptime(text, "%Y:%m:%d %H:%M:%S").isoformat()
    except ValueError:
        return None


NAMES = {
    "EXIF ExposureTime": EXPOSURE_TIME,
    "EXIF FNumber": F_NUMBER,
    "EXIF ISOSpeedRatings": ISO,
    "EXIF DateTimeOriginal": TAKEN,
    "EXIF FocalLength": FOCAL,
    "EXIF FocalLengthIn35mmFilm": FOCAL_35MM,
    "EXIF Flash": FLASH,
}
"""Tags by the names that the plain reader of files gives them."""


def shot_in(data):
    """ShotData of the bytes of a picture file, read without an image library: what the phone does for itself.

    data: bytes. A file that cannot be read says nothing.
    """
    import exifread  # reads files in plain Python; asked for only where a picture is brought in

    try:
        found = exifread.process_file(io.BytesIO(data), details=False)
    except Exception:  # a damaged file: whatever the reader stumbles over, the picture has no exposure data then
        return ShotData(warnings=("The picture's exposure data cannot be read.",))
    return exposure_of({NAMES[name]: _plain_value(tag.values) for name, tag in found.items() if name in NAMES})


def _plain_value(values):
    """A tag's value: text, or its first number; a ratio as numerator and denominator."""
    if isinstance(values, str) or not values:
        return values
    first = values[0]
    return (
        (first.numerator, first.denominator) if hasattr(first, "numerator") and hasattr(first, "denominator") else first
    )
