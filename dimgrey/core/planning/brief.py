"""The brief: everything a plan is computed from, read from a scene document by core.document.briefing."""

import math
from dataclasses import dataclass, field
from functools import cached_property

from dimgrey.core.colour.filters import COLOURED, GREY, graduated_share
from dimgrey.core.measure.brackets import Bracket
from dimgrey.core.measure.exposure import Limits
from dimgrey.core.measure.metering import combined
from dimgrey.core.measure.stops import Marked
from dimgrey.core.measure.surfaces import surface_named
from dimgrey.core.planning.media import Medium

ROLES = ("shadow", "highlight", "subject", "background", "sky", "skin", "other")


@dataclass(frozen=True)
class Tone:
    """A key tone. evs: EV100 of each reading of its light, empty before the first. colour: linear sRGB, or None for a neutral.

    incident: EV100 of each incident reading beside them; it is a setting already and is averaged with no other. of_picture:
    its light was read in the picture, not by a meter. wish: (low, high) zones that its print shall lie between, or None.
    sky: its colour is looked at as daylight, and a graduated filter holds it back; None follows the role. polarized_stops: light that a polarizer takes
    from it. through_evs: EV100 of each reading through the coloured glass that is on the lens. lit: "lit", "unlit" or None. named:
    its name was given or taken by somebody; a guessed one is no reason for anything. height: its place from the top of the
    picture, a fraction. blocked: the picture is black there, and does not say how dark it is.

    needs_texture: whether the range counts it; a tone that may go to black or white does not.
    mixed: the widest 10-90 % spread in stops seen under a spot, 0 when unknown. clipped: only a blank part of a picture
    says how bright it is, so it is brighter than that.
    """

    name: str
    role: str = "other"
    evs: tuple = ()
    colour: tuple | None = None
    needs_texture: bool = True
    mixed: float = 0.0
    clipped: bool = False
    incident: tuple = ()
    of_picture: bool = False
    wish: tuple | None = None
    sky: bool | None = None
    polarized_stops: float = 0.0
    through_evs: tuple = ()
    lit: str | None = None
    named: bool = True
    height: float | None = None
    blocked: bool = False

    @property
    def is_sky(self):
        return self.role == "sky" if self.sky is None else self.sky

    @property
    def stands_in_sky(self):
        """Whether what holds the sky back holds this back too: the sky, and a cloud that somebody named so."""
        surface = surface_named(self.name) if self.named and self.role in ("highlight", "other") else None
        return self.is_sky or (surface is not None and "cloud" in surface.words)

    @cached_property
    def reading(self):
        return combined(self.evs) if self.evs else None

    @property
    def ev100(self):
        return self.reading.ev100

    @property
    def through_ev100(self):
        """EV100 through the coloured glass, None where nobody read it so."""
        return combined(self.through_evs).ev100 if self.through_evs else None


@dataclass(frozen=True)
class Glass:
    """A filter in front of the lens. factor: printed on it, wins over the computed one. stops: of a grey filter.

    points: its own spectrum as filters.own_spectrum gives it, None for one known by name. edge: of a graduated filter, from the
    top of the picture; None where it holds back the sky alone.
    """

    name: str
    factor: float | None = None
    stops: float | None = None
    points: tuple | None = None
    edge: float | None = None

    @property
    def is_coloured(self):
        return self.points is not None or self.name in COLOURED

    @property
    def is_over_sky(self):
        """It holds back the sky alone, as a graduated filter does."""
        return not self.is_coloured and GREY[self.name].over_sky

    @property
    def spectrum(self):
        """What `transmittance` knows it by."""
        return self.points or self.name

    @property
    def grey_stops(self):
        """Stops that a grey or graduated filter takes, from its density or its factor."""
        return self.stops if self.stops is not None else math.log2(self.factor or 1)


@dataclass(frozen=True)
class PlacingChoice:
    """How the photographer wants to place: school, and tone and zone where they are chosen. hold: one of placing.HOLDS, or None for
    what `placing.usual_hold` says.

    under_stops: exposure held back on purpose. lifted: the print gives it back. white: "textured" or "pure". shadows:
    "full" or "empty". by_default: nobody has said how to place yet.
    """

    school: str = "shadow"
    tone: str | None = None
    zone: float | None = None
    hold: str | None = None
    under_stops: float = 0.0
    lifted: bool = False
    white: str = "textured"
    shadows: str = "full"
    by_default: bool = False


@dataclass(frozen=True)
class Brief:
    """Everything a plan is computed from; see docs/scene-file.md for the open format that carries it.

    intent: what is wished, in words. said_lists: (one of intent.reading.LISTS, text) each beside it. scale: a wanted tone scale. struck: keys
    of wishes that were read and are not meant. setup_toned: a setup with tone controls stands beside it. orders: wishes.Order each. pairs: (name, name) that must part.
    hand_limit_s: the longest time that a hand holds this lens, None while the lens is not known. support: "tripod", "hand", "".
    taken_in: the light from which the scale of the picture was guessed, "" where it was not.
    """

    title: str = ""
    increment: str = "third"
    light: str = "D55"
    medium: Medium = field(default_factory=Medium)
    tones: tuple = ()
    choice: PlacingChoice = field(default_factory=PlacingChoice)
    filters: tuple = ()
    magnification: float = 0.0
    through_filter: bool = False
    aperture: Marked | None = None
    shutter: Marked | None = None
    limits: Limits = field(default_factory=Limits)
    crop: tuple | None = None
    bracket: Bracket | None = None
    light_note: str = ""
    intent: str = ""
    said_lists: tuple = ()
    scale: str = ""
    struck: tuple = ()
    setup_toned: bool = False
    orders: tuple = ()
    pairs: tuple = ()
    hand_limit_s: float | None = None
    support: str = ""
    taken_in: str = ""

    @cached_property
    def coloured(self):
        """The coloured filters in front of the lens, in order, as the chain wants them."""
        return tuple(glass.spectrum for glass in self.filters if glass.is_coloured)

    @property
    def colour_choice(self):
        """Name of the filter or in-camera mix in use, as `separation.colour_choices` names it; "none" for none."""
        if self.medium.mixes_channels:
            mix = self.medium.channel_mix
            return mix if isinstance(mix, str) and not self.medium.own_mix else "own mix"
        return " + ".join(glass.name for glass in self.filters if glass.is_coloured) or "none"

    @cached_property
    def over_sky(self):
        """The graduated filters in front of the lens."""
        return tuple(glass for glass in self.filters if glass.is_over_sky)

    def held_back_stops(self, tone):
        """Stops that graduated filters hold a Tone back: by its height in the picture where that is known, else the sky's."""
        return sum(
            glass.grey_stops
            * (
                float(tone.stands_in_sky)
                if glass.edge is None or tone.height is None
                else float(graduated_share(tone.height, glass.edge))
            )
            for glass in self.over_sky
        )

    @property
    def graduated_stops(self):
        """Stops that graduated filters hold back over the sky."""
        return sum(glass.grey_stops for glass in self.over_sky)
