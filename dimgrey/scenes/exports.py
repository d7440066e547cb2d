"""What leaves a scene for other programs: the grey picture, its tone map, the chain as a look-up table, its measures."""

import csv
import io
import json
from typing import NamedTuple

import numpy as np
from django.template.loader import render_to_string
from PIL import Image
from PIL.PngImagePlugin import PngInfo

from dimgrey.core.colour.encoding import srgb_of_lightness
from dimgrey.core.colour.profile import grey_srgb_profile
from dimgrey.core.picture import measures
from dimgrey.core.picture.cube import cube_text
from dimgrey.core.picture.display import display_table
from dimgrey.core.picture.tonemap import Seen, ToneMap
from dimgrey.core.planning import separation
from dimgrey.core.planning.planfile import chain_as_json
from dimgrey.core.planning.prints import curve_for
from dimgrey.pictures import store
from dimgrey.scenes import greyview
from dimgrey.scenes.drawings import contour_drawing
from dimgrey.web.csvcells import disarmed

DPI = (300, 300)
ROWS = 128


def _cropped_light(situation):
    """Seen of the crop at the size of the working copy, float32."""
    whole = store.seen_whole(situation.picture.path, situation.rendering.overhead)
    return Seen(*(None if each is None else situation.crop.of(each) for each in whole))


def _grey8(situation):
    tone_map, overhead = situation.rendering.tone_map, situation.rendering.overhead
    table = display_table(
        tone_map.stops, tone_map.slope, curve_for(tone_map.kind), tone_map.development, tone=tone_map.tone
    )
    grey = store.grey(situation.picture.path, tone_map.chain, table, overhead)
    return Image.fromarray(np.ascontiguousarray(situation.crop.of(grey)))


def grey_jpeg(situation):
    buffer = io.BytesIO()
    _grey8(situation).save(buffer, "JPEG", quality=95, dpi=DPI, icc_profile=grey_srgb_profile())
    return buffer.getvalue(), "image/jpeg"


def grey_png(situation):
    buffer, told = io.BytesIO(), PngInfo()
    told.add(b"sRGB", b"\0")  # IEC 61966-2-1, perceptual
    _grey8(situation).save(buffer, "PNG", compress_level=4, dpi=DPI, pnginfo=told)
    return buffer.getvalue(), "image/png"


def grey_tiff(situation):
    """16 bits per pixel, sRGB-encoded grey, computed without the 8-bit table."""
    from tifffile import imwrite

    grey = srgb_of_lightness(situation.rendering.tone_map.lightness(*_cropped_light(situation)))
    buffer = io.BytesIO()
    imwrite(buffer, np.round(grey * 65535).astype(np.uint16), photometric="minisblack", compression="zlib", **tagged())
    return buffer.getvalue(), "image/tiff"


def tagged():
    """What a TIFF says of itself: its resolution and its encoding."""
    return {"resolution": DPI, "resolutionunit": "INCH", "iccprofile": grey_srgb_profile()}


def full_grey_tiff(situation):
    """As `grey_tiff`, from the original at its full size; a few rows at a time."""
    from tifffile import imwrite

    overhead, tone_map = situation.rendering.overhead, situation.rendering.tone_map
    with store.original_light(situation.picture.path) as light:
        height, width = light.shape[:2]
        share = store.sky(situation.picture.path, overhead)
        if share is not None:
            share = np.asarray(Image.fromarray(share).resize((width, height), Image.Resampling.BILINEAR)) / np.float32(
                255
            )
        left = overhead.left(share, height, width) if overhead.darkens else None
        grey = np.empty((height, width), np.uint16)
        for top in range(0, height, ROWS):
            rows = slice(top, top + ROWS)
            seen = light[rows].astype(np.float32)
            if left is not None:
                seen *= np.broadcast_to(left, (height, width))[rows][..., None]
            shown = srgb_of_lightness(tone_map.lightness(seen, None if share is None else share[rows]))
            grey[rows] = np.round(shown * 65535)
        buffer = io.BytesIO()
        cropped = np.ascontiguousarray(situation.crop.of(grey))
        imwrite(
            buffer, cropped, photometric="minisblack", compression="zlib", predictor=True, rowsperstrip=64, **tagged()
        )
    return buffer.getvalue(), "image/tiff"


def contours_svg(situation):
    outer = situation.brief.medium.prints_of(situation.brief.medium.outer)
    drawing = contour_drawing(situation.picture.path, situation.rendering, outer, alone=True)
    return render_to_string("scenes/draw/drawing.svg", {"d": drawing}).encode(), "image/svg+xml"


def look_cube(situation):
    """The chain and the medium's curve, with middle grey in the middle; exposure is left to the program that loads it."""
    shown, brief = situation.rendering.tone_map, situation.brief
    tone_map = ToneMap(shown.chain, 0.0, 1.0, shown.kind, shown.development, shown.tone)
    return cube_text(tone_map, situation.title, _cube_comment(shown, brief)).encode(), "text/plain; charset=utf-8"


def _cube_comment(shown, brief):
    """What is in the table and what is not, in lines."""
    coloured = ", ".join(glass.name for glass in brief.filters if glass.is_coloured) or "none"
    grey = ", ".join(glass.name for glass in brief.filters if not glass.is_coloured)
    through = shown.chain.through
    seen = f"{through[0]}, in light {through[1]}" if through else f"mix of the camera's channels {_mix(shown.chain)}"
    lines = [
        "sRGB in, sRGB grey out; made by Dimgrey",
        f"In it: {brief.medium.kind}, seen as {seen}; coloured filter: {coloured}; curve of {shown.kind}",
    ]
    if shown.development:
        lines.append(f"In it: development N{shown.development:+d}")
    if any(shown.tone):
        lines.append("In it: contrast {:+g}, highlights {:+g}, shadows {:+g} of the setup".format(*shown.tone))
    lines.append("Not in it: the exposure; linear 0.18 stays middle grey. Give the exposure before it")
    if grey:
        lines.append(f"Not in it: {grey}; they act on places of the picture, or on its exposure")
    return "\n".join(lines)


def _mix(chain):
    bent = ", bent over hue" if chain.bends else ""
    return " ".join(f"{weight:.3f}" for weight in chain.weights) + bent


class Parted(NamedTuple):
    """How a filter or mix parts a pair."""

    way: str
    stops: float
    a: str
    b: str
    zones_apart: float
    l_apart: float
    word: str
    error_stops: float


def measures_of(situation):
    """(measures of a scene with a picture as plain values, rows of them for CSV). Raises PictureGone."""
    seen, crop, tone_map = greyview.seeing_of(situation), situation.crop, situation.rendering.tone_map
    choices = separation.colour_choices(situation.plan, seen.pairs) if seen.pairs else ()
    shares = measures.balance(tone_map.zones(*greyview.measured_light(situation))).shares
    balance = dict(zip(measures.BANDS, (round(share, 4) for share in shares), strict=True))
    drawn = [(round(p.x, 3), round(p.y, 3), round(p.strength, 3)) for p in seen.pulls]
    bright = [(e.name, round(e.lighter, 1)) for e in seen.edges]
    separated = [
        Parted(
            choice.name, round(choice.stops, 3), parted.pair.a, parted.pair.b, round(parted.zones_apart, 3),
            round(parted.lightness_apart, 1), parted.word, round(parted.error_stops, 3),
        )
        for choice in choices
        for parted in choice.parted
    ]  # fmt: skip
    plain = {
        "format": "dimgrey-measures",
        "version": 1,
        "title": situation.title,
        "crop": [crop.left, crop.top, crop.right, crop.bottom],
        "chain": chain_as_json(tone_map.chain),
        "balance": balance,
        "wanted_scale": seen.scale or None,
        "scale_holds": seen.verdict.holds if seen.verdict else None,
        "pulls": [{"x": x, "y": y, "strength": strength} for x, y, strength in drawn],
        "bright_edges": [{"edge": name, "lighter_l": lighter} for name, lighter in bright],
        "twins": len(seen.twins),
        "separation": [each._asdict() for each in separated],
    }
    rows = [("measure", "name", "value"), ("title", "", situation.title)]
    rows += [("balance", band, share) for band, share in balance.items()]
    rows += [("pull", str(k), f"{x} {y} {strength}") for k, (x, y, strength) in enumerate(drawn, 1)]
    rows += [("bright edge", name, lighter) for name, lighter in bright]
    rows += [("twins", "", len(seen.twins))]
    rows += [("separation in zones", f"{s.way}: {s.a} / {s.b}", s.zones_apart) for s in separated]
    return plain, rows


def measures_json(situation):
    text = json.dumps(measures_of(situation)[0], indent=1, ensure_ascii=False) + "\n"
    return text.encode(), "application/json"


def measures_csv(situation):
    buffer = io.StringIO()
    rows = measures_of(situation)[1]
    csv.writer(buffer).writerows([disarmed(cell) for cell in row] for row in rows)
    return buffer.getvalue().encode("utf-8-sig"), "text/csv; charset=utf-8"


EXPORTS = {
    "grey.png": ("grey PNG", grey_png),
    "grey.jpg": ("grey JPEG", grey_jpeg),
    "grey.tif": ("grey TIFF, 16 bit", grey_tiff),
    "grey-full.tif": ("grey TIFF, 16 bit, full size", full_grey_tiff),
    "contours.svg": ("contours SVG", contours_svg),
    "look.cube": ("chain as .cube", look_cube),
    "measures.json": ("measures JSON", measures_json),
    "measures.csv": ("measures CSV", measures_csv),
}
"""File name -> (its words, maker of its bytes and content type). A new export is a row here."""
