"""Glass filters in front of the lens: what there is, by name, and what a user's own must be."""

import difflib
from dataclasses import dataclass

from dimgrey.core.errors import CoreError

POLARIZER_STOPS = 4 / 3
"""Light a polarizing filter costs everything, in stops; a usual figure, printed ones differ by a third."""


COLOURED = {
    "light yellow": (470, None, 8, 0.90),
    "yellow": (495, None, 9, 0.90),
    "deep yellow": (525, None, 7, 0.90),
    "yellow-orange": (537, None, 7, 0.90),
    "orange": (555, None, 7, 0.90),
    "red": (600, None, 6, 0.88),
    "deep red": (622, None, 6, 0.88),
    "yellow-green": (480, 605, 14, 0.62),
    "green": (500, 565, 9, 0.66),
    "blue": (400, 485, 10, 0.58),
}
"""Coloured glass by name: from and to where it passes light, nm (None: to the end), width of its edges, nm, and what it passes there.
Its curves are made in curves.py."""


@dataclass(frozen=True)
class GreyGlass:
    """A filter that takes all colours alike.

    label: what its field is called. words: in the line of the sheet, with {stops}. called: in sentences. usual_stops: what
    it takes where nothing is said, None when it must be said. steps: the stops that there are to choose from, one for a
    filter that is on or off, () for any. over_sky: it holds back the sky alone.
    """

    label: str
    words: str
    called: str
    usual_stops: float | None = None
    steps: tuple = ()
    over_sky: bool = False


GREY = {
    "polarizer": GreyGlass("Polarizer (1⅓ stops)", "polarizer", "polarizer", POLARIZER_STOPS, (POLARIZER_STOPS,)),
    "nd": GreyGlass("Neutral density, stops", "neutral density {stops}", "neutral-density filter"),
    "graduated": GreyGlass(
        "Graduated, over the sky", "graduated {stops}", "graduated filter", 2.0, (1, 2, 3), over_sky=True
    ),
}
"""Everything that plan, sheet, kit and scene file know of grey glass: a new kind is one more row."""
FILTERS = (*COLOURED, *GREY)
SOFT_EDGE = 0.08
"""Half of the way over which a graduated filter sets in, as a fraction of the picture's height."""


def graduated_share(y, edge):
    """How much of a graduated filter lies over a height in the picture, 1 above its edge to 0 below, smooth between.

    y: as a fraction from the top, a number or an array. edge: where its middle stands.

    >>> [round(float(graduated_share(y, 0.4)), 6) for y in (0.1, 0.4, 0.6)]
    [1.0, 0.5, 0.0]
    """
    t = (edge + SOFT_EDGE - y) / (2 * SOFT_EDGE)
    t = (abs(t) - abs(t - 1) + 1) / 2  # held to 0..1, for a number as for an array
    return t * t * (3 - 2 * t)


LARGEST_GAP_NM = 50.0
NEEDED_NM = (400.0, 700.0)


def own_spectrum(points):
    """A user's own filter as a tuple of (wavelength nm, transmittance), rising; between points it is straight.

    Raises CoreError for fewer than three points, wavelengths that do not rise, transmittances outside 0..1, a gap of more
    than 50 nm, or a curve that does not reach from 400 to 700 nm.
    """
    rows = [(float(nm), float(value)) for nm, value in points]
    refuse = lambda message, code: CoreError(message, parameter="points", code=code)
    if len(rows) < 3:
        raise refuse(f"A filter's spectrum needs at least three points (got {len(rows)}).", "spectrum-short")
    for (a, _), (b, _) in zip(rows, rows[1:], strict=False):
        if not a < b:
            raise refuse(f"Wavelengths must rise: {b:g} nm comes after {a:g} nm.", "spectrum-unsorted")
        if b - a > LARGEST_GAP_NM:
            raise refuse(
                f"The spectrum has a gap from {a:g} to {b:g} nm; give a point at least every {LARGEST_GAP_NM:g} nm.",
                "spectrum-gap",
            )
    for nm, value in rows:
        if not 0 <= value <= 1:
            raise refuse(
                f"Transmittance is 0 to 1 (got {value:g} at {nm:g} nm). For 85 % write 0.85.", "spectrum-range"
            )
    if rows[0][0] > NEEDED_NM[0] or rows[-1][0] < NEEDED_NM[1]:
        raise refuse(
            f"The spectrum must reach from 400 to 700 nm (got {rows[0][0]:g} to {rows[-1][0]:g}).", "spectrum-ends"
        )
    if max(value for _, value in rows) < 1e-4:
        raise refuse("A filter that lets nothing through is a lens cap.", "spectrum-black")
    return tuple(rows)


def require_filter(name):
    """`name` if it is a known filter; otherwise CoreError with the nearest names."""
    if name in FILTERS:
        return name
    close = difflib.get_close_matches(str(name), FILTERS, n=2, cutoff=0.5)
    hint = f"Did you mean {' or '.join(close)}?" if close else f"Known filters: {', '.join(FILTERS)}."
    raise CoreError(f"There is no filter “{name}”. {hint}", parameter="filters", code="filter-unknown")
