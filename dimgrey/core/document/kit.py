"""What people own: cameras, lenses, films, filters, meters - as checked values in the notations people write.

One table of fields serves forms, import, pages and documentation: a new field is a row of FIELDS.
"""

from dataclasses import dataclass, make_dataclass

from dimgrey.core.camera.setups import format_controls, parse_controls
from dimgrey.core.colour.filters import COLOURED, GREY, own_spectrum
from dimgrey.core.colour.responses import RESPONSES
from dimgrey.core.document.jsontext import require_letters
from dimgrey.core.document.kitnotation import development_rows, limit_rows, spectrum_points, steps_of, table_rows
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.longexposure import reciprocity
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_stops, parse_time
from dimgrey.core.measure.stops import INCREMENTS, written_aperture, written_time
from dimgrey.core.planning.development import development_table
from dimgrey.core.planning.media import FOOTROOM_STOPS, HEADROOM_STOPS, medium
from dimgrey.core.shapes.check import DocumentError
from dimgrey.core.shapes.declare import YES_NO, Shaped, key, needed, one_of, text, written
from dimgrey.core.shapes.plain import checked_part, whole_part

SENSES = ("film", "colour sensor", "monochrome sensor")
OWN = "own spectrum"
GLASS = (*COLOURED, *GREY, OWN)
METERS = ("spot", "incident", "whole frame")


@dataclass(frozen=True)
class Field:
    """One field of a kind. read: turns text or a number into the kept value. low, high: of a number, in `unit`."""

    name: str
    label: str
    default: object = None
    unit: str = ""
    choices: tuple = ()
    low: float | None = None
    high: float | None = None
    form: str = "number"
    hint: str = ""


def _number(name, label, low, high, default=None, unit="", hint=""):
    return Field(name, label, default, unit, (), low, high, "number", hint)


def _choice(name, label, choices, default):
    return Field(name, label, default, "", tuple(choices), form="choice")


FIELDS = {
    "camera": (
        _choice("senses", "Takes pictures on", SENSES, "film"),
        _number("frame_width_mm", "Frame width", 3, 300, 36.0, "mm"),
        _number("frame_height_mm", "Frame height", 3, 300, 24.0, "mm"),
        _choice("increment", "Sets in steps of", INCREMENTS, "third"),
        Field("shutter_min", "Shortest time", "1/1000", "s", form="time"),
        Field("shutter_max", "Longest time", "1s", "s", form="time"),
        _number("iso_max", "Highest speed you accept", 25, 1_000_000, 6400, "ISO"),
        _number("headroom", "Headroom, middle to clipping", *HEADROOM_STOPS, None, "stops", "empty: the default of its kind"),
        _number("footroom", "Footroom, middle to no texture", *FOOTROOM_STOPS, None, "stops", "empty: the default of its kind"),
        Field("limits_per_iso", "Both at other speeds", (), "stops", form="limits", hint="100: 3.3/4, 3200: 3.3/3 (speed: headroom/footroom)"),
        _number("protection_stops", "Highlight protection", 0, 3, 0.0, "stops"),
        _number("hand_factor", "Hand-held factor", 0.5, 4, 1.0, "", "1 for steady hands, 2 for cold ones"),
        _number("stabiliser_stops", "Stabiliser", 0, 9, 0.0, "stops"),
        _number("spot_percent", "Spot meter, part of the frame", 0.1, 30, 2.5, "%"),
        Field("controls", "Black-and-white menu", "", "", form="controls", hint="one line each: Whole slope: contrast -12..12 step 2"),
    ),
    "lens": (
        _number("focal_min_mm", "Shortest focal length", 1, 5000, 50.0, "mm"),
        _number("focal_max_mm", "Longest focal length", 1, 5000, 50.0, "mm"),
        Field("f_min", "Widest aperture", "f/2", form="aperture"),
        Field("f_max", "Smallest aperture", "f/16", form="aperture"),
        _number("stabiliser_stops", "Stabiliser", 0, 9, 0.0, "stops"),
        _number("close_m", "Closest focus", 0.01, 100, 0.5, "m"),
    ),
    "film": (
        Field("iso", "Your speed", "100", "ISO", form="speed"),
        Field("iso_rated", "Rated speed", "100", "ISO", form="speed"),
        _choice("process", "Kind", ("negative", "slide"), "negative"),
        _choice("response", "Sees like", [r for r in RESPONSES if r not in ("eye", "monochrome sensor")], "general panchromatic"),
        _choice("grain", "Grain", ("fine", "middling", "coarse"), "middling"),
        _number("dependable_low", "Texture from zone", 0, 10, 3.0),
        _number("dependable_high", "Texture to zone", 0, 10, 7.0),
        _number("outer_low", "Black below zone", 0, 10, 2.0),
        _number("outer_high", "White above zone", 0, 10, 8.0),
        _number("exponent", "Reciprocity exponent", 1, 2, None, "", "empty: not known"),
        Field("table", "Or a reciprocity table", (), "s", form="table", hint="4:6, 15:30, 60:180 (metered:given, seconds)"),
        Field("development", "Development", (), "", form="development", hint="N-1 8 +1/3, N 10, N+1 13 -1/3 (minutes, exposure)"),
    ),
    "filter": (
        _choice("glass", "Glass", GLASS, "yellow"),
        _number("factor", "Factor on its rim", 1, 100_000, None, "×", "empty: computed from its spectrum"),
        _number("stops", "Density in stops", 0, 20, None, "stops", "of grey, graduated and polarizing filters"),
        Field("points", "Own spectrum", (), "", form="spectrum", hint="lines of wavelength and transmittance: 400, 0.02"),
    ),
    "meter": (
        _choice("measures", "Measures", METERS, "spot"),
        _number("spot_deg", "Spot", 0.1, 30, 1.0, "°"),
        _number("constant", "Constant K or C", 5, 500, 12.5, "", "12.5 or 14 reflected, 250 flat or 330 dome incident"),
        _number("calibration_stops", "Calibration offset", -3, 3, 0.0, "stops", "added to every reading"),
        _number("card_stops", "Card offset", -1, 1, 0.0, "stops", "for readings of a grey card; up to half a stop differs by school"),
    ),
    "surface": (
        _number("zone", "Usually goes on zone", 0, 10, 5.0, "", "VII is 7; a tone whose name holds the name of this surface is told so"),
    ),
}  # fmt: skip
KINDS = tuple(FIELDS)
ROWS = ("table", "limits", "development", "spectrum")
"""Forms of fields that hold rows."""
MOST_LETTERS, MOST_LINES, MOST_ROWS = 60, 12_000, 1000
"""How much one field may hold: a line of text, text of several lines, rows."""


class KitError(DocumentError):
    """An item that cannot be; `mistakes` has one sentence each, starting with the field."""

    def __init__(self, mistakes):
        super().__init__(mistakes, "kit")
        self.args = (" ".join(mistakes),)


def check(kind, values):
    """Checked values of an item: every field of its kind, defaults where nothing was said.

    values: field name -> text or number. Raises KitError with every mistake, each naming its field.
    """
    if kind not in FIELDS:
        raise KitError([f"kind: must be one of {', '.join(KINDS)} (got {kind})."])
    try:
        item = checked_part(ITEMS[kind], {**said(values), "kind": kind, "name": kind})
    except DocumentError as refused:
        raise KitError(refused.mistakes) from None
    return values_of(item)


def values_of(item):
    """Values of an item by field, as they are kept."""
    return {name: value for name, value in whole_part(item).items() if name not in OF_THE_ITEM}


def said(values):
    """What was said; a field that was left empty has its default."""
    return {name: value for name, value in values.items() if value not in (None, "", [], ())}


# --- the shape of a field --------------------------------------------------------------------------------------------------


def _shape(field):
    """What a file may hold in a field: what people write of it, or the kept value."""
    if field.choices:
        return one_of(*field.choices)
    if field.form in ROWS:
        return {"type": ["string", "array"], "maxLength": MOST_LINES, "maxItems": MOST_ROWS}
    return text(MOST_LINES) if field.form == "controls" else written(MOST_LETTERS)


def _reader(field):
    """From what was written to the kept value; raises CoreError with the notation to use."""
    readers = {
        "number": lambda given: _in_range(field, given),
        "table": table_rows,
        "limits": limit_rows,
        "development": development_rows,
        "spectrum": lambda given: [list(point) for point in own_spectrum(spectrum_points(given))],
        "controls": lambda given: format_controls(parse_controls(given)),
        "time": lambda given: written_time(parse_time(str(given))),
        "aperture": lambda given: written_aperture(parse_aperture(str(given))),
        "speed": lambda given: parse_speed(str(given)).name,
    }
    read = readers.get(field.form, lambda given: given)

    def checked(given):
        if isinstance(given, str):
            require_letters(given)
        return read(given)

    return checked


def _in_range(field, given):
    try:
        value = (
            float(given)
            if not isinstance(given, str)
            else parse_stops(given, field.name)
            if field.unit == "stops"
            else float(given.replace(",", "."))
        )
    except (ValueError, TypeError, OverflowError):
        raise CoreError(f"{field.label} is a number (got {given!s:.24}).") from None
    if not field.low <= value <= field.high:
        raise CoreError(
            f"{field.label} is {field.low:g} to {field.high:g} {field.unit}".rstrip() + f" (got {value:g})."
        )
    # A whole number stays one where the field is counted in them: what goes out comes in again as it was.
    return int(value) if isinstance(field.default, int) and value.is_integer() else value


def _of_lens(item):
    found = []
    if item.focal_max_mm < item.focal_min_mm:
        found.append(
            f"focal_max_mm: the longest focal length ({item.focal_max_mm:g} mm) is below the shortest "
            f"({item.focal_min_mm:g} mm)."
        )
    if parse_aperture(item.f_max).exact <= parse_aperture(item.f_min).exact:
        found.append(f"f_max: the smallest aperture must have a larger number than {item.f_min}.")
    return found


def _of_camera(item):
    if parse_time(item.shutter_max).exact <= parse_time(item.shutter_min).exact:
        return [f"shutter_max: the longest time must be longer than {item.shutter_min}."]
    return []


def _of_film(item):
    dependable, outer = (item.dependable_low, item.dependable_high), (item.outer_low, item.outer_high)
    steps = [(row.step, row.minutes, row.stops) for row in steps_of(item.development)]
    checks = {
        "table": lambda: item.table and reciprocity(table=item.table),
        "development": lambda: development_table(steps),
        "dependable_low": lambda: medium("film", dependable=dependable, outer=outer),
    }
    found = []
    for name, build in checks.items():
        try:
            build()
        except (CoreError, TypeError, ValueError) as refused:
            found.append(f"{name}: {refused}")
    return found


def _of_filter(item):
    if item.glass == OWN and not item.points:
        return ["points: give the spectrum, at least three points from 400 to 700 nm."]
    grey = GREY.get(item.glass)
    if grey and grey.usual_stops is None and item.stops is None and item.factor is None:
        return [f"stops: a {grey.called} needs its stops or its factor."]
    return []


# --- an item as pages and scenes see it ------------------------------------------------------------------------------------

CONTRADICTIONS = {found.__name__.removeprefix("_of_"): found for found in (_of_lens, _of_camera, _of_film, _of_filter)}
OF_THE_ITEM = ("kind", "name", "retired")


def _class_of(kind, known):
    """The shape of an item of a kind: its fields, and what every item has."""
    default = lambda each: list(each.default) if isinstance(each.default, tuple) else each.default
    own = [(each.name, object, key(_shape(each), default(each), reads=_reader(each))) for each in known]
    common = [
        ("kind", str, needed(one_of(kind))),
        ("name", str, needed(text(60, 1))),
        ("retired", bool, key(YES_NO, False)),
    ]
    space = {"contradictions": CONTRADICTIONS.get(kind, lambda item: [])}
    made = [*own, *common]
    return make_dataclass(f"{kind.capitalize()}Item", made, bases=(Shaped,), frozen=True, kw_only=True, namespace=space)


ITEMS = {kind: _class_of(kind, known) for kind, known in FIELDS.items()}
"""kind -> class of its items, such as ``ITEMS["lens"]``."""


def item_of(kind, name, values):
    """An item with its fields by name, such as ``item_of("lens", ...).focal_min_mm``; read-only.

    values: checked ones. Fields that a kit of an older version does not have keep their default.
    """
    known = ITEMS[kind].__dataclass_fields__
    return ITEMS[kind](kind=kind, name=name, **{key: value for key, value in values.items() if key in known})
