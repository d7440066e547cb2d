"""A setup on a scene: the address of its picture, its curve over the zones with the scene's tones, and its measures."""

import base64
import io
from dataclasses import dataclass, replace

import numpy as np
from PIL import Image

from dimgrey.core.camera.setups import toned_stops
from dimgrey.core.colour.chain import mixed_chain
from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.picture import measures
from dimgrey.core.picture.detail import finished
from dimgrey.core.picture.display import lightness_through
from dimgrey.core.picture.painting import painting
from dimgrey.core.planning.media import medium, texture
from dimgrey.core.planning.prints import Printing
from dimgrey.core.planning.scenerange import tone_shifts
from dimgrey.core.planning.scoring import score_of
from dimgrey.core.planning.separation import parting
from dimgrey.core.planning.zones import MIDDLE, ZONES
from dimgrey.pictures import store
from dimgrey.scenes.greyview import measured_light

TOLD_ZONES = 1 / 6
CURVE_WIDTH, CURVE_HEIGHT = 400.0, 260.0
SHOWN_STOPS = 5.5
"""The curve is drawn from so far below middle grey to so far above."""


@dataclass(frozen=True)
class Preview:
    """grey: address of the picture. curve, plain: SVG paths. dots: tones on the curve. facts: (name, words)."""

    scene: object
    grey: str
    curve: str
    plain: str
    dots: tuple
    numerals: tuple
    facts: tuple
    tone_map: object
    detail: str = ""


def preview_of(situation, made, extra_stops=0.0, measured=None, with_detail=False):
    """Preview of a core Setup on a scene with a picture, as the in-camera file shows it. None without a picture.

    extra_stops: another exposure than the plan's (+ is lighter). measured: (stops, L*) of the camera's own curve, or None
    for the default. with_detail: add a piece of the picture pixel for pixel.
    """
    if situation.picture is None:
        return None
    there = _rendering(situation, made, extra_stops)
    zones = _tones(situation.plan, there.chain, extra_stops)
    return Preview(
        scene=situation.scene,
        grey=situation.grey_of(there),
        curve=_path(made.tone, measured),
        plain=_path((0.0, 0.0, 0.0), None),
        dots=_dots(situation, zones, made, measured),
        numerals=tuple((round(_x(zone.stops), 1), zone.numeral) for zone in ZONES),
        facts=_facts(situation, there.tone_map, zones, made),
        tone_map=there.tone_map,
        detail=_detail(situation, there.tone_map, made) if with_detail else "",
    )


def look_of(situation, made, measured=None):
    """What a moving slider is answered with, as plain values: the picture's address and the painter's tables, the curve and the
    tones on it. made, measured: as in `preview_of`. Needs a picture."""
    there = _rendering(situation, made)
    zones = _tones(situation.plan, there.chain, 0.0)
    return {
        "grey": situation.grey_of(there),
        "tables": painting(there.tone_map, there.overhead),
        "curve": _path(made.tone, measured),
        "dots": _dots(situation, zones, made, measured),
    }


def _rendering(situation, made, extra_stops=0.0):
    """The Rendering of a scene's picture through a setup."""
    shown = situation.rendering
    return replace(
        shown,
        chain=mixed_chain(made.filter),
        stops=shown.stops + extra_stops,
        kind="digital file",
        development=0,
        tone=made.tone,
    )


def _dots(situation, zones, made, measured):
    marks = situation.document.marks
    return tuple(_dot(marks[name], zone, made.tone, measured) for name, zone in zones.items())


DETAIL = (400, 260)
"""Width and height in pixels of the piece that shows grain and sharpening at their size."""


def _detail(situation, tone_map, made):
    """A piece of the picture around its subject, pixel for pixel, as a data address; "" when its file is gone."""
    try:
        planes = store.linear_of(situation.picture.path)
    except store.PictureGone:
        return ""
    _, height, width = planes.shape
    subject = next((t for t in situation.document.tones if t.role == "subject" and t.at is not None), None)
    x, y = subject.at if subject else (0.5, 0.5)
    left = int(min(max(x * width - DETAIL[0] / 2, 0), max(width - DETAIL[0], 0)))
    top = int(min(max(y * height - DETAIL[1] / 2, 0), max(height - DETAIL[1], 0)))
    part = np.moveaxis(planes[:, top : top + DETAIL[1], left : left + DETAIL[0]], 0, -1).astype(np.float32)
    shown = grey8_of_lightness(finished(tone_map.lightness(part), made, np.random.default_rng(1)))
    buffer = io.BytesIO()
    Image.fromarray(shown).save(buffer, "PNG", compress_level=1)
    return "data:image/png;base64," + base64.b64encode(buffer.getvalue()).decode()


def _x(stops):
    return (stops + SHOWN_STOPS) / (2 * SHOWN_STOPS) * CURVE_WIDTH


def _y(l_star):
    return CURVE_HEIGHT - 20 - l_star / 100 * (CURVE_HEIGHT - 40)


def _shown(stops, tone, measured):
    """L* of tones through a setup, by the camera's own curve where it was measured."""
    return np.interp(toned_stops(stops, tone), *measured) if measured else lightness_through(stops, tone)


def _path(tone, measured):
    stops = np.linspace(-SHOWN_STOPS, SHOWN_STOPS, 111)
    shown = _shown(stops, tone, measured)
    return "M" + "L".join(f"{_x(s):.1f} {_y(v):.1f}" for s, v in zip(stops, shown, strict=True))


def _tones(result, chain, extra_stops):
    """name -> zone before the setup's tone curve, through its filter; {} without a plan."""
    if result is None:
        return {}
    shifts = tone_shifts(result.brief, chain)
    return {tone.name: tone.zone + shifts[tone.name] + extra_stops for tone in result.tones}


def _dot(mark, zone, tone, measured):
    stops = float(np.clip(zone - MIDDLE, -SHOWN_STOPS, SHOWN_STOPS))
    return {
        "mark": mark,
        "x": round(_x(stops), 1),
        "y": round(_y(float(_shown(stops, tone, measured))), 1),
    }


def _wishes(result, made, printed):
    """How a setup's in-camera file stands to the wishes: the score of what is shown, and what is missed most."""
    judged = score_of(result.brief, printed, mixed_chain(made.filter))
    missed = max(judged.missed, key=lambda each: each[1], default=None)
    worst = f", {missed[0].miss_words(printed)}" if missed and missed[0].miss_words(printed) else ""
    return f"score {judged.value:.2f}{worst}"


def _facts(situation, tone_map, zones, made):
    """Separation, balance and lost ends of the picture through the setup."""
    facts, result = [], situation.plan
    printing = Printing("digital file", 0, made.tone)
    printed = {name: printing.print(zone).zone for name, zone in zones.items()}
    if result is not None:
        facts.append(("Wishes", _wishes(result, made, printed)))
    if result and len(printed) > 1:
        pairs = situation.pairs
        said = [f"{pair.a} / {pair.b} {parting(printed[pair.a] - printed[pair.b])}" for pair in pairs[:3]]
        facts.append(("Parting", ", ".join(said)))
    try:
        seen = measured_light(situation)
    except store.PictureGone:
        return tuple(facts)
    shares = measures.balance(tone_map.zones(*seen)).shares
    words = (f"{name} {share * 100:.0f} %" for name, share in zip(measures.BANDS, shares, strict=True))
    facts.append(("Balance", ", ".join(words)))
    black, white = measures.lost_shares(tone_map.lightness(*seen))
    facts.append(("Lost ends", f"black {black * 100:.1f} %, white {white * 100:.1f} %"))
    file = medium("digital file", tone=made.tone)
    needed = {tone.name for tone in result.tones if tone.needs_texture} if result else set()
    lost = [name for name, zone in zones.items() if name in needed and texture(zone, file) == "lost"]
    if lost:
        facts.append(("Loses", ", ".join(f"{name} ({situation.words.held_zone(printed[name])})" for name in lost)))
    return tuple(facts)
