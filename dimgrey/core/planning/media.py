"""What film and sensor hold: dependable texture and outer limits, in zones."""

import math
from dataclasses import dataclass, replace
from itertools import pairwise
from typing import NamedTuple

from dimgrey.core.camera.setups import plain_stops
from dimgrey.core.colour.chain import glass_chain, mixed_chain
from dimgrey.core.colour.responses import RED_BLIND
from dimgrey.core.errors import CoreError
from dimgrey.core.measure.interpolation import straight_between
from dimgrey.core.measure.longexposure import Reciprocity
from dimgrey.core.planning.prints import Printing
from dimgrey.core.planning.zones import MIDDLE


class Kind(NamedTuple):
    """dependable: zones with dependable texture; outer: those between which something is still recorded: defaults, a kit's own
    numbers replace them. called: in captions. school: that places its exposure where nobody chose one."""

    dependable: tuple
    outer: tuple
    called: str
    school: str = "highlight"


MEDIA = {
    "film": Kind((3.0, 7.0), (2.0, 8.0), "negative film", "shadow"),
    "slide": Kind((3.5, 6.5), (2.5, 7.0), "slide film"),
    "digital raw": Kind((2.0, 7 + 2 / 3), (1.0, 8.3), "raw file"),
    "digital file": Kind((3.0, 7.0), (0.0, 7.7), "in-camera file"),
}
"""A digital file clips at +2.7 and raw at +3.3 stops from middle grey by default; a raw file's floor is set by noise and differs with
ISO."""
KINDS = tuple(MEDIA)
DEPENDABLE = {name: kind.dependable for name, kind in MEDIA.items()}
OUTER = {name: kind.outer for name, kind in MEDIA.items()}

SENSOR_SPARE = OUTER["digital raw"][1] - OUTER["digital file"][1]
"""Zones between where the in-camera file clips and where the sensor does: all that a softer setup can win at the bright end."""

BLOCKED_FACTOR = 32.0
"""Filter factor from which film that is blind to red gets too little light to work with."""

HEADROOM_STOPS, FOOTROOM_STOPS = (0.5, 10.0), (0.5, 15.0)
"""What a sensor's limits can be."""

EDGE = 0.01
"""Tolerance at a limit, in zones, so that a tone placed exactly on it counts as inside."""


@dataclass(frozen=True)
class Medium:
    """Film or sensor in use. Zones as (low, high); `response` is None for a colour sensor that mixes its channels.

    developments: the film's own Development table, () for the usual reach without times. tone: contrast, highlights and
    shadows of the setup that an in-camera file is made with; its limits are zones of exposure, so a softer setup widens
    them. plain: (dependable, outer) before the setup. developed: step of development that the whole roll gets, None for what
    each scene asks for. by_sheet: each sheet is developed by itself, longer too. push_stops: stops that film is rated over its own speed. own_mix: points of a raw file's curve over hue.
    """

    kind: str = "film"
    iso: float = 100.0
    response: str | None = "general panchromatic"
    dependable: tuple = DEPENDABLE["film"]
    outer: tuple = OUTER["film"]
    channel_mix: str | tuple = "none"
    reciprocity: Reciprocity | None = None
    developments: tuple = ()
    tone: tuple = (0.0, 0.0, 0.0)
    plain: tuple = ()
    developed: int | None = None
    by_sheet: bool = False
    push_stops: float = 0.0
    own_mix: tuple = ()

    def prints_of(self, limits):
        """Where limits of this medium stand in the print, zones. A film's move with its development, so that they print alike
        at every step. limits: (low, high), such as `dependable`."""
        printing = Printing(self.kind, 0, self.tone)
        return tuple(printing.print(zone).zone for zone in limits)

    def with_tone(self, tone):
        """This medium with another setup's tone effects."""
        inner, outer = self.plain or (self.dependable, self.outer)
        widened = through_setup(inner, outer, tone) if any(tone) else (inner, outer)
        return replace(self, tone=tuple(tone), dependable=widened[0], outer=widened[1], plain=(inner, outer))

    @property
    def is_film(self):
        return self.kind in ("film", "slide")

    @property
    def mixes_channels(self):
        return self.response is None

    def chain(self, light, filters=()):
        """The medium's way from colour to grey behind coloured glass.

        A colour sensor is white-balanced through the glass, so its own mix decides and the glass only takes light.
        """
        if not self.mixes_channels:
            return glass_chain(self.response, light, filters)
        return mixed_chain(self.channel_mix, self.own_mix)

    def is_blocked_by(self, light, filters):
        """Whether coloured glass passes hardly any light that this medium sees: red glass before film that is blind to red."""
        return self.response in RED_BLIND and self.glass_factor(light, filters) > BLOCKED_FACTOR

    def glass_factor(self, light, filters=()):
        """Light that coloured glass costs this medium, as a factor; a colour sensor is taken as a monochrome one."""
        return glass_chain(self.response or "monochrome sensor", light, filters).factor


def medium(
    kind,
    *,
    iso=100.0,
    response=None,
    dependable=None,
    outer=None,
    headroom=None,
    footroom=None,
    channel_mix=None,
    own_mix=(),
    reciprocity=None,
    developments=(),
    tone=(0.0, 0.0, 0.0),
    developed=None,
    by_sheet=False,
    push_stops=0.0,
):
    """A medium with the defaults of its kind where nothing else is known.

    kind: one of KINDS. iso: exact speed. response: a response class; film without one is general panchromatic, a
    sensor without one is a colour sensor. dependable, outer: (low, high) zones. headroom, footroom: stops from middle
    grey to clipping and to the loss of texture; they set the outer limits. channel_mix: of a colour sensor. reciprocity,
    developments, developed, by_sheet, push_stops: of a film. own_mix: of a raw file. tone: of a setup, see Medium. Raises CoreError where limits contradict.
    """
    if response is None and kind in ("film", "slide"):
        response = "general panchromatic"
    low, high = outer or OUTER[kind]
    high = MIDDLE + headroom if headroom is not None else high
    low = MIDDLE - footroom if footroom is not None else low
    inner_low, inner_high = dependable or (max(DEPENDABLE[kind][0], low), min(DEPENDABLE[kind][1], high))
    if not low <= inner_low < inner_high <= high:
        raise CoreError(
            f"The dependable zones {inner_low:g} to {inner_high:g} must lie within the outer zones {low:g} to {high:g}.",
            parameter="dependable",
            code="limits-contradict",
        )
    made = Medium(
        kind, iso, response, (inner_low, inner_high), (low, high), channel_mix or "none", reciprocity, developments
    )
    if kind == "film":
        made = replace(made, developed=developed, by_sheet=by_sheet, push_stops=push_stops)
    if kind == "digital raw" and made.mixes_channels:
        made = replace(made, own_mix=tuple(own_mix))
    return made.with_tone(tone) if any(tone) else made


def through_setup(inner, outer, tone):
    """(dependable, outer) zones of exposure that an in-camera file holds through a setup. inner, outer: the plain file's.

    What the tone curve brings within the file's own limits is held, as far as the sensor has it: raw's texture reaches
    down to II, and the sensor clips SENSOR_SPARE above the plain file, whatever the setup.

    >>> [round(zone, 2) for zone in through_setup((3, 7), (0, 7.7), (0, 1, 0))[0]]
    [3.0, 6.48]
    """
    low, high, black, white = (MIDDLE + plain_stops(zone - MIDDLE, tone) for zone in (*inner, *outer))
    clip = outer[1] + SENSOR_SPARE
    raw_low, raw_high = DEPENDABLE["digital raw"][0], clip - (OUTER["digital raw"][1] - DEPENDABLE["digital raw"][1])
    black, white = max(black, min(outer[0], low)), min(white, clip)
    low = max(low, min(inner[0], raw_low), black)
    return (low, min(high, max(inner[1], raw_high), white)), (black, white)


def limits_at(rows, iso):
    """(headroom, footroom) in stops at a speed, from what was measured at some: straight in stops of speed, held at the ends.

    rows: (ISO, headroom, footroom), speeds rising. iso: exact speed. Raises CoreError for rows that cannot be.

    >>> limits_at([(100, 3.0, 4.0), (400, 3.0, 3.0)], 200)
    (3.0, 3.5)
    """
    if not rows or any(len(row) != 3 for row in rows):
        raise CoreError(
            "Each row is a speed, its headroom and its footroom.", parameter="limits_per_iso", code="limits-rows"
        )
    speeds, heads, feet = zip(*rows, strict=True)
    if min(speeds) <= 0 or any(b <= a for a, b in pairwise(speeds)):
        raise CoreError("Speeds must rise from row to row.", parameter="limits_per_iso", code="limits-not-rising")
    (least, most), (shallow, deep) = HEADROOM_STOPS, FOOTROOM_STOPS
    if not (min(heads) >= least and max(heads) <= most and min(feet) >= shallow and max(feet) <= deep):
        raise CoreError(
            f"Headroom is {least:g} to {most:g} stops and footroom {shallow:g} to {deep:g}.",
            parameter="limits_per_iso",
            code="limits-range",
        )
    at, stops = math.log2(iso), [math.log2(speed) for speed in speeds]
    return straight_between(at, stops, heads), straight_between(at, stops, feet)


def texture(zone, medium_in_use):
    """What is left of a tone on a zone in a medium: "full", "faint" or "lost"."""
    if medium_in_use.dependable[0] - EDGE <= zone <= medium_in_use.dependable[1] + EDGE:
        return "full"
    if medium_in_use.outer[0] - EDGE <= zone <= medium_in_use.outer[1] + EDGE:
        return "faint"
    return "lost"
