"""What home shows: the next outing with its light today, the scene to resume, the outings around today with their scenes; older ones by year."""

from dataclasses import dataclass

from django.core.paginator import Paginator
from django.db.models import Count, Q
from django.db.models.functions import ExtractYear

from dimgrey.core.errors import CoreError
from dimgrey.outings.day import queries
from dimgrey.outings.day.table import light_table
from dimgrey.outings.queries import outings_of, removed_outings_of
from dimgrey.scenes.queries import removed_scenes_of, scenes_of
from dimgrey.scenes.summary import listed_soundly

COMING, LAST, UNDATED = 3, 3, 3
"""Outings that home shows with their scenes, the nearest to today."""
OF_ONE, ALONE = 24, 12
"""Scenes that home shows of an outing, and of those without one."""
A_PAGE = 40
SINGLE, NO_DAY = "single", "undated"
"""What older pages are asked for beside a year."""


@dataclass(frozen=True)
class Home:
    """older: (what its page is asked for, in words, how many) of what is not shown here."""

    next: object
    next_in: str
    next_light: tuple
    resume: object
    outings: tuple
    loose: tuple
    older: tuple
    removed: tuple
    removed_outings: tuple
    unshown: tuple


def home_of(person, now):
    """Home of a person; 11 queries, whatever they have."""
    known, today = outings_of(person), now.date()
    coming = list(known.filter(date__gte=today).order_by("date", "pk")[:COMING])
    last = list(known.filter(date__lt=today).order_by("-date", "-pk")[:LAST])
    near = {outing.pk for outing in (*coming, *last, *known.filter(date=None)[:UNDATED])}
    loose = scenes_of(person).filter(outing=None)
    alone, unshown = listed_soundly(loose.order_by("-updated_at", "-pk")[:ALONE], person.tone_labels)
    outings = []
    for outing in queries.with_scenes(known.filter(pk__in=near), person, OF_ONE):
        shown, wrong = listed_soundly(outing.first_scenes, person.tone_labels)
        outings.append({"outing": outing, "scenes": shown})
        unshown += wrong
    left = scenes_of(person).order_by("-updated_at", "-pk")[:1]
    following = coming[0] if coming else None
    return Home(
        next=following,
        next_in=_in_days((following.date - today).days) if following else "",
        next_light=_light(following) if following else (),
        resume=next(iter(listed_soundly(left, person.tone_labels)[0]), None),
        outings=tuple(outings),
        loose=tuple(alone),
        older=tuple(_older(known.exclude(pk__in=near), loose.count() - len(alone))),
        removed=tuple(removed_scenes_of(person)[:5]),
        removed_outings=tuple(removed_outings_of(person)[:5]),
        unshown=tuple(unshown),
    )


def _older(outings, alone):
    years = outings.annotate(year=ExtractYear("date")).order_by("-year").values_list("year").annotate(count=Count("pk"))
    for year, count in years:
        yield (str(year), str(year), count) if year else (NO_DAY, "without a day", count)
    if alone > 0:
        yield SINGLE, "single scenes", alone


def older_of(person, asked, page):
    """(title, outings with how many scenes each has, Listed scenes, Page) of a year, of those without a day, or of the single scenes; 4 queries.

    asked: a year as text, or one of SINGLE, NO_DAY.
    """
    if asked == SINGLE:
        shown = Paginator(scenes_of(person).filter(outing=None).order_by("-updated_at", "-pk"), OF_ONE).get_page(page)
        return "Single scenes", (), listed_soundly(shown, person.tone_labels)[0], shown
    known = outings_of(person).annotate(count=Count("scenes", filter=Q(scenes__removed=False))).order_by("-date", "-pk")
    if asked == NO_DAY:
        title, known = "Outings without a day", known.filter(date=None)
    else:
        title, known = f"Outings of {asked}", known.filter(date__year=int(asked))
    shown = Paginator(known, A_PAGE).get_page(page)
    return title, shown.object_list, (), shown


def _in_days(days):
    return {0: "today", 1: "tomorrow"}.get(days, f"in {days} days")


def _light(outing):
    try:
        table = light_table(outing, [])
    except CoreError:
        return ()
    return table.facts[:2] if table else ()
