"""Small drawings of what an item does, ready to draw: zones held, reciprocity, transmission, focal range."""

import math

import numpy as np

from dimgrey.core.colour.curves import response, transmittance
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.colour.spectra import WAVELENGTH_NM, illuminant
from dimgrey.core.document.kit import OWN
from dimgrey.core.measure.longexposure import corrected_seconds, reciprocity
from dimgrey.core.planning.media import DEPENDABLE, OUTER

WIDTH, HEIGHT = 360.0, 150.0
LONGEST_S = 256.0
MOST_SPEEDS = 4
FOOT = 14
"""Units under the last label, and over the first."""


def drawing_of(item):
    """{"title", "paths", "bars", "labels", "height"} of an item, or None when there is nothing to draw."""
    made = _DRAWN[item.kind](item) if item.kind in _DRAWN else None
    return made and made | {"height": round(max(label["y"] for label in made["labels"]) + FOOT)}


def _zone_bars(dependable, outer, y):
    x = lambda zone: round((zone + 0.5) / 11 * WIDTH, 1)
    return [
        {"x": x(outer[0]), "width": round(x(outer[1]) - x(outer[0]), 1), "y": y, "height": 6, "kind": "outer"},
        {
            "x": x(dependable[0]),
            "width": round(x(dependable[1]) - x(dependable[0]), 1),
            "y": y + 8,
            "height": 10,
            "kind": "held",
        },
    ]


def _zone_labels(y):
    numerals = ("0", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X")
    return [{"x": round((k + 0.5) / 11 * WIDTH, 1), "y": y, "text": text} for k, text in enumerate(numerals)]


def _camera(item):
    kind = "film" if item.senses == "film" else "digital raw"
    if kind == "film":
        return None
    single = (None, item.headroom or OUTER[kind][1] - 5, item.footroom or 5 - OUTER[kind][0])
    rows = item.limits_per_iso or [single]
    if len(rows) > MOST_SPEEDS:
        rows = [*rows[: MOST_SPEEDS - 1], rows[-1]]
    bars, labels = [], _zone_labels(len(rows) * 34 + 24)
    for k, (iso, head, foot) in enumerate(rows):
        high, low = 5 + head + item.protection_stops, 5 - foot
        dependable = (max(DEPENDABLE[kind][0], low), min(DEPENDABLE[kind][1] + item.protection_stops, high))
        bars += _zone_bars(dependable, (low, high), 14 + 34 * k)
        if iso:
            labels.append({"x": WIDTH / 2, "y": 10 + 34 * k, "text": f"ISO {iso:g}"})
    return {"title": "Zones it holds", "paths": [], "bars": bars, "labels": labels}


def _film(item):
    bars = _zone_bars((item.dependable_low, item.dependable_high), (item.outer_low, item.outer_high), 4)
    labels = _zone_labels(40)
    paths = []
    if item.exponent or item.table:
        film = reciprocity(item.exponent, 1.0, item.table or None)
        x = lambda seconds: math.log2(seconds) / math.log2(LONGEST_S) * WIDTH
        y = lambda seconds: HEIGHT - math.log2(seconds) / math.log2(LONGEST_S * 8) * 100
        times = np.geomspace(1, LONGEST_S, 60)
        points = [f"{x(t):.1f} {y(max(corrected_seconds(float(t), film), 1)):.1f}" for t in times]
        paths = [
            {"d": "M" + "L".join(points), "kind": "curve"},
            {"d": f"M0 {HEIGHT}L{WIDTH} {y(LONGEST_S):.1f}", "kind": "base"},
        ]
        labels += [
            {"x": round(min(max(x(t), 6), WIDTH - 12), 1), "y": HEIGHT + 14, "text": f"{t:g} s"}
            for t in (1, 4, 16, 64, 256)
        ]
        labels.append({"x": 60, "y": 62, "text": "given for metered time"})
    return {"title": "Zones it holds, and long times", "paths": paths, "bars": bars, "labels": labels}


def _filter(item):
    own = tuple(tuple(point) for point in item.points) if item.glass == OWN else None
    if item.glass not in COLOURED and not own:
        return None
    film = response("general panchromatic") * illuminant("D55")
    film = film / film.max()
    passed = transmittance((own or item.glass,))
    x = (WAVELENGTH_NM - 380) / 350 * WIDTH
    path = lambda curve: "M" + "L".join(f"{a:.1f} {HEIGHT - b * 140:.1f}" for a, b in zip(x, curve, strict=True))
    area = path(film * passed) + f"L{WIDTH} {HEIGHT}L0 {HEIGHT}Z"
    factor = film.sum() / (film * passed).sum()
    labels = [
        {"x": round((nm - 380) / 350 * WIDTH, 1), "y": HEIGHT + 14, "text": f"{nm}"} for nm in (400, 500, 600, 700)
    ]
    return {
        "title": f"What film in daylight gets through it: factor {factor:.2f}, {math.log2(factor):.1f} stops",
        "paths": [{"d": area, "kind": "area"}, {"d": path(film), "kind": "base"}, {"d": path(passed), "kind": "curve"}],
        "bars": [],
        "labels": labels,
    }


def _lens(item):
    x = lambda mm: math.log2(mm / 8) / math.log2(1200 / 8) * WIDTH
    low, high = x(max(item.focal_min_mm, 8)), x(min(item.focal_max_mm, 1200))
    bars = [{"x": round(low, 1), "width": round(max(high - low, 4), 1), "y": 20, "height": 14, "kind": "held"}]
    labels = [{"x": round(x(mm), 1), "y": 56, "text": f"{mm}"} for mm in (14, 24, 50, 100, 200, 400, 800)]
    return {"title": "Focal length, mm", "paths": [], "bars": bars, "labels": labels}


_DRAWN = {draw.__name__[1:]: draw for draw in (_camera, _film, _filter, _lens)}
