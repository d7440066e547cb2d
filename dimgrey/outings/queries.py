"""What pages read of outings."""

from datetime import date as Date

from django.db.models import Count, Prefetch, Q

from dimgrey.outings.models import Outing
from dimgrey.scenes.queries import scenes_of


def outings_of(person):
    """A person's outings, newest first, with scenes and their pictures; 2 queries."""
    scenes = Prefetch("scenes", queryset=scenes_of(person))
    return Outing.objects.owned_by(person).filter(removed=False).prefetch_related(scenes)


def removed_outings_of(person):
    """Outings that were removed and can be brought back; 1 query."""
    return Outing.objects.owned_by(person).filter(removed=True)


def outing_of(person, pk):
    """One outing of a person by its number as text, or None; at most 1 query."""
    if not pk or not str(pk).isdecimal() or len(str(pk)) > 18:
        return None
    return Outing.objects.owned_by(person).filter(pk=int(pk)).first()


def next_outing(outings, today: Date):
    """The first outing from today on, or None. outings: a list."""
    coming = [outing for outing in outings if outing.date and outing.date >= today]
    return min(coming, key=lambda outing: outing.date, default=None)


def visits_of(outing):
    """All visits to an outing's place, by date, with their scenes and frame counts; 2 queries."""
    scenes = scenes_of(outing.owner).annotate(frames_made=Count("frames"))
    return (
        Outing.objects.owned_by(outing.owner)
        .filter(Q(series=outing.series), Q(removed=False))
        .order_by("date", "pk")
        .prefetch_related(Prefetch("scenes", queryset=scenes))
    )
