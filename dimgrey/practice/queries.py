"""What pages read of practice."""

from dimgrey.core.practice.spacing import Answered
from dimgrey.practice.models import Answer, Assignment, Card

REMEMBERED = 2000
"""Answers that progress and difficulty look back on."""


def history_of(person):
    """kind -> Answered of it, the oldest first; 1 query."""
    rows = Answer.objects.owned_by(person).order_by("-at", "-pk")[:REMEMBERED]
    found = {}
    for row in reversed(rows):
        found.setdefault(row.kind, []).append(
            Answered(row.kind, row.subject, row.off, row.is_right, row.level, row.in_stops)
        )
    return found


def due_of(person, now):
    """(kind, subject) of cards that are due, the longest due first; 1 query."""
    return list(Card.objects.owned_by(person).filter(due__lte=now).values_list("kind", "subject")[:40])


def errors_over_time(person, kind):
    """(day, mean error in stops) of a kind that has one, the oldest first; 1 query."""
    days = {}
    for at, off in Answer.objects.owned_by(person).filter(kind=kind, in_stops=True).values_list("at", "off"):
        days.setdefault(at.date(), []).append(off)
    return [(day, sum(rows) / len(rows)) for day, rows in sorted(days.items())]


def assignment_of(person, pk):
    """One task of a person, or None; 1 query."""
    return Assignment.objects.owned_by(person).filter(pk=pk).first()
