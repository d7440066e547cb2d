"""Shapes: what each part of an open file or of a kept row may hold, said once; checked, read, written and printed from there.

A part is a frozen dataclass under `Shaped`. Each field says its shape in words of JSON Schema 2020-12: `key` for a value, `part`,
`maybe` and `many` for parts in it. `check` finds mistakes, `plain` reads and writes, `format` adds versions.
"""

import math
from dataclasses import MISSING, dataclass, field, fields
from functools import cache


@dataclass(frozen=True)
class Shaped:
    """The base of all parts. beyond: (key, value) of what a newer program wrote that this one does not know; written out again."""

    beyond: tuple = field(default=(), kw_only=True, metadata={"beyond": True})

    def contradictions(self):
        """Sentences on what does not go together, each beginning with a key; a part that knows any says them."""
        return ()


def key(shape, default=None, always=False, about="", since=1, asked=None, reads=None, **more):
    """A field that holds a value. shape: a dictionary of JSON Schema. about: a sentence for readers of the schema.

    always: written even where it has its default, and asked for when a file is read. since: the version of its format that
    brought it. asked: the version from which it is asked for, where that is a later one. reads: from what was written to what is kept, where that is another; may raise CoreError. more: what others say
    of it, such as the label of its field on a page.
    """
    said = {"shape": {**shape, "description": about} if about else shape, "always": always, "since": since,
            "asked": asked or since, "reads": reads}  # fmt: skip
    if isinstance(default, dict | list):
        made = default
        return field(default_factory=lambda: type(made)(made), metadata={**said, **more})
    return field(default=default, metadata={**said, **more})


def needed(shape, about="", since=1, reads=None):
    """A field without a default: always written, and asked for when a file is read. shape, about, since, reads: as in `key`."""
    return key(shape, MISSING, always=True, about=about, since=since, reads=reads)


def part(of, since=1):
    """A field that holds another part. of: its class. since: as in `key`."""
    return field(default_factory=of, metadata={"of": of, "since": since})


def maybe(of, since=1):
    """A field that holds another part or None. of: its class. since: as in `key`."""
    return field(default=None, metadata={"of": of, "since": since})


def or_empty(of):
    """A field that holds another part or None, which a row also writes as null or {}. of: its class."""
    return field(default=None, metadata={"of": of, "since": 1, "empty": True})


def many(of, most, since=1):
    """A field that holds parts. of: the class of each. most: how many. since: as in `key`."""
    return field(default=(), metadata={"of": of, "most": most, "since": since})


def many_kinds(of, most):
    """A field that holds parts of several classes, told apart by their key “kind”. of: kind -> class. most: how many."""
    return field(default=(), metadata={"kinds": of, "most": most, "since": 1})


def by_name(shape):
    """A field that holds values of one shape, each under a name of its own."""
    return key({"type": "object", "additionalProperties": shape}, {})


def text(most, least=0, pattern=""):
    """Words. most, least: characters; 0 for no limit. pattern: a regular expression of JSON Schema."""
    return {"type": "string", **({"maxLength": most} if most else {}), **({"minLength": least} if least else {}),
            **({"pattern": pattern} if pattern else {})}  # fmt: skip


def number(least=None, most=None, kind="number"):
    """A number. least, most: its limits, themselves allowed; None for none. kind: "number" or "integer"."""
    limits = {"minimum": least, "maximum": most}
    return {"type": kind, **{name: limit for name, limit in limits.items() if limit is not None}}


def written(most=24):
    """A number, or what people write of one: a marked stop, an EV with a fraction, a zone."""
    return {"type": ["number", "string"], "maxLength": most}


def one_of(*values):
    """One of these values."""
    return {"enum": list(values)}


def either(*shapes):
    """What has one of these shapes and no other."""
    return {"oneOf": list(shapes)}


def several(shape, least=0, most=None):
    """A list. shape: of each entry. least, most: how many."""
    return {"type": "array", **({"minItems": least} if least else {}), "maxItems": most, "items": shape}


def exactly(count, shape):
    """A list of `count` entries, each of that shape."""
    return several(shape, count, count)


def or_none(shape):
    """A shape, or null. shape: one with a type."""
    kinds = shape["type"] if isinstance(shape["type"], list) else [shape["type"]]
    return {**shape, "type": [*kinds, "null"]}


YES_NO = {"type": "boolean"}
ANYTHING = {}


def shape_of(part, version=math.inf):
    """The JSON Schema of a part: a fresh dictionary. version: keys that came later are left out."""
    properties, asked = {}, []
    for each in known_keys(part, version):
        properties[each.name] = _shape_of_key(each, version)
        if each.metadata.get("always") and each.metadata["asked"] <= version:
            asked.append(each.name)
    made = {"type": "object", "additionalProperties": False, "properties": properties}
    return {**made, "required": asked} if asked else made


def _shape_of_key(each, version):
    said = each.metadata
    if "kinds" in said:
        return several({"anyOf": [shape_of(of, version) for of in said["kinds"].values()]}, 0, said["most"])
    if "of" not in said:
        return said["shape"]
    made = shape_of(said["of"], version)
    if "empty" in said:
        return either(made, {"type": "null"}, {"type": "object", "maxProperties": 0})
    return several(made, 0, said["most"]) if "most" in said else made


@cache
def known_keys(part, version=math.inf):
    """Fields of a part that are keys of its file. version: those that came later are left out."""
    return tuple(each for each in fields(part) if "beyond" not in each.metadata and each.metadata["since"] <= version)


@cache
def extent(part):
    """How much a part can say, with the parts in it: its keys and the words of its lists. Whatever widens it makes it more."""
    parts, waiting, count = set(), [part], 0
    while waiting:
        of = waiting.pop()
        if of in parts:
            continue
        parts.add(of)
        for each in known_keys(of):
            count += 1 + _words_in(each.metadata.get("shape", {}))
            waiting += [each.metadata["of"]] if "of" in each.metadata else each.metadata.get("kinds", {}).values()
    return count


def _words_in(shape):
    inner = [*shape.get("oneOf", ()), *(shape[name] for name in ("items",) if name in shape)]
    return len(shape.get("enum", ())) + sum(map(_words_in, inner))
