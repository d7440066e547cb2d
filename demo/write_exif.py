"""Write made-up exposure data into the snapshots, so that they carry the scale that their light had.

Middle grey of a snapshot lies at `key_light_card_EV100 - snapshot_exposure_compensation_ev` of its metadata; an
imagined phone with f/2, its own focal length and a speed that suits the light exposes for it.

Use: write_exif.py FOLDER_OF_SNAPSHOTS   (writes demo/snapshots)
"""

import json
import math
import sys
from fractions import Fraction
from pathlib import Path

from PIL import Image
from PIL.TiffImagePlugin import IFDRational

HERE = Path(__file__).parent


def exif_for(meta):
    ev = meta["key_light_card_EV100"] - meta["snapshot_exposure_compensation_ev"]
    iso = 50 if ev > 12 else 100 if ev > 8 else 1600
    seconds = Fraction(4 * 100 / (iso * 2**ev)).limit_denominator(1_000_000)
    exif = Image.Exif()
    exif[0x0112] = 1
    inner = exif.get_ifd(0x8769)
    focal = meta["camera"]["focal_length_35mm"]
    inner[0x829A] = IFDRational(seconds.numerator, seconds.denominator)
    inner[0x829D] = IFDRational(2, 1)
    inner[0x8827] = iso
    inner[0x9003] = "2026:05:14 12:00:00"
    inner[0x920A] = IFDRational(round(focal * 100 / 6), 100)
    inner[0xA405] = focal
    assert abs(math.log2(4 / seconds) - math.log2(iso / 100) - ev) < 0.01
    return exif


def main(folder):
    for path in sorted(Path(folder).glob("*.jpg")):
        meta = json.loads((HERE / "meta" / f"{path.stem}.json").read_text())
        with Image.open(path) as image:
            image.save(HERE / "snapshots" / path.name, quality="keep", exif=exif_for(meta))


if __name__ == "__main__":
    main(*sys.argv[1:])
