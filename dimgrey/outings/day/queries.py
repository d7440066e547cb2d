"""Outings with their scenes, as the pages of the day read them."""

from django.db.models import Count, Prefetch

from dimgrey.outings import queries
from dimgrey.scenes.queries import scenes_of


def with_scenes(outings, person, most):
    """Outings with the first of their scenes as `first_scenes`, and those scenes' pictures; 2 queries. most: scenes of each."""
    return outings.prefetch_related(Prefetch("scenes", queryset=scenes_of(person)[:most], to_attr="first_scenes"))


def scenes_on(person, outing):
    """The scenes of an outing in their order, without those that cannot be read; 1 query."""
    return [scene for scene in scenes_of(person).filter(outing=outing) if scene.is_sound]


def visits_of(outing):
    """All visits to an outing's place, by date, with their scenes and frame counts; 2 queries."""
    scenes = scenes_of(outing.owner).annotate(frames_made=Count("frames"))
    found = queries.outings_of(outing.owner).filter(series=outing.series).order_by("date", "pk")
    return found.prefetch_related(Prefetch("scenes", queryset=scenes))
