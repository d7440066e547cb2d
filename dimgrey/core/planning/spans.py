"""A wished span of zones as people write it, and back into words."""

import re

from dimgrey.core.errors import Unreadable
from dimgrey.core.planning.zones import ZONE_MAX, ZONE_MIN, format_zone, parse_zone


def parse_wish(text):
    """A span of zones: "II-III", "VI½ to VII", "at most I", "at least VII", "VI" (a third to either side). Raises Unreadable.

    >>> parse_wish("II-III"), parse_wish("at most I"), parse_wish("at least VII")
    ((2.0, 3.0), (0.0, 1.0), (7.0, 10.0))
    """
    said = " ".join(text.split())
    if match := re.fullmatch(r"(?i)(at most|at least|<|>|≤|≥)\s*(.+)", said):
        zone = parse_zone(match[2])
        return (ZONE_MIN, zone) if match[1].lower() in ("at most", "<", "≤") else (zone, ZONE_MAX)
    ends = [parse_zone(part) for part in re.split(r"\s*(?:–|-|\bto\b)\s*", said)]
    if len(ends) == 1:
        return max(ends[0] - 1 / 3, ZONE_MIN), min(ends[0] + 1 / 3, ZONE_MAX)
    if len(ends) != 2 or ends[0] > ends[1]:
        raise Unreadable(
            f"“{text[:24]}” is no span of zones. Write II-III, at most I, or VI.", parameter="wish", code="wish"
        )
    return tuple(ends)


def format_span(span):
    """ "II–III", "at most I", "at least VII". span: (low, high) zones."""
    low, high = span
    if low <= ZONE_MIN and high < ZONE_MAX:
        return f"at most {format_zone(high)}"
    if high >= ZONE_MAX and low > ZONE_MIN:
        return f"at least {format_zone(low)}"
    return f"{format_zone(low)}–{format_zone(high)}"
