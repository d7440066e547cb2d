"""A tone that was to keep texture is lost in black or white."""

from dimgrey.core.results.causes.cause import Cause, Part, Said

NEAR_END = 0.2
"""Zones within which a tone that was planned so close to an end belongs there."""


def _was_there(seen, k):
    """Whether a tone was planned at the end where it is."""
    return bool(seen.planned[k] * seen.ends[k] >= seen.seen[k] * seen.ends[k] - NEAR_END)


def _parts(apart):
    seen = apart.seen
    for k, name in enumerate(seen.names):
        if name in apart.needs and seen.ends[k] and not _was_there(seen, k):
            yield Part("end", float(seen.ends[k]), tone=name)


def _said(part, shot):
    is_white = part.size > 0
    what = f"{part.tone} is lost in {'white' if is_white else 'black'}, and was to keep texture."
    room = "less light, or protect the highlights." if is_white else "more light, or lift the shadows."
    return Said("end", what, f"Give it room at that end: {room}", f"{part.tone} lost")


CAUSE = Cause("end", 60, _parts, _said)
