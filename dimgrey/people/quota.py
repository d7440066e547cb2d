"""How much room people's pictures take, told by the rooms that keep them."""

from django.conf import settings

_COUNTERS = []


def counts_room(count):
    """A room says how many bytes it keeps for each person. count: () -> {number of the person: bytes}."""
    _COUNTERS.append(count)


def used_by_all():
    """Number of a person -> bytes of theirs; 1 query for each room that keeps files."""
    used = {}
    for count in _COUNTERS:
        for person, size in count().items():
            used[person] = used.get(person, 0) + size
    return used


def used_by(person):
    """Bytes of one person."""
    return used_by_all().get(person.pk, 0)


def most_of(person):
    """Bytes that a person's pictures may take; 0 for no limit."""
    return (settings.DIMGREY_QUOTA_MB if person.quota_mb is None else person.quota_mb) * 1_000_000
