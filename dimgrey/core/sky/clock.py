"""Moments: Julian dates of UTC for arithmetic, local civil time for people.

Source: Meeus, Astronomical Algorithms (2nd ed. 1998), ch. 7. Civil time by the IANA time zone database (zoneinfo).
"""

from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from dimgrey.core.errors import CoreError, OutOfRange, Unreadable

EPOCH_JD = 2440587.5
"""Julian date of 1970-01-01T00:00 UTC."""
FIRST_YEAR, LAST_YEAR = 1900, 2100
"""Years in which the sun's place holds to 0.02 degree; others are refused."""


def julian_date(moment):
    """Julian date of an aware datetime, in days of UTC.

    >>> julian_date(datetime(2000, 1, 1, 12, tzinfo=UTC))
    2451545.0
    """
    return moment.timestamp() / 86400 + EPOCH_JD


def moment_of(jd, zone=UTC):
    """Aware datetime of a Julian date, to the second, in a time zone."""
    return datetime.fromtimestamp(round((float(jd) - EPOCH_JD) * 86400), zone)


def zone_named(name):
    """ZoneInfo of an IANA name such as "Europe/Lisbon". Raises Unreadable for another."""
    try:
        return ZoneInfo(name)
    except (ZoneInfoNotFoundError, ValueError, OSError):
        raise Unreadable(
            f"“{name}” is not a time zone. Write one like Europe/Lisbon or UTC.", parameter="zone", code="zone"
        ) from None


def require_day(day):
    """The date when the sky can be computed for it. Raises OutOfRange for a year outside 1900..2100."""
    if not FIRST_YEAR <= day.year <= LAST_YEAR:
        raise OutOfRange(
            f"The sky is computed for the years {FIRST_YEAR} to {LAST_YEAR} (got {day.year}).",
            parameter="date",
            code="date-far-away",
        )
    return day


def day_bounds(day, zone):
    """(start, end) of a local civil day as Julian dates; 23 or 25 hours apart where clocks change."""
    start = datetime(day.year, day.month, day.day, tzinfo=zone)
    following = day + timedelta(days=1)
    end = datetime(following.year, following.month, following.day, tzinfo=zone)
    return julian_date(start), julian_date(end)


def local_moment(day, clock, zone):
    """(moment, note) of a local date and time.

    A time that clocks skip becomes the moment as many minutes later; one that comes twice is the first. The note says so,
    and is "" otherwise. Raises CoreError never; the arguments are checked where they are read.
    """
    moment = datetime.combine(day, clock, tzinfo=zone)
    there = moment.astimezone(UTC).astimezone(zone)
    if there.replace(tzinfo=None) != moment.replace(tzinfo=None):
        return there, f"Clocks skip {clock:%H:%M} on this day; {there:%H:%M} is meant."
    again = moment.replace(fold=1)
    if again.utcoffset() != moment.utcoffset():
        return moment, f"{clock:%H:%M} comes twice on this day; the first is meant."
    return moment, ""


def parse_day(text):
    """A date written 2026-11-25 or 25.11.2026. Raises Unreadable, or OutOfRange for a year that is too far away."""
    text = text.strip()
    for pattern in ("%Y-%m-%d", "%d.%m.%Y", "%d/%m/%Y"):
        try:
            return require_day(datetime.strptime(text, pattern).date())
        except CoreError:
            raise
        except ValueError:
            continue
    raise Unreadable(f"“{text}” is not a date. Write 2026-11-25.", parameter="date", code="date")


def parse_clock(text):
    """A time of day written 16:40, 1640 or 16. Raises Unreadable."""
    digits = text.strip().replace(".", ":").lower().removesuffix("h")
    try:
        if ":" not in digits and len(digits) > 2:
            digits = f"{digits[:-2]}:{digits[-2:]}"
        hours, _, minutes = digits.partition(":")
        return datetime(2000, 1, 1, int(hours), int(minutes or 0)).time()
    except ValueError:
        raise Unreadable(f"“{text}” is not a time of day. Write 16:40.", parameter="time", code="time") from None


def next_days(day, count):
    """The dates from `day` on, `count` of them, as far as the sky is computed."""
    return [day + timedelta(days=k) for k in range(count) if (day + timedelta(days=k)).year <= LAST_YEAR]


def as_day(value):
    """A date from a date or an ISO string."""
    return value if isinstance(value, date) else date.fromisoformat(value)
