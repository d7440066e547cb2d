"""From the kit to a scene: what of a document follows from chosen items. A scene copies what it takes."""

import math
from dataclasses import replace

from dimgrey.core.colour.filters import COLOURED, GREY
from dimgrey.core.document.kit import OWN
from dimgrey.core.document.means import MIXES, DevelopmentRow, GlassPart, MediumPart, ReciprocityPart
from dimgrey.core.measure.exposure import C_FLAT, K_REFLECTED

DIAGONAL_35MM = 43.267
WIDEST_SPOT_DEG = 30.0
USUAL_FOCAL_MM = 50.0
MOST_OFFSET_STOPS = 3.0


def with_kit(document, camera=None, lens=None, film=None, meter=None, mixes=None):
    """A document with what follows from the chosen items; None leaves a part as it was.

    Each item: as kit.item_of gives it. mixes: measured channel mixes of the camera by name, or None.
    """
    body, glass, meters, medium = document.camera, document.lens, document.meter, document.medium
    increment = document.increment
    if camera:
        increment = camera.increment
        body = replace(
            body,
            name=camera.name,
            shutters=(camera.shutter_min, camera.shutter_max),
            frame_mm=(camera.frame_width_mm, camera.frame_height_mm),
            iso_max=camera.iso_max,
            hand_factor=camera.hand_factor,
            stabiliser_stops=max(camera.stabiliser_stops, lens.stabiliser_stops if lens else 0.0),
        )
        if camera.senses != "film":
            medium = _sensor(camera, medium, mixes or {})
            if not meter:
                meters = replace(meters, spot_deg=round(_spot_deg(camera, lens), 2))
    if lens:
        body = replace(body, apertures=(lens.f_min, lens.f_max))
        focal_35mm = round(lens.focal_min_mm * DIAGONAL_35MM / math.hypot(*body.frame_mm), 1)
        glass = replace(glass, focal_mm=lens.focal_min_mm, focal_35mm=focal_35mm)
    if film and (not camera or camera.senses == "film"):
        medium = _film(film)
    if meter:
        offset = calibration_of(meter)
        meters = replace(
            meters, name=meter.name, kind=meter.measures, spot_deg=meter.spot_deg, calibration_stops=offset
        )
    items = (("camera", camera), ("lens", lens), ("film", film), ("meter", meter))
    names = replace(document.kit, **{kind: item.name for kind, item in items if item})
    return replace(document, increment=increment, camera=body, lens=glass, meter=meters, medium=medium, kit=names)


def calibration_of(meter):
    """Offset of a meter's readings in stops: its own, and what its constant differs from the reference one."""
    reference = C_FLAT if meter.measures == "incident" else K_REFLECTED
    constant = math.log2(meter.constant / reference)
    offset = meter.calibration_stops + (constant if abs(constant) < 1 else 0.0)
    return round(max(min(offset, MOST_OFFSET_STOPS), -MOST_OFFSET_STOPS), 4)


def _spot_deg(camera, lens):
    """Angle of a camera's spot: a disc of that part of the frame, seen through the lens (50 mm without one)."""
    area = camera.frame_width_mm * camera.frame_height_mm * camera.spot_percent / 100
    focal = lens.focal_min_mm if lens else USUAL_FOCAL_MM
    return min(2 * math.degrees(math.atan(math.sqrt(area / math.pi) / focal)), WIDEST_SPOT_DEG)


def _sensor(camera, before, mixes):
    iso = before.iso if str(before.iso).isdecimal() else 100
    protection = camera.protection_stops
    colour = camera.senses == "colour sensor"
    return MediumPart(
        kind="digital raw" if before.is_film else before.kind,
        iso=iso,
        response=None if colour else "monochrome sensor",
        headroom=camera.headroom + protection if camera.headroom else None,
        footroom=camera.footroom or None,
        limits_per_iso=tuple((iso, head + protection, foot) for iso, head, foot in camera.limits_per_iso),
        channel_mix=_mix(before, mixes) if colour else None,
        own_mix=before.own_mix if colour and before.kind == "digital raw" else (),
    )


def _mix(before, mixes):
    """The mix that was chosen, as the camera was measured to make it; a camera takes no filter away. None for its own plain default."""
    chosen = before.channel_mix if isinstance(before.channel_mix, str) else MIXES[0]
    if mixes.get(chosen):
        return tuple(mixes[chosen])
    return chosen if chosen != MIXES[0] else None


def _film(film):
    reciprocity = None
    if film.table:
        reciprocity = ReciprocityPart(table=tuple(tuple(row) for row in film.table))
    elif film.exponent:
        reciprocity = ReciprocityPart(exponent=film.exponent)
    return MediumPart(
        kind="film" if film.process == "negative" else "slide",
        name=film.name,
        iso=int(film.iso),
        response=film.response,
        dependable=(film.dependable_low, film.dependable_high),
        outer=(film.outer_low, film.outer_high),
        reciprocity=reciprocity,
        development=tuple(DevelopmentRow(**row) for row in film.development),
    )


def glass_of(item):
    """A filter item as the scene keeps it: GlassPart."""
    if item.glass == OWN:
        return GlassPart(item.name, item.factor, points=tuple(tuple(point) for point in item.points))
    if item.glass in COLOURED:
        return GlassPart(item.glass, item.factor)
    if item.stops is not None or item.factor is not None:
        return GlassPart(item.glass, None if item.stops is not None else item.factor, item.stops)
    return GlassPart(item.glass, stops=round(GREY[item.glass].usual_stops, 4))
