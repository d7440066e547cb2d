"""A person's week of tasks: fitted to season, place and kit, and what is seen in the pictures given for them."""

from datetime import timedelta

import numpy as np
from django.db import transaction
from django.utils import timezone

from dimgrey.core.errors import CoreError
from dimgrey.core.picture.measures import balance
from dimgrey.core.picture.tonemap import zones_of_lightness
from dimgrey.core.practice.assignments import TASKS, Given, Seen, verdict_on, week_of
from dimgrey.kit.models import Item
from dimgrey.outings.models import Outing
from dimgrey.practice.models import Assignment
from dimgrey.results.finishing import shown_of
from dimgrey.scenes.queries import scenes_of

SIDE, NEAR_PX = 400, 2.0
ENDS = (0.005, 0.995)


def monday_of(day):
    """The first day of a day's week."""
    return day - timedelta(days=day.weekday())


def given_of(person, day):
    """Given of a person's week: the latest outing with a place tells where they are."""
    placed = Outing.objects.owned_by(person).filter(removed=False).exclude(latitude_deg=None).first()
    kit = Item.objects.owned_by(person).filter(retired=False)
    return Given(
        month=day.month,
        latitude_deg=placed.latitude_deg if placed else None,
        has_filter=kit.filter(kind="filter").exists()
        or kit.filter(kind="camera").exclude(values__senses="film").exists(),
        has_old=scenes_of(person).count() > 1,
        seed=monday_of(day).toordinal() // 7,
    )


@transaction.atomic
def week_for(person, day):
    """Assignment of each task of a day's week, made when the week is first looked at, and the same ever after."""
    week = monday_of(day)
    rows = list(Assignment.objects.owned_by(person).filter(week=week).order_by("pk"))
    if not rows:
        keys = week_of(given_of(person, day))
        rows = [Assignment.objects.create(owner=person, week=week, key=key) for key in keys]
    return [row for row in rows if row.key in TASKS]


def seen_in(result):
    """Seen of what a result shows. Raises PictureGone."""
    from scipy.ndimage import gaussian_filter

    shown = shown_of(result, SIDE)
    zones = zones_of_lightness(shown)
    found = balance(zones)
    low, high = np.quantile(zones, ENDS)
    return Seen(
        shares=found.shares,
        soft=found.soft_share,
        black_below_i=float(np.mean(zones < 1)),
        range_zones=float(np.clip(high, 0, 10) - np.clip(low, 0, 10)),
        texture=float(np.abs(shown - gaussian_filter(shown, NEAR_PX, mode="nearest")).mean()),
    )


def give(assignment, result):
    """Give a result for a task, and keep what is seen in it. Raises CoreError for one whose file is gone."""
    if result.picture is None:
        raise CoreError("The file of this result is gone.", code="no-file")
    verdict = verdict_on(assignment.key, seen_in(result))
    assignment.result, assignment.is_met, assignment.text = result, verdict.is_met, verdict.text[:300]
    assignment.done_at = timezone.now()
    assignment.save(update_fields=["result", "is_met", "text", "done_at"])
    return assignment
