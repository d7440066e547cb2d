"""What passes between desk, phone and the field's page, as declared shapes: what is taken along, and what the page asks of its worker.

The desk writes it (`field.bundle`) and the page's own script asks it, so it is read without a check; the keys stand here alone.
What a page carries for its own use (pictures, stamps, the greys of its ground) is beyond these shapes and left as it is.
"""

import json
from dataclasses import dataclass

from dimgrey.core.document.means import SetupPart
from dimgrey.core.document.onroll import RollInUse
from dimgrey.core.field.lines import Line
from dimgrey.core.shapes.declare import ANYTHING, Shaped, key, many, maybe, part
from dimgrey.core.shapes.plain import read_part

MOST_ROWS = 10_000


@dataclass(frozen=True)
class KitRow(Shaped):
    """An item of the kit. values: its fields."""

    name: str = key(ANYTHING, "")
    values: dict = key(ANYTHING, {})


@dataclass(frozen=True)
class SetupRow(Shaped):
    """A kept setup by its number."""

    pk: int = key(ANYTHING)
    name: str = key(ANYTHING, "")
    part: SetupPart = maybe(SetupPart)


@dataclass(frozen=True)
class KitTaken(Shaped):
    """The kit as it is taken along. items: kind -> rows, filters apart. terms: as `colour.chainterms.packed` makes them. mixes: camera -> its
    measured mixes. labels: how tones are named."""

    labels: str = key(ANYTHING, "zones")
    filters: tuple = many(KitRow, MOST_ROWS)
    setups: tuple = many(SetupRow, MOST_ROWS)
    rolls: tuple = many(RollInUse, MOST_ROWS)
    items: dict = key(ANYTHING, {})
    mixes: dict = key(ANYTHING, {})
    terms: dict = key(ANYTHING, {})

    @property
    def rows(self):
        """kind -> its KitRow, filters too."""
        rows = {kind: [read_part(KitRow, row) for row in of_kind] for kind, of_kind in self.items.items()}
        return {**rows, "filter": self.filters}


@dataclass(frozen=True)
class Around(Shaped):
    """Documents before and after one, the nearest last: where undo and redo lead. whole: there are no others at the desk. lines: what
    was done to the scene, those with a `step` to the state of that place in `past`."""

    past: tuple = key(ANYTHING, ())
    ahead: tuple = key(ANYTHING, ())
    whole: bool = key(ANYTHING, False)
    lines: tuple = many(Line, MOST_ROWS)


@dataclass(frozen=True)
class SceneTaken(Shaped):
    """A scene as it is taken along. polarized: rows of x, y, stops, of a polarizer at its deepest where none is on. in_sky: places of
    pins that lie in the picture's sky. sun: its altitude in degrees, None for no sun known."""

    document: dict = key(ANYTHING, {})
    facts: dict | None = key(ANYTHING)
    polarized: tuple = key(ANYTHING, ())
    in_sky: tuple = key(ANYTHING, ())
    sky: dict | None = key(ANYTHING)
    sun: float | None = key(ANYTHING)
    history: Around = part(Around)


@dataclass(frozen=True)
class SpotSeen(Shaped):
    """The piece of a light map that an act is sighted in. codes: base64 of its codes, `width` of them in a row. column, row, radius: of
    the spot in it, pixels."""

    codes: str = key(ANYTHING, "")
    width: int = key(ANYTHING, 0)
    column: float = key(ANYTHING, 0)
    row: float = key(ANYTHING, 0)
    radius: float = key(ANYTHING, 0)


@dataclass(frozen=True)
class Asked(Shaped):
    """What the page asks of a scene after its acts. preview: an act that is tried and not remembered. spot, y, sky: of the ring while the
    finger moves, y as a fraction from the top."""

    acts: tuple = key(ANYTHING, ())
    preview: dict | None = key(ANYTHING)
    spot: SpotSeen = maybe(SpotSeen)
    y: float = key(ANYTHING, 0.0)
    sky: bool = key(ANYTHING, False)


@dataclass(frozen=True)
class Sighted(Shaped):
    """What a sighted act brings beside its keys."""

    spot: SpotSeen = maybe(SpotSeen)


@dataclass(frozen=True)
class FinderAsked(Shaped):
    """What a live view is seen through. kit: kind -> name. choice: filter or mix. hard: squeezed."""

    kit: dict = key(ANYTHING, {})
    choice: str = key(ANYTHING, "none")
    hard: bool = key(ANYTHING, False)


@dataclass(frozen=True)
class ShotTold(Shaped):
    """Exposure data of a file, as `shot_of` tells them."""

    ev100: float | None = key(ANYTHING)
    focal_35mm: float | None = key(ANYTHING)


@dataclass(frozen=True)
class BeginAsked(FinderAsked):
    """A scene that begins in the field. size: (width, height) of its picture, None without. view: heading_deg and tilt_deg as the phone's
    sensors say, either may miss."""

    title: str = key(ANYTHING, "")
    size: tuple | None = key(ANYTHING)
    shot: ShotTold = part(ShotTold)
    view: dict | None = key(ANYTHING)


@dataclass(frozen=True)
class AwaitAsked(Shaped):
    """The light that is awaited, and an interval. rows: of the day's light. clock: "14:05". every_s, minutes, longest_s, frame_mb: of the
    interval."""

    rows: tuple = key(ANYTHING, ())
    clock: str = key(ANYTHING, "")
    every_s: float | None = key(ANYTHING)
    minutes: float | None = key(ANYTHING)
    longest_s: float | None = key(ANYTHING)
    frame_mb: float | None = key(ANYTHING)


def asked_in(text, shape):
    """What a JSON text asks. shape: class of it."""
    return read_part(shape, json.loads(text))
