"""What pages read of outings."""

from datetime import date as Date

from dimgrey.outings.models import Outing


def outings_of(person):
    """A person's outings, newest first; 1 query."""
    return Outing.objects.owned_by(person).filter(removed=False)


def removed_outings_of(person):
    """Outings that were removed and can be brought back; 1 query."""
    return Outing.objects.owned_by(person).filter(removed=True)


def outing_of(person, pk):
    """One outing of a person by its number, also as text, or None; at most 1 query."""
    if not pk or not str(pk).isdecimal() or len(str(pk)) > 18:
        return None
    return Outing.objects.owned_by(person).filter(pk=int(pk)).first()


def next_outing(outings, today: Date):
    """The first outing from today on, or None. outings: a list."""
    coming = [outing for outing in outings if outing.date and outing.date >= today]
    return min(coming, key=lambda outing: outing.date, default=None)
