"""Results with known misses, made from the demo light: what a camera, a printer or a lens would have done to a plan.

The way forward is written here by itself: curve and sRGB from their published tables, flare as light that is added, a moved object as
a disc that is painted over. So a comparison is not held against its own arithmetic.
"""

import io
import json
import pathlib
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from PIL import Image
from scipy.interpolate import PchipInterpolator

from dimgrey.core.colour.chain import CHANNEL_MIXES, glass_chain, mixed_chain
from dimgrey.core.colour.greys import grey_of
from dimgrey.core.planning.prints import Printing

DEMO = pathlib.Path(__file__).resolve().parents[2] / "demo"
PRINT = ((-5, -4, -3, -2, -1, 0, 1, 2, 3, 4, 5), (3, 8, 16, 26, 38, 50, 63, 76, 87, 95, 99))
FILE = ((-6, -5, -4, -3, -2, -1, 0, 1, 2, 2.7, 3.3), (1, 3, 8, 16, 26, 38, 50, 66, 84, 95, 100))
SPOT = 0.008


@dataclass(frozen=True)
class DemoPlan:
    """A demo scene as it was planned. falls: shape (h, w). tones: name -> ((x, y), fall). others: another filter -> stops that it would
    move each pixel. needs: names of tones that need texture."""

    name: str
    printing: Printing
    falls: np.ndarray
    tones: dict
    others: dict
    needs: frozenset

    @property
    def free(self):
        return frozenset(self.tones) - self.needs


PLANS = {
    "a_kiln_and_sky": ("film", "orange", 0.0),
    "b_drying_yard": ("digital raw", "none", -0.6),
    "d_white_ware": ("digital file", "none", 0.3),
    "e_firing_at_night": ("film", "none", 0.4),
}
"""Scene -> medium, filter, and stops over the middle of its card."""


@lru_cache(maxsize=8)
def demo_plan(name):
    """DemoPlan of a demo scene by the name of its files."""
    import OpenEXR

    kind, filter_name, stops = PLANS[name]
    with OpenEXR.File(str(DEMO / "linear" / f"{name}.exr")) as file:
        light = file.channels()["RGB"].pixels.astype(np.float32)
    h, w = (n // 2 * 2 for n in light.shape[:2])
    light = np.maximum(light[:h, :w].reshape(h // 2, 2, w // 2, 2, 3).mean(axis=(1, 3)), 1e-6)
    if kind == "film":
        chains = {
            each: glass_chain("general panchromatic", "D55", (each,))
            for each in ("yellow", "orange", "red", "green", "blue")
        }
        chains["none"] = glass_chain("general panchromatic", "D55")
    else:
        chains = {each: mixed_chain(mix) for each, mix in CHANNEL_MIXES.items()}
    made = {each: np.log2(np.maximum(grey_of(chain, light), 1e-6) / 0.18) for each, chain in chains.items()}
    falls = made[filter_name] + 5 + stops
    meta = json.loads((DEMO / "meta" / f"{name}.json").read_text())
    tones = {}
    for spot in meta["spots"]:
        x, y = spot["x"] / meta["size"][0], spot["y"] / meta["size"][1]
        tones[spot["name"]] = ((x, y), _spot(falls, x, y))
    needs = frozenset(each for each, (_, fall) in tones.items() if 1.5 < fall < 7.5)
    others = {each: stops_of - made[filter_name] for each, stops_of in made.items() if each != filter_name}
    return DemoPlan(name, Printing(kind), falls, tones, others, needs)


def _spot(falls, x, y):
    """Fall of the mean light in the meter's spot."""
    height, width = falls.shape
    rows, columns = np.ogrid[:height, :width]
    inside = (rows - y * height) ** 2 + (columns - x * width) ** 2 <= (SPOT * width) ** 2
    return float(np.log2(np.mean(2.0 ** falls[inside])))


def shot(plan, rng, exposure=0.0, contrast=0.0, filter_name=None, flare=0.0, moved=None, noise=1.5, quality=90):
    """8-bit greys of what came of a plan, through a JPEG file.

    exposure: stops, + is lighter. contrast: share of the slope. flare: light over all, in parts of middle grey. moved: name of a tone whose
    object went away.
    """
    stops = plan.falls - 5 + (plan.others[filter_name] if filter_name else 0.0)
    stops = stops * (1 + contrast) + exposure
    stops = np.log2(2.0**stops + flare)
    at, shown = PRINT if plan.printing.kind == "film" else FILE
    grey = greys(PchipInterpolator(at, shown)(np.clip(stops, at[0], at[-1])))
    if moved:
        (x, y), _ = plan.tones[moved]
        rows, columns = np.ogrid[: grey.shape[0], : grey.shape[1]]
        inside = (rows - y * grey.shape[0]) ** 2 + (columns - x * grey.shape[1]) ** 2 < (0.05 * grey.shape[1]) ** 2
        level = grey[inside].mean()
        grey[inside] = level + 100 if level < 120 else level - 85
    return through_jpeg(grey + rng.normal(0, noise, grey.shape), quality)


def greys(l_star):
    """8-bit sRGB greys of L*, as floats (CIE 15:2018, 8.2.1; IEC 61966-2-1)."""
    y = np.where(l_star > 8, ((l_star + 16) / 116) ** 3, l_star / 903.3)
    return 255 * np.where(y > 0.0031308, 1.055 * y ** (1 / 2.4) - 0.055, 12.92 * y)


def through_jpeg(grey, quality=90):
    """8-bit greys after a JPEG file of that quality."""
    file = io.BytesIO()
    Image.fromarray(np.clip(np.round(grey), 0, 255).astype(np.uint8)).save(file, "JPEG", quality=quality)
    return np.asarray(Image.open(file))
