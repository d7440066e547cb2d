"""What pages read of picks."""

from dimgrey.judging.pick.models import Pick


def pick_of(person, pk):
    """One pick of a person, or None; 1 query."""
    return Pick.objects.owned_by(person).filter(pk=pk).first()
