"""What leaves a scene for other programs: the grey picture, its tone map, the chain as a look-up table, its measures."""

import csv
import io

import numpy as np
from django.template.loader import render_to_string
from PIL import Image

from dimgrey.core.colour.encoding import srgb_of_lightness
from dimgrey.core.picture.cube import cube_text
from dimgrey.core.picture.display import curve_for, display_table
from dimgrey.core.picture.tonemap import ToneMap
from dimgrey.scenes import seeing, store


def _cropped_light(view):
    """Linear light of the crop at the size of the working copy, shape (h, w, 3), float32."""
    return view.crop.of(np.moveaxis(store.linear_of(view.folder), 0, -1)).astype(np.float32)


def _grey8(view):
    tone_map = view.tone_map
    table = display_table(
        tone_map.stops, tone_map.slope, curve_for(tone_map.kind), tone_map.development, tone=tone_map.tone
    )
    return Image.fromarray(np.ascontiguousarray(view.crop.of(store.grey(view.folder, tone_map.terms, table))))


def grey_jpeg(scene):
    buffer = io.BytesIO()
    _grey8(seeing.view_of(scene)).save(buffer, "JPEG", quality=95)
    return buffer.getvalue(), "image/jpeg"


def grey_png(scene):
    buffer = io.BytesIO()
    _grey8(seeing.view_of(scene)).save(buffer, "PNG", compress_level=4)
    return buffer.getvalue(), "image/png"


def grey_tiff(scene):
    """16 bits per pixel, sRGB-encoded grey, computed without the 8-bit table."""
    from tifffile import imwrite

    view = seeing.view_of(scene)
    grey = srgb_of_lightness(view.tone_map.lightness(_cropped_light(view)))
    buffer = io.BytesIO()
    imwrite(buffer, np.round(grey * 65535).astype(np.uint16), photometric="minisblack", compression="zlib")
    return buffer.getvalue(), "image/tiff"


def contours_svg(scene):
    from dimgrey.scenes.rendering import Rendering

    view = seeing.view_of(scene)
    shown = Rendering(
        "",
        *(getattr(view.tone_map, name) for name in ("terms", "stops", "slope", "kind", "development")),
        tone=view.tone_map.tone,
    )
    drawing = seeing.contour_drawing(view.folder, shown, view.core_scene.medium.shown_outer, alone=True)
    return render_to_string("scenes/draw/drawing.svg", {"d": drawing}).encode(), "image/svg+xml"


def look_cube(scene):
    """The chain and the medium's curve, with middle grey in the middle; exposure is left to the program that loads it."""
    view = seeing.view_of(scene)
    tone_map = ToneMap(view.tone_map.terms, 0.0, 1.0, view.tone_map.kind, view.tone_map.development, view.tone_map.tone)
    filters = ", ".join(glass.name for glass in view.core_scene.filters) or "no filter"
    comment = f"{view.core_scene.medium.kind}, {filters}, light {view.core_scene.light}\nsRGB in, sRGB grey out; made by Dimgrey"
    return cube_text(tone_map, scene.title, comment).encode(), "text/plain; charset=utf-8"


def measures_json(scene):
    return seeing.as_json(seeing.measures_of(scene)).encode(), "application/json"


def measures_csv(scene):
    buffer = io.StringIO()
    csv.writer(buffer).writerows(seeing.measures_rows(seeing.measures_of(scene)))
    return buffer.getvalue().encode("utf-8-sig"), "text/csv; charset=utf-8"


EXPORTS = {
    "grey.png": grey_png,
    "grey.jpg": grey_jpeg,
    "grey.tif": grey_tiff,
    "contours.svg": contours_svg,
    "look.cube": look_cube,
    "measures.json": measures_json,
    "measures.csv": measures_csv,
}
"""File name -> maker of its bytes and content type."""
