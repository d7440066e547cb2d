"""The document's keys of the means: film or sensor, meter, glass, lens, camera, setup. Every key, shape and default once."""

from dataclasses import dataclass

from dimgrey.core.colour.chain import CHANNEL_MIXES
from dimgrey.core.colour.responses import OF_MEDIA
from dimgrey.core.planning.media import KINDS as MEDIA_KINDS
from dimgrey.core.shapes.declare import (
    YES_NO,
    Shaped,
    by_name,
    either,
    exactly,
    key,
    many,
    maybe,
    needed,
    number,
    one_of,
    several,
    text,
    written,
)

DEFAULT_FOCAL_35MM = 50.0
DEFAULT_SPOT_DEG = 1.0
DEFAULT_ISO_MAX = 6400.0
MIXES = tuple(CHANNEL_MIXES)
MOST_OFFSET_STOPS = 3
"""Of a meter's calibration; more is another film speed or another constant."""
NAME = text(60)
ZONE = number(0, 10)
SECONDS = number(0.001, 1000000)
OFFSET = number(-MOST_OFFSET_STOPS, MOST_OFFSET_STOPS)
HUE_POINT = exactly(2, number(-2, 360))


@dataclass(frozen=True)
class DevelopmentRow(Shaped):
    """One row of a film's table: step (N is 0), minutes or None, exposure to add in stops."""

    step: int = needed(number(-4, 4, "integer"))
    minutes: float | None = key(number(0.5, 120))
    stops: float = key(number(-2, 2), 0.0, about="Exposure to add for this development.")


@dataclass(frozen=True)
class ReciprocityPart(Shaped):
    """How film answers long exposures: an exponent from an onset in seconds on, or a table of metered and given seconds."""

    exponent: float | None = key(number(1, 2))
    onset_s: float = key(number(0.001, 1000), 1.0)
    table: tuple = key(several(exactly(2, SECONDS), most=40), ())


@dataclass(frozen=True)
class MediumPart(Shaped):
    """Film or sensor. response, channel_mix, dependable, outer, headroom, footroom: None is the default of its kind."""

    kind: str = key(one_of(*MEDIA_KINDS), "film", always=True)
    name: str = key(NAME, "")
    iso: float | str = key(written(), 100)
    response: str | None = key(one_of(*OF_MEDIA))
    dependable: tuple | None = key(exactly(2, ZONE))
    outer: tuple | None = key(exactly(2, ZONE))
    headroom: float | None = key(number(0.1, 10), about="Stops from middle grey to clipping.")
    footroom: float | None = key(number(0.1, 15), about="Stops from middle grey to the loss of texture.")
    limits_per_iso: tuple = key(
        several(exactly(3, number()), 1, 20),
        (),
        about="Rows of speed, headroom and footroom; at the speed in use they win over the single values.",
    )
    channel_mix: str | tuple | None = key(either(one_of(*MIXES), exactly(3, number(-5, 5))))
    own_mix: tuple = key(
        several(HUE_POINT, most=8),
        (),
        about="Own mix of a raw file: points of a curve over hue, each a hue in degrees (red 0, green 120, blue 240) and stops.",
        since=4,
    )
    reciprocity: ReciprocityPart | None = maybe(ReciprocityPart)
    development: tuple = many(DevelopmentRow, 9)
    developed: int | None = key(
        number(-4, 4, "integer"),
        about="Step of development that the whole roll gets; left out: what each scene asks for.",
        since=3,
    )
    by_sheet: bool = key(
        YES_NO, False, about="Each sheet is developed by itself: longer too, as its scene asks.", since=6
    )
    own_iso: float | str | None = key(written(), about="The film's own speed, where iso rates it otherwise.", since=3)

    @property
    def is_film(self):
        return self.kind in ("film", "slide")

    @property
    def mixes_channels(self):
        """A colour sensor, which makes grey of its own channels."""
        return not self.is_film and self.response is None


@dataclass(frozen=True)
class MeterPart(Shaped):
    """The meter in hand. calibration_stops: of readings to come; each reading keeps the offset it was taken with."""

    kind: str = key(one_of("spot", "incident", "whole frame"), "spot")
    name: str = key(NAME, "")
    calibration_stops: float = key(OFFSET, 0.0, about="Added to every reading that has no offset of its own.")
    spot_deg: float = key(number(0.1, 30), DEFAULT_SPOT_DEG)
    through_filter: bool = key(YES_NO, False, about="Metered through the filter: no factor is added.")


@dataclass(frozen=True)
class GlassPart(Shaped):
    """One filter on the lens: by name, with what its rim says, or with its own spectrum."""

    name: str = needed(text(40))
    factor: float | None = key(number(1, 100000), about="As printed on it; wins over the computed one.")
    stops: float | None = key(number(0, 20))
    edge: float | None = key(
        number(0, 1),
        about="Of a graduated filter: its edge from the top of the picture; without one it holds the sky alone.",
        since=4,
    )
    turned_deg: float = key(
        number(0, 45),
        0.0,
        about="Of a polarizer: turned away from the deepest sky; at 45 it leaves the sky as it is.",
        since=5,
    )
    points: tuple = key(
        several(exactly(2, number(0, 2000)), 3, 400), (), about="Own spectrum: wavelength in nm and transmittance 0..1."
    )


@dataclass(frozen=True)
class LensPart(Shaped):
    """The lens: its focal length, that in 35 mm terms (None: not said), and the magnification in close-up."""

    focal_mm: float | None = key(number(1, 5000))
    focal_35mm: float | None = key(number(1, 5000))
    magnification: float = key(number(0, 20), 0.0)


@dataclass(frozen=True)
class CameraPart(Shaped):
    """What the camera is set to (aperture, shutter; None follows), and what it can do."""

    name: str = key(NAME, "")
    aperture: str | float | None = key(written(), about="f/8")
    shutter: str | float | None = key(written(), about="1/125")
    apertures: tuple | None = key(exactly(2, written()), about="Widest and smallest of the lens.")
    shutters: tuple | None = key(exactly(2, written()), about="Shortest and longest of the camera.")
    frame_mm: tuple = key(exactly(2, number(3, 300)), (36.0, 24.0))
    iso_max: float = key(number(25, 1000000), DEFAULT_ISO_MAX)
    hand_factor: float = key(number(0.5, 4), 1.0)
    stabiliser_stops: float = key(number(0, 9), 0.0)


@dataclass(frozen=True)
class KitPart(Shaped):
    """Names of what was taken from the kit."""

    camera: str = key(NAME, "")
    lens: str = key(NAME, "")
    film: str = key(NAME, "")
    meter: str = key(NAME, "")
    setup: str = key(NAME, "")


@dataclass(frozen=True)
class SetupPart(Shaped):
    """The in-camera setup: effects by name, -1..+1; revision None when it is no longer one that was kept."""

    name: str = needed(text(60, 1))
    revision: int | None = key(number(1, kind="integer"))
    effects: dict = by_name(number(-1, 1))
    filter: str = key(one_of(*MIXES), "none")
    protection_stops: float = key(number(0, 3), 0.0)
    file: str = key(one_of("both", "raw", "in-camera"), "both")
