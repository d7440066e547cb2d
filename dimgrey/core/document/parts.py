"""Parts of a document: what each key may hold, what it is when it is not said, and their plain values and back.

A part is a frozen dataclass. Each field says its shape once, here in words of JSON Schema: `key` for a value, `part`, `maybe`
and `many` for parts in it. `shape_of` is the schema that follows. Written is what differs from its default.
"""

from dataclasses import MISSING, field, fields, is_dataclass
from functools import cache


def key(shape, default=None, always=False, about=""):
    """A field that holds a value. shape: a dictionary of JSON Schema. about: a sentence for readers of the schema.

    always: written even where it has its default, and asked for when a file is read.
    """
    said = {"shape": {**shape, "description": about} if about else shape, "always": always}
    return field(default=default, metadata=said)


def needed(shape, about=""):
    """A field without a default: always written, and asked for when a file is read. shape, about: as in `key`."""
    return key(shape, MISSING, always=True, about=about)


def part(of):
    """A field that holds another part."""
    return field(default_factory=of, metadata={"of": of})


def maybe(of):
    """A field that holds another part or None."""
    return field(default=None, metadata={"of": of})


def many(of, most):
    """A field that holds parts. of: the class of each. most: how many."""
    return field(default=(), metadata={"of": of, "most": most})


def by_name(shape):
    """A field that holds values of one shape, each under a name of its own."""
    return field(default_factory=dict, metadata={"shape": {"type": "object", "additionalProperties": shape}})


def text(most, least=0, pattern=""):
    """Words. most, least: characters. pattern: a regular expression of JSON Schema."""
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


YES_NO = {"type": "boolean"}


def shape_of(part):
    """The JSON Schema of a part: a fresh dictionary."""
    properties = {}
    for each in fields(part):
        of, most = each.metadata.get("of"), each.metadata.get("most")
        properties[each.name] = (
            several(shape_of(of), 0, most) if most else shape_of(of) if of else each.metadata["shape"]
        )
    asked = [each.name for each in fields(part) if each.metadata.get("always")]
    made = {"type": "object", "additionalProperties": False, "properties": properties}
    return {**made, "required": asked} if asked else made


@cache
def _known(part):
    """(name, part or None, many, always, default) of each field of a part."""
    found = []
    for each in fields(part):
        default = each.default_factory() if each.default_factory is not MISSING else each.default
        of, several_of_it = each.metadata.get("of"), "most" in each.metadata
        found.append((each.name, of, several_of_it, each.metadata.get("always", False), default))
    return tuple(found)


def read_part(part, data):
    """A part of plain values. part: one of the classes above. data: dictionary. Keys it does not know are not looked at."""
    values = {}
    for name, of, many, _, _ in _known(part):
        if name not in data or data[name] is None:
            continue
        value = data[name]
        if of and many:
            values[name] = tuple(read_part(of, entry) for entry in value)
        else:
            values[name] = read_part(of, value) if of else _fixed(value)
    return part(**values)


def plain_part(part):
    """Plain values of a part: what differs from its default."""
    made = {}
    for name, _, _, always, default in _known(type(part)):
        value = getattr(part, name)
        if value is not None and (always or value != default):
            made[name] = _loose(value)
    return made


def _fixed(value):
    """Lists as tuples, so that a Document cannot be changed by accident."""
    return tuple(_fixed(each) for each in value) if isinstance(value, list) else value


def _loose(value):
    if is_dataclass(value):
        return plain_part(value)
    if isinstance(value, tuple):
        return [_loose(each) for each in value]
    return dict(value) if isinstance(value, dict) else value
