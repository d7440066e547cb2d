"""Days, moments and ids as files write them: what `reads` of a key makes of the words."""

import re
from datetime import UTC, date, datetime

from dimgrey.core.errors import Unreadable

FIRST_YEAR, LAST_YEAR = 1826, 2200
"""From the first photograph that is kept until later than anything here lasts."""
MOMENT, DAY, ID = ({"type": "string", "maxLength": most} for most in (40, 10, 45))


def moment(words):
    """A moment with its zone. Without one it is UTC. Raises Unreadable.

    >>> moment("2026-09-01 12:00:00+02:00").isoformat()
    '2026-09-01T12:00:00+02:00'
    """
    try:
        read = datetime.fromisoformat(words)
    except ValueError:
        raise Unreadable(f"“{words:.40}” is not a moment. Write 2026-09-01T10:00:00+00:00.", code="moment") from None
    require_year(read.year)
    return read if read.tzinfo else read.replace(tzinfo=UTC)


def require_year(year):
    """Raise Unreadable for a year in which nobody planned or logged anything: zones and databases break at their ends."""
    if not FIRST_YEAR <= year <= LAST_YEAR:
        raise Unreadable(f"The year {year} is none that pictures were made in. Look at the clock.", code="year")


def zoned_moment(words):
    """A moment that says its zone. Raises Unreadable."""
    read = moment(words)
    if not datetime.fromisoformat(words).tzinfo:
        raise Unreadable(f"“{words:.40}” says no zone. Write 2026-09-01T10:00:00+00:00.", code="moment")
    return read


def day(words):
    """A day. Raises Unreadable."""
    try:
        read = date.fromisoformat(words)
    except ValueError:
        raise Unreadable(f"“{words:.40}” is not a day. Write 2026-09-01.", code="day") from None
    require_year(read.year)
    return read


def id_of(words):
    """An id in its usual spelling, as text: the phone's Python has no module for them. Raises Unreadable.

    >>> id_of("{00000000000040008000000000000001}")
    '00000000-0000-4000-8000-000000000001'
    """
    digits = words.lower().removeprefix("urn:uuid:").strip("{}").replace("-", "")
    if not re.fullmatch("[0-9a-f]{32}", digits):
        raise Unreadable(f"“{words:.40}” is not the id of an act.", code="act-id")
    return "-".join((digits[:8], digits[8:12], digits[12:16], digits[16:20], digits[20:]))
