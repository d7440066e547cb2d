"""The scene document: every key, what it may hold, and what it means when it is not said. Written here once.

A `Document` is the plain data of one scene, read-only; its keys of tones and of the means are in `tones` and `means`.
`plainform` makes one of the JSON of docs/scene-file.md and turns it back; what equals its default is left out. `schema` follows
from the shapes said here; meaning is read by `read`, changes are made by `edits`, older versions are lifted by `upgrade`.
"""

from dataclasses import dataclass, replace

from dimgrey.core.document.lighting import UNITS, LightingPart
from dimgrey.core.document.means import CameraPart, GlassPart, KitPart, LensPart, MediumPart, MeterPart, SetupPart
from dimgrey.core.document.tones import FRACTION, ToneEntry
from dimgrey.core.document.upgrade import VERSION, upgraded
from dimgrey.core.measure.brackets import ORDERS
from dimgrey.core.measure.stops import INCREMENTS
from dimgrey.core.picture.crop import RATIOS
from dimgrey.core.picture.tonescales import SCALES
from dimgrey.core.planning.placing import HOLDS
from dimgrey.core.planning.schools import SCHOOLS
from dimgrey.core.shapes.declare import (
    YES_NO,
    Shaped,
    exactly,
    key,
    many,
    maybe,
    needed,
    number,
    one_of,
    part,
    several,
    text,
    written,
)
from dimgrey.core.shapes.format import Format
from dimgrey.core.sky.daylight import TAKEN_IN
from dimgrey.core.sky.wants import WANTS

MAX_TONES, MAX_FILTERS, MAX_PAIRS, MAX_NOTES = 40, 6, 8, 4000
SKY_AREAS = ("found", "none", "drawn")
GUIDES = ("none", "thirds", "golden")
MOTIONS, SUPPORTS = ("freeze", "blur"), ("tripod", "hand")
MAX_CORNERS = 60
MOST_STRUCK = 40
WORDS = text(200)
METRES = number(0.01, 100000)


@dataclass(frozen=True)
class Wanted(Shaped):
    """What the picture is to be, in words, and the light it wants. scale: a tone scale or "". lights: codes of WANTS. struck: keys
    of wishes that were read from words and are not meant. refused: codes of proposals that are not to come again."""

    mood: str = key(WORDS, "")
    subject: str = key(WORDS, "")
    dark: str = key(WORDS, "")
    light: str = key(WORDS, "")
    textured: str = key(WORDS, "")
    empty: str = key(WORDS, "")
    scale: str = key(one_of(*SCALES), "")
    lights: tuple = key(several(one_of(*WANTS), most=12), ())
    struck: tuple = key(
        several(text(200), most=MOST_STRUCK),
        (),
        about="Wishes that the words were read as and that are not meant.",
        since=6,
    )
    refused: tuple = key(
        several(text(200), most=MOST_STRUCK), (), about="Proposals that are not wanted for this scene.", since=6
    )


@dataclass(frozen=True)
class View(Shaped):
    """Where the camera looks and when. heading_deg: from north, clockwise. time: "HH:MM" at the place, or ""."""

    heading_deg: float | None = key(number(0, 360))
    tilt_deg: float | None = key(number(-90, 90))
    time: str = key(text(0, pattern="^([01][0-9]|2[0-3]):[0-5][0-9]$"), "")
    sky: bool = key(YES_NO, False)


@dataclass(frozen=True)
class CropPart(Shaped):
    """A crop. box: left, top, right, bottom as fractions. ratio: its shape. upright: taller than wide."""

    box: tuple = needed(exactly(4, FRACTION))
    ratio: str = key(one_of(*RATIOS, "free"), "free")
    upright: bool = key(YES_NO, False)
    guides: str = key(one_of(*GUIDES), "none")


@dataclass(frozen=True)
class SkyPart(Shaped):
    """The sky of the picture. area: found by the program, none, or drawn. outline: its corners as fractions, where drawn."""

    area: str = key(one_of(*SKY_AREAS), "found")
    outline: tuple = key(several(exactly(2, FRACTION), most=MAX_CORNERS), ())


@dataclass(frozen=True)
class PlacingPart(Shaped):
    """How the exposure is decided. school: None for the default of the medium. tone, zone: None leaves them to it."""

    school: str | None = key(one_of(*SCHOOLS))
    tone: str | None = key(text(60))
    zone: float | str | None = key(written(16))
    hold: str | None = key(
        one_of(*HOLDS), about="What a placed zone is a place of; left out: what the plan finds fitting."
    )
    under_stops: float = key(number(0, 3), 0.0, about="Less exposure on purpose, for drama or to save highlights.")
    lifted: bool = key(YES_NO, False, about="What is held back is given back in the print.", since=3)
    white: str = key(one_of("textured", "pure"), "textured")
    shadows: str = key(one_of("full", "empty"), "full")


@dataclass(frozen=True)
class BracketPart(Shaped):
    """A bracket: how many frames, how many stops apart, in which order."""

    count: int = needed(one_of(3, 5, 7))
    step: float = needed(number(0.3, 2))
    order: str = key(one_of(*ORDERS), "0 - +")


@dataclass(frozen=True)
class NeedsPart(Shaped):
    """What aperture and time are chosen for. far_m: metres or "infinity"."""

    near_m: float | None = key(METRES)
    far_m: float | str | None = key(written(10), about='Metres, or "infinity".')
    speed_m_s: float = key(number(0, 1000), 0.0)
    distance_m: float | None = key(METRES)
    motion: str = key(one_of(*MOTIONS), "")
    support: str = key(one_of(*SUPPORTS), "")
    shallow: bool = key(YES_NO, False, about="What lies before and behind is to be unsharp.", since=6)
    unit: str = key(one_of(*UNITS), "m", about="In which distances are told; the others here are metres.", since=6)


@dataclass(frozen=True)
class OrderPart(Shaped):
    """One tone is to print lighter than another, by name, by so many zones."""

    lighter: str = needed(text(60))
    darker: str = needed(text(60))
    zones: float = key(number(0, 10), 1.0)


@dataclass(frozen=True)
class Weather(Shaped):
    """The weather of the planned hour. simulated: from the stand-in forecast."""

    cloud_percent: float = needed(number(0, 100))
    visibility_km: float = needed(number(0, 300))
    wind_m_s: float = key(number(0, 100), 0.0)
    simulated: bool = key(YES_NO, False, about="From the stand-in forecast.")


@dataclass(frozen=True)
class PlacePart(Shaped):
    """Where and on which day, for a scene that leaves its outing. date: ISO 8601. zone: name of a time zone. hills: azimuth and
    altitude of each point of the line of hills around it, in degrees."""

    latitude_deg: float = needed(number(-90, 90))
    longitude_deg: float = needed(number(-180, 180))
    name: str = key(text(120), "")
    date: str = key(text(0, pattern="^[0-9]{4}-[0-9]{2}-[0-9]{2}$"), "")
    zone: str = key(text(60), "UTC", about="Name of a time zone, such as Europe/Lisbon.")
    weather: Weather | None = maybe(Weather)
    hills: tuple = key(
        several(exactly(2, number(0, 360)), most=36),
        (),
        about="Azimuth and altitude of the hills around it, in degrees.",
        since=5,
    )


@dataclass(frozen=True)
class TakenIn(Shaped):
    """The light that a picture without exposure data was taken in, and the EV100 of its middle grey that is guessed from it."""

    light: str = needed(one_of(*TAKEN_IN))
    ev100: float = needed(number(-20, 40), about="Of the picture's linear 0.18.")


@dataclass(frozen=True)
class Document(Shaped):
    """One scene. See docs/scene-file.md."""

    title: str = key(text(120), "")
    intent: str = key(text(600), "")
    wanted: Wanted = part(Wanted)
    place: PlacePart | None = maybe(PlacePart, since=2)
    view: View = part(View)
    crop: CropPart | None = maybe(CropPart)
    sky: SkyPart = part(SkyPart, since=4)
    taken_in: TakenIn | None = maybe(TakenIn, since=6)
    pairs: tuple = key(several(exactly(2, text(60)), most=MAX_PAIRS), ())
    orders: tuple = many(OrderPart, MAX_PAIRS, since=3)
    notes: str = key(text(MAX_NOTES), "")
    increment: str = key(one_of(*INCREMENTS), "third")
    light: str = key(one_of("D55", "D65", "A"), "D55", about="Daylight, overcast or shade, lamp.")
    light_note: str = key(text(120), "")
    medium: MediumPart = part(MediumPart)
    meter: MeterPart = part(MeterPart)
    tones: tuple = many(ToneEntry, MAX_TONES)
    placing: PlacingPart = part(PlacingPart)
    filters: tuple = many(GlassPart, MAX_FILTERS)
    lens: LensPart = part(LensPart)
    camera: CameraPart = part(CameraPart)
    bracket: BracketPart | None = maybe(BracketPart)
    needs: NeedsPart = part(NeedsPart)
    kit: KitPart = part(KitPart)
    setup: SetupPart | None = maybe(SetupPart)
    lighting: LightingPart | None = maybe(LightingPart, since=6)

    def tone(self, mark):
        """The ToneEntry of a letter, or None."""
        return next((tone for tone in self.tones if tone.mark == mark), None)

    @property
    def names(self):
        return tuple(tone.name for tone in self.tones)

    @property
    def marks(self):
        """name -> letter."""
        return {tone.name: tone.mark for tone in self.tones}

    @property
    def setup_in_use(self):
        """The setup, or None: film has none, whatever is left of one in the document."""
        return None if self.medium.is_film else self.setup

    def with_(self, **parts):
        """A copy with some parts replaced."""
        return replace(self, **parts)


SCENE = Format("scene", Document, VERSION, begun=315, upgraded=upgraded)
"""The open format "dimgrey-scene"."""
