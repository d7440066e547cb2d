"""A person's tasks for a week or a month, fitted to season, place, the day's light and kit."""

from datetime import timedelta

from django.db import transaction

from dimgrey.core.practice.assignments import TASKS, WEEKS, Given, month_of, week_of
from dimgrey.core.practice.lighthours import light_hours
from dimgrey.core.sky.clock import day_bounds, zone_named
from dimgrey.core.sky.sun import sun_day
from dimgrey.kit.models import Item
from dimgrey.outings.models import Outing
from dimgrey.practice.models import Assignment
from dimgrey.scenes.queries import scenes_of

WEEK, MONTH = Assignment.Span.WEEK, Assignment.Span.MONTH


def monday_of(day):
    """The first day of a day's week."""
    return day - timedelta(days=day.weekday())


def place_of(person):
    """The latest outing with a place, which tells where a person is, or None."""
    return Outing.objects.owned_by(person).filter(removed=False).exclude(latitude_deg=None).first()


def given_of(person, day):
    """Given of the week of a day."""
    placed = place_of(person)
    kit = Item.objects.owned_by(person).filter(retired=False)
    return Given(
        month=day.month,
        latitude_deg=placed.latitude_deg if placed else None,
        has_filter=kit.filter(kind="filter").exists()
        or kit.filter(kind="camera").exclude(values__senses="film").exists(),
        has_old=scenes_of(person).count() > 1,
        seed=monday_of(day).toordinal() // 7,
    )


def light_of(person, day):
    """When a day has low sun, dark and day where a person is, in words; {} without a place."""
    placed = place_of(person)
    if placed is None:
        return {}
    zone = zone_named(placed.zone)
    return light_hours(sun_day(*day_bounds(day, zone), placed.latitude_deg, placed.longitude_deg), zone)


@transaction.atomic
def week_for(person, day):
    """Assignment of each task of a day's week, made when the week is first looked at, and the same ever after."""
    week = monday_of(day)
    rows = list(Assignment.objects.owned_by(person).filter(span=WEEK, week=week))
    return _known(rows or _made(person, WEEK, week, [week_of(given_of(person, day))]))


def month_for(person, day):
    """Assignment of each task of the month that goes on, in the order of its weeks; [] while none was begun."""
    weeks = Assignment.objects.owned_by(person).filter(span=MONTH, begun__lte=day).order_by("-begun")
    last = weeks.values_list("begun", flat=True).first()
    if last is None or last <= monday_of(day) - timedelta(weeks=WEEKS):
        return []
    return _known(Assignment.objects.owned_by(person).filter(span=MONTH, begun=last))


@transaction.atomic
def begin_month(person, day):
    """Four weeks of tasks from this week on; one that goes on stays as it is."""
    begun = monday_of(day)
    weeks = [begun + timedelta(weeks=k) for k in range(WEEKS)]
    return month_for(person, day) or _made(
        person, MONTH, begun, month_of([given_of(person, max(week, day)) for week in weeks])
    )


def _made(person, span, begun, keys_by_week):
    return [
        Assignment.objects.create(owner=person, span=span, begun=begun, week=begun + timedelta(weeks=k), key=key)
        for k, keys in enumerate(keys_by_week)
        for key in keys
    ]


def _known(rows):
    return [row for row in rows if row.key in TASKS]
