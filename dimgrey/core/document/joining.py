"""What an edit touched, so that edits of one scene on two devices can be joined where they do not meet."""

from dataclasses import fields


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
