"""What a result shows, place by place, pulled back to where it fell: what a comparison is made from.

Key tones bear witness, and so do even places all over the picture, together as much as the key tones; so one tone that moved,
or one that was read badly, does not speak for all. Source: HANDBOOK 19.
"""

from dataclasses import dataclass, field

import numpy as np

from dimgrey.core.colour.encoding import lightness_of_luminance, luminance_of_lightness
from dimgrey.core.picture.display import lightness_through
from dimgrey.core.planning.development import developed_zone
from dimgrey.core.planning.prints import curve_for
from dimgrey.core.planning.zones import MIDDLE

CELLS_ACROSS = 30
EVEN_ZONES = 0.45
"""A place is even when its planned tones spread (standard deviation) less than this."""
MOST_PLACES = 90
END_L = 1.2
"""A tone so close to the blackest or whitest grey that the medium shows is at that end: it says "at least" or "at most"."""
FALLS = np.arange(-9.0, 19.0, 1 / 24)
LEAST_TONES = 3
"""So many key tones the places of the picture weigh at least as much as."""
MOST_CUT = 0.02
"""Share of a patch at black or white from which its mean says less."""
AGREE_ZONES, MOST_OF = 0.15, 0.6
"""Readings that differ from the plan's picture alike, this closely and this many of them, move the whole picture."""


@dataclass(frozen=True)
class Witnesses:
    """Places of a picture: planned, seen: falls, shape (n,). names: "" for a place that is no key tone. ends: -1 where the
    result is black and has no say how black, +1 likewise white, else 0. weights: shape (n,). others: name of another filter ->
    stops by which it would move each place, shape (n,). known: by how much the reading of a key tone differs from the plan's picture,
    zones, 0 for a place. visible: booleans, whether the plan's own picture has it neither black nor white. lightness: L* that the result shows of each."""

    names: tuple
    planned: np.ndarray
    seen: np.ndarray
    ends: np.ndarray
    weights: np.ndarray
    others: dict = field(default_factory=dict)
    known: np.ndarray | None = None
    visible: np.ndarray | None = None
    lightness: np.ndarray | None = None

    def named(self, name):
        """Index of a key tone, or None."""
        return self.names.index(name) if name in self.names else None


def seen_falls(shown, printing):
    """Where tones fell that a result shows so: the way back through the planned curve.

    shown: L*, shape S. printing: Printing of the plan. Returns (falls, ends), shape S each; ends as in Witnesses.
    """
    known = lightness_of_falls(FALLS, printing)
    rising = np.maximum.accumulate(known + np.arange(len(known)) * 1e-7)
    shown = np.asarray(shown, float)
    ends = (shown >= rising[-1] - END_L).astype(int) - (shown <= rising[0] + END_L)
    # At an end the nearest fall that shows it is meant.
    edge = np.clip(shown, rising[0] + END_L, rising[-1] - END_L)
    return np.interp(np.where(ends == 0, shown, edge), rising, FALLS), ends


def lightness_of_falls(falls, printing):
    """L* at which falls are shown, any shape. printing: Printing. As `Printing.lightness`, for arrays."""
    stops = developed_zone(np.asarray(falls, float) + printing.lift, printing.step) - MIDDLE
    return lightness_through(stops, printing.tone, curve_for(printing.kind))


def witnesses(planned, shown, inside, printing, tones, others=None, spot=0.008):
    """Witnesses of a result that lies over its plan.

    planned: falls of the plan's picture, shape (h, w). shown: L* of the result over it, shape (h, w). inside: booleans, where the
    result shows something. printing: Printing of the plan. tones: key tone -> ((x, y), fall). others: name of a filter -> stops by
    which it would move each pixel, any shape (m, n) over the same picture. spot: radius of the meter's spot, of the picture's width.
    """
    spots, places = _spots(planned.shape, inside, tones, spot), _places(planned, inside)
    windows = [window for _, window, _ in spots] + places
    held = np.array([_mean_fall(planned[window]) for window in windows])
    lights = np.array([_mean_lightness(shown[window]) for window in windows])
    seen, ends = seen_falls(lights, printing)
    # A rough surface averages otherwise in the print than in the light: the plan's own picture tells by how much.
    expected = [lightness_of_falls(planned[window], printing) for window in windows]
    as_shown, edges = seen_falls(np.array([_mean_lightness(patch) for patch in expected]), printing)
    seen = seen - np.where(edges == 0, as_shown - held, 0.0)
    cut = _is_cut(expected, edges, printing) | _is_cut([shown[window] for window in windows], ends, printing)
    known = np.array([fall - held[k] for k, (_, _, fall) in enumerate(spots)] + [0.0] * len(places))
    whole = _shared(known[: len(spots)])
    return Witnesses(
        names=tuple(name for name, _, _ in spots) + ("",) * len(places),
        planned=held + whole,
        seen=seen,
        ends=ends,
        weights=_weights(len(spots), cut, edges == 0),
        visible=edges == 0,
        others={
            name: np.array([_sampled(moved, planned.shape, each) for each in windows])
            for name, moved in (others or {}).items()
        },
        known=np.where(np.arange(len(windows)) < len(spots), known - whole, 0.0),
        lightness=lights,
    )


def _is_cut(patches, ends, printing):
    """Where a part only of a patch is at an end, which bends its mean. patches: of L*. ends: of their means."""
    black, white = lightness_of_falls(FALLS[[0, -1]], printing)
    cut = [float(np.mean((patch <= black + END_L) | (patch >= white - END_L))) for patch in patches]
    return (np.array(cut) > MOST_CUT) & (ends == 0)


def _weights(tones, cut, visible):
    """Weights: 1 for each of the first, which are key tones; the places that the plan shows together as much. cut: weighs less."""
    share = max(tones, LEAST_TONES) / max(int(visible[tones:].sum()), 8)
    is_tone = np.arange(len(cut)) < tones
    return np.where(is_tone, 1.0, share) / np.where(cut, np.where(is_tone, 2.0, 5.0), 1.0)


def _shared(known):
    """By how much all readings differ from the plan's picture alike, zones; 0 where they do not."""
    if not len(known):
        return 0.0
    middle = float(np.median(known))
    return middle if np.mean(np.abs(known - middle) <= AGREE_ZONES) >= MOST_OF else 0.0


def _sampled(moved, size, window):
    """Mean over a window of what was computed at another size. moved: shape (m, n). size: (h, w) that the window is of."""
    cuts = []
    for part, here, there in zip(window, size, moved.shape, strict=True):
        first = min(int(part.start * there / here), there - 1)
        cuts.append(slice(first, max(int(part.stop * there / here), first + 1)))
    return float(np.mean(moved[tuple(cuts)]))


def _mean_fall(patch):
    """Fall of the mean light of a patch of falls."""
    return float(np.log2(np.mean(2.0 ** np.asarray(patch, float))))


def _mean_lightness(patch):
    """L* of the mean light of a patch of L*, as a spot meter would see it."""
    return float(lightness_of_luminance(np.mean(luminance_of_lightness(patch))))


def _spots(size, inside, tones, spot):
    height, width = size
    reach = max(round(width * spot * 0.89), 1)  # a square of the disc's area
    found = []
    for name, ((x, y), fall) in tones.items():
        row, column = min(int(y * height), height - 1), min(int(x * width), width - 1)
        window = (
            slice(max(row - reach, 0), min(row + reach + 1, height)),
            slice(max(column - reach, 0), min(column + reach + 1, width)),
        )
        if inside[window].all():
            found.append((name, window, fall))
    return found


def _places(planned, inside):
    """Windows of even places all over the picture, at most MOST_PLACES of them, spread over its tones."""
    height, width = planned.shape
    side = max(width // CELLS_ACROSS, 2)
    even = []
    for top in range(0, height - side + 1, side):
        for left in range(0, width - side + 1, side):
            window = (slice(top, top + side), slice(left, left + side))
            if inside[window].all() and float(np.std(planned[window])) < EVEN_ZONES:
                even.append((float(np.mean(planned[window])), window))
    if len(even) <= MOST_PLACES:
        return [window for _, window in even]
    # By tone, so that a large sky does not outvote everything else.
    even.sort(key=lambda each: each[0])
    zones = np.array([zone for zone, _ in even])
    wanted = np.linspace(zones[0], zones[-1], MOST_PLACES)
    chosen = sorted(
        {int(np.abs(zones - zone).argmin()) for zone in wanted} | set(range(0, len(even), max(len(even) // 30, 1)))
    )
    return [even[k][1] for k in chosen]
