"""The light plan on one A4 page: drawn from above and from the side, lamps with distances, powers and readings, places with their zones."""

from dimgrey.core.cautions.registry import raised
from dimgrey.core.document import lightplan
from dimgrey.lamps.drawing import drawing_of
from dimgrey.lamps.page import lamp_label, lamp_rows, length, place_rows, setting_words, wish_rows
from dimgrey.paper.pdf import Sheet

MOST_PLACES = 10


def light_card(lit):
    """PDF bytes of a LitScene."""
    sheet = Sheet("a4")
    sheet.canvas.setTitle(f"{lit.situation.title}: light plan")
    sheet.text(f"{lit.situation.title}: light plan", 11, 800)
    sheet.rule(1.2)
    unit = lit.lighting.unit
    surfaces = ", ".join(f"{part} {surface.name}" for part, surface in lit.surfaces.items())
    sheet.wrapped(f"{lit.lighting.subject}: {surfaces}; ground {length(lit.lighting.ground_m, unit)} behind.", 5.5)
    ev, f_number = lit.together
    sheet.wrapped(
        f"{setting_words(lit)}; the light together: EV {ev:.1f}" + (f", f/{f_number:.1f}" if f_number else "") + ".",
        5.5,
    )
    _drawn(sheet, lit)
    sheet.rule()
    for row in lamp_rows(lit, lambda number, lamp: None):
        sheet.text(f"{row.number} {row.lamp.name}: {row.gives}", 6, 600)
        sheet.wrapped(f"{row.line}; {row.edge}.", 5.2, x=6)
    sheet.rule()
    side, apart = lit.sides
    if side:
        told = f"{apart:.1f} stops between its two sides" if apart <= 10 else "the other side gets next to no light"
        sheet.text(f"Lit from the {side}; {told}.", 5.5)
    for row in place_rows(lit, lit.situation.labels)[:MOST_PLACES]:
        sheet.text(f"{row.name}: {row.zone}  ({row.surface}, {row.reads})", 5.2, x=6)
    for row in wish_rows(lit, lit.situation.labels):
        sheet.text(f"Wished: {row.words}; is {row.got}", 5.2, 600, x=6)
    sheet.rule()
    for each in raised("lamps", lightplan.lamp_case(lit.document, lit.situation.plan)):
        sheet.wrapped(each.text, 4.8)
    sheet.end_page()
    return sheet.finish()


def _drawn(sheet, lit):
    """Both drawings, side by side."""
    drawing = drawing_of(lit, lamp_label(lit))
    canvas, room = sheet.canvas, (sheet.width - 2 * sheet.margin) / 2 - 10
    scale = room / (2 * drawing.half)
    top = sheet.y - 8
    centre = top - room / 2
    for middle, is_side in ((sheet.margin + room / 2, False), (sheet.margin + room * 1.5 + 20, True)):
        floor = centre if not is_side else top - room * 0.85
        canvas.setLineWidth(0.6)
        canvas.rect(middle - room / 2, top - room, room, room)
        if is_side:
            canvas.line(middle - room / 2, floor, middle + room / 2, floor)
            x = middle - drawing.ground * scale
            canvas.line(x, floor, x, floor + 230 * scale)
            canvas.circle(middle, floor - drawing.middle_up * scale, 11 * scale)
            canvas.rect(middle - drawing.camera * scale - 3, floor - drawing.middle_up * scale - 2, 6, 4)
        else:
            canvas.circle(middle, floor, 11 * scale)
            canvas.line(
                middle - room / 2, floor - drawing.ground * scale, middle + room / 2, floor - drawing.ground * scale
            )
            canvas.rect(middle - 3, floor - drawing.camera * scale - 2, 6, 4)
        for each in drawing.lamps:
            if not each.lamp.is_on:
                continue
            x, y = (each.side_x, each.side_y) if is_side else (each.x, each.y)
            canvas.setLineWidth(0.4)
            to = -drawing.middle_up * scale if is_side else 0
            canvas.line(middle + x * scale, floor - y * scale, middle, floor + to)
            canvas.setLineWidth(1.2)
            canvas.setFillGray(1)
            canvas.circle(middle + x * scale, floor - y * scale, 6, fill=1)
            canvas.setFillGray(0)
            sheet.centred(str(each.number), 5, 800, middle + x * scale, floor - y * scale - 4)
    sheet.y = top - room - 4
