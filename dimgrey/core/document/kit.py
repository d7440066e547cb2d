"""What people own: cameras, lenses, films, filters, meters - as checked values in the notations people write.

One table of fields serves forms, import, pages and documentation: a new field is a row of FIELDS.
"""

from dataclasses import dataclass, make_dataclass
from dataclasses import field as dataclass_field

from dimgrey.core.camera.setups import format_controls, parse_controls
from dimgrey.core.colour.filters import COLOURED, GREY, own_spectrum
from dimgrey.core.colour.responses import RESPONSES
from dimgrey.core.document.jsontext import require_letters
from dimgrey.core.document.kitnotation import development_rows, limit_rows, spectrum_points, table_rows
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.longexposure import reciprocity
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_stops, parse_time
from dimgrey.core.measure.stops import INCREMENTS, written_aperture, written_time
from dimgrey.core.planning.development import development_table
from dimgrey.core.planning.media import FOOTROOM_STOPS, HEADROOM_STOPS, medium

KINDS = ("camera", "lens", "film", "filter", "meter", "surface")
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
ROWS = ("table", "limits", "development", "spectrum")
"""Forms of fields that hold rows."""
MOST_LETTERS, MOST_LINES, MOST_ROWS = 60, 12_000, 1000
"""How much one field may hold: a line of text, text of several lines, rows."""


def check(kind, values):
    """Checked values of an item: every field of its kind, defaults where nothing was said.

    values: field name -> text or number. Raises KitError with every mistake, each naming its field.
    """
    if kind not in FIELDS:
        raise KitError([f"kind: must be one of {', '.join(KINDS)} (got {kind})."])
    known = {field.name: field for field in FIELDS[kind]}
    mistakes = [f"{name}: unknown key. Known here: {', '.join(known)}." for name in values if name not in known]
    kept = {}
    for field in FIELDS[kind]:
        given = values.get(field.name)
        if given in (None, "", [], ()):
            kept[field.name] = _plain(field.default)
            continue
        try:
            kept[field.name] = _read(field, given)
        except CoreError as refused:
            mistakes.append(f"{field.name}: {refused}")
    if not mistakes:
        mistakes = _contradictions(kind, kept)
    if mistakes:
        raise KitError(mistakes)
    return kept


class KitError(CoreError):
    """An item that cannot be; `mistakes` has one sentence each, starting with the field."""

    def __init__(self, mistakes):
        super().__init__(" ".join(mistakes), parameter="kit", code="kit")
        self.mistakes = list(mistakes)


def _plain(value):
    return list(value) if isinstance(value, tuple) else value


def _read(field, given):
    _require_kind(field, given)
    if field.choices:
        if given not in field.choices:
            raise CoreError(f"must be one of {', '.join(field.choices)} (got {given}).")
        return given
    if field.form == "number":
        return _in_range(field, given)
    if field.form == "table":
        return table_rows(given)
    if field.form == "limits":
        return limit_rows(given)
    if field.form == "development":
        return development_rows(given)
    if field.form == "spectrum":
        return [list(point) for point in own_spectrum(spectrum_points(given))]
    if field.form == "controls":
        return format_controls(parse_controls(str(given)))
    if field.form == "time":
        return written_time(parse_time(str(given)))
    if field.form == "aperture":
        return written_aperture(parse_aperture(str(given)))
    return parse_speed(str(given)).name


def _require_kind(field, given):
    """Raise CoreError unless a value is text of a fitting length, a number, or rows where the field holds rows."""
    rows = isinstance(given, list) and field.form in ROWS
    plain = isinstance(given, str) if field.form in (*ROWS, "controls") else type(given) in (str, int, float)
    if not rows and not plain:
        raise CoreError(f"cannot be {given!r:.40}.")
    most = MOST_LINES if field.form in (*ROWS, "controls") else MOST_LETTERS
    if isinstance(given, str) and len(given) > most:
        raise CoreError(f"holds at most {most} characters (got {len(given)}).")
    if rows and len(given) > MOST_ROWS:
        raise CoreError(f"holds at most {MOST_ROWS} rows (got {len(given)}).")
    if isinstance(given, str):
        require_letters(given)


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
    return value


def _contradictions(kind, kept):
    return {"lens": _of_lens, "camera": _of_camera, "film": _of_film, "filter": _of_filter}.get(kind, lambda kept: [])(
        kept
    )


def _of_lens(kept):
    found = []
    if kept["focal_max_mm"] < kept["focal_min_mm"]:
        found.append(
            f"focal_max_mm: the longest focal length ({kept['focal_max_mm']:g} mm) is below the shortest "
            f"({kept['focal_min_mm']:g} mm)."
        )
    if parse_aperture(kept["f_max"]).exact <= parse_aperture(kept["f_min"]).exact:
        found.append(f"f_max: the smallest aperture must have a larger number than {kept['f_min']}.")
    return found


def _of_camera(kept):
    if parse_time(kept["shutter_max"]).exact <= parse_time(kept["shutter_min"]).exact:
        return [f"shutter_max: the longest time must be longer than {kept['shutter_min']}."]
    return []


def _of_film(kept):
    dependable = (kept["dependable_low"], kept["dependable_high"])
    outer = (kept["outer_low"], kept["outer_high"])
    steps = [(row["step"], row.get("minutes"), row.get("stops", 0.0)) for row in kept["development"]]
    checks = {
        "table": lambda: kept["table"] and reciprocity(table=kept["table"]),
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


def _of_filter(kept):
    if kept["glass"] == OWN and not kept["points"]:
        return ["points: give the spectrum, at least three points from 400 to 700 nm."]
    grey = GREY.get(kept["glass"])
    if grey and grey.usual_stops is None and kept["stops"] is None and kept["factor"] is None:
        return [f"stops: a {grey.called} needs its stops or its factor."]
    return []


# --- an item as pages and scenes see it ------------------------------------------------------------------------------------

_CLASSES = {
    kind: make_dataclass(
        f"{kind.capitalize()}Item",
        [("kind", str), ("name", str), *((each.name, object, dataclass_field(default=each.default)) for each in known)],
        frozen=True,
    )
    for kind, known in FIELDS.items()
}


def item_of(kind, name, values):
    """An item with its fields by name, such as ``item_of("lens", ...).focal_min_mm``; read-only.

    values: checked ones. Fields that a kit of an older version does not have keep their default.
    """
    known = {field.name for field in FIELDS[kind]}
    return _CLASSES[kind](kind=kind, name=name, **{key: value for key, value in values.items() if key in known})
