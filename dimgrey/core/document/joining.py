"""What an edit touched, so that edits of one scene on two devices can be joined where they do not meet; and an edit put back
under those that came after it."""

from dataclasses import fields, is_dataclass, replace

from dimgrey.core.document.tones import Reading, ToneEntry


def touched(before, after):
    """Keys of what differs between two Documents: "tone A" for a tone by its letter, else the name of the part.

    before, after: Document. Returns a frozenset, empty where they are equal.
    """
    found = {
        each.name
        for each in fields(before)
        if each.name != "tones" and getattr(before, each.name) != getattr(after, each.name)
    }
    old, new = ({tone.mark: tone for tone in document.tones} for document in (before, after))
    return frozenset(found | {f"tone {mark}" for mark in old.keys() | new.keys() if old.get(mark) != new.get(mark)})


def named(keys, document):
    """What was touched, in words, for people: "A coal, placing". keys: as `touched` gives them. document: where tones have names."""
    names = {f"tone {tone.mark}": f"{tone.mark} {tone.name}" for tone in document.tones}
    return ", ".join(names.get(key, key.replace("_", " ")) for key in sorted(keys))


def put_back(now, before, after):
    """A Document without what one edit changed; what was changed again since stays as it is now.

    now: Document. before, after: the two that the edit led from and to. Each key that still is as the edit left it is as it was before
    again. Stops by which the light changed add up, so they are taken off whatever came later. What is now as it was after the edit is as
    it was before it.
    """
    if now == after:
        return before
    if before == after:
        return now
    if is_dataclass(now) and type(now) is type(before) is type(after):
        names = (each.name for each in fields(now) if getattr(before, each.name) != getattr(after, each.name))
        return replace(now, **{name: _key_back(name, now, before, after) for name in names})
    if all(isinstance(each, tuple) for each in (now, before, after)):
        return _items_back(now, before, after)
    return now


ADD_UP = ("shift", "ev100")
"""Keys of a tone and its readings that acts change by so many stops; to a value of their own only where none stood there."""
DIGITS = 4


def _key_back(name, *three):
    now, before, after = (getattr(each, name) for each in three)
    if name in ADD_UP and all(isinstance(each, float | int) for each in (now, before, after)):
        return round(now - (after - before), DIGITS)
    return put_back(now, before, after)


def _items_back(now, before, after):
    """A list without what an edit did to it: tones and readings stand each for itself, other things for what they replaced."""
    if any(isinstance(item, ToneEntry | Reading) for item in (*now, *before, *after)):
        return _each_back(*map(_by_key, (now, before, after)))
    put = [item for item in after if item not in before]
    if not put or any(isinstance(item, float | int | tuple) or item not in now for item in put):
        return now  # it was changed again since, or is a place: the later one stands
    at = now.index(put[0])
    kept = [item for item in now if item not in put]
    return (*kept[:at], *(item for item in before if item not in after), *kept[at:])


def _by_key(items):
    """{what an item is known by while its values change: item}. Items that say the same are counted."""
    found = {}
    for item in items:
        key, count = _key_of(item), 0
        while (key, count) in found:
            count += 1
        found[key, count] = item
    return found


def _key_of(item):
    """A tone by its letter, a reading by all but the light since, one of the picture by its place on the picture's own scale."""
    if isinstance(item, ToneEntry):
        return item.mark
    return (item.stops, item.taken_at) if item.is_of_picture else replace(item, shift=0.0)


def _each_back(now, before, after):
    gone = {key for key in after.keys() - before.keys() if key in now and _is_same(now[key], after[key])}
    left = [
        put_back(item, before[key], after[key]) if key in before and key in after else item
        for key, item in now.items()
        if key not in gone
    ]
    for at, (key, item) in enumerate(before.items()):
        if key not in after and key not in now:
            left.insert(at, item)
    return tuple(left)


def _is_same(one, other):
    """Whether two items of one key differ by the light since alone."""
    if isinstance(one, Reading):
        return True
    in_no_light = (
        replace(tone, ev100=None, readings=tuple(replace(each, shift=0.0) for each in tone.readings))
        for tone in (one, other)
    )
    return next(in_no_light) == next(in_no_light)
