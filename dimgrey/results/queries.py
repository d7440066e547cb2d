"""What pages read of results."""

import json
from datetime import datetime
from functools import lru_cache
from typing import NamedTuple

from django.db.models import TextField
from django.db.models.functions import Cast

from dimgrey.core.document.meansline import MadeWith
from dimgrey.core.results.finding import Found
from dimgrey.core.shapes.plain import read_part
from dimgrey.kit.models import ItemRevision
from dimgrey.results.models import Result


def results_of(frame):
    """The results of a frame with their pictures, in the order they came; 1 query."""
    return frame.results.select_related("picture")


def result_of(person, pk):
    """One result of a person with its frame, or None; 1 query."""
    return (
        Result.objects.owned_by(person)
        .select_related("picture", "frame__scene__outing", "frame__picture", "frame__roll")
        .filter(pk=pk)
        .first()
    )


def first_results(frames):
    """{frame id: its first result with a picture}; 1 query."""
    found = Result.objects.filter(frame__in=frames).exclude(picture=None).select_related("picture").order_by("-pk")
    return {result.frame_id: result for result in found}


class Compared(NamedTuple):
    """A result that was measured, as learning reads it. made: MadeWith of its frame, or None."""

    frame_id: int
    number: int
    at: datetime
    made: MadeWith | None
    found: Found


def compared(person):
    """Compared of every measured result of a person, in the order they were exposed; 1 query, of what is needed alone."""
    rows = Result.objects.owned_by(person).exclude(found={}).order_by("frame__exposed_at", "frame_id", "pk")
    raw = rows.annotate(said=Cast("found", TextField()), with_what=Cast("frame__made", TextField()))
    return [
        Compared(frame_id, number, at, _read(MadeWith, made), _read(Found, found))
        for frame_id, number, at, made, found in raw.values_list(
            "frame_id", "frame__number", "frame__exposed_at", "with_what", "said"
        )
    ]


@lru_cache(8192)
def _read(part, text):
    """A part as it was kept. What was read once is not read again: it never changes."""
    data = json.loads(text) if text else None
    return read_part(part, data) if data else None


def corrections_of(person):
    """Corrections that a person applied, newest first, undone ones too; 1 query."""
    return ItemRevision.objects.filter(item__owner=person).exclude(correction="").select_related("item")


def correction_of(person, pk):
    """One correction of a person, or None; 1 query."""
    return corrections_of(person).filter(pk=pk).first()


MOST_OFFERED = 24


def results_to_pick(person):
    """Results with a file, newest first, at most a page of them; 1 query."""
    rows = Result.objects.owned_by(person).exclude(picture=None).select_related("picture", "frame")
    return rows.order_by("-frame__exposed_at", "-pk")[:MOST_OFFERED]
