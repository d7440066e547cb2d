"""The filter bench: every filter and mix on this picture and these tones at once, with cost, effects and advice."""

import math
from dataclasses import dataclass, replace

from dimgrey.core.colour.chain import CHANNEL_MIXES, glass_chain, mixed_chain, tone_shift_stops
from dimgrey.core.colour.filters import COLOURED
from dimgrey.core.document.kit import scene_filter
from dimgrey.core.measure.exposure import exposure_time_s, marked_time
from dimgrey.core.measure.stops import format_aperture, format_stops, format_time
from dimgrey.core.planning import separation
from dimgrey.core.planning.advice import advice
from dimgrey.core.sky.skytone import SKY_COLOUR
from dimgrey.kit.queries import items_of
from dimgrey.scenes import rendering, seeing, store
from dimgrey.scenes.desk import desk_of

LEAVES, SKIN = (0.06, 0.11, 0.04), (0.45, 0.28, 0.20)
"""Linear sRGB of leaves in sun and of pale skin, for words about what a filter does."""
TELLING_STOPS = 0.2


@dataclass(frozen=True)
class BenchWay:
    """One way on the bench, ready to show. arrows: a tone's mark with its place before and after, in percent of the rail."""

    name: str
    view: str
    current: bool
    cost: str
    exposure: str
    arrows: tuple
    parts: str
    effects: str
    words: str
    kit: bool


@dataclass(frozen=True)
class Bench:
    desk: object
    ways: tuple
    proposals: tuple
    places: tuple
    pairs: tuple
    wait: str


def bench_of(scene, person):
    """Bench of a scene: the medium's own ways and the coloured filters of the kit."""
    shown = desk_of(scene, person.tone_labels)
    if shown.plan is None:
        return Bench(shown, (), (), (), (), shown.wait)
    pairs = seeing.pairs_of(scene.document, shown.plan)
    ways = [*separation.ways(shown.plan, pairs), *_kit_ways(shown, person, pairs)]
    base = next(way for way in ways if way.name == "none")
    view = seeing.view_of(scene)
    return Bench(
        desk=shown,
        ways=tuple(_bench_way(way, base, shown) for way in ways),
        proposals=advice(shown.plan, scene.document.get("wanted", {}).get("scale", ""), _zones(view), _words(scene)),
        places=_places(shown.plan),
        pairs=pairs,
        wait="",
    )


def _zones(view):
    if view is None:
        return None
    try:
        return view.tone_map.zones(view.linear)
    except store.PictureGone:
        return None


def _words(scene):
    wanted = scene.document.get("wanted", {})
    return " ".join([scene.title, scene.document.get("intent", ""), wanted.get("subject", ""), wanted.get("mood", "")])


def _kit_ways(shown, person, pairs):
    """Coloured filters of the kit with a spectrum or a printed factor of their own, as ways of a film or grey sensor."""
    medium = shown.plan.scene.medium
    if medium.mixes_channels:
        return []
    made = []
    for item in items_of(person).filter(kind="filter", retired=False):
        glass = scene_filter(item.named)
        own = tuple(tuple(point) for point in glass.get("points", ())) or None
        if not own and glass["name"] not in COLOURED:
            continue
        chain = glass_chain(medium.response, shown.plan.scene.light, (own or glass["name"],))
        stops = math.log2(glass["factor"]) if glass.get("factor") else chain.stops
        made.append(separation.way_through(shown.plan, pairs, item.name, replace(chain), stops))
    return made


def _bench_way(way, base, shown):
    result, picture = shown.plan, shown.picture
    current = _is_current(way, shown.document)
    view = ""
    if picture:
        there = replace(rendering.rendering_of(shown.view_key), terms=way.chain.terms)
        view = rendering.key_of(there)
    ev = result.exposure_ev100 + result.filter_cost.coloured_stops - way.stops
    seconds = exposure_time_s(ev, result.aperture.exact, result.scene.medium.iso)
    parts = [f"{p.pair.a} / {p.pair.b}: {p.word} ({abs(p.zones_apart):.1f})" for p in way.parted]
    effects = [f"{pair.a} and {pair.b} merge" for pair in way.merges] + [f"{name} is lost" for name in way.lost]
    if way.noise_gain > separation.NOISE_LIMIT:
        effects.append(f"noise ×{way.noise_gain:.1f}; halos where colours swap order")
    return BenchWay(
        name=way.name,
        view=view,
        current=current,
        cost=f"{format_stops(way.stops)} stops" if way.stops else "no light",
        exposure=f"{format_time(marked_time(seconds, result.scene.increment))} {format_aperture(result.aperture)}",
        arrows=_arrows(way, base, shown),
        parts="; ".join(parts[:3]),
        effects="; ".join(effects),
        words=_what_it_does(way.chain, base.chain),
        kit=way.name not in COLOURED and way.name not in CHANNEL_MIXES,
    )


def _is_current(way, document):
    medium = document.get("medium", {})
    if medium.get("kind", "film").startswith("digital") and not medium.get("response"):
        return medium.get("channel_mix", document.get("setup", {}).get("filter", "none")) == way.name
    coloured = [g["name"] for g in document.get("filters", []) if g["name"] in COLOURED or "points" in g]
    return coloured == ([] if way.name == "none" else [way.name])


def _arrows(way, base, shown):
    marks = {tone.name: tone.mark for tone in shown.tones}
    place = lambda zone: round(min(max((zone + 0.5) / 11 * 100, 0.5), 99.5), 1)
    return tuple(
        {
            "mark": marks.get(name, ""),
            "from": f"{place(base.standing[name])}%",
            "to": f"{place(zone)}%",
            "moved": abs(zone - base.standing[name]) > 0.15,
        }
        for name, zone in way.standing.items()
    )


def _what_it_does(chain, plain):
    said = []
    for name, colour in (("sky", SKY_COLOUR), ("leaves", LEAVES), ("skin", SKIN)):
        change = tone_shift_stops(chain, colour) - tone_shift_stops(plain, colour)
        if abs(change) >= TELLING_STOPS:
            said.append(f"{name} {format_stops(abs(change))} {'lighter' if change > 0 else 'darker'}")
    return ", ".join(said) or "hardly changes sky, leaves or skin"


# --- in front of the lens, in the camera, or later -----------------------------------------------------------------------------


@dataclass(frozen=True)
class Place:
    """Where colour can be controlled: name, whether it applies to this medium, why, and what it costs."""

    name: str
    applies: bool
    why: str
    costs: str


def _places(result):
    medium = result.scene.medium
    colour_sensor, film = medium.mixes_channels, medium.is_film
    hard = separation.noise_gain((2.0, -0.6, -0.4))
    red = mixed_chain("red").weights
    return (
        Place(
            "Glass on the lens",
            not colour_sensor,
            "A colour sensor is balanced through the glass, so most of its effect is lost." if colour_sensor else "Film and grey sensors see the glass as it is." ,
            "Light, by its factor; no noise and no halos." if not colour_sensor else "Light, for little. A polarizer and grey glass still work: nothing later replaces them.",
        ),
        Place(
            "In-camera filter",
            colour_sensor,
            "The camera mixes its own colours." if colour_sensor else "This medium has no colours to mix." ,
            f"No light; noise ×{separation.noise_gain(red):.1f} with red. Baked into the in-camera file." if colour_sensor else "—",
        ),
        Place(
            "Mixing later from raw",
            medium.kind == "digital raw" and colour_sensor,
            "The raw file keeps colour, so every mix is still open." if medium.kind == "digital raw" and colour_sensor else "Needs a raw file with colour." if not film else "Film has decided when the shutter closes.",
            f"No light; hard mixes cost noise (×{hard:.1f} for a black sky) and draw halos where neighbouring colours swap order." if colour_sensor else "—",
        ),
    )  # fmt: skip
