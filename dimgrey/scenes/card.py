"""The field card: the plan sheet on one small page, as a web page to print and as PDF."""

import io
import textwrap
from functools import lru_cache

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.utils.text import slugify
from django.views.decorators.http import require_GET

from dimgrey.scenes import desk, queries
from dimgrey.scenes.models import Scene
from dimgrey.site.config import ROOT

SIZES = {"a6": (297.64, 419.53), "a5": (419.53, 595.28)}
FONTS = ROOT / "dimgrey" / "site" / "static" / "vendor"


def _card(request, pk):
    try:
        scene = queries.scene_of(request.user, pk)
    except Scene.DoesNotExist:
        raise Http404("There is no such scene among yours.") from None
    size = request.GET.get("size", "a6")
    if size not in SIZES:
        raise Http404("A card is printed on a5 or a6.")
    return desk.desk_of(scene, request.user.tone_labels), size


@require_GET
def page(request, pk):
    """The card as a page to look at and print."""
    shown, size = _card(request, pk)
    return render(request, "scenes/card.html", {"desk": shown, "size": size, "sizes": SIZES})


@require_GET
def pdf(request, pk):
    """The card as a one-page PDF."""
    shown, size = _card(request, pk)
    response = HttpResponse(card_pdf(shown, size), content_type="application/pdf")
    response["Content-Disposition"] = f'inline; filename="{slugify(shown.scene.title) or "card"}-{size}.pdf"'
    return response


@lru_cache(maxsize=1)
def _register_fonts():
    from reportlab.pdfbase import pdfmetrics
    from reportlab.pdfbase.ttfonts import TTFont

    for weight in (400, 600, 800):
        pdfmetrics.registerFont(TTFont(f"Text-{weight}", FONTS / f"text-{weight}.ttf"))


class _Sheet:
    """A page that is filled from the top down; what does not fit is left out and said."""

    def __init__(self, size):
        from reportlab.pdfgen.canvas import Canvas

        _register_fonts()
        self.width, self.height = SIZES[size]
        self.unit = self.width / 297.64
        self.margin = 18 * self.unit
        self.buffer = io.BytesIO()
        self.canvas = Canvas(self.buffer, pagesize=(self.width, self.height), invariant=True)
        self.y = self.height - self.margin
        self.left_out = 0

    def text(self, text, size=8.5, weight=400, x=0.0, right=False, advance=True):
        points = size * self.unit
        if advance:
            self.y -= points * 1.28
        self.canvas.setFont(f"Text-{weight}", points)
        place = self.margin + x * self.unit
        draw = self.canvas.drawRightString if right else self.canvas.drawString
        draw(place, self.y, _latin(text))

    def wrapped(self, text, size=8.5, weight=400, width_chars=62, x=0.0, lines=4):
        for line in textwrap.wrap(text, width_chars)[:lines]:
            self.text(line, size, weight, x)

    def rule(self, weight=0.5, gap=4):
        self.y -= gap * self.unit
        self.canvas.setLineWidth(weight * self.unit)
        self.canvas.line(self.margin, self.y, self.width - self.margin, self.y)

    def has_room(self, needed):
        return self.y - needed * self.unit > self.margin

    def finish(self):
        self.canvas.showPage()
        self.canvas.save()
        return self.buffer.getvalue()


def _latin(text):
    """The font holds Latin text with its fractions; anything else becomes a question mark rather than a box."""
    known = "⅓⅔½¼−–—“”‘’…•×±°²·"
    return "".join(c if ord(c) < 256 or c in known else "?" for c in str(text))


def card_pdf(shown, size):
    """PDF bytes of a desk's card, one page. shown: desk.Desk. size: "a5" or "a6"."""
    sheet = _Sheet(size)
    sheet.canvas.setTitle(shown.scene.title)
    sheet.text(shown.scene.title[:40], 13, 800)
    sheet.rule(1.2)
    if shown.document.get("intent"):
        sheet.wrapped(shown.document["intent"], 8.5, lines=3)
        sheet.rule()
    _exposure(sheet, shown)
    _rail(sheet, shown)
    _tones(sheet, shown)
    _cautions(sheet, shown)
    if sheet.left_out:
        sheet.text(f"{sheet.left_out} more on the desk.", 6.5)
    return sheet.finish()


def _exposure(sheet, shown):
    if not shown.plan:
        sheet.wrapped(shown.wait, 9, 600)
        return
    e = shown.exposure
    sheet.text(f"{e['shutter']}  {e['aperture']}", 24, 800)
    sheet.text(e["iso"], 10, 600, x=261.6, right=True, advance=False)
    line = f"EV {e['setting']} set"
    if e["dial"]:
        line += f"; in auto with the spot on {e['tone']} dial {e['dial']}"
    sheet.wrapped(line + ".", 7.5, lines=2)
    if e["corrected"]:
        sheet.text(f"Give {e['corrected']} (reciprocity).", 8.5, 600)
    sheet.wrapped(
        f"{shown.school.name}: {shown.placed_line}. Filter: {shown.filter_line}. {shown.range_line}", 7.5, lines=3
    )
    if shown.bracket:
        sheet.wrapped(
            "Bracket " + ", ".join(f"{f['shutter']} ({f['offset']})" for f in shown.bracket) + ".", 7.5, lines=1
        )
    if shown.document.get("crop"):
        sheet.wrapped(f"Crop {shown.crop_line}.", 7.5, lines=1)
    sheet.wrapped(
        "  ".join(f"{c['shutter']} {c['aperture']}" for c in shown.combinations[::3]), 7, lines=2, width_chars=72
    )
    sheet.rule()


def _rail(sheet, shown):
    sheet.y -= 20 * sheet.unit
    width = sheet.width - 2 * sheet.margin
    height = 13 * sheet.unit
    for band in shown.rail.bands:
        x = sheet.margin + float(band.x[:-1]) / 100 * width
        sheet.canvas.setFillColor(band.grey)
        sheet.canvas.setStrokeColor("#000000")
        sheet.canvas.rect(x, sheet.y, width / 11, height, fill=1, stroke=1)
        sheet.canvas.setFillColor(band.ink)
        sheet.canvas.setFont("Text-600", 6.5 * sheet.unit)
        sheet.canvas.drawCentredString(x + width / 22, sheet.y + 4 * sheet.unit, _latin(band.label))
    sheet.canvas.setFillColor("#000000")
    low, high = (sheet.margin + float(p[:-1]) / 100 * width for p in shown.rail.dependable)
    sheet.canvas.setLineWidth(1.4 * sheet.unit)
    sheet.canvas.line(low, sheet.y + height + 3 * sheet.unit, high, sheet.y + height + 3 * sheet.unit)
    for flag in shown.rail.flags:
        x = sheet.margin + float(flag.x[:-1]) / 100 * width
        sheet.canvas.setFont("Text-800" if flag.placed else "Text-400", 7 * sheet.unit)
        sheet.canvas.drawCentredString(x, sheet.y - (8 + 7.5 * flag.compact_row) * sheet.unit, flag.mark)
    sheet.y -= (7.5 * shown.rail.compact_rows + 3) * sheet.unit
    sheet.rule(gap=3)


def _tones(sheet, shown):
    for tone in shown.tones:
        if not sheet.has_room(14):
            sheet.left_out += 1
            continue
        weight = 800 if tone.placed else 400
        sheet.text(tone.mark, 8, 800)
        sheet.text(tone.name[:30], 8, weight, x=16, advance=False)
        sheet.text(tone.ev, 8, weight, x=152, right=True, advance=False)
        sheet.text(tone.zone, 8, weight, x=187, right=True, advance=False)
        sheet.text(tone.texture, 7, 400, x=192, advance=False)
    sheet.rule()


def _cautions(sheet, shown):
    for caution in shown.cautions:
        if not sheet.has_room(24):
            sheet.left_out += 1
            continue
        sheet.wrapped(f"• {caution.text}", 7, lines=2, width_chars=74)
