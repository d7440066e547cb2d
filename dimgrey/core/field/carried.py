"""What of a scene lies beside its document on a phone: the Case that acts meet there."""

import base64
from dataclasses import dataclass, field
from types import SimpleNamespace
from typing import Any

from dimgrey.core.acts.case import Case, Elsewhere
from dimgrey.core.document.edits import Refused
from dimgrey.core.document.lightscale import light_scale
from dimgrey.core.picture.mapcodes import spot_of_codes

SAME_PLACE = 1e-3
"""Fraction of a side within which a pin is still where it was carried."""
NOTHING_TO_UNDO = Refused("There is nothing to undo.", code="nothing-to-undo")
NOTHING_TO_REDO = Refused("There is nothing to redo.", code="nothing-to-redo")


@dataclass(frozen=True)
class Sun:
    """Where the sun stood over a scene as it was carried. view, place: of its document then; with others it is not known here."""

    altitude_deg: float | None
    view: Any
    place: Any


@dataclass(frozen=True)
class Carried(Case):
    """A scene as a phone carries it.

    kit: kind -> name -> item. mixes_of: camera -> its measured mixes. setups: number -> SetupPart. polarizer: what stands in for
    overhead.Polarized, or None. sky_places: of pins that lie in the picture's sky. sky: its FrameSky, or None. sun: Sun, None where it was not carried. spot: the SpotSeen that an
    act was sighted in. past, ahead: documents before and after this one, the nearest last; is_whole: there are no
    others at the desk. steps: (document before, document after) of acts by what their lines are known by. lines: the ribbon.
    """

    kit: dict = field(default_factory=dict)
    mixes_of: dict = field(default_factory=dict)
    setups: dict = field(default_factory=dict)
    polarizer: Any = None
    sky_places: tuple = ()
    sky: Any = None
    sun: Sun | None = None
    spot: Any = None
    past: tuple = ()
    ahead: tuple = ()
    is_whole: bool = False
    steps: dict = field(default_factory=dict)
    lines: tuple = ()

    def polarized(self, document):
        return self.polarizer

    def in_sky(self, document):
        return self._carried_sky if self.sky_places else None

    def _carried_sky(self, x, y):
        return any(abs(x - a) < SAME_PLACE and abs(y - b) < SAME_PLACE for a, b in self.sky_places)

    def meter(self, document):
        if self.spot is None:
            return super().meter(document)
        return _SpotMeter(self, document)

    def item(self, kind, name):
        return self.kit.get(kind, {}).get(name)

    def mixes(self, camera):
        return self.mixes_of.get(camera)

    def setup(self, number):
        return self.setups.get(number)

    def sun_altitude(self, document):
        if self.sun is None or (self.sun.view, self.sun.place) != (document.view, document.place):
            return super().sun_altitude(document)
        return self.sun.altitude_deg

    def before(self, document):
        return self._nearest(self.past, NOTHING_TO_UNDO)

    def after(self, document):
        return self._nearest(self.ahead, NOTHING_TO_REDO)

    def around(self, document, line):
        if line in self.steps:
            return self.steps[line]
        if self.is_whole:
            return document, document
        return super().around(document, line)

    def _nearest(self, documents, nothing):
        if not documents:
            raise nothing if self.is_whole else Elsewhere("the scene's history")
        return documents[-1]

    def seen(self, document, spot):
        """A meter's answer for a SpotSeen."""
        codes = base64.b64decode(spot.codes)
        clip = self.facts.clip if self.facts else None
        seen = spot_of_codes(codes, spot.width, spot.column, spot.row, spot.radius, clip)
        scale = light_scale(document, self.facts)
        ev = lambda stops: scale.offset + scale.slope * stops if scale else stops
        return SimpleNamespace(
            spot=seen, ev100=ev(seen.mean_stops), low_ev100=ev(seen.low_stops), high_ev100=ev(seen.high_stops)
        )


class _SpotMeter:
    """The meter of one act: what was sighted travels with it."""

    def __init__(self, carried, document):
        self.carried, self.document = carried, document

    def read(self, x, y, spot_deg):
        return self.carried.seen(self.document, self.carried.spot)

    def read_area(self, outline):
        raise Elsewhere("the light of the picture")
