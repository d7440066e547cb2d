"""The field card as a PDF of one page."""

import io

from dimgrey.paper import letters

LONG_TITLE = 34
"""Letters from which on a title is set smaller."""
SIZES = {"a6": (297.64, 419.53), "a5": (419.53, 595.28)}
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
    _rail(sheet, card.rail)
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
    sheet.wrapped(f"{card.school.name}: {card.placed}. Filter: {card.filter}. {card.range}", 7.5, lines=3)
    sheet.wrapped(f"{card.means}.", 7.5, lines=2)
    if card.bracket:
        frames = ", ".join(f"{frame.shutter} ({frame.offset})" for frame in card.bracket)
        sheet.wrapped(f"Bracket {frames}.", 7.5, lines=4)
    if card.crop:
        sheet.wrapped(f"Crop {card.crop}.", 7.5, lines=1)
    pairs = " · ".join(f"{pair.shutter} {pair.aperture}" for pair in card.pairs[::3])
    sheet.wrapped(pairs, 7, lines=2)
    sheet.rule()


def _rail(sheet, rail):
    sheet.y -= 20 * sheet.unit
    width = sheet.width - 2 * sheet.margin
    height = 13 * sheet.unit
    for band in rail.bands:
        x = sheet.margin + float(band.x[:-1]) / 100 * width
        sheet.canvas.setFillColor(band.grey)
        sheet.canvas.setStrokeColor("#000000")
        sheet.canvas.rect(x, sheet.y, width / 11, height, fill=1, stroke=1)
        sheet.canvas.setFillColor(band.ink)
        sheet.centred(band.label, 6.5, 600, x + width / 22, sheet.y + 4 * sheet.unit)
    sheet.canvas.setFillColor("#000000")
    low, high = (sheet.margin + float(p[:-1]) / 100 * width for p in rail.dependable)
    sheet.canvas.setLineWidth(1.4 * sheet.unit)
    sheet.canvas.line(low, sheet.y + height + 3 * sheet.unit, high, sheet.y + height + 3 * sheet.unit)
    for flag in rail.flags:
        x = sheet.margin + float(flag.x[:-1]) / 100 * width
        sheet.centred(flag.mark, 7, 800 if flag.placed else 400, x, sheet.y - (8 + 7.5 * flag.compact_row) * sheet.unit)
    sheet.y -= (7.5 * rail.compact_rows + 3) * sheet.unit
    sheet.rule(gap=3)


def _tones(sheet, tones):
    for tone in tones:
        if not sheet.has_room(14):
            sheet.left_out += 1
            continue
        weight = 800 if tone.placed else 400
        sheet.text(tone.mark, 8, 800)
        sheet.text(sheet.fitting(tone.name, 8, weight, 112), 8, weight, x=16, advance=False)
        sheet.text(tone.ev, 8, weight, x=152, right=True, advance=False)
        sheet.text(tone.printed, 8, weight, x=187, right=True, advance=False)
        sheet.text(tone.texture, 7, 400, x=192, advance=False)
    sheet.rule()


def _cautions(sheet, cautions):
    for caution in cautions:
        if not sheet.has_room(24):
            sheet.left_out += 1
            continue
        sheet.wrapped(f"• {caution.text}", 7, lines=2)
