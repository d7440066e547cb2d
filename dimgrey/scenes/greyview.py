"""Seeing in grey on the desk: what the measures of the picture say, in words. Ready to show; no rules of its own."""

from dataclasses import dataclass

import numpy as np

from dimgrey.core.measure.stops import format_stops
from dimgrey.core.picture import measures, twins
from dimgrey.core.picture.parttwins import part_twins
from dimgrey.core.picture.tonemap import Seen
from dimgrey.core.planning import separation
from dimgrey.pictures import store

LOST_BLACK_L, LOST_WHITE_L = 10.0, 96.0


@dataclass(frozen=True)
class TwinLine:
    """Two areas with one grey: number, how far apart, what parts them, and rings to draw (SVG path in fractions x 1000)."""

    number: int
    path: str
    x: float
    y: float
    words: str
    parted_by: str


@dataclass(frozen=True)
class BandShare:
    name: str
    percent: int
    x: float
    width: float


@dataclass(frozen=True)
class ChoiceRow:
    name: str
    current: bool
    cells: tuple
    cost: str
    effects: str


@dataclass(frozen=True)
class Seeing:
    """The measures of the present grey view. None of the lists is empty for want of trying; words say why."""

    bands: tuple
    verdict: object
    remark: str
    scale: str
    pulls: tuple
    pull_words: str
    edges: tuple
    edge_words: str
    twins: tuple
    twin_words: str
    pairs: tuple
    choices: tuple
    choice_words: str
    tone_names: tuple
    cropped: bool


def path_of(rings):
    """SVG path of rings of fractions, in thousandths of width and height."""
    return "".join("M" + "L".join(f"{x * 1000:.0f} {y * 1000:.0f}" for x, y in ring) + "Z" for ring in rings)


def measured_light(situation):
    """Seen of the small copy of a picture that is measured, cropped. Raises PictureGone."""
    linear, sky = store.seen(situation.picture.path, situation.rendering.overhead)
    return Seen(situation.crop.of(linear), None if sky is None else situation.crop.of(sky))


def seeing_of(situation):
    """Seeing of a Situation, or None without a picture. Raises PictureGone."""
    if situation.picture is None:
        return None
    tone_map, seen = situation.rendering.tone_map, measured_light(situation)
    zones, light = tone_map.zones(*seen), tone_map.lightness(*seen)
    found, scale = measures.balance(zones), situation.document.wanted.scale
    pulls, edges = measures.pulls(light), measures.bright_edges(light)
    lines, words = twin_lines(situation)
    pairs, choices, choice_words = _choices(situation)
    return Seeing(
        bands=_bands(found),
        verdict=measures.verdict(found, scale),
        remark=measures.remark(found),
        scale=scale,
        pulls=pulls,
        pull_words=measures.pull_words(pulls, _subject(situation)),
        edges=edges,
        edge_words=measures.edge_words(edges),
        twins=lines,
        twin_words=words,
        pairs=pairs,
        choices=choices,
        choice_words=choice_words,
        tone_names=situation.document.names,
        cropped=not situation.crop.is_whole,
    )


def _bands(found):
    bands, x = [], 0.0
    for name, share in zip(measures.BANDS, found.shares, strict=True):
        bands.append(BandShare(name, round(share * 100), round(x, 2), round(share * 100, 2)))
        x += share * 100
    return tuple(bands)


def _subject(situation):
    """(name, x, y) of the subject within the crop, or None."""
    crop = situation.crop
    for tone in situation.document.tones:
        if tone.role in ("subject", "skin") and tone.at is not None and crop.holds(*tone.at):
            x, y = tone.at
            return tone.name, (x - crop.left) / (crop.right - crop.left), (y - crop.top) / (crop.bottom - crop.top)
    return None


def twin_lines(situation):
    """(lines, words) of the twins within the crop, worst first. Raises PictureGone."""
    folder, tone_map = situation.picture.path, situation.rendering.tone_map
    areas = store.areas(folder)
    light = twins.light_of(areas, *store.seen(folder, situation.rendering.overhead))
    found = twins.twins(areas, tone_map.lightness(*light))
    candidates = separation.candidate_chains(situation.brief.medium, situation.brief.light)
    lines = []
    for pair in found:
        x, y = _middle(areas, pair)
        if situation.crop.holds(x, y):
            lines.append(_twin_line(len(lines) + 1, areas, light, pair, (x, y), tone_map, candidates))
    if not lines:
        return (), "No neighbouring colours fall on one grey."
    places = f"{len(lines)} place{'s' if len(lines) > 1 else ''}"
    return tuple(lines), f"{places} where two colours become one grey, the worst first."


def _middle(areas, pair):
    """Middle of two areas, as fractions of width and height."""
    height, width = areas.labels.shape
    rows, columns = np.nonzero(np.isin(areas.labels, (pair.a, pair.b)))
    return float(columns.mean() + 0.5) / width, float(rows.mean() + 0.5) / height


def _twin_line(number, areas, light, pair, at, tone_map, candidates):
    both = Seen(*(None if each is None else each[[pair.a, pair.b]] for each in light))
    parting = part_twins(both.linear, candidates, tone_map.kind, tone_map.stops, tone_map.slope, both.sky)
    by = ", ".join(f"{name} (L* {apart:.0f} apart)" for name, apart in parting[:3])
    words = f"{twins.colour_words(both.linear)}: colours {pair.colour_difference:.0f} apart, greys {pair.lightness_difference:.0f}"
    path = path_of(twins.outline(areas, (pair.a,)) + twins.outline(areas, (pair.b,)))
    return TwinLine(number, path, at[0] * 1000, at[1] * 1000, words, by or _no_way(tone_map.lightness(*both)))


def _no_way(lightness):
    """Why no filter parts two areas, and what may."""
    if lightness.max() < LOST_BLACK_L:
        return "no filter: both sink into black. More exposure, or light on one of them"
    if lightness.min() > LOST_WHITE_L:
        return "no filter: both burn to white. Less exposure, or wait for softer light"
    return "no filter: change the light or the viewpoint"


def _choices(situation):
    """(pairs, rows, words) of the table of parting."""
    result = situation.plan
    if result is None or len(result.tones) < 2:
        return (), (), "Pin and place at least two tones to see which filter parts them."
    now = situation.brief.colour_choice
    found = separation.colour_choices(result, situation.pairs)
    rows = tuple(_choice_row(choice, choice.name == now) for choice in found)
    return situation.pairs, rows, _best_words(found, now)


def _best_words(found, now):
    """The choice that is nearest to the scene's wishes, and which of them it serves; nothing where there is little in it."""
    present = next((choice for choice in found if choice.name == now), None)
    best = next((choice for choice in found if present and choice.score.is_better_than(present.score)), None)
    if best is None:
        return f"The present choice, {now}, is as near to the wishes as any."
    served = ", ".join(wish.words for wish in best.score.serves(present.score)[:2])
    return f"Nearest to the wishes: {best.name}{f', for {served}' if served else ''}."


def _choice_row(choice, current):
    cells = tuple(
        {
            "word": parted.word,
            "zones": f"{abs(parted.zones_apart):.1f}",
            "light": f"{abs(parted.lightness_apart):.0f}",
            "unsure": parted.unsure,
            "error": f"{parted.error_stops:.1f}",
        }
        for parted in choice.parted
    )
    effects = [f"{pair.a} and {pair.b} merge" for pair in choice.merges[:2]] + [
        f"{name} lost" for name in choice.lost[:2]
    ]
    if choice.noise_gain > separation.NOISE_LIMIT:
        effects.append(f"noise ×{choice.noise_gain:.1f}")
    cost = f"{format_stops(choice.stops)}" if choice.stops else "0"
    return ChoiceRow(choice.name, current, cells, cost, "; ".join(effects))
