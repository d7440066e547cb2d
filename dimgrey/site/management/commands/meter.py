"""Read one tone of a picture with the simulated spot meter and print the reading as JSON.

The field of view comes from --focal-35mm, else from the picture's exposure data, else from a NAME.json beside the
picture (or in ../meta) with camera.hfov_deg or camera.focal_length_35mm; else 50 mm is assumed and said.
"""

import json
import math
from pathlib import Path

import numpy as np
from django.core.management.base import BaseCommand

from dimgrey.core.document.means import DEFAULT_FOCAL_35MM
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.exposure import luminance_cd_m2
from dimgrey.core.measure.metering import LightScale
from dimgrey.core.measure.sidecar import Sidecar
from dimgrey.core.shapes.plain import checked_part
from dimgrey.pictures.opening import read_picture
from dimgrey.site.management.commands.plan import fail
from dimgrey.standins.simulated_meter import PictureMeter


class Command(BaseCommand):
    help = __doc__
    requires_system_checks = []

    def add_arguments(self, parser):
        parser.add_argument("file")
        parser.add_argument(
            "--at", required=True, metavar="X,Y", help="fractions of width and height, from the top left"
        )
        parser.add_argument("--spot", type=float, default=1.0, metavar="DEG", help="diameter of the spot in degrees")
        parser.add_argument("--focal-35mm", type=float, metavar="MM", help="focal length in 35 mm terms")

    def handle(self, *args, **options):
        path = Path(options["file"])
        try:
            x, y = place(options["at"])
            spot = in_range("--spot", options["spot"], 0.01, 90)
            picture = read_picture(path.read_bytes(), path.name)
            focal, source = focal_of(path, picture, options["focal_35mm"])
            scale = LightScale(picture.middle_grey_ev100 or 0.0, 1.0, ())
            meter = PictureMeter(picture.linear.astype(np.float32), scale, focal, picture.clip)
            seen = meter.read(x, y, spot)
        except CoreError as refused:
            fail([str(refused)])
        except OSError as missing:
            fail([f"{path}: {missing.strerror}"])
        self.stdout.write(json.dumps(self.answer(picture, meter, seen, spot, source), indent=1, ensure_ascii=False))

    def answer(self, picture, meter, seen, spot, source):
        scaled = picture.middle_grey_ev100 is not None
        warnings = list(picture.warnings) + ([source] if source else [])
        if not scaled:
            warnings.append("The picture's light has no scale: stops are relative to its middle grey.")
        if seen.spot.mixed:
            warnings.append("Mixed tones under the spot.")
        return {
            "ev100": round(seen.ev100, 4) if scaled else None,
            "luminance_cd_m2": round(luminance_cd_m2(seen.ev100), 4) if scaled else None,
            "stops_from_middle": round(seen.spot.mean_stops, 4),
            "low_stops": round(seen.spot.low_stops, 4),
            "high_stops": round(seen.spot.high_stops, 4),
            "spread_stops": round(seen.spread_stops, 4),
            "mixed": seen.spot.mixed,
            "colour": [round(c, 6) for c in seen.spot.colour],
            "radius_px": round(meter.radius_px(spot), 3),
            "warnings": warnings,
        }


def place(text):
    """X,Y as two fractions."""
    try:
        x, y = (float(part) for part in text.split(","))
    except ValueError:
        raise CoreError(f"--at takes two fractions such as 0.5,0.25 (got {text}).") from None
    return in_range("--at X", x, 0, 1), in_range("--at Y", y, 0, 1)


def in_range(name, value, low, high):
    if not (math.isfinite(value) and low <= value <= high):
        raise CoreError(f"{name} must lie between {low:g} and {high:g} (got {value:g}).")
    return value


def focal_of(path, picture, given):
    """(focal length in 35 mm terms, a sentence when it is only assumed)."""
    if given is not None:
        return in_range("--focal-35mm", given, 2, 5000), ""
    if picture.shot.focal_35mm:
        return picture.shot.focal_35mm, ""
    for sidecar in (path.with_suffix(".json"), path.parent.parent / "meta" / f"{path.stem}.json"):
        try:
            lens = checked_part(Sidecar, json.loads(sidecar.read_text(encoding="utf-8")), lenient=True).camera
        except (OSError, ValueError, CoreError):
            continue
        if lens and lens.hfov_deg is not None:
            return 18 / math.tan(math.radians(lens.hfov_deg) / 2), ""
        if lens and lens.focal_length_35mm is not None:
            return lens.focal_length_35mm, ""
    return DEFAULT_FOCAL_35MM, "The focal length is not known; 50 mm is assumed (--focal-35mm sets it)."
