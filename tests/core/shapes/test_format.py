"""Widening costs no version: minor revisions, what an older program keeps of a newer file, and what a schema may not lose."""

import json
import math
from dataclasses import dataclass, replace

from django.test import SimpleTestCase

from dimgrey.core.acts.case import Case
from dimgrey.core.acts.verb import done
from dimgrey.core.document import scenefile
from dimgrey.core.document.kitfile import KIT
from dimgrey.core.document.model import SCENE
from dimgrey.core.document.plainform import document_of, plain
from dimgrey.core.document.setupfile import SETUP
from dimgrey.core.finishing.finishingplan import FINISH
from dimgrey.core.shapes.check import DocumentError
from dimgrey.core.shapes.declare import Shaped, extent, key, number, one_of, part, shape_of
from dimgrey.core.shapes.format import Format
from dimgrey.core.shapes.plain import checked_part, plain_part, read_part, whole_part


@dataclass(frozen=True)
class Inner(Shaped):
    depth: float = key(number(0, 5), 0.0)


@dataclass(frozen=True)
class Small(Shaped):
    size: float = key(number(0, 10), 1.0)
    colour: str = key(one_of("red", "blue"), "red")
    inner: Inner = part(Inner)


@dataclass(frozen=True)
class TintedInner(Inner):
    tint: str = key(one_of("warm", "cold"), "cold")


@dataclass(frozen=True)
class Gained(Shaped):
    size: float = key(number(0, 10), 1.0)
    colour: str = key(one_of("red", "blue", "green"), "red")
    inner: TintedInner = part(TintedInner)
    weight: float | None = key(number(0, 9))


@dataclass(frozen=True)
class Freer(Small):
    size: float = key(number(-1, 20), 1.0)


@dataclass(frozen=True)
class Lost(Shaped):
    size: float = key(number(0, 10), 1.0)
    inner: Inner = part(Inner)


@dataclass(frozen=True)
class Fewer(Small):
    colour: str = key(one_of("blue"), "blue")


@dataclass(frozen=True)
class Asked(Small):
    size: float = key(number(0, 10), 1.0, always=True)


@dataclass(frozen=True)
class Tighter(Small):
    size: float = key(number(0, 9), 1.0)


class Minor(SimpleTestCase):
    """Widening costs no version: the minor revision counts it, and an older program keeps what it does not know."""

    OLD, NEW = Format("small", Small, 1, begun=6), Format("small", Gained, 1, begun=6)

    def test_it_counts_keys_and_words(self):
        self.assertEqual((extent(Small), extent(Gained), self.OLD.minor, self.NEW.minor), (6, 11, 0, 5))
        for found in (SCENE, KIT, SETUP, FINISH):
            self.assertGreaterEqual(found.minor, 0, found.name)

    def test_a_file_of_a_newer_minor_revision_keeps_what_an_older_program_does_not_know(self):
        newer = {
            "format": "dimgrey-small",
            "version": 1,
            "minor": 5,
            "size": 2,
            "weight": 3,
            "inner": {"depth": 1, "tint": "warm"},
        }
        self.OLD.check(newer)
        read = replace(self.OLD.read(newer), size=4)
        self.assertEqual(self.OLD.write(read), {**newer, "size": 4})
        self.NEW.check(self.OLD.write(read))
        self.assertEqual(self.NEW.read(self.OLD.write(read)).inner.tint, "warm")

    def test_of_this_revision_an_unknown_key_is_refused_by_name_and_an_unknown_word_with_the_list(self):
        same = {"format": "dimgrey-small", "version": 1, "weight": 3}
        for data, sentence in (
            (same, "weight: unknown key. Known here: format, version, size, colour, inner."),
            ({**same, "minor": 0}, "weight: unknown key."),
            (
                {"format": "dimgrey-small", "version": 1, "minor": 9, "colour": "mauve"},
                'colour: must be "red" or "blue" (got "mauve").',
            ),
            ({"format": "dimgrey-small", "version": 1, "minor": "x"}, "minor: must be a whole number"),
        ):
            with self.assertRaisesMessage(DocumentError, sentence):
                self.OLD.check(data)

    def test_a_scene_of_a_newer_program_is_planned_changed_and_written_out_whole(self):
        newer = {**plain(document_of({"format": "dimgrey-scene", "version": 6, "medium": {"kind": "film"}})),
                 "minor": SCENE.minor + 3, "mist": {"depth_m": 4}, "tones": [{"name": "wall", "mark": "A", "ev100": 9, "sheen": 0.2}]}  # fmt: skip
        read = scenefile.load(json.dumps(newer))
        changed = done(read, "shift", {"stops": "1"}, Case())
        written = json.loads(scenefile.text_of(changed))
        self.assertEqual(
            (written["mist"], written["minor"], written["tones"][0]["sheen"]), ({"depth_m": 4}, SCENE.minor + 3, 0.2)
        )
        self.assertEqual(written["tones"][0]["ev100"], 10)
        with self.assertRaisesMessage(DocumentError, "mist: unknown key."):
            scenefile.load(json.dumps({**newer, "minor": SCENE.minor}))

    def test_widening_is_taken_and_narrowing_is_not(self):
        kept = shape_of(Small)
        for wider in (Gained, Freer):
            self.assertEqual(list(narrowings(kept, shape_of(wider))), [], wider)
        for narrower, words in (
            (Lost, "colour: gone"),
            (Fewer, "colour: “red” gone"),
            (Asked, "size: asked for"),
            (Tighter, "size: maximum"),
        ):
            self.assertIn(words, " ".join(narrowings(kept, shape_of(narrower))), narrower)


def narrowings(before, after, path=""):
    """Yield what a schema takes no longer. before, after: JSON Schema."""
    for name, shape in before.get("properties", {}).items():
        at = f"{path}.{name}".lstrip(".")
        if name not in after.get("properties", {}):
            if not after.get("additionalProperties", True):
                yield f"{at}: gone"
            continue
        yield from narrowings(shape, after["properties"][name], at)
    for name in set(after.get("required", ())) - set(before.get("required", ())):
        yield f"{path}.{name}: asked for".lstrip(".")
    for word in before.get("enum", ()):
        if word not in after.get("enum", (word,)):
            yield f"{path}: “{word}” gone"
    types = lambda shape: set([shape["type"]] if isinstance(shape.get("type"), str) else shape.get("type", ()))
    if types(after) and types(before) - types(after):
        yield f"{path}: type {types(before) - types(after)} gone"
    for name, tighter in (("maximum", lambda a, b: b < a), ("minimum", lambda a, b: b > a), ("maxLength", lambda a, b: b < a),
                          ("maxItems", lambda a, b: b < a), ("minItems", lambda a, b: b > a), ("minLength", lambda a, b: b > a)):  # fmt: skip
        limit = before.get(name, {"max": math.inf, "min": -math.inf}[name[:3]])
        if name in after and after[name] is not None and tighter(math.inf if limit is None else limit, after[name]):
            yield f"{path}: {name} {after[name]}"
    if "items" in before and "items" in after and "anyOf" not in after["items"]:
        yield from narrowings(before["items"], after["items"], f"{path}[]")
    if "const" in before and before["const"] != after.get("const", before["const"]):
        yield f"{path}: another constant"
    if after.get("pattern") not in (None, before.get("pattern")):
        yield f"{path}: pattern"


class Plain(SimpleTestCase):
    def test_what_is_read_is_written_again(self):
        for data in ({}, {"size": 3.5}, {"colour": "blue", "inner": {"depth": 2}}):
            self.assertEqual(plain_part(read_part(Small, data)), data)
        self.assertEqual(whole_part(Small()), {"size": 1.0, "colour": "red", "inner": {"depth": 0.0}})

    def test_each_mistake_has_its_path(self):
        for data, sentence in (
            ({"size": 11}, "size: must be at most 10 (got 11)."), ({"size": True}, "size: must be a number (got true)."),
            ({"size": float("inf")}, "size: must be a number"), ({"inner": {"depth": -1}}, "inner.depth: must be at least 0 (got -1)."),
            ({"inner": 5}, "inner: must be an object (got 5)."), ({"soup": 1}, "soup: unknown key. Known here: size, colour, inner."), ([], "the file: must be an object"),
        ):  # fmt: skip
            with self.subTest(data=data), self.assertRaisesMessage(DocumentError, sentence):
                checked_part(Small, data)
        with self.assertRaisesMessage(DocumentError, "rows[3].size: must be at most 10"):
            checked_part(Small, {"size": 11}, "rows[3]")
