"""What an item of the kit is, in a few short facts for its card."""

from dimgrey.core.document.kitnotation import steps_of
from dimgrey.core.measure.stops import INCREMENT_WORDS, counted_stops, format_stops
from dimgrey.core.planning.development import format_development
from dimgrey.core.planning.zones import format_zone


def facts_of(item):
    """Short sentences about an item, without its name; () where nothing is known."""
    return tuple(filter(None, _FACTS[item.kind](item)))


def _camera(item):
    yield f"{item.senses}, {item.frame_width_mm:g} × {item.frame_height_mm:g} mm"
    yield f"{item.shutter_min} to {item.shutter_max} in {INCREMENT_WORDS[item.increment]}"
    if item.senses != "film":
        yield f"up to ISO {item.iso_max:g}, spot {item.spot_percent:g} % of the frame"
    yield f"stabiliser {counted_stops(item.stabiliser_stops)}" if item.stabiliser_stops else ""


def _lens(item):
    same = item.focal_min_mm == item.focal_max_mm
    yield f"{item.focal_min_mm:g} mm" if same else f"{item.focal_min_mm:g} to {item.focal_max_mm:g} mm"
    yield f"{item.f_min} to {item.f_max}, from {item.close_m:g} m"
    yield f"stabiliser {counted_stops(item.stabiliser_stops)}" if item.stabiliser_stops else ""


def _film(item):
    rated = f", rated {item.iso_rated}" if item.iso_rated != item.iso else ""
    yield f"{item.process}, ISO {item.iso}{rated}, {item.grain} grain"
    yield f"sees like {item.response}"
    yield f"holds texture {_zone(item.dependable_low)} to {_zone(item.dependable_high)}"
    steps = [row.step for row in steps_of(item.development)]
    if steps:
        ends = dict.fromkeys((min(steps), max(steps)))
        yield f"developed {' to '.join(format_development(step) for step in ends)}"


def _filter(item):
    yield item.glass
    yield f"factor {item.factor:g} on its rim" if item.factor else ""
    yield counted_stops(item.stops) if item.stops else ""


def _meter(item):
    yield f"{item.measures}, {item.spot_deg:g}°" if item.measures == "spot" else item.measures
    yield f"constant {item.constant:g}"
    yield f"offset {format_stops(item.calibration_stops, signed=True)} stop" if item.calibration_stops else ""


def _surface(item):
    yield f"usually goes on {_zone(item.zone)}"


def _zone(zone):
    """A zone in halves where it is one, else in thirds."""
    return format_zone(zone)


_FACTS = {facts.__name__[1:]: facts for facts in (_camera, _lens, _film, _filter, _meter, _surface)}
