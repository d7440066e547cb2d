"""What pages read of outings."""

from django.db.models import Prefetch

from dimgrey.outings.models import Outing
from dimgrey.scenes.queries import scenes_of


def outings_of(person):
    """A person's outings, newest first, with scenes and their pictures; 2 queries."""
    scenes = Prefetch("scenes", queryset=scenes_of(person))
    return Outing.objects.owned_by(person).prefetch_related(scenes)


def outing_of(person, pk):
    """One outing of a person by its number as text, or None; at most 1 query."""
    if not pk or not str(pk).isdecimal():
        return None
    return Outing.objects.owned_by(person).filter(pk=int(pk)).first()
