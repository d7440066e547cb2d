"""Add the thirds that photographers read to the text font, and save it for the web and for PDF.

The Latin subset of Atkinson Hyperlegible Next (OFL 1.1) has one half but no one third or two thirds. They are drawn
here from its own parts: the bar and figures of one half, and a small three from the next heavier weight, so that the
stroke matches after scaling.

Use: vendor_fonts.py FOLDER_OF_WOFF2 OUTPUT_FOLDER
"""

import sys
from pathlib import Path

from fontTools.pens.recordingPen import DecomposingRecordingPen
from fontTools.pens.transformPen import TransformPen
from fontTools.pens.ttGlyphPen import TTGlyphPen
from fontTools.ttLib import TTFont

HEAVIER = {400: 600, 600: 800, 800: 800}


def contours(font, name):
    """The closed contours of a glyph, each with its bounding box (x0, y0, x1, y1)."""
    pen = DecomposingRecordingPen(font.getGlyphSet())
    font.getGlyphSet()[name].draw(pen)
    found, current = [], []
    for operator, points in pen.value:
        current.append((operator, points))
        if operator in ("closePath", "endPath"):
            flat = [p for _, ps in current for p in ps if p is not None]
            xs, ys = [p[0] for p in flat], [p[1] for p in flat]
            found.append((current, (min(xs), min(ys), max(xs), max(ys))))
            current = []
    return found


def replay(contour, pen):
    for operator, points in contour:
        getattr(pen, operator)(*points)


def fitted(box, target):
    """Affine map that takes `box` onto `target`, for a TransformPen."""
    sx = (target[2] - target[0]) / (box[2] - box[0])
    sy = (target[3] - target[1]) / (box[3] - box[1])
    return (sx, 0, 0, sy, target[0] - box[0] * sx, target[1] - box[1] * sy)


def moved(box, target):
    return (1, 0, 0, 1, target[0] - box[0], target[1] - box[1])


def add_glyph(font, name, code, pen, like):
    font.setGlyphOrder([*font.getGlyphOrder(), name])
    font["glyf"][name] = pen.glyph()
    font["hmtx"][name] = font["hmtx"][like]
    for table in font["cmap"].tables:
        if table.isUnicode():
            table.cmap[code] = name


def with_thirds(font, heavier):
    one, two, bar = None, None, None
    parts = contours(font, "onehalf")
    tall = max(box[3] - box[1] for _, box in parts)
    for contour, box in parts:
        if box[3] - box[1] > 0.9 * tall and bar is None and box[1] <= 5 and box[3] > 600:
            bar = (contour, box)
        elif box[1] > 150:
            one = (contour, box)
        else:
            two = (contour, box)
    if not (one and two and bar):
        raise SystemExit(f"unexpected shape of one half: {[box for _, box in parts]}")
    ((three, three_box),) = contours(heavier, "three")
    width = two[1][2] - two[1][0]
    denominator = (two[1][0], two[1][1] - 8, two[1][0] + width, two[1][3])
    for name, code, numerator in (("onethird", 0x2153, one), ("twothirds", 0x2154, two)):
        pen = TTGlyphPen(None)
        shift = (0, 0)
        if numerator is two:
            shift = (one[1][2] - two[1][2], one[1][3] - two[1][3])
            shift = (max(shift[0], 20 - two[1][0]), shift[1])
        replay(numerator[0], TransformPen(pen, (1, 0, 0, 1, *shift)))
        replay(bar[0], pen)
        replay(three, TransformPen(pen, fitted(three_box, denominator)))
        add_glyph(font, name, code, pen, "onehalf")
    return font


def main(folder, output):
    for weight, heavier in HEAVIER.items():
        path = lambda w: Path(folder) / f"atkinson-hyperlegible-next-latin-{w}-normal.woff2"
        font = with_thirds(TTFont(path(weight)), TTFont(path(heavier)))
        for record in font["name"].names:
            if record.nameID in (1, 4, 16):
                record.string = f"Dimgrey Text {weight}"
            if record.nameID == 6:
                record.string = f"DimgreyText-{weight}"
        font.flavor = "woff2"
        font.save(Path(output) / f"text-{weight}.woff2")
        font.flavor = None
        font.save(Path(output) / f"text-{weight}.ttf")


if __name__ == "__main__":
    main(*sys.argv[1:])
