"""What the judge may know beside a document, and one thing that it may try."""

from collections.abc import Callable
from dataclasses import dataclass, field


@dataclass(frozen=True)
class Around:
    """What the judge may know beside the document.

    owned: names of coloured and grey glass that the kit has, None where nobody has said. kit: name of a kit's own filter -> Glass, where it
    has a factor or a spectrum of its own. sun_in_frame: no glass helps then. on_roll: its development is the roll's. white_fall: fall of the
    picture's brightest hundredth, None without a picture. tops: name of a subject -> height from the top at which sky begins over it. wind_m_s,
    focal_35mm: for what shakes a tripod. in_sun: the sun is up, in clear or hazy air, and no hill stands before it. hours: gives the
    otherways.Hour of each other hour of the day at which the same things are lit, None without a sky in the frame.
    """

    owned: frozenset | None = None
    kit: dict = field(default_factory=dict)
    sun_in_frame: bool = False
    on_roll: bool = False
    white_fall: float | None = None
    tops: dict = field(default_factory=dict)
    wind_m_s: float = 0.0
    focal_35mm: float = 0.0
    in_sun: bool = False
    hours: Callable | None = None


NOWHERE = Around()


def around_sky(document, sky):
    """The Around of a Document under a FrameSky, None for none, without a kit and a picture."""
    focal = document.lens.focal_35mm or 0.0
    if sky is None:
        return Around(focal_35mm=focal)
    return Around(
        sun_in_frame=sky.sun_gap_deg is not None and sky.sun_gap_deg <= 0,
        wind_m_s=sky.conditions.wind_m_s,
        focal_35mm=focal,
        in_sun=sky.sun_altitude_deg > 0 and not sky.sun_is_hidden and sky.conditions.air != "overcast",
    )


@dataclass(frozen=True)
class Move:
    """One thing to change. code: as document.changes reads it. kind: two of one kind do not go together. edit: from Brief to Brief.

    cost: beside what the score says, once. alone: it is tried by itself only. owned: whether the glass that it needs is in the kit.
    """

    code: str
    kind: str
    edit: Callable
    cost: float = 0.0
    alone: bool = False
    owned: bool = True
