"""A setup on a scene: the address of its picture, its curve over the zones with the scene's tones, and its measures."""

from dataclasses import dataclass, replace

import numpy as np

from dimgrey.core.colour.chain import mixed_chain, tone_shift_stops
from dimgrey.core.picture import measures
from dimgrey.core.picture.display import FILE_CURVE, lightness
from dimgrey.core.scenefile import scene_of
from dimgrey.core.separation import parting, suggested_pairs
from dimgrey.core.setups import toned_stops
from dimgrey.core.zones import format_tone
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


def preview_of(scene, made, labels="zones", extra_stops=0.0):
    """Preview of a core Setup on a scene with a picture, as the in-camera file shows it. None without a picture.

    extra_stops: another exposure than the plan's (+ is lighter).
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
        curve=_path(made.tone),
        plain=_path((0.0, 0.0, 0.0)),
        dots=tuple(_dot(mark, zone, made.tone) for mark, zone in _marks(scene, zones)),
        numerals=tuple(
            (round(_x(k - 5), 1), text)
            for k, text in enumerate(("0", "I", "II", "III", "IV", "V", "VI", "VII", "VIII", "IX", "X"))
        ),
        facts=_facts(scene, picture, there.tone_map, result, zones, made, labels),
        tone_map=there.tone_map,
    )


def _x(stops):
    return (stops + 5.5) / 11 * CURVE_WIDTH


def _y(l_star):
    return CURVE_HEIGHT - 20 - l_star / 100 * (CURVE_HEIGHT - 30)


def _path(tone):
    stops = np.linspace(-5.5, 5.5, 111)
    shown = lightness(toned_stops(stops, tone), FILE_CURVE)
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


def _dot(mark, zone, tone):
    stops = float(np.clip(zone - 5, -5.5, 5.5))
    return {
        "mark": mark,
        "x": round(_x(stops), 1),
        "y": round(_y(float(lightness(toned_stops(stops, tone), FILE_CURVE))), 1),
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
