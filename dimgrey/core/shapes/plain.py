"""Parts from plain values and back. Written is what differs from its default."""

from dataclasses import MISSING, is_dataclass
from functools import cache, partial

from dimgrey.core.errors import CoreError
from dimgrey.core.shapes.check import MOST_MISTAKES, DocumentError, joined, mistakes_in
from dimgrey.core.shapes.declare import known_keys


@cache
def _kept_keys(part):
    """(name, part or None, many, always, default, reads) of each key of a part."""
    found = []
    for each in known_keys(part):
        default = each.default_factory() if each.default_factory is not MISSING else each.default
        of, several_of_it = each.metadata.get("of") or each.metadata.get("kinds"), "most" in each.metadata
        reads = each.metadata.get("reads")
        if each.metadata.get("empty"):
            of, reads = None, partial(_read_unless_empty, of)
        found.append((each.name, of, several_of_it, each.metadata.get("always", False), default, reads))
    return tuple(found)


def read_part(part, data):
    """A part of plain values. part: class. data: a dictionary that fits. Keys that it does not know are kept in `beyond`.

    Raises DocumentError where what was written cannot be read.
    """
    values, mistakes = {}, []
    for name, of, several_of_it, _, _, reads in _kept_keys(part):
        if name not in data or data[name] is None:
            continue
        value = data[name]
        try:
            if of is None:
                values[name] = reads(value) if reads else _fixed(value)
            elif several_of_it:
                values[name] = _read_several(of, value, mistakes, name)
            else:
                values[name] = read_part(of, value)
        except DocumentError as refused:
            mistakes += [f"{name}.{line}" for line in refused.mistakes]
        except CoreError as refused:
            mistakes.append(f"{name}: {refused}")
    if mistakes:
        raise DocumentError(mistakes)
    beyond = tuple((name, value) for name, value in data.items() if name not in part.__dataclass_fields__)
    made = part(**values, beyond=beyond) if beyond else part(**values)
    if mistakes := list(made.contradictions()):
        raise DocumentError(mistakes)
    return made


def _read_unless_empty(of, data):
    return read_part(of, data) if data else None


def _read_several(of, entries, mistakes, name):
    """Parts of a list; what is wrong with them is added to the mistakes."""
    made = []
    for k, entry in enumerate(entries):
        try:
            made.append(read_part(of[entry["kind"]] if isinstance(of, dict) else of, entry))
        except DocumentError as refused:
            mistakes += [f"{name}[{k}].{line}" for line in refused.mistakes]
    return tuple(made)


def plain_part(part):
    """Plain values of a part: what differs from its default, and what is beyond what this program knows."""
    made = {}
    for name, _, _, always, default, _ in _kept_keys(type(part)):
        value = getattr(part, name)
        if value is not None and (always or value != default):
            made[name] = _loose(value, plain_part)
    return {**made, **dict(part.beyond)} if part.beyond else made


def checked_part(part, data, path="", lenient=False):
    """A part of plain values from outside, checked. part: class. data: what JSON held. path: of it in its file. lenient: keys that are
    not known are kept in `beyond`.

    Raises DocumentError with every mistake.
    """
    mistakes = list(mistakes_in(part, data, path, lenient=lenient))
    if mistakes:
        raise DocumentError(mistakes[:MOST_MISTAKES])
    try:
        return read_part(part, data)
    except DocumentError as refused:
        raise DocumentError([joined(path, line) for line in refused.mistakes]) from None


def whole_part(part):
    """Plain values of a part with every key, defaults and None too: for rows that are looked up by their keys."""
    return {name: _loose(getattr(part, name), whole_part) for name, *_ in _kept_keys(type(part))} | dict(part.beyond)


def _fixed(value):
    """Lists as tuples, so that a part cannot be changed by accident."""
    return tuple(_fixed(each) for each in value) if isinstance(value, list | tuple) else value


def _loose(value, of_part):
    if is_dataclass(value):
        return of_part(value)
    if isinstance(value, tuple | list):
        return [_loose(each, of_part) for each in value]
    return dict(value) if isinstance(value, dict) else value
