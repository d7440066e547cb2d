"""The scene document: every key, and what each means when it is not said. Written here once.

A `Document` is the plain data of one scene, read-only. `plainform` makes one of the JSON of docs/scene-file.md and turns
it back; what equals its default is left out. Shape is checked by `schema`, meaning by `read`, changes are
made by `edits`, older versions are lifted by `upgrade`.
"""

from dataclasses import dataclass, field, replace

from dimgrey.core.document.parts import always, maybe, part

FORMAT = "dimgrey-scene"
MAX_TONES, MAX_READINGS, MAX_FILTERS, MAX_PAIRS, MAX_NOTES = 40, 40, 6, 8, 4000
"""As in the schema, which a test holds them to."""
DEFAULT_FOCAL_35MM = 50.0
DEFAULT_SPOT_DEG = 1.0
DEFAULT_ISO_MAX = 6400.0


@dataclass(frozen=True)
class Wanted:
    """What the picture is to be, in words, and the light it wants. scale: a tone scale or "". lights: codes of WANTS."""

    mood: str = ""
    subject: str = ""
    dark: str = ""
    light: str = ""
    textured: str = ""
    empty: str = ""
    scale: str = ""
    lights: tuple = ()


@dataclass(frozen=True)
class View:
    """Where the camera looks and when. heading_deg: from north, clockwise. time: "HH:MM" at the place, or ""."""

    heading_deg: float | None = None
    tilt_deg: float | None = None
    time: str = ""
    sky: bool = False


@dataclass(frozen=True)
class CropPart:
    """A crop. box: left, top, right, bottom as fractions. ratio: its shape. upright: taller than wide."""

    box: tuple
    ratio: str = "free"
    upright: bool = False
    guides: str = "none"


@dataclass(frozen=True)
class DevelopmentRow:
    """One row of a film's table: step (N is 0), minutes or None, exposure to add in stops."""

    step: int
    minutes: float | None = None
    stops: float = 0.0


@dataclass(frozen=True)
class ReciprocityPart:
    """How film answers long exposures: an exponent from an onset in seconds on, or a table of metered and given seconds."""

    exponent: float | None = None
    onset_s: float = 1.0
    table: tuple = ()


@dataclass(frozen=True)
class MediumPart:
    """Film or sensor. response, channel_mix, dependable, outer, headroom, footroom: None is the default of its kind."""

    kind: str = always("film")
    name: str = ""
    iso: float | str = 100
    response: str | None = None
    dependable: tuple | None = None
    outer: tuple | None = None
    headroom: float | None = None
    footroom: float | None = None
    limits_per_iso: tuple = ()
    channel_mix: str | tuple | None = None
    reciprocity: ReciprocityPart | None = maybe(ReciprocityPart)
    development: tuple = part(DevelopmentRow, many=True)

    @property
    def is_film(self):
        return self.kind in ("film", "slide")

    @property
    def mixes_channels(self):
        """A colour sensor, which makes grey of its own channels."""
        return not self.is_film and self.response is None


@dataclass(frozen=True)
class MeterPart:
    """The meter in hand. calibration_stops: of readings to come; each reading keeps the offset it was taken with."""

    kind: str = "spot"
    name: str = ""
    calibration_stops: float = 0.0
    spot_deg: float = DEFAULT_SPOT_DEG
    through_filter: bool = False


@dataclass(frozen=True)
class Reading:
    """One reading of a tone: ev100, or shutter, aperture and iso as they were marked.

    kind: spot, incident, whole frame, grey card, estimate, picture. meter: its name. calibration_stops: its offset, None
    for the meter's of the document. low_ev100, high_ev100: 10th and 90th percentile under the spot. stops: of a picture
    reading, from the picture's middle grey. clipped: share of the spot that is blank. shift: stops that the light changed
    since. taken_at: ISO 8601.
    """

    kind: str = "spot"
    ev100: float | str | None = None
    shutter: str | float | None = None
    aperture: str | float | None = None
    iso: str | float = 100
    taken_at: str = ""
    meter: str = ""
    calibration_stops: float | None = None
    low_ev100: float | None = None
    high_ev100: float | None = None
    stops: float | None = None
    clipped: float = 0.0
    shift: float = 0.0
    note: str = ""

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
class ToneEntry:
    """A key tone. mark: its letter. role: None when it was never said. ev100: a corrected value without readings.

    colour: linear sRGB, or "#rrggbb", or None. texture: "needed", "free", or None for the default of role and school.
    at: its place in the picture as fractions.
    """

    name: str = always()
    mark: str = always("")
    role: str | None = None
    ev100: float | str | None = None
    readings: tuple = part(Reading, many=True)
    colour: tuple | str | None = None
    texture: str | None = None
    at: tuple | None = None

    @property
    def picture_reading(self):
        """What the picture says of it, or None."""
        return next((r for r in self.readings if r.is_of_picture and r.stops is not None), None)

    @property
    def typed_readings(self):
        return tuple(r for r in self.readings if not r.is_of_picture)

    @property
    def deciding_readings(self):
        """The readings that count: what a meter said wins over what the picture estimates."""
        return self.typed_readings or self.readings

    @property
    def is_read(self):
        return self.ev100 is not None or bool(self.readings)


@dataclass(frozen=True)
class PlacingPart:
    """How the exposure is decided. school: None for the default of the medium. tone, zone: None leaves them to it."""

    school: str | None = None
    tone: str | None = None
    zone: float | str | None = None
    hold: str = "before filter"
    under_stops: float = 0.0
    white: str = "textured"
    shadows: str = "full"


@dataclass(frozen=True)
class GlassPart:
    """One filter on the lens: by name, with what its rim says, or with its own spectrum."""

    name: str = always()
    factor: float | None = None
    stops: float | None = None
    points: tuple = ()


@dataclass(frozen=True)
class LensPart:
    """The lens: its focal length, that in 35 mm terms (None: not said), and the magnification in close-up."""

    focal_mm: float | None = None
    focal_35mm: float | None = None
    magnification: float = 0.0


@dataclass(frozen=True)
class CameraPart:
    """What the camera is set to (aperture, shutter; None follows), and what it can do."""

    name: str = ""
    aperture: str | float | None = None
    shutter: str | float | None = None
    apertures: tuple | None = None
    shutters: tuple | None = None
    frame_mm: tuple = (36.0, 24.0)
    iso_max: float = DEFAULT_ISO_MAX
    hand_factor: float = 1.0
    stabiliser_stops: float = 0.0


@dataclass(frozen=True)
class BracketPart:
    """A bracket: how many frames, how many stops apart, in which order."""

    count: int = always()
    step: float = always()
    order: str = "0 - +"


@dataclass(frozen=True)
class NeedsPart:
    """What aperture and time are chosen for. far_m: metres or "infinity"."""

    near_m: float | None = None
    far_m: float | str | None = None
    speed_m_s: float = 0.0
    distance_m: float | None = None
    motion: str = ""
    support: str = ""


@dataclass(frozen=True)
class KitPart:
    """Names of what was taken from the kit."""

    camera: str = ""
    lens: str = ""
    film: str = ""
    meter: str = ""
    setup: str = ""


@dataclass(frozen=True)
class SetupPart:
    """The in-camera setup: effects by name, -1..+1; revision None when it is no longer one that was kept."""

    name: str = always()
    revision: int | None = None
    effects: dict = field(default_factory=dict)
    filter: str = "none"
    protection_stops: float = 0.0
    file: str = "both"


@dataclass(frozen=True)
class Weather:
    """The weather of the planned hour. simulated: from the stand-in forecast."""

    cloud_percent: float = always()
    visibility_km: float = always()
    wind_m_s: float = 0.0
    simulated: bool = False


@dataclass(frozen=True)
class PlacePart:
    """Where and on which day, for a scene that leaves its outing. date: ISO 8601. zone: name of a time zone."""

    latitude_deg: float = always()
    longitude_deg: float = always()
    name: str = ""
    date: str = ""
    zone: str = "UTC"
    weather: Weather | None = maybe(Weather)


@dataclass(frozen=True)
class Document:
    """One scene. See docs/scene-file.md."""

    title: str = ""
    intent: str = ""
    wanted: Wanted = part(Wanted)
    place: PlacePart | None = maybe(PlacePart)
    view: View = part(View)
    crop: CropPart | None = maybe(CropPart)
    pairs: tuple = ()
    notes: str = ""
    increment: str = "third"
    light: str = "D55"
    light_note: str = ""
    medium: MediumPart = part(MediumPart)
    meter: MeterPart = part(MeterPart)
    tones: tuple = part(ToneEntry, many=True)
    placing: PlacingPart = part(PlacingPart)
    filters: tuple = part(GlassPart, many=True)
    lens: LensPart = part(LensPart)
    camera: CameraPart = part(CameraPart)
    bracket: BracketPart | None = maybe(BracketPart)
    needs: NeedsPart = part(NeedsPart)
    kit: KitPart = part(KitPart)
    setup: SetupPart | None = maybe(SetupPart)

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
