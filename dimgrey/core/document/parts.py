"""Parts of a document as plain values and back: what differs from its default is written, what is missing has its default.

A part is a frozen dataclass; `part`, `maybe` and `always` say of a field what it holds and whether it is always written.
"""

from dataclasses import MISSING, field, fields, is_dataclass
from functools import cache


def part(of, many=False):
    """A field that holds another part, or many of them."""
    default = field(default=(), metadata={"of": of, "many": True}) if many else None
    return default or field(default_factory=of, metadata={"of": of, "many": False})


def maybe(of):
    """A field that holds another part or None."""
    return field(default=None, metadata={"of": of, "many": False})


def always(default=MISSING):
    """A field that is written even where it has its default, because the schema asks for it."""
    return field(default=default, metadata={"always": True})


@cache
def _known(part):
    """(name, part or None, many, always, default) of each field of a part."""
    found = []
    for each in fields(part):
        default = each.default_factory() if each.default_factory is not MISSING else each.default
        of, many = each.metadata.get("of"), each.metadata.get("many", False)
        found.append((each.name, of, many, each.metadata.get("always", False), default))
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
