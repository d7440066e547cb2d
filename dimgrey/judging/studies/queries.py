"""What pages read of light studies."""

from django.db.models import Count

from dimgrey.judging.studies.models import Study
from dimgrey.outings.models import Outing


def studies_of(person):
    """A person's studies, newest first, each with how many pictures it has; 1 query."""
    return Study.objects.owned_by(person).annotate(count=Count("pictures"))


def study_of(person, pk):
    """One study of a person with its outing, or None; 1 query."""
    return Study.objects.owned_by(person).select_related("outing").filter(pk=pk).first()


MOST_OUTINGS = 40


def outings_of(person, own=None):
    """Outings to choose from, newest first, and the one that is chosen; at most 2 queries. own: its number."""
    known = Outing.objects.owned_by(person).filter(removed=False)
    newest = list(known[:MOST_OUTINGS])
    return newest + [each for each in known.filter(pk=own) if each not in newest]
