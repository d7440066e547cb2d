"""Reading the grey picture: balance of its tones, where the eye is pulled, and what its edges do.

Source: HANDBOOK 8; centre-surround contrast after Itti, Koch & Niebur 1998, on lightness alone.
"""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.colour.luminance import LUMINANCE_WEIGHTS, MIDDLE_GREY
from dimgrey.core.shapes.declare import Shaped, needed, number, several, text

BANDS = ("black", "dark", "middle", "light", "white")
BORDERS = (2.5, 4.5, 6.5, 8.5)
"""Zones between the five bands."""
LOST_L = (2.0, 99.0)
"""Lightness at which a grey is taken as black or white without anything in it."""
PULL_SIDE = 128
SURROUND = ((2, 8), (4, 16), (8, 24))
"""Centre and surround of each scale in pixels of a picture PULL_SIDE wide."""
MOST_PULLS = 5
PULL_APART = 0.09
EDGE_WIDTH = 0.06
BRIGHT_EDGE_L = 12.0
"""How much lighter than the picture's middle an edge must be to lead the eye out."""


@dataclass(frozen=True)
class Balance:
    """Shares of the picture's area by band, summing to 1, and the share between III 1/2 and VII 1/2."""

    shares: tuple
    soft_share: float

    def share(self, band):
        return self.shares[BANDS.index(band)]


@dataclass(frozen=True, kw_only=True)
class Measures(Shaped):
    """What a small picture does in grey. balance: band -> share of the area, BANDS in their order. scales: those it holds. range_zones: from
    its 5th to its 95th part in a hundred. pulls, bright_edges, twins: how many."""

    balance: dict = needed({"type": "object", "required": list(BANDS), "additionalProperties": number(0, 1)})
    scales: tuple = needed(several(text(40), most=20))
    range_zones: float = needed(number(0, 100))
    pulls: int = needed(number(0, kind="integer"))
    bright_edges: int = needed(number(0, kind="integer"))
    twins: int = needed(number(0, kind="integer"))

    def share(self, band):
        return self.balance[band]


BLOCKED_Y, BURNT_SHARE = 0.002, 0.98
"""Linear light below which a file shows nothing, and share of the light at which it ends from which on it shows nothing more."""
LEAST_SHOWN = 0.02


def frame_stops(linear, clip=1.0):
    """Log mean of a picture's light in stops from 0.18, without blocked and burnt parts; None where hardly anything is left.

    linear: linear sRGB, shape (h, w, 3). clip: linear value at which the file ends, None for none.
    """
    light = np.asarray(linear, np.float64) @ LUMINANCE_WEIGHTS
    shown = light > BLOCKED_Y
    if clip is not None:
        shown &= np.asarray(linear).max(axis=-1) < BURNT_SHARE * clip
    if shown.mean() < LEAST_SHOWN:
        return None
    return float(np.log2(light[shown] / MIDDLE_GREY).mean())


def balance(zones):
    """Balance of a zone map, any shape."""
    zones = np.asarray(zones, float).ravel()
    counts = np.bincount(np.digitize(zones, BORDERS), minlength=5)
    soft = np.mean((zones >= 3.5) & (zones <= 7.5))
    return Balance(tuple(float(n) / zones.size for n in counts), float(soft))


def lost_shares(lightness):
    """(share that is black, share that is white) of a picture. lightness: L*, any shape."""
    light = np.asarray(lightness)
    return float(np.mean(light <= LOST_L[0])), float(np.mean(light >= LOST_L[1]))


MOSTLY, FEW = 0.6, 0.02
"""Shares of the area from which one band is most of a picture, and below which it is as good as missing."""


def remark(found):
    """What a balance is like where no scale is asked for, in a sentence; "" where no band is most of the picture. found: Balance."""
    band, share = max(zip(BANDS, found.shares, strict=True), key=lambda each: each[1])
    if share < MOSTLY:
        return ""
    said = "Much middle grey" if band == "middle" else f"Mostly {band}"
    missing = [
        name for name, part in zip(BANDS, found.shares, strict=True) if part < FEW and name in ("black", "white")
    ]
    without = f", hardly any {' or '.join(missing)}" if missing else ""
    return f"{said}: {share * 100:.0f} %{without}."


@dataclass(frozen=True)
class Verdict:
    """Whether a picture keeps what a scale asks for, what it lacks, and what usually helps."""

    holds: bool
    text: str
    helps: str


def verdict(found, scale):
    """Verdict on a balance that was found, for one of SCALES; None when no scale is asked for."""
    if not scale:
        return None
    black, dark, middle, light, white = found.shares
    percent = lambda share: f"{share * 100:.0f} %"
    if scale == "graphic":
        return Verdict(
            middle <= 0.25,
            f"Middle greys fill {percent(middle)}; graphic wants at most 25 %.",
            "Harder light, more contrast, or a simpler background.",
        )
    if scale == "full scale":
        least = min(range(5), key=lambda k: found.shares[k])
        return Verdict(
            found.shares[least] >= 0.08,
            f"The least band, {BANDS[least]}, has {percent(found.shares[least])}; full scale wants 8 % of each.",
            "Let something go black and something white, or move until both are in the frame.",
        )
    if scale == "high-key":
        return Verdict(
            light + white >= 0.6 and black <= 0.03,
            f"{percent(light + white)} is light or white and {percent(black)} black; high-key wants 60 % and at most 3 %.",
            "Place the light tones higher, take dark things out, soften the light.",
        )
    if scale == "low-key":
        return Verdict(
            black + dark >= 0.6 and light + white >= 0.01,
            f"{percent(black + dark)} is dark or black and {percent(light + white)} light; low-key wants 60 % and at least 1 %.",
            "Place the shadows lower, keep one light accent, flag stray light.",
        )
    return Verdict(
        found.soft_share >= 0.9,
        f"{percent(found.soft_share)} lies between III½ and VII½; soft wants 90 %.",
        "Flat light, mist, less contrast, and no deep holes in the frame.",
    )  # fmt: skip


@dataclass(frozen=True)
class Pull:
    """A place that draws the eye: fractions of width and height, and its strength, the strongest 1."""

    x: float
    y: float
    strength: float


def pulls(lightness, count=MOST_PULLS):
    """The strongest pulls of a picture, in order; () for a picture of one tone.

    lightness: L*, shape (h, w). A pull is where a bright or contrasting spot differs from what surrounds it, at three
    sizes; bright on dark counts more than dark on bright, because the eye goes to light.
    """
    from scipy.ndimage import gaussian_filter, maximum_filter

    field = _narrowed(lightness)
    height, width = field.shape
    total = np.zeros_like(field)
    for centre, surround in SURROUND:
        difference = gaussian_filter(field, centre / 2, mode="nearest", truncate=2.5) - gaussian_filter(
            field, surround, mode="nearest"
        )
        total += np.maximum(difference, 0) + 0.6 * np.maximum(-difference, 0)
    total *= 0.6 + 0.4 * field / 100
    top = float(total.max())
    if top < 1.0:
        return ()
    near = max(3, round(PULL_APART * max(height, width)))
    peaks = np.argwhere((total == maximum_filter(total, 2 * near + 1)) & (total > 0.2 * top))
    ranked = sorted(peaks.tolist(), key=lambda at: -total[at[0], at[1]])[:count]
    return tuple(Pull((x + 0.5) / width, (y + 0.5) / height, float(total[y, x] / top)) for y, x in ranked)


def _narrowed(lightness):
    """Lightness at most PULL_SIDE wide, by averaging blocks."""
    field = np.asarray(lightness, float)
    block = max(1, max(field.shape) // PULL_SIDE)
    h, w = field.shape[0] // block * block, field.shape[1] // block * block
    if h < block or w < block or block == 1:
        return field
    return field[:h, :w].reshape(h // block, block, w // block, block).mean(axis=(1, 3))


def place_of(found, x, y, reach=0.12):
    """1-based place, among the pulls found, of the one nearest to a point within `reach`, or None when no pull is there."""
    for k, pull in enumerate(found):
        if np.hypot(pull.x - x, pull.y - y) <= reach:
            return k + 1
    return None


@dataclass(frozen=True)
class Edge:
    """An edge or corner that is lighter than the picture's inside: its name, and by how much in L*."""

    name: str
    lighter: float


def bright_edges(lightness):
    """Edges and corners that lead the eye out, the brightest first."""
    field = np.asarray(lightness, float)
    h, w = field.shape
    y, x = max(1, round(EDGE_WIDTH * h)), max(1, round(EDGE_WIDTH * w))
    inside = (
        float(np.median(field[y : h - y or None, x : w - x or None]))
        if h > 2 * y and w > 2 * x
        else float(np.median(field))
    )
    middle_x, middle_y = slice(w // 4, max(w - w // 4, 1)), slice(h // 4, max(h - h // 4, 1))
    parts = {
        "top edge": field[:y, middle_x],
        "bottom edge": field[-y:, middle_x],
        "left edge": field[middle_y, :x],
        "right edge": field[middle_y, -x:],
        "top left corner": field[: 2 * y, : 2 * x],
        "top right corner": field[: 2 * y, -2 * x :],
        "bottom left corner": field[-2 * y :, : 2 * x],
        "bottom right corner": field[-2 * y :, -2 * x :],
    }
    found = [Edge(name, float(part.mean()) - inside) for name, part in parts.items() if part.size]
    return tuple(sorted((e for e in found if e.lighter > BRIGHT_EDGE_L), key=lambda e: -e.lighter))


def pull_words(found, subject=None):
    """One sentence on the pulls found. subject: (name, x, y) or None."""
    if not found:
        return "Nothing pulls the eye: the picture is of one tone."
    if subject is None:
        return "The eye goes to 1 first. Say which tone is the subject to compare."
    name, x, y = subject
    place = place_of(found, x, y)
    if place == 1:
        return f"The eye goes to {name} first."
    if place:
        return f"The eye goes elsewhere first; {name} comes {('second', 'third', 'fourth', 'fifth')[place - 2]}."
    return f"{name[:1].upper()}{name[1:]} is not among the strongest pulls: move, wait for light on it, crop closer, or burn the others later."


def edge_words(found):
    """One sentence on the edges, and what usually helps."""
    if not found:
        return "No edge is brighter than the picture's inside."
    names = ", ".join(edge.name for edge in found[:3])
    return f"Bright {names}: the eye may leave there. Lower the viewpoint, crop closer, or burn it later."
