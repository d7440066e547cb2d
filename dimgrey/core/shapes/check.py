"""Mistakes of shape in plain values, each a sentence that begins with its path."""

import json
import math
import re

from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.declare import ANYTHING, known_keys

MOST_MISTAKES = 50


class DocumentError(CoreError):
    """What cannot be used; `mistakes` has one sentence for each fault, each naming its path."""

    def __init__(self, mistakes, code="document"):
        super().__init__("\n".join(mistakes), parameter="file", code=code)
        self.mistakes = list(mistakes)


def mistakes_in(part, data, path="", version=math.inf, lenient=False, head=()):
    """Yield a sentence for each mistake of shape in plain values.

    part: class. data: what JSON held. path: of the part in its file. version: that the file says. lenient: keys that are not known
    are passed over. head: names of keys that stand before those of the part.
    """
    if not isinstance(data, dict):
        yield f"{path or 'the file'}: must be an object (got {shown(data)})."
        return
    known = known_keys(part, version)
    if not lenient:
        names = [*head, *(each.name for each in known)]
        for name in sorted(set(data) - set(names)):
            yield f"{joined(path, name)}: unknown key. Known here: {', '.join(names)}."
    for each in known:
        if each.name in data:
            yield from _mistakes_of_key(each, data[each.name], joined(path, each.name), version, lenient)
    for each in known:
        if each.metadata.get("always") and each.metadata["asked"] <= version and each.name not in data:
            yield f"{joined(path, each.name)}: missing."


def _mistakes_of_key(each, value, path, version, lenient):
    of, most, kinds = (each.metadata.get(name) for name in ("of", "most", "kinds"))
    if of is None and kinds is None:
        yield from mistakes_of_shape(each.metadata["shape"], value, path)
    elif each.metadata.get("empty") and value in (None, {}):
        return
    elif most is None:
        yield from mistakes_in(of, value, path, version, lenient)
    elif not isinstance(value, list | tuple):
        yield f"{path}: must be a list (got {shown(value)})."
    else:
        if len(value) > most:
            yield f"{path}: must have at most {most} items (got {len(value)})."
        for k, entry in enumerate(value):
            at, kind = f"{path}[{k}]", entry.get("kind") if isinstance(entry, dict) else None
            if kinds and not (isinstance(kind, str) and kind in kinds):
                yield f"{at}.kind: must be {either_of(list(kinds))} (got {shown(kind)})."
            else:
                yield from mistakes_in(kinds[kind] if kinds else of, entry, at, version, lenient)


KINDS = {
    "object": ("an object", lambda v: isinstance(v, dict)),
    "array": ("a list", lambda v: isinstance(v, list | tuple)),
    "string": ("text", lambda v: isinstance(v, str)),
    "number": ("a number", lambda v: type(v) is int or (type(v) is float and math.isfinite(v))),
    "integer": ("a whole number", lambda v: type(v) is int or (type(v) is float and v.is_integer())),
    "boolean": ("true or false", lambda v: isinstance(v, bool)),
    "null": ("null", lambda v: v is None),
}
"""Types of JSON Schema: what they are called, and what has them."""


def mistakes_of_shape(shape, value, path=""):
    """Yield a sentence for each mistake of a value. shape: of those that the functions above make. path: of the value."""
    if "enum" in shape:
        if not any(value == word and isinstance(value, bool) == isinstance(word, bool) for word in shape["enum"]):
            yield f"{path}: must be {either_of(shape['enum'])} (got {shown(value)})."
        return
    if "oneOf" in shape:
        if sum(fits(each, value) for each in shape["oneOf"]) != 1:
            yield f"{path}: not one of the forms it can have (got {shown(value)})."
        return
    kinds = shape.get("type", ())
    kinds = (kinds,) if isinstance(kinds, str) else kinds
    if kinds and not any(KINDS[kind][1](value) for kind in kinds):
        called = [KINDS[kind][0] for kind in kinds]
        yield f"{path or 'the file'}: must be {either_of(called, quoted=False)} (got {shown(value)})."
        return
    if isinstance(value, str):
        yield from _of_length(shape, value, path, "Length", "characters")
        if "pattern" in shape and not re.search(shape["pattern"], value):
            yield f"{path}: does not match {shape['pattern']} (got {shown(value)})."
    elif isinstance(value, list | tuple):
        yield from _of_length(shape, value, path, "Items", "items")
        for k, entry in enumerate(value):
            yield from mistakes_of_shape(shape.get("items", ANYTHING), entry, f"{path}[{k}]")
    elif isinstance(value, dict):
        for name, entry in value.items():
            yield from mistakes_of_shape(shape.get("additionalProperties", ANYTHING), entry, joined(path, name))
    elif type(value) in (int, float):
        if value < shape.get("minimum", -math.inf):
            yield f"{path}: must be at least {shape['minimum']:g} (got {shown(value)})."
        if value > shape.get("maximum", math.inf):
            yield f"{path}: must be at most {shape['maximum']:g} (got {shown(value)})."


def fits(shape, value):
    """Whether a value has a shape.

    >>> fits({"type": "number"}, 1.5), fits({"type": "number"}, True), fits({"enum": ["a"]}, "b")
    (True, False, False)
    """
    return next(mistakes_of_shape(shape, value), None) is None


def _of_length(shape, value, path, word, unit):
    most, least = shape.get(f"max{word}"), shape.get(f"min{word}")
    if most is not None and len(value) > most:
        yield f"{path}: must have at most {most} {unit} (got {len(value)})."
    if least is not None and len(value) < least:
        yield f"{path}: must have at least {least} {unit} (got {len(value)})."


def joined(path, key):
    """The path of a key within a path. key: its name."""
    return f"{path}.{key}" if path else str(key)


def either_of(options, quoted=True):
    """ "a, b or c", as JSON writes them. options: a list. quoted: words are no words of JSON."""
    words = [json.dumps(o, ensure_ascii=False) if quoted else str(o) for o in options]
    return words[0] if len(words) == 1 else f"{', '.join(words[:-1])} or {words[-1]}"


def shown(value):
    """A value as a sentence shows it, cut where it is long."""
    words = json.dumps(value, ensure_ascii=False, default=str)
    return words if len(words) <= 40 else words[:39] + "…"
