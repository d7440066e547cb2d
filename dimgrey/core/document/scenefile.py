"""The open scene format "dimgrey-scene", version 1: checked against its JSON Schema, then read into a Scene.

Schema: scene-file.schema.json beside this module (JSON Schema 2020-12). Prose: docs/scene-file.md.
"""

import json
from functools import lru_cache
from importlib import resources

from dimgrey.core.camera.setups import setup
from dimgrey.core.colour.encoding import linear_of_hex
from dimgrey.core.colour.filters import COLOURED, POLARIZER_STOPS, own_spectrum, require_filter
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.brackets import require_bracket
from dimgrey.core.measure.exposure import Limits, ev100
from dimgrey.core.measure.longexposure import reciprocity
from dimgrey.core.measure.metering import combined
from dimgrey.core.measure.stops import (
    format_aperture,
    format_time,
    parse_aperture,
    parse_speed,
    parse_stops,
    parse_time,
    require_ev,
)
from dimgrey.core.picture.crop import require_crop
from dimgrey.core.planning.development import development_table
from dimgrey.core.planning.media import OUTER, limits_at, medium
from dimgrey.core.planning.placing import DEFAULT_SCHOOL
from dimgrey.core.planning.plan import Glass, Scene, Tone, Wish
from dimgrey.core.planning.zones import parse_zone, require_zone

MAX_BYTES = 1_000_000
CLIPPED_SHARE = 0.02
"""Share of a spot that may be blank in the picture before its reading is called clipped."""


class SceneFileError(CoreError):
    """A scene file that cannot be used; `mistakes` has one sentence for each fault, each naming its path."""

    def __init__(self, mistakes):
        super().__init__("\n".join(mistakes), parameter="file", code="scene-file")
        self.mistakes = list(mistakes)


def load(text):
    """The document in a scene file's text, checked whole. Raises SceneFileError with every mistake found."""
    if len(text) > MAX_BYTES:
        raise SceneFileError([f"The file has {len(text) / 1e6:.1f} MB; a scene file holds at most 1 MB. Split it."])
    try:
        document = json.loads(text, parse_constant=_no_constant)
    except CoreError as refused:
        raise SceneFileError([str(refused)]) from None
    except (ValueError, RecursionError) as wrong:
        where = f" (line {wrong.lineno})" if isinstance(wrong, json.JSONDecodeError) else ""
        raise SceneFileError(
            [f'The file is not JSON{where}. A scene file starts with {{"format": "dimgrey-scene".']
        ) from None
    check(document)
    scene_of(document)
    return document


def _no_constant(name):
    raise CoreError(f"{name} is not a number that a scene file may hold.", parameter="file", code="not-a-number")


# --- shape: the JSON Schema, in sentences ------------------------------------------------------------------------------


@lru_cache(maxsize=1)
def schema():
    """The JSON Schema of version 1 as a dictionary."""
    return json.loads(
        resources.files("dimgrey.core.document").joinpath("scene-file.schema.json").read_text(encoding="utf-8")
    )


@lru_cache(maxsize=1)
def _validator():
    from jsonschema import Draft202012Validator  # 0.1 s to import, and most requests never need it

    return Draft202012Validator(schema())


def check(document):
    """Raise SceneFileError with one line per mistake of shape; return nothing when the document fits the schema."""
    mistakes = [line for error in _validator().iter_errors(document) for line in _sentences(error)]
    if mistakes:
        raise SceneFileError(mistakes[:50])


def _sentences(error):
    path = _path(error.absolute_path)
    if error.validator == "additionalProperties":
        known = error.schema.get("properties", {})
        for key in sorted(set(error.instance) - set(known)):
            yield f"{_join(path, key)}: unknown key. Known here: {', '.join(known)}."
    elif error.validator == "required":
        for key in error.validator_value:
            if key not in error.instance:
                yield f"{_join(path, key)}: missing."
    elif error.validator == "const" and path == "version":
        yield f"version: this program reads version 1 (got {_shown(error.instance)})."
    elif error.validator in ("const", "enum"):
        allowed = [error.validator_value] if error.validator == "const" else error.validator_value
        yield f"{path}: must be {_either(allowed)} (got {_shown(error.instance)})."
    elif error.validator == "type":
        yield f"{path or 'the file'}: must be {_either(_types(error.validator_value), quoted=False)} (got {_shown(error.instance)})."
    elif error.validator in ("minimum", "maximum"):
        word = "at least" if error.validator == "minimum" else "at most"
        yield f"{path}: must be {word} {error.validator_value:g} (got {_shown(error.instance)})."
    elif error.validator in ("maxItems", "minItems", "maxLength", "minLength"):
        word = "at most" if error.validator.startswith("max") else "at least"
        unit = "characters" if error.validator.endswith("Length") else "items"
        yield f"{path}: must have {word} {error.validator_value} {unit} (got {len(error.instance)})."
    elif error.validator == "oneOf":
        yield f"{path}: not one of the forms it can have (got {_shown(error.instance)})."
    else:
        yield f"{path}: does not match {error.validator_value} (got {_shown(error.instance)})."


def _path(parts):
    text = ""
    for part in parts:
        text = f"{text}[{part}]" if isinstance(part, int) else _join(text, part)
    return text


def _join(path, key):
    return f"{path}.{key}" if path else str(key)


def _types(value):
    names = {
        "object": "an object",
        "array": "a list",
        "string": "text",
        "number": "a number",
        "boolean": "true or false",
    }
    return [names.get(v, v) for v in ([value] if isinstance(value, str) else value)]


def _either(options, quoted=True):
    shown = [json.dumps(o, ensure_ascii=False) if quoted else o for o in options]
    return shown[0] if len(shown) == 1 else f"{', '.join(shown[:-1])} or {shown[-1]}"


def _shown(value):
    text = json.dumps(value, ensure_ascii=False)
    return text if len(text) <= 40 else text[:39] + "…"


# --- meaning -----------------------------------------------------------------------------------------------------------


def scene_of(document):
    """The Scene that a document of the right shape describes. Raises SceneFileError naming each path."""
    reader = _Reader()
    scene = reader.scene(document)
    if reader.mistakes:
        raise SceneFileError(reader.mistakes)
    return scene


class _Reader:
    """Reads one document, gathering mistakes instead of stopping at the first."""

    def __init__(self):
        self.mistakes = []

    def attempt(self, path, function, *args, **kwargs):
        try:
            return function(*args, **kwargs)
        except CoreError as refused:
            self.mistakes.append(f"{path}: {refused}")
            return None

    def scene(self, document):
        increment = document.get("increment", "third")
        meter = document.get("meter", {})
        placing = document.get("placing")
        kind = document.get("medium", {}).get("kind", "film")
        school = (placing or {}).get("school", DEFAULT_SCHOOL[kind])
        camera = document.get("camera", {})
        tones = tuple(
            self.tone(entry, f"tones[{k}]", increment, meter.get("calibration_stops", 0.0), school, placing or {})
            for k, entry in enumerate(document.get("tones", []))
        )
        self._names(tones, placing or {})
        return Scene(
            title=document.get("title", ""),
            increment=increment,
            light=document.get("light", "D55"),
            medium=self.medium(document.get("medium", {"kind": "film"}), increment, document.get("setup")),
            tones=tones,
            wish=self.wish(placing, school),
            filters=tuple(
                filter(
                    None, (self.glass(entry, f"filters[{k}]") for k, entry in enumerate(document.get("filters", [])))
                )
            ),
            magnification=document.get("lens", {}).get("magnification", 0.0),
            through_filter=meter.get("through_filter", False),
            aperture=self.marked(camera, "aperture", parse_aperture, increment),
            shutter=self.marked(camera, "shutter", parse_time, increment),
            limits=self.limits(camera, increment),
            crop=self.crop(document.get("crop")),
            bracket=self.bracket(document.get("bracket")),
            light_note=document.get("light_note", ""),
        )

    def bracket(self, entry):
        if entry is None:
            return None
        return self.attempt("bracket", require_bracket, entry["count"], entry["step"], entry.get("order", "0 - +"))

    def crop(self, entry):
        if entry is None:
            return None
        found = self.attempt("crop", require_crop, *entry["box"])
        return found and (found.left, found.top, found.right, found.bottom)

    def _names(self, tones, placing):
        names = [tone.name for tone in tones]
        for k, name in enumerate(names):
            if name in names[:k]:
                self.mistakes.append(f"tones[{k}].name: “{name}” is used twice. Give each tone a name of its own.")
        wanted = placing.get("tone")
        if wanted is not None and wanted not in names:
            self.mistakes.append(f"placing.tone: there is no tone “{wanted}”. Known: {', '.join(names) or 'none yet'}.")

    def setup(self, entry, kind):
        """(tone effects, in-camera filter or None, protection stops) of the setup, for the medium that bakes it in."""
        if entry is None or not kind.startswith("digital"):
            return (0.0, 0.0, 0.0), None, 0.0
        made = self.attempt(
            "setup",
            setup,
            entry["name"],
            entry.get("effects"),
            entry.get("filter", "none"),
            entry.get("protection_stops", 0.0),
            entry.get("file", "both"),
        )
        if made is None:
            return (0.0, 0.0, 0.0), None, 0.0
        return made.tone if kind == "digital file" else (0.0, 0.0, 0.0), made.filter, made.protection_stops

    def medium(self, entry, increment, chosen=None):
        speed = self.attempt("medium.iso", parse_speed, entry.get("iso", 100), increment)
        curve = entry.get("reciprocity")
        if curve is not None and not curve.get("table") and "exponent" not in curve:
            self.mistakes.append("medium.reciprocity: needs an exponent or a table.")
            curve = None
        film = None
        if curve is not None:
            film = self.attempt(
                "medium.reciprocity", reciprocity, curve.get("exponent"), curve.get("onset_s", 1.0), curve.get("table")
            )
        tone, in_camera, protection = self.setup(chosen, entry["kind"])
        mix = entry.get("channel_mix") or (in_camera if not entry.get("response") else None)
        headroom, footroom = entry.get("headroom"), entry.get("footroom")
        if entry.get("limits_per_iso") and speed:
            headroom, footroom = self.attempt(
                "medium.limits_per_iso", limits_at, entry["limits_per_iso"], speed.exact
            ) or (headroom, footroom)
        if protection:
            headroom = (headroom or OUTER[entry["kind"]][1] - 5) + protection
        rows = [(row["step"], row.get("minutes"), row.get("stops", 0.0)) for row in entry.get("development", [])]
        developments = self.attempt("medium.development", development_table, rows) or ()
        return self.attempt(
            "medium",
            medium,
            entry["kind"],
            iso=speed.exact if speed else 100.0,
            response=entry.get("response"),
            dependable=tuple(entry["dependable"]) if "dependable" in entry else None,
            outer=tuple(entry["outer"]) if "outer" in entry else None,
            headroom=headroom,
            footroom=footroom,
            channel_mix=tuple(mix) if isinstance(mix, list) else mix,
            reciprocity=film,
            developments=developments,
            tone=tone,
        )

    def tone(self, entry, path, increment, calibration, school, placing):
        role = entry.get("role", "other")
        free = entry.get("role") == "other" or (school == "silhouette" and role == "subject")
        given_up = (role == "highlight" and placing.get("white") == "pure") or (
            role == "shadow" and placing.get("shadows") == "empty"
        )
        evs = self.evs(entry, path, increment, calibration)
        spreads = [
            r["high_ev100"] - r["low_ev100"]
            for r in entry.get("readings", [])
            if "high_ev100" in r and "low_ev100" in r
        ]
        return Tone(
            name=entry["name"],
            role=role,
            evs=evs,
            colour=linear_colour(entry["colour"]) if "colour" in entry else None,
            needs_texture=not given_up and entry.get("texture", "free" if free else "needed") == "needed",
            mixed=max(spreads, default=0.0),
            clipped=all(r.get("clipped", 0) > CLIPPED_SHARE for r in deciding_readings(entry.get("readings", [])))
            if entry.get("readings")
            else False,
        )

    def evs(self, entry, path, increment, calibration):
        if "ev100" in entry:
            ev = self.attempt(f"{path}.ev100", ev_value, entry["ev100"])
            return () if ev is None else (ev,)
        readings = deciding_readings(entry.get("readings", []))
        found = []
        for k, reading in enumerate(entry.get("readings", [])):
            if reading.get("kind") == "picture" and "ev100" not in reading:
                continue  # a pin in a picture whose light has no scale yet
            ev = self.attempt(f"{path}.readings[{k}]", reading_ev, reading, increment)
            if ev is not None and any(reading is r for r in readings):
                typed = reading.get("kind") != "picture"
                found.append(ev + (calibration if typed else 0.0) + reading.get("shift", 0.0))
        return tuple(found)

    def wish(self, placing, school):
        if placing is None:
            return Wish(school=school)
        zone = placing.get("zone")
        return Wish(
            school=school,
            tone=placing.get("tone"),
            zone=None if zone is None else self.attempt("placing.zone", zone_value, zone),
            hold=placing.get("hold", "before filter"),
            under_stops=float(placing.get("under_stops", 0.0)),
            white=placing.get("white", "textured"),
            shadows=placing.get("shadows", "full"),
        )

    def glass(self, entry, path):
        if "points" in entry:
            points = self.attempt(f"{path}.points", own_spectrum, entry["points"])
            return Glass(entry["name"], factor=entry.get("factor"), points=points) if points else None
        name = self.attempt(f"{path}.name", require_filter, entry["name"])
        if name is None:
            return None
        if name in COLOURED and "stops" in entry:
            return Glass(name, factor=2.0 ** entry["stops"])
        stops = entry.get("stops", POLARIZER_STOPS if name == "polarizer" and "factor" not in entry else None)
        if name == "graduated" and stops is None and "factor" not in entry:
            stops = 2.0
        if name == "nd" and stops is None and "factor" not in entry:
            self.mistakes.append(f"{path}: a neutral-density filter needs its stops or its factor.")
            return None
        return Glass(name, factor=entry.get("factor"), stops=stops)

    def marked(self, camera, key, parse, increment):
        if key not in camera:
            return None
        return self.attempt(f"camera.{key}", parse, camera[key], increment)

    def limits(self, camera, increment):
        usual = Limits()
        apertures = self._pair(camera, "apertures", parse_aperture, increment) or (usual.f_min, usual.f_max)
        times = self._pair(camera, "shutters", parse_time, increment) or (usual.time_min_s, usual.time_max_s)
        return Limits(*apertures, *times)

    def _pair(self, camera, key, parse, increment):
        if key not in camera:
            return None
        ends = [self.attempt(f"camera.{key}[{k}]", parse, text, increment) for k, text in enumerate(camera[key])]
        if None in ends:
            return None
        if ends[0].exact >= ends[1].exact:
            self.mistakes.append(f"camera.{key}: the first must be below the second.")
            return None
        return ends[0].exact, ends[1].exact


def deciding_readings(readings):
    """The readings that count: what a meter said wins over what the picture estimates."""
    typed = [reading for reading in readings if reading.get("kind") != "picture"]
    return typed or list(readings)


def zone_value(value):
    """A zone as a number or as people write it, within 0..10."""
    return require_zone(value) if isinstance(value, (int, float)) else parse_zone(value)


def ev_value(value):
    """EV100 as a number or as people write it, within -6..20."""
    return require_ev(value if isinstance(value, (int, float)) else parse_stops(value, "ev100"))


def reading_ev(reading, increment="third"):
    """EV100 of one reading: given as such, or as shutter, aperture and ISO. Raises CoreError with the way out."""
    if "ev100" in reading:
        if reading.get("kind") == "picture" and isinstance(reading["ev100"], (int, float)):
            return float(reading["ev100"])  # the picture's own estimate may lie below what meters read
        return ev_value(reading["ev100"])
    missing = [key for key in ("shutter", "aperture") if key not in reading]
    if missing:
        raise CoreError(
            f"A reading needs ev100, or shutter and aperture ({' and '.join(missing)} missing).",
            parameter="readings",
            code="reading-incomplete",
        )
    aperture = parse_aperture(reading["aperture"], increment)
    shutter = parse_time(reading["shutter"], increment)
    iso = parse_speed(reading.get("iso", 100), increment)
    return require_ev(ev100(aperture.exact, shutter.exact, iso.exact))


def linear_colour(colour):
    """Linear sRGB of three numbers, or of "#rrggbb"."""
    return linear_of_hex(colour) if isinstance(colour, str) else tuple(float(c) for c in colour)


def tone_ev(entry, calibration=0.0, increment="third"):
    """EV100 of one tone of a checked document, or None before its first reading."""
    evs = _Reader().evs(entry, "", increment, calibration)
    return combined(evs).ev100 if evs else None


def written_setting(aperture, shutter):
    """ "1/125 f/8", the form in which settings are shown together."""
    return f"{format_time(shutter)} {format_aperture(aperture)}"
