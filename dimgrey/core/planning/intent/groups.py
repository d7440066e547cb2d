"""What stands with what within a clause: things that are named together, and what is said, negated or allowed before them.

In all of these `items` is a clause as a row of Items, and `at` and `first` are places in it.
"""

from dataclasses import dataclass

from dimgrey.core.errors import CoreError
from dimgrey.core.planning.intent import words as w
from dimgrey.core.planning.intent.findings import NARROWEST
from dimgrey.core.planning.zones import ZONE_MAX, ZONE_MIN, parse_zone


@dataclass(frozen=True)
class Group:
    """Things that are spoken of together. kind: tones, unknown, shape, whole, all or others. first, last: places in the clause."""

    kind: str
    tones: tuple
    first: int
    last: int
    unknown: tuple = ()
    word: str = ""


def groups_of(items):
    """Groups of a clause; names that only "and" stands between are one."""
    made = []
    for at, item in enumerate(items):
        if item.kind not in ("tones", "unknown", "shape", "whole", "others", "all"):
            continue
        group = Group(
            item.kind,
            item.value if item.kind == "tones" else (),
            at,
            at,
            _open(item),
            item.word,
        )
        if made and _is_list(items, made[-1].last, at) and {made[-1].kind, item.kind} <= {"tones", "unknown"}:
            last = made.pop()
            kind = "tones" if "tones" in (last.kind, group.kind) and not (last.unknown or group.unknown) else last.kind
            if last.kind != group.kind:
                made += [last, group]
                continue
            group = Group(kind, (*last.tones, *group.tones), last.first, at, (*last.unknown, *group.unknown), last.word)
        made.append(group)
    return made


def _open(item):
    """(word, question) of what is no tone."""
    if item.kind == "unknown":
        return ((item.word, item.value),)
    return ((item.word, "which tone?"),) if item.kind == "shape" else ()


def _is_list(items, last, at):
    between = [item.kind for item in items[last + 1 : at]]
    return "and" in between and set(between) <= {"and", "det"}


def only_names(clause):
    """Whether a clause only begins a list, as "roofs," of "sky, roofs and doorway dark" does. clause: Items."""
    kinds = {item.kind for item in clause}
    return bool(clause) and kinds <= {"tones", "unknown", "and", "det"} and bool(kinds & {"tones", "unknown"})


def joins(items, at, first, word):
    """Whether a word of light stands directly before a thing: "a bright sky", "darken the sky". items, at, first: as above."""
    between = [item.kind for item in items[at + 1 : first]]
    allowed = {"tint", "and", "texture", "empty"} | ({"det"} if word in w.DOING else set())
    return set(between) <= allowed and not (between and between[-1] == "and")


def preposed(items, at, first):
    """Whether a thing follows with "in", "on" or "of": "not too dark in the leaves". items, at, first: as above."""
    between = [(item.kind, item.value) for item in items[at + 1 : first]]
    kinds = [kind for kind, _ in between if kind != "det"]
    if kinds == ["prep"]:
        return True
    return kinds == ["rel"] and next(value for kind, value in between if kind == "rel") in w.UPON


def is_negated(items, at, used):
    """Whether a word is negated: by the last negation before it that no other word has taken.

    items: a clause. used: places of negations that are taken; the one that is found joins them.
    """
    for k in range(at - 1, -1, -1):
        if items[k].kind in ("tint", "texture", "empty") and k not in used and not _side_by_side(items, k, at):
            return False
        if items[k].kind == "neg":
            if k in used and not _side_by_side_from(items, k, at):
                return False
            used.add(k)
            return True
    return False


def _side_by_side(items, k, at):
    return all(item.kind in ("and", "tint", "feared") for item in items[k + 1 : at])


def _side_by_side_from(items, k, at):
    return all(item.kind in ("and", "tint", "verb", "feared") for item in items[k + 1 : at])


def is_too(items, at):
    """Whether "too" or "less" stands before the word: "not too dark". items, at: as above."""
    return any(item.kind == "feared" and item.value == "too" for item in items[max(at - 2, 0) : at]) or any(
        item.kind == "neg" and item.value == "less" for item in items[max(at - 1, 0) : at]
    )


def is_allowed(items, at):
    """Whether what is said only may be: "may go black". items, at: as above."""
    return any(item.kind == "may" for item in items[:at])


def is_alone(items):
    """Whether the clause says "only" or "the one"."""
    return any(item.kind == "alone" for item in items)


def zone_of(text):
    """A zone that is written in figures, None for what is none."""
    try:
        return parse_zone(text)
    except CoreError:
        return None


def bound_before(items, at):
    """ "most" after "at most" and "under", "least" after "at least" and "over", else "". items, at: as above."""
    for item in reversed(items[max(at - 2, 0) : at]):
        if item.kind == "most" or (item.kind == "rel" and item.value in w.UNDER):
            return "most"
        if item.kind == "least" or (item.kind == "rel" and item.value in w.OVER):
            return "least"
    return ""


def figure(low, high, sign):
    """The span (low, high) in zones that figures mean, None without any. sign: of `bound_before`."""
    if low is None or high is None:
        return None
    low, high = min(low, high), max(low, high)
    if sign:
        return (ZONE_MIN, high) if sign == "most" else (low, ZONE_MAX)
    if low == high:
        return max(low - NARROWEST, ZONE_MIN), min(high + NARROWEST, ZONE_MAX)
    return low, high
