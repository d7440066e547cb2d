"""What is removed can be brought back, where it was removed and for thirty days: one rule for everything that a person makes.

Scenes, outings and frames have their own marks, which travel with their states; everything else is a Removable.
"""

from datetime import timedelta

from django.apps import apps
from django.db import models
from django.utils import timezone

from dimgrey.people.models import OwnedQuerySet

KEPT_FOR = timedelta(days=30)
"""How long what was removed can be brought back, and another picture undone."""


class Present(models.Manager.from_queryset(OwnedQuerySet)):
    """Rows that nobody removed."""

    def get_queryset(self):
        return super().get_queryset().filter(removed_at=None)


class Removable(models.Model):
    """A row that is removed first and deleted later. `objects` has those alone that stand, also from the row that they belong to.

    OWNER: way from the row to the person. WORDS: what such a thing is called.
    """

    removed_at = models.DateTimeField(null=True, editable=False)

    objects = Present()
    every = OwnedQuerySet.as_manager()

    OWNER, WORDS = "owner_id", ""

    class Meta:
        abstract = True

    def get_absolute_url(self):
        """Of the page that shows it."""
        raise NotImplementedError

    def make_room(self):
        """What has to give way before it is back, such as its name. Raises CoreError when it cannot be."""


def kinds():
    """Name -> model of everything that can be removed."""
    return {model._meta.model_name: model for model in apps.get_models() if issubclass(model, Removable)}


def removed_rows(person, kind=None):
    """(name of the kind, row) of what a person removed, the latest first; 1 query for each kind."""
    found = [
        (name, row)
        for name, model in kinds().items()
        if kind in (None, name)
        for row in model.every.filter(**{model.OWNER: person.pk}).exclude(removed_at=None)
    ]
    return sorted(found, key=lambda each: each[1].removed_at, reverse=True)


def removed_row(person, kind, pk):
    """One row that a person removed, None for none; 1 query."""
    model = kinds().get(kind)
    if model is None:
        return None
    return model.every.filter(pk=pk, **{model.OWNER: person.pk}).exclude(removed_at=None).first()


def remove(row):
    """Take a row off all lists. Returns what its page is called with, so that the next page offers to bring it back."""
    row.removed_at = timezone.now()
    row.save(update_fields=["removed_at"])
    return f"removed={row._meta.model_name}-{row.pk}"


def bring_back(row):
    """Let a row stand again, as it was. Raises CoreError when something took its place."""
    row.make_room()
    row.removed_at = None
    row.save()


def delete_removed(until, person=None):
    """Delete for good what was removed before a moment. person: of whom, None for everybody. Returns how many."""
    count = 0
    for model in kinds().values():
        mine = {} if person is None else {model.OWNER: person.pk}
        for row in model.every.filter(removed_at__lte=until, **mine):
            row.delete()
            count += 1
    return count
