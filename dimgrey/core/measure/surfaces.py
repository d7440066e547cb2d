"""What surfaces usually want: the zone that a photographer puts them on, and the compensation of a meter pointed at them.

Compensation is intended zone less V. Starting points, not rules: taste and light decide. Source: HANDBOOK 3 and 4.
"""

from dataclasses import dataclass

from dimgrey.core.sky.daylight import mentions


@dataclass(frozen=True)
class Surface:
    """name: as people say it. words: those of a tone's name that mean it. zone: where it usually goes."""

    name: str
    words: tuple
    zone: float

    @property
    def compensation_stops(self):
        return self.zone - 5.0


SURFACES = (
    Surface("snow in shade", ("shaded snow", "snow in shade"), 6.0),
    Surface("snow in sun", ("snow", "frost"), 7.5),
    Surface("white paper or linen", ("paper", "linen", "sheet"), 7 + 1 / 3),
    Surface("a white wall with texture", ("white wall", "lime wall", "plaster", "whitewash"), 7.0),
    Surface("white ware", ("white ware", "porcelain"), 7.0),
    Surface("a bright cloud", ("cloud",), 7.5),
    Surface("light stone", ("light stone", "limestone", "sand"), 6.0),
    Surface("pale skin in sun", ("pale skin",), 6.0),
    Surface("dark skin in sun", ("dark skin",), 5.0),
    Surface("a grey card", ("grey card",), 5.0),
    Surface("grass", ("grass", "meadow"), 5.0),
    Surface("weathered wood", ("wood", "timber", "plank"), 5.0),
    Surface("dark leaves", ("ivy", "leaves", "yew", "dark trees"), 4.0),
    Surface("a deep sky", ("blue sky", "deep sky"), 4.0),
    Surface("black cloth", ("black cloth", "velvet", "dark cloth"), 3.0),
    Surface("a shadow with texture", ("shadow with texture", "cast shadow", "dark corner"), 3.0),
    Surface("coal or soot", ("coal", "soot"), 2.0),
    Surface("a black opening", ("black opening", "doorway", "mouth"), 0.0),
)


def surface_named(name, own=()):
    """The Surface that a tone's name means, or None. own: Surface of each that a person added; they come first.

    >>> surface_named("white wall, left").zone, surface_named("blue door")
    (7.0, None)
    """
    return next((surface for surface in (*own, *SURFACES) if mentions(name, surface.words)), None)
