"""What a scene document means: from the Document to the Brief that a plan is computed from.

Mistakes of meaning are gathered, each with its path, instead of stopping at the first.
"""

from dimgrey.core.camera.setups import setup
from dimgrey.core.colour.chain import mixed_chain
from dimgrey.core.colour.encoding import linear_of_hex
from dimgrey.core.colour.filters import COLOURED, GREY, own_spectrum, require_filter
from dimgrey.core.document.schema import DocumentError
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.brackets import require_bracket
from dimgrey.core.measure.exposure import Limits, ev100
from dimgrey.core.measure.longexposure import reciprocity
from dimgrey.core.measure.metering import CLIPPED_SHARE, combined
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_stops, parse_time, require_ev
from dimgrey.core.measure.steadiness import handheld_limit_s
from dimgrey.core.picture.crop import require_crop
from dimgrey.core.planning.brief import Brief, Glass, PlacingChoice, Tone
from dimgrey.core.planning.development import development_table
from dimgrey.core.planning.media import OUTER, limits_at, medium
from dimgrey.core.planning.schools import DEFAULT_SCHOOL
from dimgrey.core.planning.wishes import Order
from dimgrey.core.planning.zones import MIDDLE, parse_zone, require_zone

PLAIN_TONE = (0.0, 0.0, 0.0)


def brief_of(document):
    """The Brief of a Document. Raises DocumentError with every mistake of meaning, each naming its path."""
    reader = _Reader(document)
    brief = reader.brief()
    if reader.mistakes:
        raise DocumentError(reader.mistakes, "scene-file")
    return brief


def school_of(document):
    """The school that places the exposure: the chosen one, or the default of the medium."""
    return document.placing.school or DEFAULT_SCHOOL[document.medium.kind]


def needs_texture(tone, document):
    """Whether a tone must keep texture: as said, else by its role, the school, and what is given up on purpose."""
    role, placing = tone.role or "other", document.placing
    if role == "highlight" and placing.white == "pure" or role == "shadow" and placing.shadows == "empty":
        return False
    if tone.texture is not None:
        return tone.texture == "needed"
    return not (tone.role == "other" or (school_of(document) == "silhouette" and role == "subject"))


def tone_ev(tone, document):
    """EV100 of one tone, or None before its first reading. Raises CoreError for a reading that says nothing."""
    evs, _ = _Reader(document).evs(tone, "")
    return combined(evs).ev100 if evs else None


def reading_ev(reading, increment="third"):
    """EV100 that one reading says, before its meter's offset and changes of the light. Raises CoreError with the way out."""
    if reading.ev100 is not None:
        if reading.is_of_picture and not isinstance(reading.ev100, str):
            return float(reading.ev100)  # the picture's own estimate may lie below what meters read
        return require_ev(reading.ev100 if not isinstance(reading.ev100, str) else parse_stops(reading.ev100, "ev100"))
    missing = [key for key in ("shutter", "aperture") if getattr(reading, key) is None]
    if missing:
        raise CoreError(
            f"A reading needs ev100, or shutter and aperture ({' and '.join(missing)} missing).",
            parameter="readings",
            code="reading-incomplete",
        )
    aperture = parse_aperture(reading.aperture, increment)
    shutter = parse_time(reading.shutter, increment)
    iso = parse_speed(reading.iso, increment)
    return require_ev(ev100(aperture.exact, shutter.exact, iso.exact))


def corrected_ev(reading, document):
    """EV100 of a reading with its meter's offset and the change of the light since. Raises CoreError."""
    if reading.is_of_picture:
        offset = 0.0
    else:
        given = reading.calibration_stops
        offset = document.meter.calibration_stops if given is None else given
    return reading_ev(reading, document.increment) + offset + reading.shift


def linear_colour(colour):
    """Linear sRGB of three numbers, or of "#rrggbb"."""
    return linear_of_hex(colour) if isinstance(colour, str) else tuple(float(c) for c in colour)


def setup_of(part):
    """The checked Setup of a SetupPart. Raises CoreError."""
    return setup(part.name, part.effects, part.filter, part.protection_stops, part.file)


class _Reader:
    def __init__(self, document):
        self.document = document
        self.mistakes = []

    def attempt(self, path, function, *args, **kwargs):
        try:
            return function(*args, **kwargs)
        except CoreError as refused:
            self.mistakes.append(f"{path}: {refused}")
            return None

    def brief(self):
        document = self.document
        tones = tuple(self.tone(entry, f"tones[{k}]") for k, entry in enumerate(document.tones))
        self._names()
        glasses = (self.glass(entry, f"filters[{k}]") for k, entry in enumerate(document.filters))
        return Brief(
            title=document.title,
            increment=document.increment,
            light=document.light,
            medium=self.medium(),
            tones=tones,
            choice=self.choice(),
            filters=tuple(glass for glass in glasses if glass),
            magnification=document.lens.magnification,
            through_filter=document.meter.through_filter,
            aperture=self.marked("aperture", parse_aperture),
            shutter=self.marked("shutter", parse_time),
            limits=self.limits(),
            crop=self.crop(),
            bracket=self.bracket(),
            light_note=document.light_note,
            intent=document.intent,
            must_dark=document.wanted.dark,
            must_light=document.wanted.light,
            orders=self.orders(),
            hand_limit_s=self.hand_limit_s(),
            support=document.needs.support,
            pairs=tuple(pair for pair in document.pairs if set(pair) <= set(document.names)),
        )

    def orders(self):
        """Pair wishes between tones that are still there."""
        names = set(self.document.names)
        return tuple(
            Order(part.lighter, part.darker, float(part.zones))
            for part in self.document.orders
            if {part.lighter, part.darker} <= names and part.lighter != part.darker
        )

    def hand_limit_s(self):
        lens, camera = self.document.lens, self.document.camera
        if lens.focal_35mm is None:
            return None
        return handheld_limit_s(float(lens.focal_35mm), camera.hand_factor, camera.stabiliser_stops)

    def wish(self, entry, path):
        if entry.wish is None or entry.wish[0] <= entry.wish[1]:
            return entry.wish
        self.mistakes.append(f"{path}.wish: the lower zone comes first.")
        return None

    def bracket(self):
        part = self.document.bracket
        return part and self.attempt("bracket", require_bracket, part.count, part.step, part.order)

    def crop(self):
        found = self.document.crop and self.attempt("crop", require_crop, *self.document.crop.box)
        return found and (found.left, found.top, found.right, found.bottom)

    def _names(self):
        names = self.document.names
        for k, name in enumerate(names):
            if name in names[:k]:
                self.mistakes.append(f"tones[{k}].name: “{name}” is used twice. Give each tone a name of its own.")
        marks = [tone.mark for tone in self.document.tones]
        for k, mark in enumerate(marks):
            if mark in marks[:k]:
                self.mistakes.append(f"tones[{k}].mark: {mark} is used twice. Give each tone a letter of its own.")
        wanted = self.document.placing.tone
        if wanted is not None and wanted not in names:
            self.mistakes.append(f"placing.tone: there is no tone “{wanted}”. Known: {', '.join(names) or 'none yet'}.")

    def medium(self):
        entry, increment = self.document.medium, self.document.increment
        speed = self.attempt("medium.iso", parse_speed, entry.iso, increment)
        made = self.attempt("setup", setup_of, self.document.setup) if self.document.setup_in_use else None
        mix = entry.channel_mix or (made.filter if made and entry.response is None else None)
        if mix is not None and self.attempt("medium.channel_mix", mixed_chain, mix) is None:
            mix = None
        headroom, footroom = self.ends_of(entry, speed, made)
        rows = [(row.step, row.minutes, row.stops) for row in entry.development]
        return self.attempt(
            "medium",
            medium,
            entry.kind,
            iso=speed.exact if speed else 100.0,
            response=entry.response,
            dependable=entry.dependable,
            outer=entry.outer,
            headroom=headroom,
            footroom=footroom,
            channel_mix=mix,
            reciprocity=self.reciprocity(entry.reciprocity),
            developments=self.attempt("medium.development", development_table, rows) or (),
            tone=made.tone if made and entry.kind == "digital file" else PLAIN_TONE,
            developed=entry.developed,
            push_stops=self.push_stops(entry, speed),
        )

    def push_stops(self, entry, speed):
        """Stops that film is rated over its own speed, below 0 when it is rated under it."""
        own = entry.own_iso and self.attempt("medium.own_iso", parse_speed, entry.own_iso, self.document.increment)
        return speed.stops - own.stops if own and speed else 0.0

    def reciprocity(self, part):
        if part is None:
            return None
        if part.exponent is None and not part.table:
            self.mistakes.append("medium.reciprocity: needs an exponent or a table.")
            return None
        rows = [list(row) for row in part.table] or None
        return self.attempt("medium.reciprocity", reciprocity, part.exponent, part.onset_s, rows)

    def ends_of(self, entry, speed, made):
        """(headroom, footroom) in stops, None for the default: at the speed in use, with the setup's reserve."""
        headroom, footroom = entry.headroom, entry.footroom
        if entry.limits_per_iso and speed:
            at_speed = self.attempt("medium.limits_per_iso", limits_at, entry.limits_per_iso, speed.exact)
            headroom, footroom = at_speed or (headroom, footroom)
        if made and made.protection_stops:
            headroom = (headroom or OUTER[entry.kind][1] - MIDDLE) + made.protection_stops
        return headroom, footroom

    def tone(self, entry, path):
        deciding = entry.deciding_readings
        evs, incident = self.evs(entry, path)
        return Tone(
            name=entry.name,
            role=entry.role or "other",
            evs=evs,
            incident=incident,
            colour=linear_colour(entry.colour) if entry.colour is not None else None,
            needs_texture=needs_texture(entry, self.document),
            mixed=max((reading.spread_stops for reading in entry.readings), default=0.0),
            wish=self.wish(entry, path),
            of_picture=entry.ev100 is None and all(reading.is_of_picture for reading in entry.readings),
            clipped=bool(deciding) and all(reading.clipped > CLIPPED_SHARE for reading in deciding),
        )

    def evs(self, entry, path):
        """(EV100 of each reading of the tone's light, of each incident reading): the two are never averaged.

        A tone of which only the incident light is known stands for a middle grey in that light.
        """
        if entry.ev100 is not None:
            ev = self.attempt(f"{path}.ev100", ev_value, entry.ev100)
            return (() if ev is None else (ev,)), ()
        found, incident = [], []
        metered = any(reading.kind != "incident" for reading in entry.typed_readings)
        for k, reading in enumerate(entry.readings):
            if reading.is_of_picture and reading.ev100 is None:
                continue  # a pin in a picture whose light has no scale yet
            ev = self.attempt(f"{path}.readings[{k}]", corrected_ev, reading, self.document)
            if ev is not None and reading.kind == "incident":
                incident.append(ev)
            elif ev is not None and (not reading.is_of_picture or not metered):
                found.append(ev)
        return (tuple(found) or tuple(incident)), tuple(incident)

    def choice(self):
        part = self.document.placing
        return PlacingChoice(
            school=school_of(self.document),
            tone=part.tone,
            zone=None if part.zone is None else self.attempt("placing.zone", zone_value, part.zone),
            hold=part.hold,
            under_stops=float(part.under_stops),
            lifted=part.lifted,
            white=part.white,
            shadows=part.shadows,
            by_default=part.school is None and part.tone is None and part.zone is None,
        )

    def glass(self, entry, path):
        if entry.points:
            points = self.attempt(f"{path}.points", own_spectrum, entry.points)
            return Glass(entry.name, factor=entry.factor, points=points) if points else None
        name = self.attempt(f"{path}.name", require_filter, entry.name)
        if name is None:
            return None
        # Coloured glass whose cost is written in stops; the plan wants its factor.
        if name in COLOURED and entry.stops is not None:
            return Glass(name, factor=2.0**entry.stops)
        stops = entry.stops
        if name in GREY and stops is None and entry.factor is None:
            stops = GREY[name].usual_stops
            if stops is None:
                self.mistakes.append(f"{path}: a {GREY[name].called} needs its stops or its factor.")
                return None
        return Glass(name, factor=entry.factor, stops=stops)

    def marked(self, key, parse):
        text = getattr(self.document.camera, key)
        return None if text is None else self.attempt(f"camera.{key}", parse, text, self.document.increment)

    def limits(self):
        usual = Limits()
        apertures = self._pair("apertures", parse_aperture) or (usual.f_min, usual.f_max)
        times = self._pair("shutters", parse_time) or (usual.time_min_s, usual.time_max_s)
        return Limits(*apertures, *times)

    def _pair(self, key, parse):
        texts = getattr(self.document.camera, key)
        if texts is None:
            return None
        ends = [
            self.attempt(f"camera.{key}[{k}]", parse, text, self.document.increment) for k, text in enumerate(texts)
        ]
        if None in ends:
            return None
        if ends[0].exact >= ends[1].exact:
            self.mistakes.append(f"camera.{key}: the first must be below the second.")
            return None
        return ends[0].exact, ends[1].exact


def zone_value(value):
    """A zone as a number or as people write it, within 0..10. Raises CoreError."""
    return parse_zone(value) if isinstance(value, str) else require_zone(value)


def ev_value(value):
    """EV100 as a number or as people write it, within -6..20. Raises CoreError."""
    return require_ev(parse_stops(value, "ev100") if isinstance(value, str) else value)
