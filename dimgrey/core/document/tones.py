"""The document's keys of a key tone and its readings. Every key, shape and default once."""

from dataclasses import dataclass

from dimgrey.core.measure.readings import KINDS
from dimgrey.core.planning.brief import ROLES
from dimgrey.core.shapes.declare import (
    Shaped,
    either,
    exactly,
    key,
    many,
    needed,
    number,
    one_of,
    several,
    text,
    written,
)

MAX_READINGS = 40
STOPS = number(-40, 40)
FRACTION = number(0, 1)
GUESSES = ("name", "role")
COLOUR = either(exactly(3, number(-16, 100000)), text(0, pattern="^#[0-9a-fA-F]{6}$"))
TEXTURE = (
    "Whether it must keep texture. Default: needed; free for a tone whose role is said to be other, "
    "and for the figure of a silhouette."
)


@dataclass(frozen=True)
class Reading(Shaped):
    """One reading of a tone: ev100, or shutter, aperture and iso as they were marked.

    kind: spot, incident, whole frame, grey card, estimate, picture. meter: its name. calibration_stops: its offset, None
    for the meter's of the document. low_ev100, high_ev100: 10th and 90th percentile under the spot. stops: of a picture
    reading, from the picture's middle grey. clipped: share of the spot that is blank. shift: stops that the light changed
    since. taken_at: ISO 8601. through: the coloured filters it was read through, "" for none.
    """

    kind: str = key(one_of(*KINDS), "spot", about="A picture reading gives way to any other.")
    ev100: float | str | None = key(written())
    shutter: str | float | None = key(written(), about='1/125, 0.5", 2s')
    aperture: str | float | None = key(written(), about="f/8")
    iso: str | float = key(written(), 100, about="400")
    taken_at: str = key(text(40), "", about="ISO 8601 time.")
    meter: str = key(text(60), "")
    calibration_stops: float | None = key(
        number(-3, 3), about="Offset of the meter that took it; without one, the offset of `meter`.", since=2
    )
    low_ev100: float | None = key(STOPS)
    high_ev100: float | None = key(STOPS)
    stops: float | None = key(STOPS, about="log2(Y / 0.18) in the picture, to fit its light again.")
    clipped: float = key(number(0, 1), 0.0)
    shift: float = key(number(-20, 20), 0.0, about="Stops that the light changed since it was taken.")
    note: str = key(text(120), "")
    through: str = key(
        text(200), "", about='The coloured filters it was read through: "orange", "yellow + green".', since=4
    )

    @property
    def is_of_picture(self):
        return self.kind == "picture"

    @property
    def is_scaled(self):
        """Whether it says an EV; a pin in a picture whose light has no scale yet does not."""
        return self.ev100 is not None or self.shutter is not None

    @property
    def spread_stops(self):
        """Stops between the ends seen under the spot, 0 when they were not seen."""
        return 0.0 if self.low_ev100 is None or self.high_ev100 is None else self.high_ev100 - self.low_ev100


@dataclass(frozen=True)
class ToneEntry(Shaped):
    """A key tone. mark: its letter. role: None when it was never said. ev100: a corrected value without readings.

    colour: linear sRGB, or "#rrggbb", or None. texture: "needed", "free", or None for the default of role and school.
    wish: the lowest and highest zone that its print shall have, or None. at: its place in the picture as fractions. area: corners of an area instead of a spot, as fractions.
    lit: "lit" or "unlit", None when it was never said. glare_stops: what a polarizer takes of its reflections. guessed: which of
    "name" and "role" the program guessed and nobody took yet.
    """

    name: str = needed(text(60, 1))
    mark: str = key(
        text(0, pattern="^[A-Z]{1,2}$"), "", always=True, about="Letter on the picture and the rail.", asked=2
    )
    role: str | None = key(one_of(*ROLES))
    ev100: float | str | None = key(written(), about="EV100 already corrected; use readings for what a meter said.")
    readings: tuple = many(Reading, MAX_READINGS)
    colour: tuple | str | None = key(COLOUR, about="Linear sRGB, three numbers, or #rrggbb.")
    texture: str | None = key(one_of("needed", "free"), about=TEXTURE)
    wish: tuple | None = key(exactly(2, number(0, 10)), about="Zones that its print shall lie between.", since=3)
    at: tuple | None = key(exactly(2, FRACTION), about="Place in the picture as fractions of width and height.")
    area: tuple = key(
        several(exactly(2, FRACTION), most=60),
        (),
        about="Corners of the area that it is, as fractions; none for a spot.",
        since=5,
    )
    lit: str | None = key(one_of("lit", "unlit"), about="Whether the main light falls on it.", since=4)
    glare_stops: float = key(
        number(0, 2), 0.0, about="What a polarizer takes of its reflections: water, leaves, glass.", since=4
    )
    guessed: tuple = key(
        several(one_of(*GUESSES), most=2), (), about="What the program guessed; it drives nothing until taken.", since=4
    )

    @property
    def known_role(self):
        """Its role where somebody said or took it, else None."""
        return None if "role" in self.guessed else self.role

    @property
    def picture_reading(self):
        """What the picture says of it, or None."""
        return next((r for r in self.readings if r.is_of_picture and r.stops is not None), None)

    @property
    def typed_readings(self):
        return tuple(r for r in self.readings if not r.is_of_picture)

    @property
    def plain_readings(self):
        """What a meter said of it without a coloured filter before it."""
        return tuple(r for r in self.typed_readings if not r.through)

    @property
    def deciding_readings(self):
        """The readings that count: what a meter said wins over what the picture estimates."""
        return self.plain_readings or self.readings

    @property
    def is_read(self):
        return self.ev100 is not None or bool(self.readings)
