"""The work sheet: one page with the picture, its numbered areas and what to do with each; as SVG and as PDF. And the global part as .cube."""

import base64
import io
from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.encoding import (
    grey8_of_lightness,
    lightness_of_luminance,
    linear_of_srgb,
    luminance,
    srgb_of_lightness,
)
from dimgrey.core.finishing.applied import finished
from dimgrey.core.finishing.finishingplan import Finish, doubts
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.planning.zones import format_tone
from dimgrey.finishing import finishing
from dimgrey.paper.pdf import Sheet
from dimgrey.pictures.views import encoded

SIDE = 1200
WIDTH = 1000.0
CUBE_POINTS = 33
PAGE_HEIGHT, LINE = 1414.0, 24.0


@dataclass(frozen=True)
class Row:
    """One area on the sheet. amount: in words. path: of its outline in the drawing. x, y: where its number stands."""

    number: int
    name: str
    amount: str
    why: str
    path: str
    x: float
    y: float


@dataclass(frozen=True)
class WorkSheet:
    """What stands on the sheet. jpeg: of the finished picture, whole. height: of the picture at WIDTH. crop: left, top, width, height in the drawing."""

    title: str
    about: str
    jpeg: bytes
    height: float
    crop: tuple
    ends: str
    curve: tuple
    rows: tuple
    rest: tuple
    doubts: tuple

    @property
    def address(self):
        """The picture as an address that holds it."""
        return "data:image/jpeg;base64," + base64.b64encode(self.jpeg).decode()

    @property
    def lines(self):
        """(y, text, is heavy) of the text under the picture."""
        told = [(self.ends, False), *((line, False) for line in self.curve)]
        told += [
            (f"{row.number}  {row.name}: {row.amount}{'; ' + row.why if row.why else ''}", True) for row in self.rows
        ]
        told += [(line, False) for line in (*self.rest, *self.doubts)]
        return [(round(self.height + 110 + k * LINE, 1), text, heavy) for k, (text, heavy) in enumerate(told)]

    @property
    def page(self):
        """Height of the drawing."""
        return max(PAGE_HEIGHT, self.height + 140 + LINE * len(self.lines))


def outlines(finish, aspect):
    """Row of each area, drawn on a picture WIDTH wide. aspect: width through height."""
    height = WIDTH / aspect
    rows = []
    for number, area in enumerate(finish.areas, 1):
        corners = [(x * WIDTH, y * height) for x, y in area.outline]
        path = "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in corners) + "Z"
        x, y = np.mean(corners, axis=0)
        rows.append(Row(number, area.name, _amount(area.stops), area.why, path, round(float(x), 1), round(float(y), 1)))
    return rows


def _amount(stops):
    if abs(stops) < 0.01:
        return "as it is"
    size = format_stops(abs(stops)) if abs(stops) >= 0.3 else f"{abs(stops):.2f}"
    return f"{'dodge' if stops > 0 else 'burn'} {size} stop"


def sheet_of(result, finish):
    """WorkSheet of a result and its plan. Raises PictureGone."""
    shown = finishing.preview(result, finish, SIDE)
    height = WIDTH * shown.shape[0] / shown.shape[1]
    left, top, right, bottom = finish.crop
    frame = result.frame
    rest = [f"Tone: {finish.tone}. Grain: {finish.grain * 100:.0f} %."]
    if finish.edge_stops:
        rest.insert(0, f"Edges: {_amount(finish.edge_stops)}, {finish.edge_width * 100:.0f} % of the width.")
    if finish.crop != (0.0, 0.0, 1.0, 1.0):
        rest.insert(
            0, f"Crop: {left * 100:.1f} to {right * 100:.1f} % across, {top * 100:.1f} to {bottom * 100:.1f} % down."
        )
    return WorkSheet(
        title=finish.title or frame.title,
        about=f"Frame {frame.number}, {frame.shutter} {frame.aperture} ISO {frame.iso}; {result.picture.original_name[:60]}",
        jpeg=encoded(np.ascontiguousarray(grey8_of_lightness(shown)), 88),
        height=round(height, 1),
        crop=tuple(round(v, 1) for v in (left * WIDTH, top * height, (right - left) * WIDTH, (bottom - top) * height)),
        ends=f"Black point L* {finish.black:.0f}, white point L* {finish.white:.0f}.",
        curve=_curve_words(result, finish),
        rows=tuple(outlines(finish, shown.shape[1] / shown.shape[0])),
        rest=tuple(rest),
        doubts=tuple(doubt.text for doubt in doubts(finish)),
    )


def _curve_words(result, finish):
    names = {round(tone.actual, 2): tone.name for tone in finishing.tones_of(result)}
    told = [f"{names.get(round(x, 2), 'tone')} {format_tone(x)} to {format_tone(y)}" for x, y in finish.curve]
    return (f"Curve: {', '.join(told)}.",) if told else ()


def pdf(sheet):
    """PDF bytes of a WorkSheet, one page of A4."""
    from reportlab.lib.utils import ImageReader

    made = Sheet("a4")
    made.canvas.setTitle(sheet.title)
    made.wrapped(sheet.title, 10, 800, lines=2)
    made.wrapped(sheet.about, 5.5, lines=1)
    made.rule(0.8)
    room = made.width - 2 * made.margin
    scale = min(room / WIDTH, made.height * 0.56 / sheet.height)
    made.y -= sheet.height * scale + 6 * made.unit
    left = made.margin
    made.canvas.drawImage(ImageReader(io.BytesIO(sheet.jpeg)), left, made.y, WIDTH * scale, sheet.height * scale)
    at = lambda x, y: (left + x * scale, made.y + (sheet.height - y) * scale)
    _outlined(made, sheet, at, scale)
    made.rule()
    for _, text, heavy in sheet.lines:
        if made.has_room(8):
            made.wrapped(text, 5.8, 600 if heavy else 400, lines=3)
    made.end_page()
    return made.finish()


def _outlined(made, sheet, at, scale):
    """Outlines with their numbers and the crop, black cased in white, over the picture."""
    for row in sheet.rows:
        corners = [tuple(map(float, pair.split())) for pair in row.path.strip("MZ").split("L")]
        for width, ink in ((2.4, "#ffffff"), (0.9, "#000000")):
            path = made.canvas.beginPath()
            path.moveTo(*at(*corners[0]))
            for corner in corners[1:]:
                path.lineTo(*at(*corner))
            path.close()
            made.canvas.setStrokeColor(ink)
            made.canvas.setLineWidth(width)
            made.canvas.drawPath(path)
        x, y = at(row.x, row.y)
        made.canvas.setFillColor("#ffffff")
        made.canvas.circle(x, y + 2, 8, stroke=0, fill=1)
        made.canvas.setFillColor("#000000")
        made.centred(str(row.number), 5.2, 800, x, y - 1.2)
    made.canvas.setStrokeColor("#000000")
    if sheet.crop != (0.0, 0.0, WIDTH, sheet.height):
        x, y, width, height = sheet.crop
        low = at(x, y + height)
        made.canvas.setDash(4, 3)
        made.canvas.rect(*low, width * scale, height * scale, fill=0)
        made.canvas.setDash()


def cube(finish, title):
    """The end points and the curve of a plan as a 3D table in the open .cube format; areas, edge, crop and grain are not in it."""
    axis = np.linspace(0, 1, CUBE_POINTS)
    blue, green, red = np.meshgrid(axis, axis, axis, indexing="ij")
    shown = lightness_of_luminance(luminance(linear_of_srgb(np.stack([red, green, blue], axis=-1))))
    plain = Finish(finish.black, finish.white, finish.curve)
    grey = srgb_of_lightness(finished(shown.reshape(CUBE_POINTS, -1), plain)).ravel()
    clean = title.replace('"', "'").replace("\n", " ")
    head = [
        f'TITLE "{clean}"',
        "# The global part of a finishing plan: black and white point and one curve, on sRGB greys; colours by their luminance.",
        "# Areas, edge burn, crop, grain and tone are not in it: see the work sheet.",
        f"LUT_3D_SIZE {CUBE_POINTS}",
        "DOMAIN_MIN 0.0 0.0 0.0",
        "DOMAIN_MAX 1.0 1.0 1.0",
    ]
    return "\n".join([*head, *(f"{v:.6f} {v:.6f} {v:.6f}" for v in grey)]) + "\n"
