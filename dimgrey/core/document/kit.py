"""What people own: cameras, lenses, films, filters, meters - as checked values in the notations people write.

One table of fields serves forms, import and documentation. The open format is "dimgrey-kit", version 1.
"""

import json
import re
from dataclasses import dataclass

from dimgrey.core.camera.setups import format_controls, parse_controls
from dimgrey.core.colour.filters import COLOURED, POLARIZER_STOPS, own_spectrum
from dimgrey.core.colour.responses import RESPONSES
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.longexposure import reciprocity
from dimgrey.core.measure.stops import INCREMENTS, parse_aperture, parse_speed, parse_stops, parse_time
from dimgrey.core.planning.development import development_table
from dimgrey.core.planning.media import limits_at, medium

KINDS = ("camera", "lens", "film", "filter", "meter")
MAX_ITEMS = 2000
MAX_BYTES = 4_000_000
SENSES = ("film", "colour sensor", "monochrome sensor")
OWN = "own spectrum"
GLASS = (*COLOURED, "nd", "graduated", "polarizer", OWN)
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
        _number("headroom", "Headroom, middle to clipping", 0.5, 10, None, "stops", "empty: the default of its kind"),
        _number("footroom", "Footroom, middle to no texture", 0.5, 15, None, "stops", "empty: the default of its kind"),
        Field("limits_per_iso", "Both at other speeds", (), "stops", form="limits", hint="100: 3.3/4, 3200: 3.3/3 (speed: headroom/footroom)"),
        _number("protection_stops", "Highlight protection", 0, 3, 0.0, "stops"),
        _number("hand_factor", "Hand-held factor", 0.5, 4, 1.0, "", "1 for steady hands, 2 for cold ones"),
        _number("stabiliser_stops", "Stabiliser", 0, 9, 0.0, "stops"),
        _number("spot_percent", "Spot meter, part of the frame", 0.1, 30, 2.5, "%"),
        Field("controls", "Black-and-white menu", "", "", form="controls", hint="one line each: Contrast: contrast -4..4 step 1"),
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
}  # fmt: skip
REFERENCE_K = 12.5


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
    if field.choices:
        if given not in field.choices:
            raise CoreError(f"must be one of {', '.join(field.choices)} (got {given}).")
        return given
    if field.form == "number":
        return _in_range(field, given)
    if field.form == "table":
        return _rows(given, 2)
    if field.form == "limits":
        return _limits(given)
    if field.form == "development":
        return _development(given)
    if field.form == "spectrum":
        return [list(point) for point in own_spectrum(_spectrum(given))]
    if field.form == "controls":
        return format_controls(parse_controls(given))
    parse = {"time": parse_time, "aperture": parse_aperture, "speed": parse_speed}[field.form]
    marked = parse(str(given))
    if field.form == "aperture":
        return f"f/{marked.name}"
    if field.form == "time":
        return marked.name if "/" in marked.name or "m" in marked.name else f"{marked.name}s"
    return marked.name


def _in_range(field, given):
    try:
        value = (
            float(given)
            if not isinstance(given, str)
            else parse_stops(given, field.name)
            if field.unit == "stops"
            else float(given.replace(",", "."))
        )
    except (ValueError, TypeError):
        raise CoreError(f"{field.label} is a number (got {given}).") from None
    if not field.low <= value <= field.high:
        raise CoreError(
            f"{field.label} is {field.low:g} to {field.high:g} {field.unit}".rstrip() + f" (got {value:g})."
        )
    return value


def _spectrum(given):
    """Points from lines of CSV, wavelength first; a heading line is passed over."""
    if isinstance(given, list):
        return given
    rows = []
    for line in given.replace(";", "\n").splitlines():
        cells = [cell.strip() for cell in re.split(r"[,\t ]+", line.strip()) if cell.strip()]
        if not cells or (not rows and not re.match(r"[\d.]", cells[0])):
            continue
        try:
            nm, value = (float(cell) for cell in cells)
        except ValueError:
            raise CoreError(
                f"“{line.strip()[:40]}” is not a wavelength and a transmittance. Write 400, 0.02."
            ) from None
        rows.append((nm, value))
    return rows


def _rows(given, width):
    if isinstance(given, list):
        return given
    try:
        rows = [[float(cell) for cell in row.split(":")] for row in given.replace(";", ",").split(",") if row.strip()]
    except ValueError:
        rows = [[]]
    if any(len(row) != width for row in rows):
        raise CoreError("is written 4:6, 15:30 - metered and given seconds.")
    return rows


def _limits(given):
    """Rows of speed, headroom and footroom from "100: 3.3/4, 3200: 3/3"; the rule they must keep is core.media's."""
    rows = given
    if isinstance(given, str):
        try:
            rows = [
                [float(cell) for cell in re.split("[:/]", row)]
                for row in given.replace(";", ",").split(",")
                if row.strip()
            ]
        except ValueError:
            rows = [[]]
    if not isinstance(rows, list) or any(not _three_numbers(row) for row in rows):
        raise CoreError("is written 100: 3.3/4, 3200: 3/3 - speed, headroom and footroom.")
    limits_at(rows, 100)
    return rows


def _three_numbers(row):
    return isinstance(row, list | tuple) and len(row) == 3 and all(type(cell) in (int, float) for cell in row)


_STEP = re.compile(
    r"N\s*(?P<step>[+\-−]\s*\d)?\s+(?P<minutes>\d+(?:[.,]\d+)?|\d+:\d\d)\s*(?:min)?\s*(?P<stops>[+\-−].*)?",
    re.IGNORECASE,
)


def _development(given):
    if isinstance(given, list):
        return given
    rows = []
    for part in re.split(r"[;,\n]\s*(?=[Nn])", given.strip()):
        match = _STEP.fullmatch(part.strip().rstrip(",;"))
        if not match:
            raise CoreError(f"“{part.strip()}” is not a development. Write N-1 8 +1/3: step, minutes, exposure to add.")
        step = int((match["step"] or "0").replace("−", "-").replace(" ", ""))
        minutes, _, seconds = match["minutes"].replace(",", ".").partition(":")
        stops = parse_stops(match["stops"], "development") if match["stops"] else 0.0
        rows.append(
            {"step": step, "minutes": round(float(minutes) + float(seconds or 0) / 60, 3), "stops": round(stops, 4)}
        )
    return rows


def _contradictions(kind, kept):
    found = []
    if kind == "lens":
        if kept["focal_max_mm"] < kept["focal_min_mm"]:
            found.append(
                f"focal_max_mm: the longest focal length ({kept['focal_max_mm']:g} mm) is below the shortest ({kept['focal_min_mm']:g} mm)."
            )
        if parse_aperture(kept["f_max"]).exact <= parse_aperture(kept["f_min"]).exact:
            found.append(f"f_max: the smallest aperture must have a larger number than {kept['f_min']}.")
    if kind == "camera" and parse_time(kept["shutter_max"]).exact <= parse_time(kept["shutter_min"]).exact:
        found.append(f"shutter_max: the longest time must be longer than {kept['shutter_min']}.")
    if kind == "film":
        for name, build in (
            ("table", lambda: reciprocity(table=kept["table"]) if kept["table"] else None),
            ("development", lambda: development_table([(r["step"], r.get("minutes"), r.get("stops", 0.0)) for r in kept["development"]])),
            ("dependable_low", lambda: medium("film", dependable=(kept["dependable_low"], kept["dependable_high"]), outer=(kept["outer_low"], kept["outer_high"]))),
        ):  # fmt: skip
            try:
                build()
            except (CoreError, TypeError, KeyError, ValueError) as refused:
                found.append(f"{name}: {refused}")
    if kind == "filter" and kept["glass"] == OWN and not kept["points"]:
        found.append("points: give the spectrum, at least three points from 400 to 700 nm.")
    if kind == "filter" and kept["glass"] == "nd" and kept["stops"] is None and kept["factor"] is None:
        found.append("stops: a neutral-density filter needs its stops or its factor.")
    return found


# --- from kit to scene ---------------------------------------------------------------------------------------------------------


def scene_parts(camera=None, lens=None, film=None, meter=None, before=None):
    """Parts of a scene document that follow from the chosen items; None leaves a part as it was.

    Each item: checked values with "name". before: the present document. Returns a dictionary of whole parts.
    """
    before = before or {}
    parts = {}
    body, glass, meters = (dict(before.get(part, {})) for part in ("camera", "lens", "meter"))
    if camera:
        parts["increment"] = camera["increment"]
        body.update(
            name=camera["name"],
            shutters=[camera["shutter_min"], camera["shutter_max"]],
            frame_mm=[camera["frame_width_mm"], camera["frame_height_mm"]],
            iso_max=camera["iso_max"],
            hand_factor=camera["hand_factor"],
            stabiliser_stops=max(camera["stabiliser_stops"], lens["stabiliser_stops"] if lens else 0.0),
        )
        if camera["senses"] != "film":
            parts["medium"] = _sensor(camera, before)
            if not meter:
                meters["spot_deg"] = round(_spot_deg(camera, lens), 2)
    if lens:
        body["apertures"] = [lens["f_min"], lens["f_max"]]
        glass["focal_mm"] = lens["focal_min_mm"]
        diagonal = _diagonal(body.get("frame_mm", (36, 24)))
        glass["focal_35mm"] = round(lens["focal_min_mm"] * 43.267 / diagonal, 1)
    if film and (not camera or camera["senses"] == "film"):
        parts["medium"] = _film(film)
    if meter:
        meters.update(
            name=meter["name"],
            kind=meter["measures"],
            spot_deg=meter["spot_deg"],
            calibration_stops=calibration_of(meter),
        )
    for name, part in (("camera", body), ("lens", glass), ("meter", meters)):
        if part != before.get(name, {}):
            parts[name] = part
    chosen = {
        kind: item["name"]
        for kind, item in (("camera", camera), ("lens", lens), ("film", film), ("meter", meter))
        if item
    }
    parts["kit"] = {**before.get("kit", {}), **chosen}
    return parts


def calibration_of(meter):
    """Offset of a meter's readings in stops: its own, and what its constant differs from K 12.5."""
    import math

    constant = (
        math.log2(meter["constant"] / REFERENCE_K)
        if meter["measures"] != "incident"
        else math.log2(meter["constant"] / 250)
    )
    return round(max(min(meter["calibration_stops"] + (constant if abs(constant) < 1 else 0.0), 3), -3), 4)


def _diagonal(frame):
    return (frame[0] ** 2 + frame[1] ** 2) ** 0.5


def _spot_deg(camera, lens):
    """Angle of a camera's spot: a disc of that part of the frame, seen through the lens (50 mm without one)."""
    import math

    area = camera["frame_width_mm"] * camera["frame_height_mm"] * camera["spot_percent"] / 100
    focal = lens["focal_min_mm"] if lens else 50.0
    return min(2 * math.degrees(math.atan(math.sqrt(area / math.pi) / focal)), 30.0)


def _sensor(camera, before):
    kind = before.get("medium", {}).get("kind", "digital raw")
    made = {
        "kind": kind if kind.startswith("digital") else "digital raw",
        "iso": before.get("medium", {}).get("iso", 100),
    }
    if not str(made["iso"]).isdecimal() or camera["senses"] == "film":
        made["iso"] = 100
    if camera["senses"] == "monochrome sensor":
        made["response"] = "monochrome sensor"
    if camera["headroom"]:
        made["headroom"] = camera["headroom"] + camera["protection_stops"]
    if camera["footroom"]:
        made["footroom"] = camera["footroom"]
    if camera.get("limits_per_iso"):
        made["limits_per_iso"] = [
            [iso, head + camera["protection_stops"], foot] for iso, head, foot in camera["limits_per_iso"]
        ]
    if camera["senses"] == "colour sensor" and camera.get("mixes", {}).get("none"):
        made["channel_mix"] = camera["mixes"]["none"]
    return made


def _film(film):
    made = {
        "kind": "film" if film["process"] == "negative" else "slide",
        "name": film["name"],
        "iso": int(film["iso"]),
        "response": film["response"],
        "dependable": [film["dependable_low"], film["dependable_high"]],
        "outer": [film["outer_low"], film["outer_high"]],
    }
    if film["table"]:
        made["reciprocity"] = {"table": film["table"]}
    elif film["exponent"]:
        made["reciprocity"] = {"exponent": film["exponent"], "onset_s": 1}
    if film["development"]:
        made["development"] = film["development"]
    return made


def scene_filter(item):
    """A filter item as the scene file writes it."""
    if item["glass"] == OWN:
        return {
            "name": item["name"],
            "points": item["points"],
            **({"factor": item["factor"]} if item["factor"] else {}),
        }
    made = {"name": item["glass"]}
    if item["glass"] in COLOURED and item["factor"]:
        made["factor"] = item["factor"]
    elif item["glass"] not in COLOURED:
        if item["stops"] is not None:
            made["stops"] = item["stops"]
        elif item["factor"]:
            made["factor"] = item["factor"]
        elif item["glass"] == "polarizer":
            made["stops"] = round(POLARIZER_STOPS, 4)
    return made


# --- the open format --------------------------------------------------------------------------------------------------------------


def export_text(items):
    """The kit as text. items: (kind, name, values, retired)."""
    rows = [
        {"kind": kind, "name": name, **({"retired": True} if retired else {}), **values}
        for kind, name, values, retired in items
    ]
    return json.dumps({"format": "dimgrey-kit", "version": 1, "items": rows}, indent=1, ensure_ascii=False) + "\n"


def load(text):
    """Checked items of a kit file: (kind, name, values, retired). Raises KitError with every mistake and its path."""
    if len(text) > MAX_BYTES:
        raise KitError([f"The file has {len(text) / 1e6:.1f} MB; a kit file holds at most {MAX_BYTES / 1e6:g} MB."])
    try:
        document = json.loads(text)
    except (ValueError, RecursionError):
        raise KitError(['The file is not JSON. A kit file starts with {"format": "dimgrey-kit".']) from None
    if not isinstance(document, dict) or document.get("format") != "dimgrey-kit" or document.get("version") != 1:
        raise KitError(["This is not a kit file of version 1."])
    entries = document.get("items")
    if not isinstance(entries, list):
        raise KitError(["items: must be a list."])
    if len(entries) > MAX_ITEMS:
        raise KitError([f"items: a kit file holds at most {MAX_ITEMS} items (got {len(entries)}). Split it."])
    items, mistakes = [], []
    for k, entry in enumerate(entries):
        if not isinstance(entry, dict) or not isinstance(entry.get("name"), str) or not entry["name"].strip():
            mistakes.append(f"items[{k}]: needs a kind and a name.")
            continue
        values = {key: value for key, value in entry.items() if key not in ("kind", "name", "retired")}
        try:
            items.append(
                (
                    entry.get("kind"),
                    entry["name"].strip()[:60],
                    check(entry.get("kind"), values),
                    entry.get("retired") is True,
                )
            )
        except KitError as refused:
            mistakes += [f"items[{k}].{line}" for line in refused.mistakes]
    if mistakes:
        raise KitError(mistakes[:40])
    return items
