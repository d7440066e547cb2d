"""What pages read of outings."""

from dimgrey.outings.models import Outing


def outings_of(person):
    """A person's outings, newest first, with scenes and their pictures; 2 queries."""
    return Outing.objects.owned_by(person).prefetch_related("scenes__picture")


def outing_of(person, pk):
    """One outing of a person by its number as text, or None; at most 1 query."""
    if not pk or not str(pk).isdecimal():
        return None
    return Outing.objects.owned_by(person).filter(pk=int(pk)).first()
