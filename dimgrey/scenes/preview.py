"""A setup on a scene: the address of its picture, its curve over the zones with the scene's tones, and its measures."""

import base64
import io
from dataclasses import dataclass, replace

import numpy as np
from PIL import Image

from dimgrey.core.camera.setups import toned_stops
from dimgrey.core.colour.chain import mixed_chain, tone_shift_stops
from dimgrey.core.colour.encoding import grey8_of_lightness
from dimgrey.core.document.scenefile import scene_of
from dimgrey.core.picture import measures
from dimgrey.core.picture.display import lightness_through
from dimgrey.core.picture.finish import finished
from dimgrey.core.planning.separation import parting, suggested_pairs
from dimgrey.core.planning.zones import format_tone
from dimgrey.scenes import rendering, store
from dimgrey.scenes.desk import plan_or_wait, view_key
from dimgrey.scenes.queries import picture_of
from dimgrey.scenes.seeing import crop_of, pairs_of

CURVE_WIDTH, CURVE_HEIGHT = 400.0, 260.0


@dataclass(frozen=True)
class Preview:
    """view: key of the grey picture. curve, plain: SVG paths. dots: tones on the curve. facts: (name, words)."""

    scene: object
    view: str
    curve: str
    plain: str
    dots: tuple
    numerals: tuple
    facts: tuple
    tone_map: object
    detail: str = ""


def preview_of(scene, made, labels="zones", extra_stops=0.0, measured=None, with_detail=False):
    """Preview of a core Setup on a scene with a picture, as the in-camera file shows it. None without a picture.

    extra_stops: another exposure than the plan's (+ is lighter). measured: (stops, L*) of the camera's own curve, or None
    for the default. with_detail: add a piece of the picture pixel for pixel.
    """
    picture = picture_of(scene)
    if picture is None:
        return None
    core_scene = scene_of(scene.document)
    result, _ = plan_or_wait(core_scene)
    shown = rendering.rendering_of(view_key(scene.document, picture, result, core_scene))
    chain = mixed_chain(made.filter)
    there = replace(
        shown, terms=chain.terms, stops=shown.stops + extra_stops, kind="digital file", development=0, tone=made.tone
    )
    zones = _tones(result, chain, made, extra_stops)
    return Preview(
        scene=scene,
        view=rendering.key_of(there),
        curve=_path(made.tone, measured),
        plain=_path((0.0, 0.0, 0.0), None),
        dots=tuple(_dot(mark, zone, made.tone, measured) for mark, zone in _marks(scene, zones)),
        numerals=tuple(
            (round(_x(k - 5), 1), text)
            for k, text in enumerate(("0", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X"))
        ),
        facts=_facts(scene, picture, there.tone_map, result, zones, made, labels),
        tone_map=there.tone_map,
        detail=_detail(scene, picture, there.tone_map, made) if with_detail else "",
    )


DETAIL = (400, 260)
"""Width and height in pixels of the piece that shows grain and sharpening at their size."""


def _detail(scene, picture, tone_map, made):
    """A piece of the picture around its subject, pixel for pixel, as a data address; "" when its file is gone."""
    try:
        planes = store.linear_of(picture.path)
    except store.PictureGone:
        return ""
    _, height, width = planes.shape
    subject = next((t for t in scene.document.get("tones", []) if t.get("role") == "subject" and "at" in t), None)
    x, y = subject["at"] if subject else (0.5, 0.5)
    left = int(min(max(x * width - DETAIL[0] / 2, 0), max(width - DETAIL[0], 0)))
    top = int(min(max(y * height - DETAIL[1] / 2, 0), max(height - DETAIL[1], 0)))
    part = np.moveaxis(planes[:, top : top + DETAIL[1], left : left + DETAIL[0]], 0, -1).astype(np.float32)
    shown = grey8_of_lightness(finished(tone_map.lightness(part), made, np.random.default_rng(1)))
    buffer = io.BytesIO()
    Image.fromarray(shown).save(buffer, "PNG", compress_level=1)
    return "data:image/png;base64," + base64.b64encode(buffer.getvalue()).decode()


def _x(stops):
    return (stops + 5.5) / 11 * CURVE_WIDTH


def _y(l_star):
    return CURVE_HEIGHT - 20 - l_star / 100 * (CURVE_HEIGHT - 40)


def _shown(stops, tone, measured):
    """L* of tones through a setup, by the camera's own curve where it was measured."""
    return np.interp(toned_stops(stops, tone), *measured) if measured else lightness_through(stops, tone)


def _path(tone, measured):
    stops = np.linspace(-5.5, 5.5, 111)
    shown = _shown(stops, tone, measured)
    return "M" + "L".join(f"{_x(s):.1f} {_y(v):.1f}" for s, v in zip(stops, shown, strict=True))


def _tones(result, chain, made, extra_stops):
    """name -> zone before the setup's tone curve, through its filter; {} without a plan."""
    if result is None:
        return {}
    colours = {tone.name: tone.colour for tone in result.scene.tones}
    shift = lambda name: 0.0 if colours[name] is None else tone_shift_stops(chain, colours[name])
    return {tone.name: tone.zone + shift(tone.name) + extra_stops for tone in result.tones}


def _marks(scene, zones):
    marks = {tone["name"]: tone.get("mark", "") for tone in scene.document.get("tones", [])}
    return [(marks.get(name, ""), zone) for name, zone in zones.items()]


def _dot(mark, zone, tone, measured):
    stops = float(np.clip(zone - 5, -5.5, 5.5))
    return {
        "mark": mark,
        "x": round(_x(stops), 1),
        "y": round(_y(float(_shown(stops, tone, measured))), 1),
    }


def _facts(scene, picture, tone_map, result, zones, made, labels):
    """Separation, balance and lost ends of the picture through the setup."""
    facts = []
    printed = {name: 5 + float(toned_stops(zone - 5, made.tone)) for name, zone in zones.items()}
    if result and len(printed) > 1:
        pairs = pairs_of(scene.document, result) or suggested_pairs(result.tones)
        said = [f"{pair.a} / {pair.b} {parting(printed[pair.a] - printed[pair.b])}" for pair in pairs[:3]]
        facts.append(("Parting", ", ".join(said)))
    try:
        linear = crop_of(scene.document).of(store.small(picture.path))
    except store.PictureGone:
        return tuple(facts)
    found = measures.balance(tone_map.zones(linear))
    facts.append(
        (
            "Balance",
            ", ".join(f"{name} {share * 100:.0f} %" for name, share in zip(measures.BANDS, found.shares, strict=True)),
        )
    )
    light = tone_map.lightness(linear)
    facts.append(
        (
            "Lost ends",
            f"black {float(np.mean(light <= 2)) * 100:.1f} %, white {float(np.mean(light >= 99)) * 100:.1f} %",
        )
    )
    lost = [name for name, zone in printed.items() if _needs(result, name) and not 0 < zone < 7.7]
    if lost:
        facts.append(
            ("Loses", ", ".join(f"{name} ({format_tone(min(max(printed[name], 0), 10), labels)})" for name in lost))
        )
    return tuple(facts)


def _needs(result, name):
    return any(tone.name == name and tone.needs_texture for tone in result.tones)
