"""The field card as a PDF of one page."""

import io
import re

from dimgrey.paper import letters

LONG_TITLE = 34
"""Letters from which on a title is set smaller."""
SIZES = {"a6": (297.64, 419.53), "a5": (419.53, 595.28)}
RAMP_HIGH, HILL_HIGH = 10, 16
"""Of the tone ramp and what stands over it, in points of an A6 card."""
PAGES = {**SIZES, "a4": (595.28, 841.89)}
"""Sizes of cards, and of any sheet."""


class Sheet:
    """Pages that are filled from the top down; what does not fit on one is left out and said."""

    def __init__(self, size):
        from reportlab.pdfgen.canvas import Canvas

        self.width, self.height = PAGES[size]
        self.unit = self.width / 297.64
        self.margin = 18 * self.unit
        self.buffer = io.BytesIO()
        self.canvas = Canvas(self.buffer, pagesize=(self.width, self.height), invariant=True)
        self.begin()

    def begin(self):
        self.y = self.height - self.margin
        self.left_out = 0

    def text(self, text, size=8.5, weight=400, x=0.0, right=False, advance=True):
        points = size * self.unit
        if advance:
            self.y -= points * 1.28
        place = self.margin + x * self.unit
        self._draw(text, weight, points, place - (letters.width(text, weight, points) if right else 0), self.y)

    def centred(self, text, size, weight, x, y):
        points = size * self.unit
        self._draw(text, weight, points, x - letters.width(text, weight, points) / 2, y)

    def _draw(self, text, weight, points, x, y):
        from reportlab.pdfbase.pdfmetrics import stringWidth

        for name, piece in letters.runs(text, weight):
            self.canvas.setFont(name, points)
            self.canvas.drawString(x, y, piece)
            x += stringWidth(piece, name, points)

    def fitting(self, text, size, weight, most_width):
        """A text cut to a width in the units of an A6 card."""
        return (letters.lines(text, weight, size * self.unit, most_width * self.unit, 1) or [""])[0]

    def wrapped(self, text, size=8.5, weight=400, x=0.0, lines=4):
        room = self.width - 2 * self.margin - x * self.unit
        for line in letters.lines(text, weight, size * self.unit, room, lines):
            self.text(line, size, weight, x)

    def rule(self, weight=0.5, gap=4):
        self.y -= gap * self.unit
        self.canvas.setLineWidth(weight * self.unit)
        self.canvas.line(self.margin, self.y, self.width - self.margin, self.y)

    def has_room(self, needed):
        return self.y - needed * self.unit > self.margin

    def end_page(self):
        self.canvas.showPage()

    def finish(self):
        self.canvas.save()
        return self.buffer.getvalue()


def card_pdf(card, size):
    """PDF bytes of a Card, one page. size: "a5" or "a6"."""
    return cards_pdf([card], size, card.title)


def cards_pdf(cards, size, title):
    """PDF bytes of several Cards, a page each. title: of the whole."""
    sheet = Sheet(size)
    sheet.canvas.setTitle(title)
    for card in cards:
        sheet.begin()
        _page(sheet, card)
        sheet.end_page()
    return sheet.finish()


def _page(sheet, card):
    sheet.wrapped(card.title, 13 if len(card.title) <= LONG_TITLE else 10, 800, lines=3)
    sheet.rule(1.2)
    if card.intent:
        sheet.wrapped(card.intent, 8.5, lines=3)
    if card.line.wanted:
        sheet.wrapped(card.line.text, 6.5, lines=3)
    if card.intent or card.line.wanted:
        sheet.rule()
    _exposure(sheet, card)
    _rail(sheet, card.rail, card.desk.hill)
    _tones(sheet, card.tones)
    _cautions(sheet, card.cautions)
    if sheet.left_out:
        sheet.text(f"{sheet.left_out} more on the desk.", 6.5)


def _exposure(sheet, card):
    e = card.exposure
    if not e:
        sheet.wrapped(card.wait, 9, 600)
        return
    sheet.text(f"{e.shutter}  {e.aperture}", 24, 800)
    sheet.text(e.iso, 10, 600, x=261.6, right=True, advance=False)
    line = f"EV {e.setting} set"
    if e.dial:
        line += f"; in auto with the spot on {e.tone} dial {e.dial}"
    sheet.wrapped(line + ".", 7.5, lines=2)
    if e.corrected:
        sheet.text(f"Give {e.corrected} (reciprocity).", 8.5, 600)
    spans = f" Range {card.range}." if card.range else ""
    sheet.wrapped(f"{card.school.name}: {card.placed}. Filter: {card.filter}.{spans}", 7.5, lines=3)
    sheet.wrapped(f"{card.means}.", 7.5, lines=2)
    if card.bracket:
        frames = ", ".join(f"{frame.shutter} ({frame.offset})" for frame in card.bracket)
        sheet.wrapped(f"Bracket {frames}.", 7.5, lines=4)
    if card.crop:
        sheet.wrapped(f"Crop {card.crop}.", 7.5, lines=1)
    pairs = " · ".join(f"{pair.shutter} {pair.aperture}" for pair in card.pairs[::3])
    sheet.wrapped(pairs, 7, lines=2)
    sheet.rule()


def _rail(sheet, rail, hill):
    """The ramp as the desk has it: the picture's tones over it, limits, rings where tones print, their falls, letters below."""
    left, width, unit = sheet.margin, sheet.width - 2 * sheet.margin, sheet.unit
    place = lambda percent: left + float(percent[:-1]) / 100 * width
    sheet.y -= (RAMP_HIGH + HILL_HIGH) * unit
    _hill(sheet, rail, hill, place)
    _in_greys(sheet, rail, place, _box(sheet, left, sheet.y, width, RAMP_HIGH * unit))
    canvas = sheet.canvas
    canvas.setFillColor("#000000")
    canvas.setStrokeColor("#000000")
    low, high = map(place, rail.dependable)
    canvas.setLineWidth(1.4 * unit)
    canvas.line(low, sheet.y - 1.2 * unit, high, sheet.y - 1.2 * unit)
    for band in rail.bands:
        sheet.centred(band.label, 6.5, 600, place(band.centre), sheet.y - 9 * unit)
    for flag in rail.flags:
        _ring(sheet, place(flag.x), flag.placed)
        if flag.fall_x:
            _fall(sheet, place(flag.fall_x))
        down = (17 + 7.5 * flag.compact_row) * unit
        sheet.centred(flag.mark, 7, 800 if flag.placed else 400, place(flag.x), sheet.y - down)
    sheet.y -= (7.5 * rail.compact_rows + 13) * unit
    sheet.rule(gap=3)


def _box(sheet, x, y, width, height):
    path = sheet.canvas.beginPath()
    path.rect(x, y, width, height)
    return path


def _in_greys(sheet, rail, place, path):
    """Fill a path with the greys of a print, where they stand on the ramp."""
    places, greys = zip(*rail.base.ramp, strict=True)
    ends = place(places[0]), place(places[-1])
    share = [(place(each) - ends[0]) / (ends[1] - ends[0]) for each in places]
    sheet.canvas.saveState()
    sheet.canvas.clipPath(path, stroke=0)
    sheet.canvas.linearGradient(ends[0], 0, ends[1], 0, greys, share)
    sheet.canvas.restoreState()


def _hill(sheet, rail, hill, place):
    """The picture's own tones. hill: the desk's path, 1100 wide and 100 high, "" for none."""
    points = [tuple(map(float, pair.split())) for pair in re.findall(r"[-.0-9]+ [-.0-9]+", hill.replace(",", " "))]
    if not points:
        return
    path, foot = sheet.canvas.beginPath(), sheet.y + RAMP_HIGH * sheet.unit
    for k, (x, y) in enumerate(points):
        (path.lineTo if k else path.moveTo)(place(f"{x / 11}%"), foot + (100 - y) / 100 * HILL_HIGH * sheet.unit)
    path.close()
    _in_greys(sheet, rail, place, path)


def _ring(sheet, x, placed):
    canvas, y = sheet.canvas, sheet.y + RAMP_HIGH / 2 * sheet.unit
    for colour, line in (("#ffffff", 2.6), ("#000000", 1.0)):
        canvas.setStrokeColor(colour)
        canvas.setLineWidth(line * sheet.unit)
        canvas.setFillColor("#000000" if placed else "#ffffff")
        canvas.circle(x, y, 2.8 * sheet.unit, stroke=1, fill=colour == "#000000")
    canvas.setFillColor("#000000")


def _fall(sheet, x):
    """The mark of a fall: a point from above."""
    path, top, half = sheet.canvas.beginPath(), sheet.y + (RAMP_HIGH + 3.5) * sheet.unit, 2.6 * sheet.unit
    path.moveTo(x - half, top)
    path.lineTo(x + half, top)
    path.lineTo(x, top - 4.5 * sheet.unit)
    path.close()
    sheet.canvas.drawPath(path, stroke=0, fill=1)


def _tones(sheet, tones):
    for tone in tones:
        if not sheet.has_room(14):
            sheet.left_out += 1
            continue
        weight = 800 if tone.placed else 400
        sheet.text(tone.mark, 8, 800)
        sheet.text(sheet.fitting(tone.name, 8, weight, 100), 8, weight, x=16, advance=False)
        sheet.text(tone.ev, 8, weight, x=140, right=True, advance=False)
        sheet.text(tone.printed, 8, weight, x=172, right=True, advance=False)
        if tone.fall:
            sheet.text(f"falls {tone.fall}", 7, weight, x=219, right=True, advance=False)
        sheet.text("placed" if tone.placed else tone.texture, 7, 400, x=225, advance=False)
    sheet.rule()


def _cautions(sheet, cautions):
    for caution in cautions:
        if not sheet.has_room(24):
            sheet.left_out += 1
            continue
        sheet.wrapped(f"• {caution.text}", 7, lines=2)
