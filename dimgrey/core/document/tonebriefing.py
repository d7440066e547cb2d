"""What the tones and the glass of a scene document mean: readings as EV100, roles, texture, what filters take of each.

`briefing` makes the Brief of them.
"""

import math

from dimgrey.core.colour.chain import glass_chain, tone_shift_stops
from dimgrey.core.colour.filters import COLOURED, GREY, SOFT_EDGE, own_spectrum, require_filter
from dimgrey.core.colour.luminance import linear_of_hex
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.exposure import ev100
from dimgrey.core.measure.metering import CLIPPED_SHARE, combined
from dimgrey.core.measure.notation import parse_aperture, parse_speed, parse_stops, parse_time, require_ev
from dimgrey.core.planning.brief import Glass, Tone
from dimgrey.core.planning.intent.findings import Named
from dimgrey.core.planning.intent.reading import LISTS, read_all
from dimgrey.core.planning.media import MEDIA
from dimgrey.core.planning.scenerange import FOG_WORDS
from dimgrey.core.planning.schools import KNOWN
from dimgrey.core.sky.daylight import mentions

UPPER_MIDDLE = (0.5, 0.2)
"""Where a sky that has no place in the picture usually is, as fractions."""


FOG_PRINT = 20 / 3
"""Zone that fog is placed on: VI 2/3, between VI 1/2 and VII."""


def school_of(document):
    """The school that places the exposure: the chosen one, or the default of the medium. Fog is placed by the fog, not by its darkest tone."""
    if document.placing.school is None and fog_of(document) is not None:
        return KNOWN
    return document.placing.school or MEDIA[document.medium.kind].school


def fog_of(document):
    """The name of the tone that is the fog of a scene that nobody has placed; None where there is none, or nothing reads it."""
    placing = document.placing
    if placing.tone is not None or placing.zone is not None:
        return None
    named = (
        tone.name
        for tone in document.tones
        if "name" not in tone.guessed and tone.is_read and mentions(tone.name, FOG_WORDS)
    )
    return next(named, None)


def needs_texture(tone, document):
    """Whether a tone must keep texture: as the words of the intent say, else as said of the tone, else by its role, the school, and what
    is given up on purpose."""
    said = said_textures(document).get(tone.name)
    if said is not None:
        return said == "needed"
    role, placing = tone.known_role or "other", document.placing
    if role == "highlight" and placing.white == "pure" or role == "shadow" and placing.shadows == "empty":
        return False
    if tone.texture is not None:
        return tone.texture == "needed"
    return not (tone.role == "other" or (school_of(document) == "silhouette" and role == "subject"))


def said_lists(document):
    """The lists beside the intent, as `intent.reading.LISTS` names them."""
    wanted = document.wanted
    return tuple((kind, getattr(wanted, kind)) for kind in LISTS if getattr(wanted, kind))


def said_textures(document):
    """Name of a tone -> "needed" or "free", as the words say it and nobody has struck it."""
    lists = said_lists(document)
    if not (document.intent or lists):
        return {}
    tones = tuple(Named(tone.name, tone.known_role or "other", "name" not in tone.guessed) for tone in document.tones)
    struck = document.wanted.struck
    return {
        name: kind
        for name, kind in read_all(document.intent, lists, tones).textures.items()
        if texture_key(name) not in struck
    }


def edge_of_skies(document):
    """Where the edge of graduated glass stands where nobody has set it, as a fraction from the top: so that every place that was sighted as
    sky has all of it. None where none has a place."""
    heights = [tone.at[1] for tone in document.tones if tone.at and tone.known_role == "sky"]
    return round(min(max(heights) + SOFT_EDGE, 1.0), 3) if heights else None


def texture_key(name):
    """By what the words about a tone's texture are struck."""
    return f"texture: {name}"


def glass_in_front(document):
    """The coloured glass on the lens in words, "orange" or "yellow + green"; "" for none."""
    return " + ".join(glass.name for glass in document.filters if glass.name in COLOURED or glass.points)


def tone_ev(tone, document):
    """EV100 of one tone, or None before its first reading. Raises CoreError for a reading that says nothing."""
    evs, _ = ToneReader(document).evs(tone, "")
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


BLUE_STOPS = 0.2
"""log2(B/R) from which a colour can be a sky's."""
BLOCKED_STOPS = -7.5
"""Stops under its middle at which an eight-bit picture has its last two or three codes: below, its black says nothing."""


def _is_blocked(reading):
    return reading.is_of_picture and reading.stops is not None and reading.stops <= BLOCKED_STOPS


def linear_colour(colour):
    """Linear sRGB of three numbers, or of "#rrggbb"."""
    return linear_of_hex(colour) if isinstance(colour, str) else tuple(float(c) for c in colour)


def ev_value(value):
    """EV100 as a number or as people write it, within -6..20. Raises CoreError."""
    return require_ev(parse_stops(value, "ev100") if isinstance(value, str) else value)


class ToneReader:
    """Reads tones and glass of a Document and gathers what is wrong in `mistakes`. polarized, in_sky: as in
    briefing.brief_of."""

    def __init__(self, document, polarized=None, in_sky=None):
        self.document = document
        self.polarized, self.in_sky = polarized, in_sky
        self.mistakes = []

    def attempt(self, path, function, *args, **kwargs):
        try:
            return function(*args, **kwargs)
        except CoreError as refused:
            self.mistakes.append(f"{path}: {refused}")
            return None

    def wish(self, entry, path):
        if entry.wish is None or entry.wish[0] <= entry.wish[1]:
            return entry.wish
        self.mistakes.append(f"{path}.wish: the lower zone comes first.")
        return None

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
        return Glass(
            name,
            factor=entry.factor,
            stops=stops,
            edge=self.edge_of(entry, name),
        )

    def is_sky(self, entry, colour):
        """Whether a tone is looked at as sky: said so, or its pin is blue and lies in the picture's sky, whose pixels are."""
        if entry.known_role == "sky":
            return True
        if self.in_sky is None or entry.at is None or colour is None or min(colour) <= 0:
            return False
        return math.log2(colour[2] / colour[0]) > BLUE_STOPS and bool(self.in_sky(*entry.at))

    def edge_of(self, entry, name):
        """Where the edge of a graduated filter stands; None where it holds back the sky of a scene without places."""
        if name not in GREY or not GREY[name].over_sky:
            return None
        return edge_of_skies(self.document) if entry.edge is None else entry.edge

    def tone(self, entry, path):
        deciding = entry.deciding_readings
        evs, incident = self.evs(entry, path)
        colour = linear_colour(entry.colour) if entry.colour is not None else None
        through = self.through_evs(entry, path)
        return Tone(
            name=entry.name,
            role=entry.known_role or "other",
            evs=evs or self.without_glass(colour, through),
            incident=incident,
            colour=colour,
            sky=self.is_sky(entry, colour),
            polarized_stops=self.polarized_stops(entry),
            through_evs=through,
            lit=entry.lit,
            named="name" not in entry.guessed,
            height=entry.at[1] if entry.at else None,
            needs_texture=needs_texture(entry, self.document),
            mixed=max((reading.spread_stops for reading in entry.readings), default=0.0),
            wish=self.wish(entry, path),
            of_picture=entry.ev100 is None and all(r.kind == "incident" for r in entry.plain_readings),
            clipped=bool(deciding) and all(reading.clipped > CLIPPED_SHARE for reading in deciding),
            blocked=bool(deciding) and all(_is_blocked(reading) for reading in deciding),
        )

    @property
    def coloured(self):
        """Names of the coloured glass on the lens, as a reading through it names them."""
        return glass_in_front(self.document)

    def through_evs(self, entry, path):
        """EV100 of the readings through the glass that is on the lens; others wait until it is again."""
        found = (
            self.attempt(f"{path}.readings[{k}]", corrected_ev, reading, self.document)
            for k, reading in enumerate(entry.readings)
            if reading.through and reading.through == self.coloured
        )
        return tuple(ev for ev in found if ev is not None)

    def without_glass(self, colour, through):
        """EV100 that a tone would have without the glass it alone was read through, as its colour lets expect."""
        if not through:
            return ()
        light = self.document.light
        glasses = (self.glass(each, "filters") for each in self.document.filters)
        meter = glass_chain("eye", light, tuple(each.spectrum for each in glasses if each and each.is_coloured))
        shift = tone_shift_stops(meter, colour, light=light) if colour else 0.0
        return tuple(ev + meter.stops - shift for ev in through)

    def polarized_stops(self, entry):
        """Light that a polarizer on the lens takes from one tone beside what it takes from all."""
        if self.document.meter.through_filter or all(glass.name != "polarizer" for glass in self.document.filters):
            return 0.0
        if self.is_sky(entry, None if entry.colour is None else linear_colour(entry.colour)):
            return -float(self.polarized.stops(*(entry.at or UPPER_MIDDLE))) if self.polarized else 0.0
        return float(entry.glare_stops)

    def evs(self, entry, path):
        """(EV100 of each reading of the tone's light, of each incident reading): the two are never averaged.

        A tone of which only the incident light is known stands for a middle grey in that light.
        """
        if entry.ev100 is not None:
            ev = self.attempt(f"{path}.ev100", ev_value, entry.ev100)
            return (() if ev is None else (ev,)), ()
        found, incident = [], []
        metered = any(reading.kind != "incident" for reading in entry.plain_readings)
        for k, reading in enumerate(entry.readings):
            if reading.through or (reading.is_of_picture and reading.ev100 is None):
                continue  # read through glass, or a pin in a picture whose light has no scale yet
            ev = self.attempt(f"{path}.readings[{k}]", corrected_ev, reading, self.document)
            if ev is not None and reading.kind == "incident":
                incident.append(ev)
            elif ev is not None and (not reading.is_of_picture or not metered):
                found.append(ev)
        return (tuple(found) or tuple(incident)), tuple(incident)
