"""From grey light to what the screen shows: zone -> lightness L* -> an 8-bit sRGB grey.

Source: CIE 15:2004 (L*), IEC 61966-2-1:1999 (sRGB), and the print curves of HANDBOOK 8, interpolated monotonely by
PCHIP (Fritsch & Carlson 1980), so that no tone swaps order.
"""

from concurrent.futures import ThreadPoolExecutor
from functools import cache, lru_cache

import numpy as np

from dimgrey.core.camera.setups import toned_stops
from dimgrey.core.colour.encoding import grey8_of_lightness, luminance, luminance_of_lightness, srgb_of_linear
from dimgrey.core.colour.luminance import MIDDLE_GREY
from dimgrey.core.picture.plaintables import FIRST, HARD_SLOPE, LAST
from dimgrey.core.planning.development import developed_zone
from dimgrey.core.planning.prints import FILE_CURVE, PRINT_CURVE, SENSOR_WHITE, WHITE_RAMP
from dimgrey.core.planning.zones import MIDDLE

STEPS = 65536


@lru_cache(maxsize=4)
def _interpolator(curve):
    from scipy.interpolate import PchipInterpolator  # 0.8 s to import

    return PchipInterpolator(*map(np.asarray, curve), extrapolate=False)


def lightness(stops, curve=PRINT_CURVE):
    """L* at which a tone is shown, 0..100; beyond the curve's ends their L* stays.

    stops: from middle grey, any shape. Returns the same shape.
    """
    x = np.clip(np.asarray(stops, float), curve[0][0], curve[0][-1])
    return _interpolator(curve)(x)


def lightness_through(stops, tone, curve=FILE_CURVE):
    """L* of tones through a setup's tone curve; what is white on the sensor stays white, however soft the setup.

    stops: from middle grey before the setup, any shape. tone: contrast, highlights, shadows. Returns the same shape.
    """
    shown = lightness(toned_stops(stops, tone), curve)
    if not any(tone):
        return shown
    return np.maximum(shown, np.interp(stops, (SENSOR_WHITE - WHITE_RAMP, SENSOR_WHITE), (0, 100)))


@lru_cache(maxsize=1)
def index_stops():
    """Stops from middle grey of the table indices FIRST..LAST, 128 steps per stop, each at its middle."""
    bits = (np.arange(FIRST, LAST, dtype=np.uint32) << 16) | 0x8000
    stops = np.log2(bits.view(np.float32).astype(np.float64) / MIDDLE_GREY)
    stops.setflags(write=False)
    return stops


LOOKS = ("grey", "hard", "two", "three", "squint")
"""The plain grey, and what squeezes it: contrast far past any print, two tones, three tones, a blurred squint."""
THREE_TONES = (33.0, 66.0)


def _look(l_star, look):
    """Lightness after a squeeze. Two tones part at L* 50, three at a third and two thirds."""
    if look == "hard":
        return np.clip(50 + (l_star - 50) * HARD_SLOPE, 0, 100)
    if look == "two":
        return np.where(l_star < 50, 4.0, 96.0)
    if look == "three":
        return np.select([l_star < THREE_TONES[0], l_star < THREE_TONES[1]], [8.0, 52.0], 95.0)
    return l_star


@lru_cache(maxsize=64)
def display_table(exposure_stops=0.0, slope=1.0, curve=PRINT_CURVE, development=0, look="grey", tone=(0.0, 0.0, 0.0)):
    """Table that turns grey light into 8-bit sRGB, indexed by the upper 16 bits of its float32; shape (65536,), uint8.

    curve: (stops, L*) of the medium. exposure_stops: added to ``slope * log2(G / 0.18)``; the result is the tone's place in stops from zone V.
    development: step of the film's development, which stretches or presses what lies above zone III. look: one of LOOKS.
    tone: contrast, highlights and shadows of an in-camera setup, -1..+1 each.
    A step is 1/128 stop, so a value is off by at most half a grey level. Zero, negative light and none at all are the
    darkest; infinity is the brightest.
    """
    stops = developed_zone(index_stops() * slope + exposure_stops + MIDDLE, development) - MIDDLE
    shown = grey8_of_lightness(_look(lightness_through(stops, tone, curve), look))
    table = np.full(STEPS, shown[0], np.uint8)
    table[FIRST:LAST] = shown
    table[LAST:0x8000] = shown[-1]
    table.setflags(write=False)
    return table


BLOCK = 1 << 16
WORKERS = 2


@cache
def _workers():
    """The threads that grey pictures are made on, started with the first picture."""
    return ThreadPoolExecutor(WORKERS, thread_name_prefix="grey")


def _in_parts(pixels, work):
    """Call ``work(start, stop, place, products)`` over all pixels, block by block, on two threads.

    place, products: scratch of a thread, shape (n,) integers and (2, n) float32. It is made once, because fresh memory of
    this size costs as much time as the arithmetic on it.
    """
    share = -(-pixels // WORKERS)

    def run(first):
        place, products = np.empty(BLOCK, np.intp), np.empty(2 * BLOCK, np.float32)
        for start in range(first, min(first + share, pixels), BLOCK):
            stop = min(start + BLOCK, first + share, pixels)
            n = stop - start
            work(start, stop, place[:n], products[: 2 * n].reshape(2, n))

    list(_workers().map(run, range(0, pixels, share)))


def grey_picture(light, places, gains, table, sky=None):
    """8-bit grey of a picture through a chain, and the light index it was made with.

    light, places: as `chromaticity.light_and_places` gives them, shape (pixels,). gains: of a chain, as `chain.fine_gains`
    gives them. table: from `display_table`. sky: (share of each pixel that is sky, uint8, shape (pixels,); the chain's gains
    for skies), or None. Returns (grey, index), shape (pixels,) each, uint8 and uint16; `index` serves other tables of the
    same chain through `toned`. The blocks stay in the processor's cache.
    """
    out, index = np.empty(light.size, np.uint8), np.empty(light.size, np.uint16)

    def block(start, stop, place, products):
        grey, of_sky = products
        place[:] = places[start:stop]
        np.take(gains, place, out=grey, mode="clip")
        if sky is not None and (share := sky[0][start:stop]).any():
            np.take(sky[1], place, out=of_sky, mode="clip")
            of_sky -= grey
            of_sky *= share
            of_sky *= np.float32(1 / 255)
            grey += of_sky
        grey *= light[start:stop]
        upper = grey.view(np.uint16)[1::2]
        index[start:stop] = upper
        place[:] = upper
        np.take(table, place, out=out[start:stop], mode="clip")

    _in_parts(light.size, block)
    return out, index


def squinted(pixels):
    """The picture as half-closed eyes see it: 8-bit grey, blurred over a thirtieth of its width, an eighth of its size.

    What is blurred this much loses nothing on a small copy; whoever shows it enlarges it smoothly.
    """
    from scipy.ndimage import gaussian_filter

    height, width = pixels.shape
    block = max(min(8, height, width), 1)
    h, w = height // block, width // block
    small = pixels[: h * block, : w * block].reshape(h, block, w, block).mean(axis=(1, 3), dtype=np.float32)
    return gaussian_filter(small, w / 60, mode="nearest").round().astype(np.uint8)


def toned(index, table):
    """8-bit grey of a picture whose chain was applied before, by a table of `display_table`. Shape of `index`."""
    flat, out = index.ravel(), np.empty(index.size, np.uint8)

    def block(start, stop, place, _):
        place[:] = flat[start:stop]
        np.take(table, place, out=out[start:stop], mode="clip")

    _in_parts(flat.size, block)
    return out.reshape(index.shape)


def colour_picture(linear, exposure_stops=0.0):
    """8-bit sRGB colours for looking at: each pixel keeps its hue and takes the display lightness of its luminance.

    linear: shape (h, w, 3). exposure_stops: brings the picture's middle to zone V. Returns shape (h, w, 3), uint8.
    Clipped channels fade towards white, so that a bright light is not a coloured blot.
    """
    scaled = np.asarray(linear, np.float32) * np.float32(2.0**exposure_stops)
    y = np.maximum(luminance(scaled), 1e-8)
    target = luminance_of_lightness(lightness(np.log2(y / MIDDLE_GREY), FILE_CURVE))
    shown = scaled * (target / y)[..., None]
    over = np.maximum(shown.max(axis=-1) - 1, 0)
    room = np.maximum(shown.max(axis=-1) - target, 1e-6)
    fade = np.clip(over / room, 0, 1)[..., None]
    shown = np.clip(shown * (1 - fade) + target[..., None] * fade, 0, 1)
    return np.round(srgb_of_linear(shown) * 255).astype(np.uint8)
