"""Seeing in grey on the desk: drawings over the picture, and what its measures say. Ready to show; no rules of its own."""

import json
from dataclasses import dataclass

import numpy as np

from dimgrey.core.document.scenefile import scene_of
from dimgrey.core.measure.stops import format_stops
from dimgrey.core.picture import contours, measures, twins
from dimgrey.core.picture.crop import Crop
from dimgrey.core.planning import separation
from dimgrey.scenes import rendering, store
from dimgrey.scenes.desk import plan_or_wait, view_key
from dimgrey.scenes.queries import picture_of


def crop_of(document):
    """The Crop of a scene document; the whole picture without one."""
    box = document.get("crop", {}).get("box")
    return Crop(*box) if box else Crop()


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
class WayRow:
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
    scale: str
    pulls: tuple
    pull_words: str
    edges: tuple
    edge_words: str
    twins: tuple
    twin_words: str
    pairs: tuple
    ways: tuple
    ways_words: str
    tone_names: tuple
    cropped: bool


def path_of(rings):
    """SVG path of rings of fractions, in thousandths of width and height."""
    return "".join("M" + "L".join(f"{x * 1000:.0f} {y * 1000:.0f}" for x, y in ring) + "Z" for ring in rings)


@dataclass(frozen=True)
class _View:
    """What every measure starts from."""

    document: dict
    core_scene: object
    result: object
    tone_map: object
    folder: object
    crop: Crop

    @property
    def linear(self):
        return self.crop.of(store.small(self.folder))


def view_of(scene):
    """_View of a scene's present grey view, or None without a picture."""
    picture = picture_of(scene)
    if picture is None:
        return None
    core_scene = scene_of(scene.document)
    result, _ = plan_or_wait(core_scene)
    shown = rendering.rendering_of(view_key(scene.document, picture, result, core_scene))
    return _View(scene.document, core_scene, result, shown.tone_map, picture.path, crop_of(scene.document))


def seeing_of(scene):
    """Seeing of a scene, or None without a picture. Raises PictureGone."""
    view = view_of(scene)
    if view is None:
        return None
    zones, light = view.tone_map.zones(view.linear), view.tone_map.lightness(view.linear)
    found = measures.balance(zones)
    scale = view.document.get("wanted", {}).get("scale", "")
    pulls, edges = measures.pulls(light), measures.bright_edges(light)
    lines, words = twin_lines(view)
    pairs, ways, ways_words = _ways(view)
    return Seeing(
        bands=_bands(found),
        verdict=measures.verdict(found, scale),
        scale=scale,
        pulls=pulls,
        pull_words=measures.pull_words(pulls, _subject(view)),
        edges=edges,
        edge_words=measures.edge_words(edges),
        twins=lines,
        twin_words=words,
        pairs=pairs,
        ways=ways,
        ways_words=ways_words,
        tone_names=tuple(tone["name"] for tone in view.document.get("tones", [])),
        cropped=not view.crop.is_whole,
    )


def _bands(found):
    bands, x = [], 0.0
    for name, share in zip(measures.BANDS, found.shares, strict=True):
        bands.append(BandShare(name, round(share * 100), round(x, 2), round(share * 100, 2)))
        x += share * 100
    return tuple(bands)


def _subject(view):
    """(name, x, y) of the subject within the crop, or None."""
    for tone in view.document.get("tones", []):
        if tone.get("role") in ("subject", "skin") and "at" in tone and view.crop.holds(*tone["at"]):
            c, (x, y) = view.crop, tone["at"]
            return tone["name"], (x - c.left) / (c.right - c.left), (y - c.top) / (c.bottom - c.top)
    return None


def twin_lines(view):
    """(lines, words) of the twins within the crop, worst first."""
    areas = store.areas(view.folder)
    found = twins.twins(areas, view.tone_map.lightness(areas.colours))
    height, width = areas.labels.shape
    candidates = separation.candidate_chains(view.core_scene.medium, view.core_scene.light)
    lines = []
    for pair in found:
        rows, columns = np.nonzero(np.isin(areas.labels, (pair.a, pair.b)))
        x, y = float(columns.mean() + 0.5) / width, float(rows.mean() + 0.5) / height
        if not view.crop.holds(x, y):
            continue
        colours = areas.colours[[pair.a, pair.b]]
        ways = separation.part_twins(
            colours, candidates, view.core_scene.medium.kind, view.tone_map.stops, view.tone_map.slope
        )
        by = ", ".join(f"{name} (L* {apart:.0f} apart)" for name, apart in ways[:3]) or _no_way(
            view.tone_map.lightness(colours)
        )
        words = f"colours {pair.colour_difference:.0f} apart, greys {pair.lightness_difference:.0f}"
        path = path_of(twins.outline(areas, (pair.a,)) + twins.outline(areas, (pair.b,)))
        lines.append(TwinLine(len(lines) + 1, path, x * 1000, y * 1000, words, by))
    if not lines:
        return (), "No neighbouring colours fall on one grey."
    return tuple(
        lines
    ), f"{len(lines)} place{'s' if len(lines) > 1 else ''} where two colours become one grey, the worst first."


def _no_way(lightness):
    """Why no filter parts two areas, and what may."""
    if lightness.max() < LOST_BLACK_L:
        return "no filter: both sink into black. More exposure, or light on one of them"
    if lightness.min() > LOST_WHITE_L:
        return "no filter: both burn to white. Less exposure, or wait for softer light"
    return "no filter: change the light or the viewpoint"


def pairs_of(document, result):
    """The pairs that must part: those chosen, else those suggested."""
    names = {tone.name for tone in result.tones}
    chosen = [separation.Pair(a, b) for a, b in document.get("pairs", []) if a in names and b in names]
    return tuple(chosen) or separation.suggested_pairs(result.tones)


def _ways(view):
    if view.result is None or len(view.result.tones) < 2:
        return (), (), "Pin and place at least two tones to see which filter parts them."
    pairs = pairs_of(view.document, view.result)
    mixes = view.core_scene.medium.mixes_channels
    now = (
        view.core_scene.medium.channel_mix
        if mixes
        else "+".join(g.name for g in view.core_scene.filters if g.name not in ("nd", "polarizer")) or "none"
    )
    rows = tuple(_way_row(way, way.name == now) for way in separation.ways(view.result, pairs))
    best = rows[0]
    words = f"Best here: {best.name}." if not best.current else f"The present choice, {best.name}, is the best here."
    return pairs, rows, words


def _way_row(way, current):
    cells = tuple(
        {
            "word": parted.word,
            "zones": f"{abs(parted.zones_apart):.1f}",
            "light": f"{abs(parted.lightness_apart):.0f}",
            "unsure": parted.unsure,
            "error": f"{parted.error_stops:.1f}",
        }
        for parted in way.parted
    )
    effects = [f"{pair.a} and {pair.b} merge" for pair in way.merges[:2]] + [f"{name} lost" for name in way.lost[:2]]
    if way.noise_gain > separation.NOISE_LIMIT:
        effects.append(f"noise ×{way.noise_gain:.1f}")
    cost = f"{format_stops(way.stops)}" if way.stops else "0"
    return WayRow(way.name, current, cells, cost, "; ".join(effects))


# --- drawings over the picture ---------------------------------------------------------------------------------------------


@dataclass(frozen=True)
class MapLabel:
    x: float
    y: float
    turn: float
    text: str


@dataclass(frozen=True)
class Drawing:
    """A drawing over the picture, width x height units; see templates/scenes/draw/*.svg."""

    width: float
    height: float
    lines: str = ""
    heavy_lines: str = ""
    labels: tuple = ()
    lost_shadows: str = ""
    lost_highlights: str = ""
    twins: tuple = ()
    pulls: tuple = ()
    edges: tuple = ()
    alone: bool = False
    words: str = ""

    @property
    def scale(self):
        """Thousandths of the height to units of the drawing."""
        return f"{self.height / 1000:.4f}"


def _size(folder):
    height, width = store.small(folder).shape[:2]
    return 1000.0, 1000.0 * height / width


def contour_drawing(folder, shown, outer, alone=False):
    """The tone map of a picture: borders of zones with numerals, lost ends dotted and hatched."""
    width, height = _size(folder)
    made = contours.contours(shown.tone_map.zones(store.small(folder)), outer)
    scale = np.array([width, height])
    inside = [line for line in made.lines if line.border != HEAVY_BORDER]
    return Drawing(
        width,
        height,
        lines="".join(_whole_units(line.points * scale) for line in inside),
        heavy_lines="".join(_whole_units(line.points * scale) for line in made.lines if line.border == HEAVY_BORDER),
        labels=tuple(
            MapLabel(round(x.x * width), round(x.y * height), round(x.turn_deg), x.numeral) for x in made.labels
        ),
        lost_shadows="".join(_whole_units(ring * scale) + "Z" for ring in made.lost_shadows),
        lost_highlights="".join(_whole_units(ring * scale) + "Z" for ring in made.lost_highlights),
        alone=alone,
    )


HEAVY_BORDER = 4.5
"""The border between IV and V, drawn heavier, as maps do with every fifth line."""


def _whole_units(points):
    """SVG path of points in whole units of the drawing; what follows M are lines."""
    return "M" + " ".join(map(str, np.rint(points).astype(int).ravel().tolist()))


def scene_drawing(scene, kind):
    """Drawing of the present view's twins or of where the eye goes."""
    view = view_of(scene)
    width, height = _size(view.folder)
    if kind == "twins":
        found, words = twin_lines(view)
        lines = [{**line.__dict__, "drawn_y": line.y * height / 1000} for line in found]
        return Drawing(width, height, twins=tuple(lines), words="" if found else words)
    light = view.tone_map.lightness(view.linear)
    c = view.crop
    x = lambda fraction: (c.left + fraction * (c.right - c.left)) * width
    y = lambda fraction: (c.top + fraction * (c.bottom - c.top)) * height
    pulls = tuple(
        {"number": k, "x": round(x(p.x), 1), "y": round(y(p.y), 1), "r": round(14 + 26 * p.strength, 1)}
        for k, p in enumerate(measures.pulls(light), 1)
    )
    edges = tuple(_edge_box(edge.name, x, y) for edge in measures.bright_edges(light))
    return Drawing(width, height, pulls=pulls, edges=edges, words="" if pulls else measures.pull_words(()))


def _edge_box(name, x, y):
    w = measures.EDGE_WIDTH
    left, top, right, bottom = 0.0, 0.0, 1.0, 1.0
    if "edge" in name:
        side = name.split()[0]
        left, right = (0.25, 0.75) if side in ("top", "bottom") else (0, w) if side == "left" else (1 - w, 1)
        top, bottom = (0.25, 0.75) if side in ("left", "right") else (0, w) if side == "top" else (1 - w, 1)
    else:
        left, right = (0, 2 * w) if "left" in name else (1 - 2 * w, 1)
        top, bottom = (0, 2 * w) if "top" in name else (1 - 2 * w, 1)
    return {
        "x": round(x(left), 1),
        "y": round(y(top), 1),
        "width": round(x(right) - x(left), 1),
        "height": round(y(bottom) - y(top), 1),
    }


# --- for other programs --------------------------------------------------------------------------------------------------------


def measures_of(scene):
    """The measures of a scene as plain values, for JSON and CSV; None without a picture."""
    seen, view = seeing_of(scene), view_of(scene)
    if seen is None:
        return None
    ways = separation.ways(view.result, seen.pairs) if seen.pairs else ()
    return {
        "format": "dimgrey-measures",
        "version": 1,
        "title": scene.title,
        "crop": [view.crop.left, view.crop.top, view.crop.right, view.crop.bottom],
        "chain_terms": [round(a, 6) for a in view.tone_map.terms],
        "balance": dict(
            zip(
                measures.BANDS,
                (round(s, 4) for s in measures.balance(view.tone_map.zones(view.linear)).shares),
                strict=True,
            )
        ),
        "wanted_scale": seen.scale or None,
        "scale_holds": seen.verdict.holds if seen.verdict else None,
        "pulls": [{"x": round(p.x, 3), "y": round(p.y, 3), "strength": round(p.strength, 3)} for p in seen.pulls],
        "bright_edges": [{"edge": e.name, "lighter_l": round(e.lighter, 1)} for e in seen.edges],
        "twins": len(seen.twins),
        "separation": [
            {
                "way": way.name,
                "stops": round(way.stops, 3),
                "a": parted.pair.a,
                "b": parted.pair.b,
                "zones_apart": round(parted.zones_apart, 3),
                "l_apart": round(parted.lightness_apart, 1),
                "word": parted.word,
                "error_stops": round(parted.error_stops, 3),
            }
            for way in ways
            for parted in way.parted
        ],
    }


def measures_rows(found):
    """The measures as rows of (measure, name, value), for CSV."""
    rows = [("measure", "name", "value"), ("title", "", found["title"])]
    rows += [("balance", band, share) for band, share in found["balance"].items()]
    rows += [("pull", str(k), f"{p['x']} {p['y']} {p['strength']}") for k, p in enumerate(found["pulls"], 1)]
    rows += [("bright edge", e["edge"], e["lighter_l"]) for e in found["bright_edges"]]
    rows += [("twins", "", found["twins"])]
    rows += [("separation in zones", f"{s['way']}: {s['a']} / {s['b']}", s["zones_apart"]) for s in found["separation"]]
    return rows


def as_json(found):
    return json.dumps(found, indent=1, ensure_ascii=False) + "\n"
