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


def outings_of(person):
    """Outings that tell a place, newest first; 1 query."""
    return Outing.objects.owned_by(person).filter(removed=False)
