"""The field's one door: asked in JSON, answered in JSON, so that a worker in the browser needs to know nothing of the core.

`lay_in` takes what was carried along; `told` does the acts of a scene on the document that was carried and says what the page
shows. Nothing is kept but what was laid in and the last document of each scene, which saves doing its acts again.
"""

import base64
import json
from contextlib import suppress
from dataclasses import asdict, dataclass, field, replace

from dimgrey.core.acts.verb import verb_named, verb_names
from dimgrey.core.colour import chainterms
from dimgrey.core.colour.onecolour import NODES
from dimgrey.core.document.briefing import brief_of
from dimgrey.core.document.kit import item_of
from dimgrey.core.document.kituse import glass_of, with_kit
from dimgrey.core.document.lightscale import Facts, light_scale
from dimgrey.core.document.meansedits import with_colour_choice
from dimgrey.core.document.model import Document
from dimgrey.core.document.onroll import on_roll, roll_of
from dimgrey.core.document.plainform import document_of, plain
from dimgrey.core.document.sighting import sighted_words
from dimgrey.core.errors import CoreError
from dimgrey.core.field.carried import Carried, Sun
from dimgrey.core.field.exchange import (
    Asked,
    AwaitAsked,
    BeginAsked,
    FinderAsked,
    KitTaken,
    SceneTaken,
    asked_in,
)
from dimgrey.core.field.lines import plain_lines, ribbon
from dimgrey.core.field.replay import OnPhone, catch_up, tried
from dimgrey.core.field.sheet import sheet
from dimgrey.core.field.waiting import coming, interval_words
from dimgrey.core.judging.around import around_sky
from dimgrey.core.judging.proposals import intent_line, proposals_of
from dimgrey.core.measure.shotdata import shot_in
from dimgrey.core.picture.phonemap import SHADES, live_tables, map_of_pixels
from dimgrey.core.picture.plaintables import FIRST, LAST, grey_table, node_stops
from dimgrey.core.planning.planwords import plan_or_wait
from dimgrey.core.planning.separation import choice_names
from dimgrey.core.planning.tonewords import Words, divisions_of
from dimgrey.core.planning.wishes import wanted_of
from dimgrey.core.shapes.plain import read_part
from dimgrey.core.sky.skyview import sky_of

MAX_TITLE = 120


@dataclass
class _Kit:
    """What was laid in: kind -> name -> item, setups by their number, mixes by camera, rolls in cameras, how tones are named."""

    items: dict = field(default_factory=dict)
    setups: dict = field(default_factory=dict)
    mixes: dict = field(default_factory=dict)
    rolls: tuple = ()
    labels: str = "zones"

    def named(self, names):
        """kind -> item of those names that it has. names: by kind."""
        known = {kind: self.items.get(kind, {}).get(name) for kind, name in names.items()}
        return {kind: item for kind, item in known.items() if item}


_kit = _Kit()
_scenes = {}


class PolarizerAt:
    """What a polarizer takes at places that were computed at the desk; elsewhere the nearest of them."""

    def __init__(self, rows):
        self.rows = rows

    def stops(self, x, y):
        """Stops at fractions x, y, 0 or negative; 0 where nothing was computed."""
        near = min(self.rows, key=lambda row: (row[0] - x) ** 2 + (row[1] - y) ** 2, default=(0, 0, 0.0))
        return near[2]


def lay_in(text):
    """Take a kit along: terms of its chains, its filters and setups, how tones are named. text: JSON of `field.bundle.kit_of`."""
    global _kit
    taken = asked_in(text, KitTaken)
    chainterms.carry(taken.terms)
    items = {kind: {row.name: item_of(kind, row.name, row.values) for row in rows} for kind, rows in taken.rows.items()}
    _kit = _Kit(items, {row.pk: row.part for row in taken.setups}, taken.mixes, taken.rolls, taken.labels)
    _scenes.clear()


def open_scene(key, text):
    """Take a scene along under a key. text: JSON of `field.bundle.scene_of`; what was known of the key is forgotten."""
    data = json.loads(text)
    taken = read_part(SceneTaken, data)
    document = document_of(taken.document)
    # A page of an older version took no sun along, which is not to know it; null is no sun over an outing without a day.
    sun = Sun(taken.sun, document.view, document.place) if "sun" in data else None
    carried = _carried(taken, document, sun)
    _scenes[key] = OnPhone(document, carried)


def warm():
    """Import what acts would ask for one by one, before the memory is taken from which a phone starts later."""
    for name in verb_names():
        with suppress(ImportError):  # what needs NumPy is refused on a phone
            verb_named(name)


def _carried(taken, document, sun):
    around = taken.history
    past = tuple(map(document_of, around.past))
    states, led = (*past, document), [each for each in around.lines if each.step is not None]
    steps = {each.line: (states[each.step], states[each.step + 1]) for each in led}
    return Carried(
        facts=taken.facts and Facts(**taken.facts),
        rolls=_kit.rolls,
        kit=_kit.items,
        mixes_of=_kit.mixes,
        setups=_kit.setups,
        polarizer=PolarizerAt(taken.polarized) if taken.polarized else None,
        sky_places=tuple(map(tuple, taken.in_sky)),
        sky=taken.sky and sky_of(taken.sky),
        sun=sun,
        past=past,
        ahead=tuple(map(document_of, around.ahead)),
        is_whole=around.whole,
        steps=steps | {each.line: (document, document) for each in around.lines if each.frame},
        lines=ribbon(around.lines),
    )


def told(key, text):
    """What the page shows of a scene after acts, as JSON: document, sheet, and the sentence of each act that was refused.

    key: of the scene. text: JSON of {"acts": [...], "preview": act or null}; a preview is done last and not remembered.
    """
    scene, asked = _scenes[key], asked_in(text, Asked)
    catch_up(scene, asked.acts)
    document, refused = scene.document, dict(scene.refused)
    if asked.preview:
        document, sentence = tried(scene, asked.preview)
        if sentence:
            refused["preview"] = sentence
    shown = sheet(document, scene.carried, _kit.labels) | {"lines": plain_lines(scene.lines)}
    answer = {"sheet": shown, "refused": refused, "asked": list(scene.asked)}
    if not asked.preview:
        answer["document"] = plain(document)
    return json.dumps(answer)


def nearer(key, text):
    """What brings a scene nearer to what is wanted, as JSON: {"line": the sentence of the nearest, "proposals": [...]}.

    key: of the scene. text: JSON of {"acts": [...]}. Asked for once the sheet stands, because it plans some forty times.
    """
    scene, asked = _scenes[key], asked_in(text, Asked)
    catch_up(scene, asked.acts)
    carried, document = scene.carried, on_roll(scene.document, scene.carried.rolls)
    try:
        result = plan_or_wait(carried.read_as(document))[0]
        if result is None:
            return json.dumps({"line": "", "proposals": []})
        roll, sky = roll_of(document, carried.rolls), carried.sky
        owned = (
            frozenset(glass_of(item).name for item in _kit.items.get("filter", {}).values()) or None
        )  # none: nobody has said
        around = replace(around_sky(document, sky), on_roll=roll is not None and roll.step is not None, owned=owned)
        found = proposals_of(document, result, carried.read_as, around)
        line = intent_line(wanted_of(result.brief), result, found).nearest
    except CoreError as refused:
        return json.dumps({"line": str(refused), "proposals": []})
    return json.dumps({"line": line, "proposals": [asdict(each) for each in found.proposals]})


def sighted(key, text):
    """What stands beside the ring while the finger moves, as JSON; `sighting.sighted_words` says what.

    key: of the scene. text: JSON of {"acts": [...], "spot": {...}, "y": fraction from the top, "sky": it lies in the sky}.
    """
    scene, asked = _scenes[key], asked_in(text, Asked)
    catch_up(scene, asked.acts)
    document, facts = scene.document, scene.carried.facts
    try:
        seen, brief = scene.carried.seen(document, asked.spot), scene.carried.read_as(document)
        words = Words(_kit.labels, divisions_of(document))
        scale, result = light_scale(document, facts), plan_or_wait(brief)[0]
        said = sighted_words(document, brief, result, scale, seen, lambda: asked.sky, words)
    except CoreError as refused:
        return json.dumps({"problem": str(refused)})
    return json.dumps(said)


def painted(key, text):
    """The painter's tables of a view, as JSON: those that do not come with the picture.

    key: of the scene. text: JSON of {"acts": [...], "preview": act or null} as in `told`. The tables change with filter, mix, development
    and setup, not with the exposure.
    """
    scene, asked = _scenes[key], asked_in(text, Asked)
    catch_up(scene, asked.acts)
    document = scene.document
    if asked.preview:
        document, _ = tried(scene, asked.preview)
    brief = scene.carried.read_as(document)
    result, _ = plan_or_wait(brief)
    scale = light_scale(document, scene.carried.facts) if scene.carried.facts else None
    chain = result.chain if result else brief.medium.chain(brief.light, brief.coloured)
    return json.dumps(
        _tables(chain, brief.medium, result.printing.step if result else 0, scale.slope if scale else 1.0)
    )


def _tables(chain, medium, step=0, slope=1.0, hard=False):
    return {
        "nodes": list(node_stops(chain)),
        "weights": None if chain.through else list(chain.weights),
        "sky": list(chainterms.terms_of(chain.through).sky) if chain.through else None,
        "grey": base64.b64encode(grey_table(medium.kind, step, medium.tone, slope, hard)).decode("ascii"),
        "slope": slope,
        "first": FIRST,
        "last": LAST,
        "side": NODES,
    }


def finder(text):
    """The tables of a live view and the filters or mixes to choose from, as JSON.

    text: JSON of {"kit": names by kind, "choice": filter or mix, "hard": squeezed}. A live picture has no scale: its own middle is V.
    """
    asked = asked_in(text, FinderAsked)
    brief = brief_of(with_colour_choice(with_kit(Document(), **_kit.named(asked.kit)), asked.choice))
    tables = _tables(brief.medium.chain(brief.light, brief.coloured), brief.medium, hard=asked.hard)
    return json.dumps({**tables, "choices": list(choice_names(brief))})


def live():
    """What a live picture is mapped with, as JSON; `phonemap.live_tables` says what."""
    light, codes = live_tables()
    return json.dumps({"light": light, "codes": base64.b64encode(codes).decode("ascii"), "shades": SHADES})


def fresh(text):
    """A scene that begins in the field, as JSON: what the phone keeps as if it had been taken along.

    text: JSON of {"title", "kit": names by kind, "size": [width, height] or null, "shot": what `shot_of` told, "choice": filter or
    mix, "view": {"heading_deg", "tilt_deg"} as the phone's sensors say, either may miss}.
    """
    asked = asked_in(text, BeginAsked)
    document = with_kit(Document(title=asked.title[:MAX_TITLE].strip() or "New scene"), **_kit.named(asked.kit))
    if asked.choice != "none":
        document = with_colour_choice(document, asked.choice)
    if asked.view:
        document = replace(document, view=replace(document.view, **asked.view))
    facts = Facts(*asked.size, asked.shot.focal_35mm, asked.shot.ev100, False, 1.0, False) if asked.size else None
    carried = Carried(facts=facts, rolls=_kit.rolls, kit=_kit.items, setups=_kit.setups)
    return json.dumps(
        {
            "title": document.title,
            "document": plain(document),
            "facts": asdict(facts) if facts else None,
            "polarized": [],
            "sky": None,
            "history": {"whole": True},
            "sheet": sheet(document, carried, _kit.labels),
        }
    )


def shot_of(data):
    """Exposure data of a picture file, as JSON. data: its bytes."""
    shot = shot_in(bytes(data))
    return json.dumps({"ev100": shot.ev100, "focal_35mm": shot.focal_35mm, "warnings": list(shot.warnings)})


def light_of_pixels(pixels, width, height):
    """The light map of a picture that the phone took, as bytes; `phonemap.map_of_pixels` says how. pixels, width, height: as there."""
    return map_of_pixels(bytes(pixels), width, height)


def awaited(text):
    """What the light of the day will do, and what an interval takes, as JSON: two lists of sentences.

    text: JSON of {"rows", "clock"} for the light, {"every_s", "minutes", "longest_s", "frame_mb"} for an interval; either may miss.
    """
    asked, light, interval = asked_in(text, AwaitAsked), (), ""
    if asked.clock:
        light = coming(asked.rows, asked.clock)
    if asked.every_s:
        try:
            given = asked.every_s, asked.minutes, asked.longest_s, asked.frame_mb
            interval = interval_words(*map(float, given))
        except (CoreError, ValueError, TypeError) as refused:
            interval = str(refused)
    return json.dumps({"light": list(light), "interval": interval})
